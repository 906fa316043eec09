"""All of Grid's declarations, gathered."""

from rimecrest.apps.grid import (  # noqa: F401  (importing them declares their commands)
    cell_clipboard,
    cell_filling,
    cell_input,
    file_commands,
    formatting,
    navigation,
    notes,
    readings,
    rows_columns,
    search_replace,
    sheets,
    sort_filter,
)
from rimecrest.apps.grid.declared import declarations
from rimecrest.apps.grid.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
