"""Rows and columns: added, taken away, moved, made wider. Sums go on pointing to the same cells."""

from __future__ import annotations

from typing import Annotated

from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.declare import Between
from rimecrest_standins.grid.book import Cell, Row, column_of
from rimecrest_standins.grid.cells import COLUMN_WIDTH
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.navigation import HERE
from rimecrest_standins.grid.place import Place
from rimecrest_standins.grid.references import spliced

EDITS = (Effect.EDITS,)
DELETES = (Effect.EDITS, Effect.DELETES)
Count = Annotated[int, Between(1, 1000)]


def _resum(doc: GridDocument, at: int, removed: int, added: int, columns: bool) -> None:
    """Let every sum of the workbook point to where its cells went."""
    changed = doc.sheet.name
    for sheet in doc.book.sheets:
        if not sheet.formulas:
            continue
        for number, row in enumerate(list(sheet.rows)):
            made: dict[int, Cell] = {}
            for column, cell in row.items():
                if cell.is_formula:
                    written = spliced(cell.written, sheet.name, changed, at, removed, added, columns)
                    if written != cell.written:
                        made[column] = replace(cell, written=written)
            if made:
                doc.book.splice(sheet, number, 1, [{**row, **made}])


def _add_rows(doc: GridDocument, at: int, count: int) -> None:
    place = doc.place()
    _resum(doc, at, 0, count, columns=False)
    doc.book.splice(doc.sheet, at, 0, [{}] * count)
    doc.go(Place(place.sheet, at, place.column, at, place.column, at, place.column))


@command(
    "add-rows-above",
    "Row above",
    about="Add rows above this one",
    keys="Ctrl+J, U",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="table-row-plus-before",
)
def add_rows_above(doc: GridDocument, count: Count = 1) -> None:
    _add_rows(doc, doc.place().top, count)


@command(
    "add-rows",
    "Row below",
    about="Add rows below this one",
    keys="Ctrl+J, B",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="table-row-plus-after",
)
def add_rows(doc: GridDocument, count: Count = 1) -> None:
    _add_rows(doc, doc.place().bottom + 1, count)


@command(
    "delete-rows",
    "Delete rows",
    was=("take-rows",),
    about="Delete the selected rows, with what is in them",
    keys="Ctrl+J, Delete",
    context="cell",
    effects=DELETES,
    changes=HERE,
    picture="table-row-remove",
)
def take_rows(doc: GridDocument) -> None:
    place, rows = doc.place(), doc.seen_rows()
    chosen = [row for row in range(place.top, place.bottom + 1) if rows is None or row in rows]
    # From below, so that the rows above keep their numbers; neighbours go together.
    while chosen:
        last = first = chosen.pop()
        while chosen and chosen[-1] == first - 1:
            first = chosen.pop()
        count = last - first + 1
        _resum(doc, first, count, 0, columns=False)
        doc.book.splice(doc.sheet, first, count, [])
    doc.go(Place.on(place.sheet, place.top, place.column))


def _shift_columns(doc: GridDocument, at: int, removed: int, added: int) -> None:
    _resum(doc, at, removed, added, columns=True)
    by = added - removed

    def shifted(row: Row) -> Row:
        return {
            (column if column < at else column + by): cell
            for column, cell in row.items()
            if not at <= column < at + removed
        }

    sheet = doc.sheet
    doc.book.splice(sheet, 0, len(sheet.rows), [shifted(row) for row in sheet.rows])
    widths = {
        (column if column < at else column + by): width
        for column, width in sheet.widths.items()
        if not at <= column < at + removed
    }
    doc.book.set_shape(sheet, widths=widths)


@command(
    "add-columns-before",
    "Column before",
    about="Add columns before this one",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="table-column-plus-before",
)
def add_columns_before(doc: GridDocument, count: Count = 1) -> None:
    place = doc.place()
    _shift_columns(doc, place.left, 0, count)
    doc.go(Place.on(place.sheet, place.row, place.left))


@command(
    "add-columns",
    "Column after",
    about="Add columns after this one",
    keys="Ctrl+J, Shift+C",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="table-column-plus-after",
)
def add_columns(doc: GridDocument, count: Count = 1) -> None:
    place = doc.place()
    _shift_columns(doc, place.right + 1, 0, count)
    doc.go(Place.on(place.sheet, place.row, place.right + 1))


@command(
    "delete-columns",
    "Delete columns",
    was=("take-columns",),
    about="Delete the selected columns, with what is in them",
    keys="Ctrl+J, Shift+Delete",
    context="cell",
    effects=DELETES,
    changes=HERE,
    picture="table-column-remove",
)
def take_columns(doc: GridDocument) -> None:
    place = doc.place()
    _shift_columns(doc, place.left, place.right - place.left + 1, 0)
    doc.go(Place.on(place.sheet, place.row, place.left))


def _move_rows(doc: GridDocument, by: int) -> None:
    place, sheet = doc.place(), doc.sheet
    if sheet.narrowed is not None:
        raise RimecrestError(
            tr("Rows cannot be moved while the sheet is filtered."), tr("Show all rows first.")
        )
    if place.top + by < 0:
        raise RimecrestError(tr("These rows are the first already."))
    rows = [sheet.row(row) for row in range(place.top, place.bottom + 1)]
    if by < 0:
        doc.book.splice(sheet, place.top - 1, len(rows) + 1, [*rows, sheet.row(place.top - 1)])
    else:
        doc.book.splice(sheet, place.top, len(rows) + 1, [sheet.row(place.bottom + 1), *rows])
    doc.go(
        Place(
            place.sheet,
            place.row + by,
            place.column,
            place.top + by,
            place.left,
            place.bottom + by,
            place.right,
        )
    )


@command(
    "move-rows-up",
    "Move up",
    about="Move the selected rows up by one",
    keys="Ctrl+J, Up",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="arrow-up-bold-outline",
    repeats=True,
)
def move_rows_up(doc: GridDocument) -> None:
    _move_rows(doc, -1)


@command(
    "move-rows-down",
    "Move down",
    about="Move the selected rows down by one",
    keys="Ctrl+J, Down",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="arrow-down-bold-outline",
    repeats=True,
)
def move_rows_down(doc: GridDocument) -> None:
    _move_rows(doc, 1)


def _set_widths(doc: GridDocument, columns: range, width: int) -> None:
    widths = dict(doc.sheet.widths)
    for column in columns:
        if width == COLUMN_WIDTH:
            widths.pop(column, None)
        else:
            widths[column] = width
    doc.book.set_shape(doc.sheet, widths=widths)


@command(
    "set-width",
    "Width",
    about="Set the width of the selected columns, or of the one named, in pixels",
    context="cell",
    effects=EDITS,
    picture="arrow-expand-horizontal",
)
def set_width(
    doc: GridDocument, to: Annotated[int, Between(20, 800)] = COLUMN_WIDTH, column: str = ""
) -> None:
    place = doc.place()
    if not column:
        _set_widths(doc, range(place.left, place.right + 1), to)
        return
    if not column.isascii() or not column.isalpha() or len(column) > 3:
        raise RimecrestError(
            tr("“{column}” is no column.", column=column), tr("Columns are named A, B … Z, AA.")
        )
    at = column_of(column)
    _set_widths(doc, range(at, at + 1), to)


@command(
    "fit-width",
    "Fit the width",
    about="Make the selected columns as wide as what is in them",
    keys="Ctrl+J, W",
    context="cell",
    effects=EDITS,
    picture="arrow-collapse-horizontal",
)
def fit_width(doc: GridDocument) -> None:
    place, metrics = doc.place(), doc.widget.cells.fontMetrics()
    for column in range(place.left, min(place.right, doc.sheet.breadth - 1) + 1):
        rows = [row for row in range(doc.sheet.height) if column in doc.sheet.rows[row]]
        longest = max((metrics.horizontalAdvance(doc.shown(row, column)) for row in rows), default=0)
        _set_widths(doc, range(column, column + 1), min(max(longest + 18, 40), 800))
