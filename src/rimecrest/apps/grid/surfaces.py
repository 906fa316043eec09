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
            items=items(grid, "bar", "open save | undo redo | put-sum order-ascending narrow | write-note"),
        ),
    )
    grid.tabs = (
        Tab(
            id="tab-cells",
            title="Cells",
            groups=(
                group(grid, "workbook", "Workbook", "new open save"),
                group(grid, "hand", "To and fro", "copy cut paste copy-values"),
                group(grid, "look", "Look", "embolden slant colour-cells show-as clear-look"),
            ),
        ),
        Tab(
            id="tab-rows",
            title="Rows",
            groups=(
                group(grid, "order", "Order", "order-ascending order-descending"),
                group(grid, "see", "See", "narrow widen"),
                group(grid, "rows", "Rows", "add-rows-above add-rows take-rows move-rows-up move-rows-down"),
                group(grid, "columns", "Columns", "add-columns take-columns fit-width"),
            ),
        ),
        Tab(
            id="tab-reckon",
            title="Reckon",
            groups=(
                group(grid, "total", "Totals", "put-sum put-count put-average"),
                group(grid, "fill", "Fill", "fill-down fill-right count-on"),
                group(grid, "values", "Values", "make-values take-doubles turn"),
            ),
        ),
        Tab(
            id="tab-sheets",
            title="Sheets",
            groups=(
                group(grid, "sheets", "Sheets", "add-sheet copy-sheet take-sheet move-sheet"),
                group(grid, "between", "Between", "previous-sheet next-sheet"),
            ),
        ),
        Tab(
            id="tab-notes",
            title="Notes",
            groups=(
                group(grid, "note", "Note", "write-note take-note next-note"),
                group(grid, "seek", "Seek", "find find-next replace"),
                group(grid, "out", "Hand on", "save-values make-pdf print"),
            ),
        ),
    )
    grid.menus = (
        Menu(
            id="menu-cell",
            title="Right-click on a cell",
            context="cell",
            items=items(
                grid, "menu", "copy cut paste copy-values | add-rows take-rows | write-note narrow put-sum"
            ),
        ),
        Menu(
            id="menu-writing",
            title="Right-click when writing in a cell",
            context="writing",
            items=items(grid, "menu-writing", "copy paste | drop-writing"),
        ),
    )
