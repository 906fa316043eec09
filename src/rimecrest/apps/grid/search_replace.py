"""Finding and replacing, and the size of what is seen."""

from __future__ import annotations

from dataclasses import replace as with_fields
from typing import Literal

from PyQt6.QtWidgets import QInputDialog

from rimecrest.apps.grid.book import cells_of
from rimecrest.apps.grid.declared import command
from rimecrest.apps.grid.document import GridDocument
from rimecrest.apps.grid.navigation import HERE
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.embed.document import Reached
from rimecrest.shell.theme import font

SMALLEST, LARGEST = 9, 28


def _find(doc: GridDocument, text: str, backwards: bool = False) -> None:
    place, rows = doc.place(), doc.seen_rows()
    wanted = text.casefold()
    hits = [
        (row, column)
        for row in (range(len(doc.sheet.rows)) if rows is None else rows)
        for column in sorted(doc.sheet.row(row))
        if wanted in doc.shown(row, column).casefold()
    ]
    if not hits:
        raise RimecrestError(f"“{text}” is not on this sheet.")
    here = (place.row, place.column)
    if backwards:
        doc.go_to(*next((hit for hit in reversed(hits) if hit < here), hits[-1]))
    else:
        doc.go_to(*next((hit for hit in hits if hit > here), hits[0]))


@command(
    "find",
    "Find",
    about="Go to the next cell that shows these words",
    keys="Ctrl+F",
    context="cell",
    changes=HERE,
    picture="magnify",
    everyday=True,
)
def find(doc: GridDocument, text: str = "") -> Reached | None:
    if not text:
        text, go_on = QInputDialog.getText(doc.widget, "Find", "Find these words:", text=doc.sought)
        if not go_on or not text:
            return None
    doc.sought = text
    _find(doc, text)
    return Reached({"text": text})


@command(
    "find-next",
    "Find the next",
    about="Find the same words again",
    keys="F4",
    context="cell",
    changes=HERE,
    picture="arrow-down-circle-outline",
    repeats=True,
)
def find_next(doc: GridDocument) -> None:
    if not doc.sought:
        raise RimecrestError("Nothing was sought yet.", "Use Find first.")
    _find(doc, doc.sought)


@command(
    "find-previous",
    "Find the previous",
    about="Find the same words before this cell",
    keys="Shift+F4",
    context="cell",
    changes=HERE,
    picture="arrow-up-circle-outline",
    repeats=True,
)
def find_previous(doc: GridDocument) -> None:
    if not doc.sought:
        raise RimecrestError("Nothing was sought yet.", "Use Find first.")
    _find(doc, doc.sought, backwards=True)


@command(
    "replace",
    "Replace",
    about="Write other words wherever these stand, on this sheet or in what is selected",
    context="cell",
    effects=(Effect.EDITS,),
    changes=HERE,
    picture="find-replace",
)
def replace(
    doc: GridDocument, text: str = "", by: str = "", where: Literal["sheet", "chosen"] = "sheet"
) -> Reached | None:
    if not text:
        text, go_on = QInputDialog.getText(doc.widget, "Replace", "Replace these words:")
        if not go_on or not text:
            return None
        by, go_on = QInputDialog.getText(doc.widget, "Replace", f"Instead of “{text}” write:")
        if not go_on:
            return None
    count = 0
    whole = (0, 0, len(doc.sheet.rows) - 1, max(doc.sheet.breadth - 1, 0))
    cells = doc.chosen_cells() if where == "chosen" else cells_of(doc.sheet, *whole)
    for row, column, cell in list(cells):
        if text in cell.written and not cell.is_formula:
            doc.book.put(doc.sheet, row, column, with_fields(cell, written=cell.written.replace(text, by)))
            count += 1
    if not count:
        raise RimecrestError(f"“{text}” is not on this sheet.")
    return Reached({"text": text, "by": by, "where": where})


def _zoom(doc: GridDocument, by: int) -> None:
    cells = doc.widget.cells
    size = max(SMALLEST, min(cells.font().pixelSize() + by, LARGEST))
    cells.setFont(font(size))
    cells.verticalHeader().setDefaultSectionSize(size + 12)


@command(
    "zoom-in",
    "Zoom in",
    was=("larger-view",),
    synonyms=("larger",),
    about="Show the sheet larger",
    keys="Ctrl+=",
    picture="magnify-plus-outline",
    repeats=True,
)
def larger_view(doc: GridDocument) -> None:
    _zoom(doc, 2)


@command(
    "zoom-out",
    "Zoom out",
    was=("smaller-view",),
    synonyms=("smaller",),
    about="Show the sheet smaller",
    keys="Ctrl+-",
    picture="magnify-minus-outline",
    repeats=True,
)
def smaller_view(doc: GridDocument) -> None:
    _zoom(doc, -2)
