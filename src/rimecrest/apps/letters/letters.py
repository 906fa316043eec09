"""All of Letters' declarations, gathered."""

from rimecrest.apps.letters import (  # noqa: F401  (importing them declares their commands)
    choosing,
    files,
    finding,
    inserting,
    notes,
    readings,
    shaping,
    tables,
    writing,
)
from rimecrest.apps.letters.declared import declarations
from rimecrest.apps.letters.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
