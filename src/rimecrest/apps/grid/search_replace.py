"""Finding and replacing, and the size of what is seen."""

from __future__ import annotations

from dataclasses import replace as with_fields
from typing import Literal

from rimecrest.apps.grid.book import cells_of
from rimecrest.apps.grid.declared import command, declarations
from rimecrest.apps.grid.document import GridDocument
from rimecrest.apps.grid.navigation import HERE
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.embed.document import NOT_DONE, Reached
from rimecrest.embed.search_commands import ask_replacement, declare_search
from rimecrest.embed.view_commands import declare_zoom
from rimecrest.shell.theme import font

SMALLEST, LARGEST = 9, 28


def _find(doc: GridDocument, text: str, backwards: bool) -> None:
    place, rows = doc.place(), doc.seen_rows()
    wanted = text.casefold()
    hits = [
        (row, column)
        for row in (range(len(doc.sheet.rows)) if rows is None else rows)
        for column in sorted(doc.sheet.row(row))
        if wanted in doc.shown(row, column).casefold()
    ]
    if not hits:
        raise RimecrestError(tr("“{text}” is not on this sheet.", text=text))
    here = (place.row, place.column)
    if backwards:
        doc.go_to(*next((hit for hit in reversed(hits) if hit < here), hits[-1]))
    else:
        doc.go_to(*next((hit for hit in hits if hit > here), hits[0]))


declare_search(
    declarations,
    ("Go to the next cell that shows these words", "Find the same words before this cell"),
    "cell",
    _find,
    lambda doc: doc.sought,
    HERE,
)


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
) -> Reached:
    if not text:
        asked = ask_replacement(doc.widget)
        if asked is None:
            return NOT_DONE
        text, by = asked
    count = 0
    whole = (0, 0, len(doc.sheet.rows) - 1, max(doc.sheet.breadth - 1, 0))
    cells = doc.chosen_cells() if where == "chosen" else cells_of(doc.sheet, *whole)
    for row, column, cell in list(cells):
        if text in cell.written and not cell.is_formula:
            doc.book.put(doc.sheet, row, column, with_fields(cell, written=cell.written.replace(text, by)))
            count += 1
    if not count:
        raise RimecrestError(tr("“{text}” is not on this sheet.", text=text))
    return Reached({"text": text, "by": by, "where": where})


def _zoom(doc: GridDocument, by: int) -> None:
    cells = doc.widget.cells
    size = max(SMALLEST, min(cells.font().pixelSize() + by, LARGEST))
    cells.setFont(font(size))
    cells.verticalHeader().setDefaultSectionSize(size + 12)


declare_zoom(declarations, "sheet", _zoom)
