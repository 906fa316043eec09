"""Order, narrow, widen, take doubles away, turn round; and totals."""

from __future__ import annotations

from typing import Any, Literal

from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import CommandResult
from rimecrest_standins.grid.book import EMPTY, Cell, Narrow, Row, block_around, cell_name
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.formulas import Failure, Range, parts_of, read_formula
from rimecrest_standins.grid.navigation import HERE
from rimecrest_standins.grid.place import Place
from rimecrest_standins.grid.references import copied

EDITS = (Effect.EDITS,)
Rows = Literal["below-heading", "all"]


def _block(doc: GridDocument, rows: str) -> tuple[int, int, int, int]:
    """The rows to put in order: those chosen, else the block around, with or without its heading."""
    place = doc.place()
    if place.top != place.bottom and place.bottom < doc.last_row():
        return place.top, place.left, place.bottom, place.right
    top, left, bottom, right = block_around(doc.sheet, place.row, place.column)
    top = top + 1 if rows == "below-heading" else top
    while bottom > top and _is_total(doc, bottom, left, right):
        bottom -= 1  # totals stay beneath what they are of
    return top, left, bottom, right


def _is_total(doc: GridDocument, row: int, left: int, right: int) -> bool:
    """Whether a row has a sum over several rows above it."""
    for column in range(left, right + 1):
        cell = doc.sheet.cell(row, column)
        if cell.is_formula and any(
            isinstance(part, Range) and not part.sheet and part.top < part.bottom < row
            for part in parts_of(read_formula(cell.written))
        ):
            return True
    return False


def _order(doc: GridDocument, rows: str, descending: bool) -> None:
    if doc.sheet.narrowed is not None:
        raise RimecrestError(tr("A filtered sheet cannot be sorted."), tr("Show all rows first."))
    place = doc.place()
    top, left, bottom, right = _block(doc, rows)
    if bottom <= top:
        raise RimecrestError(
            tr("There is nothing to put in order here."), tr("Go to a cell of a filled block.")
        )

    def key(number: int) -> tuple[int, Any]:
        value = doc.reckoner.value(doc.sheet, number, place.column)
        # Numbers, then words, then error values; empty cells last in either order.
        if value == "":
            return (3 if not descending else -1, 0)
        if isinstance(value, Failure):
            return (2, value.name)
        return (0, value) if isinstance(value, float) else (1, value.casefold())

    order = sorted(range(top, bottom + 1), key=key, reverse=descending)
    rows_now: list[Row] = []
    for target, source in enumerate(order, top):
        row = {column: cell for column, cell in doc.sheet.row(target).items() if not left <= column <= right}
        for column, cell in doc.sheet.row(source).items():
            if left <= column <= right:
                if cell.is_formula:
                    cell = replace(cell, written=copied(cell.written, target - source, 0))
                row[column] = cell
        rows_now.append(row)
    doc.book.splice(doc.sheet, top, len(rows_now), rows_now)


@command(
    "sort-ascending",
    "Sort, lowest first",
    was=("order-ascending",),
    synonyms=(
        "order",
        "ascending",
    ),
    about="Sort the rows by this column, the lowest first",
    keys="Ctrl+J, O",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="sort-ascending",
)
def order_ascending(doc: GridDocument, rows: Rows = "below-heading") -> None:
    _order(doc, rows, descending=False)


@command(
    "sort-descending",
    "Sort, highest first",
    was=("order-descending",),
    synonyms=(
        "order",
        "descending",
    ),
    about="Sort the rows by this column, the highest first",
    keys="Ctrl+J, Shift+O",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="sort-descending",
)
def order_descending(doc: GridDocument, rows: Rows = "below-heading") -> None:
    _order(doc, rows, descending=True)


FILTER = {*HERE, "filtered", "filter.value", "filter.column"}


@command(
    "show-only",
    "Show only this value",
    was=("narrow",),
    synonyms=(
        "filter",
        "narrow",
    ),
    about="Show only the rows that have the same in this column, or the text given",
    keys="Ctrl+J, Shift+N",
    context="cell",
    effects=EDITS,
    changes=FILTER,
    picture="filter-outline",
)
def narrow(doc: GridDocument, to: str = "") -> None:
    place = doc.place()
    text = to or doc.shown(place.row, place.column)
    column = place.column
    rows = [row for row in range(1, doc.sheet.height) if doc.shown(row, column) == text]
    if not rows:
        raise RimecrestError(tr("No row has “{text}” in this column.", text=text))
    doc.book.set_shape(doc.sheet, narrowed=Narrow(column, text))
    row = place.row if place.row in rows else rows[0]
    doc.go(Place.on(place.sheet, row, column))


@command(
    "show-all-rows",
    "Show all rows",
    was=("widen",),
    synonyms=("filter off",),
    about="Show all rows again",
    keys="Ctrl+J, Shift+W",
    context="cell",
    effects=EDITS,
    changes=FILTER,
    picture="filter-off-outline",
)
def widen(doc: GridDocument) -> None:
    place = doc.place()
    doc.book.set_shape(doc.sheet, narrowed=None)
    doc.go(Place.on(place.sheet, place.row, place.column))


@command(
    "turn-filter",
    "Filter on or off",
    synonyms=("toggle", "narrow"),
    about="Show only the rows that have what this cell has; where rows are hidden already, show all again",
    context="cell",
    effects=EDITS,
    changes=FILTER,
    picture="filter-check-outline",
)
def turn_filter(doc: GridDocument) -> CommandResult:
    # What is recorded is what was reached: done again, it must not turn the other way.
    if doc.sheet.narrowed is not None:
        widen(doc)
        return CommandResult(verb="show-all-rows")
    narrow(doc)
    return CommandResult(verb="show-only")


@command(
    "remove-repeated-rows",
    "Remove repeated rows",
    was=("take-doubles",),
    synonyms=("duplicates",),
    about="Of rows that are alike in the block around, keep the first",
    context="cell",
    effects=(Effect.EDITS, Effect.DELETES),
    changes=HERE,
    picture="table-row-remove",
)
def take_doubles(doc: GridDocument, rows: Rows = "below-heading") -> None:
    place = doc.place()
    top, left, bottom, right = _block(doc, rows)
    seen: set[tuple[str, ...]] = set()
    kept: list[Row] = []
    for number in range(top, bottom + 1):
        words = tuple(doc.shown(number, column) for column in range(left, right + 1))
        if words not in seen:
            seen.add(words)
            kept.append(doc.sheet.row(number))
    if len(kept) == bottom - top + 1:
        raise RimecrestError(tr("No two rows are alike."))
    doc.book.splice(doc.sheet, top, bottom - top + 1, kept)
    doc.go(Place.on(place.sheet, min(place.row, top + len(kept) - 1), place.column))


@command(
    "swap-rows-columns",
    "Swap rows and columns",
    was=("turn",),
    synonyms=("transpose",),
    about="Turn the block around: its rows become columns",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="table-pivot",
)
def turn(doc: GridDocument) -> None:
    place = doc.place()
    top, left, bottom, right = _block(doc, "all")
    cells = {
        (row, column): doc.sheet.cell(row, column)
        for row in range(top, bottom + 1)
        for column in range(left, right + 1)
    }
    for row, column in cells:
        doc.book.put(doc.sheet, row, column, EMPTY)
    for (row, column), cell in cells.items():
        doc.book.put(doc.sheet, top + column - left, left + row - top, cell)
    doc.go(Place.on(place.sheet, top, left))


# Totals


def _total(doc: GridDocument, function: str) -> None:
    """Put a total beneath what is chosen; beneath the numbers above when only one cell is."""
    place = doc.place()
    if place.is_block:
        bottom = min(place.bottom, max(doc.sheet.height - 1, place.top))
        for column in range(place.left, min(place.right, max(doc.sheet.breadth - 1, place.left)) + 1):
            _put_total(doc, function, place.top, bottom, column, bottom + 1)
        doc.go(Place.on(place.sheet, bottom + 1, place.left))
        return
    bottom = place.row - 1
    while bottom >= 0 and not doc.sheet.cell(bottom, place.column).written:
        bottom -= 1
    top = bottom
    while top > 0 and isinstance(doc.reckoner.value(doc.sheet, top - 1, place.column), float):
        top -= 1
    if bottom < 0 or not isinstance(doc.reckoner.value(doc.sheet, bottom, place.column), float):
        raise RimecrestError(tr("There are no numbers above this cell."), tr("Choose the cells to add up."))
    _put_total(doc, function, top, bottom, place.column, place.row)


def _put_total(doc: GridDocument, function: str, top: int, bottom: int, column: int, row: int) -> None:
    written = f"={function}({cell_name(top, column)}:{cell_name(bottom, column)})"
    cell: Cell = doc.sheet.cell(row, column)
    doc.book.put(doc.sheet, row, column, replace(cell, written=written))


@command(
    "insert-sum",
    "Sum",
    was=("put-sum",),
    synonyms=(
        "total",
        "add up",
    ),
    about="Put the sum of the selected cells, or of the numbers above, here",
    keys="Ctrl+J, T",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="sigma",
)
def put_sum(doc: GridDocument) -> None:
    _total(doc, "SUM")


@command(
    "insert-count",
    "Count",
    was=("put-count",),
    about="Put how many numbers are selected, or stand above, here",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="counter",
)
def put_count(doc: GridDocument) -> None:
    _total(doc, "COUNT")


@command(
    "insert-average",
    "Average",
    was=("put-average",),
    about="Put the average of the selected cells, or of the numbers above, here",
    keys="Ctrl+J, Shift+A",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="approximately-equal",
)
def put_average(doc: GridDocument) -> None:
    _total(doc, "AVERAGE")
