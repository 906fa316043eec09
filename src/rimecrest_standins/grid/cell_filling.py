"""Filling cells from the first of them, and counting on."""

from __future__ import annotations

from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest_standins.grid.cell_input import EDITS
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.formulas import plain_value, shown
from rimecrest_standins.grid.navigation import HERE
from rimecrest_standins.grid.references import copied


def _fill(doc: GridDocument, down: bool) -> None:
    place = doc.place()
    if (place.top == place.bottom) if down else (place.left == place.right):
        raise RimecrestError(
            tr("Choose more than one {line} to fill.", line="row" if down else "column"),
            tr("The first one is what the others are filled with."),
        )
    for row in range(place.top, place.bottom + 1):
        for column in range(place.left, place.right + 1):
            source = (place.top, column) if down else (row, place.left)
            if source == (row, column):
                continue
            cell = doc.sheet.cell(*source)
            if cell.is_formula:
                moved = copied(cell.written, row - source[0], column - source[1])
                cell = replace(cell, written=moved)
            doc.book.put(doc.sheet, row, column, replace(cell, note=doc.sheet.cell(row, column).note))


@command(
    "fill-down",
    "Fill down",
    about="Fill the selected cells with the first row of them",
    keys="Ctrl+J, D",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="arrow-expand-down",
)
def fill_down(doc: GridDocument) -> None:
    _fill(doc, down=True)


@command(
    "fill-right",
    "Fill right",
    about="Fill the selected cells with the first column of them",
    keys="Ctrl+J, Shift+R",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="arrow-expand-right",
)
def fill_right(doc: GridDocument) -> None:
    _fill(doc, down=False)


@command(
    "count-on",
    "Count on",
    about="Fill the selected column with numbers that go on from its first two cells",
    keys="Ctrl+J, N",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="numeric",
)
def count_on(doc: GridDocument) -> None:
    place = doc.place()
    first = plain_value(doc.sheet.cell(place.top, place.left))
    second = plain_value(doc.sheet.cell(place.top + 1, place.left))
    if not isinstance(first, float) or place.top == place.bottom:
        raise RimecrestError(
            tr("The first selected cell is no number to count on from."),
            tr("Write one, and choose it with the cells below."),
        )
    step = second - first if isinstance(second, float) else 1.0
    for row in range(place.top, place.bottom + 1):
        cell = doc.sheet.cell(row, place.left)
        value = shown(first + step * (row - place.top), "plain")
        doc.book.put(doc.sheet, row, place.left, replace(cell, written=value))
