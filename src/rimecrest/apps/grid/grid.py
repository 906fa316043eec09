"""All of Grid's declarations, gathered."""

from rimecrest.apps.grid import (  # noqa: F401  (importing them declares their commands)
    entering,
    finding,
    going,
    lines,
    notes,
    opening,
    ordering,
    readings,
    shaping,
    sheets,
)
from rimecrest.apps.grid.declared import declarations
from rimecrest.apps.grid.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
