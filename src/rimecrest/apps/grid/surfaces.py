"""The bars, tabs and right-click menus that Grid comes with."""

from __future__ import annotations

from rimecrest.core.catalogue.surfaces import Menu, Tab, Toolbar
from rimecrest.embed.declare import Declarations
from rimecrest.embed.verb_shorthand import group, items


def lay_out(grid: Declarations) -> None:
    """Set the application's own surfaces."""
    grid.toolbars = (
        Toolbar(
            id="main",
            title="Main",
            edge="left",
            items=items(
                grid, "bar", "open save | undo redo | insert-sum sort-ascending show-only | write-note"
            ),
        ),
    )
    grid.tabs = (
        Tab(
            id="tab-cells",
            title="Cells",
            groups=(
                group(grid, "workbook", "Workbook", "new open save"),
                group(grid, "hand", "Copy and paste", "copy cut paste copy-values"),
                group(grid, "look", "Format", "embolden slant colour-cells number-format remove-formatting"),
            ),
        ),
        Tab(
            id="tab-rows",
            title="Rows",
            groups=(
                group(grid, "order", "Sort", "sort-ascending sort-descending"),
                group(grid, "see", "Show", "show-only show-all-rows"),
                group(
                    grid, "rows", "Rows", "add-rows-above add-rows delete-rows move-rows-up move-rows-down"
                ),
                group(grid, "columns", "Columns", "add-columns delete-columns fit-width"),
            ),
        ),
        Tab(
            id="tab-reckon",
            title="Calculate",
            groups=(
                group(grid, "total", "Totals", "insert-sum insert-count insert-average"),
                group(grid, "fill", "Fill", "fill-down fill-right count-on"),
                group(grid, "values", "Values", "formulas-to-values remove-repeated-rows swap-rows-columns"),
            ),
        ),
        Tab(
            id="tab-sheets",
            title="Sheets",
            groups=(
                group(grid, "sheets", "Sheets", "add-sheet copy-sheet delete-sheet move-sheet"),
                group(grid, "between", "Between", "previous-sheet next-sheet"),
            ),
        ),
        Tab(
            id="tab-notes",
            title="Notes",
            groups=(
                group(grid, "note", "Note", "write-note delete-note next-note"),
                group(grid, "seek", "Find", "find find-next replace"),
                group(grid, "out", "Print and export", "save-values make-pdf print"),
            ),
        ),
    )
    grid.menus = (
        Menu(
            id="menu-cell",
            title="Right-click on a cell",
            context="cell",
            items=items(
                grid,
                "menu",
                "copy cut paste copy-values | add-rows delete-rows | write-note show-only insert-sum",
            ),
        ),
        Menu(
            id="menu-writing",
            title="Right-click when writing in a cell",
            context="writing",
            items=items(grid, "menu-writing", "copy paste | discard-entry"),
        ),
    )
