"""All of Letters' declarations, gathered."""

from rimecrest_standins.letters import (  # noqa: F401  (importing them declares their commands)
    files,
    inserting,
    notes,
    pages,
    readings,
    search_replace,
    tables,
    text,
)
from rimecrest_standins.letters.declared import declarations
from rimecrest_standins.letters.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
