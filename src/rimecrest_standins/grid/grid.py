"""All of Grid's declarations, gathered."""

from rimecrest_standins.grid import (  # noqa: F401  (importing them declares their commands)
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
from rimecrest_standins.grid.declared import declarations
from rimecrest_standins.grid.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
