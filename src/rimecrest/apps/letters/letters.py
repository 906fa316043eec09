"""All of Letters' declarations, gathered."""

from rimecrest.apps.letters import (  # noqa: F401  (importing them declares their commands)
    files,
    inserting,
    notes,
    pages,
    readings,
    search_replace,
    tables,
    text,
)
from rimecrest.apps.letters.declared import declarations
from rimecrest.apps.letters.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
