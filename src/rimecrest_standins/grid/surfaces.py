"""The bars, tabs and right-click menus that Grid comes with."""

from __future__ import annotations

from rimecrest.kit.commands.verb_shorthand import FILES, FIND, PRINT, bar, menu, tab
from rimecrest.kit.declare import Declarations


def lay_out(grid: Declarations) -> None:
    """Set the application's own surfaces."""
    row = "open save | undo redo | insert-sum sort-ascending show-only | write-note"
    grid.toolbars = (bar(grid, "main", "Main", "left", row),)
    grid.tabs = (
        tab(
            grid,
            "cells",
            "Cells",
            workbook=f"Workbook: {FILES}",
            hand="Copy and paste: copy cut paste copy-values",
            look="Format: embolden slant colour-cells draw-borders number-format remove-formatting",
        ),
        tab(
            grid,
            "rows",
            "Rows",
            order="Sort: sort-ascending sort-descending",
            see="Show: show-only show-all-rows",
            rows="Rows: add-rows-above add-rows delete-rows move-rows-up move-rows-down",
            columns="Columns: add-columns delete-columns fit-width",
        ),
        tab(
            grid,
            "reckon",
            "Calculate",
            total="Totals: insert-sum insert-count insert-average",
            fill="Fill: fill-down fill-right count-on",
            values="Values: formulas-to-values remove-repeated-rows swap-rows-columns",
            again="Macros: list-macros record-macro",
        ),
        tab(
            grid,
            "sheets",
            "Sheets",
            sheets="Sheets: add-sheet name-sheet copy-sheet move-sheet delete-sheet",
            between="Between: previous-sheet next-sheet",
        ),
        tab(
            grid,
            "blocks",
            "Blocks",
            shown=False,
            blocks="Select: select-block select-data select-filled select-row select-column",
            clear="Clear: empty-cells",
            heads="Headings: mark-heading",
        ),
        tab(
            grid,
            "notes",
            "Notes",
            note="Note: write-note delete-note next-note",
            seek=FIND,
            out=PRINT.replace(": ", ": save-values "),
        ),
    )
    cell = "copy cut paste copy-values | add-rows delete-rows | write-note show-only insert-sum"
    writing = "copy paste | discard-entry"
    grid.menus = (
        menu(grid, "menu-cell", "Right-click on a cell", "cell", cell, prefix="menu"),
        menu(grid, "menu-writing", "Right-click when writing in a cell", "writing", writing),
    )
