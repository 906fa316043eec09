"""Finding and replacing, and the size of what is seen."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from msgspec.structs import replace as with_fields

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Between
from rimecrest.kit.documents.search_commands import ask_replacement, declare_search
from rimecrest.kit.documents.view_commands import declare_zoom
from rimecrest_standins.grid.book import MOST_COLUMNS, cells_of, column_of
from rimecrest_standins.grid.declared import command, declarations
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.navigation import HERE
from rimecrest_standins.grid.view import LEAST_SHARE, MOST_SHARE


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
        found = next((hit for hit in reversed(hits) if hit < here), hits[-1])
    else:
        found = next((hit for hit in hits if hit > here), hits[0])
    doc.go_to_found(*found)


declare_search(
    declarations,
    ("Go to the next cell that shows these words", "Find the same words before this cell"),
    "cell",
    _find,
    lambda doc: doc.sought,
    HERE,
)


@command(
    "find-different",
    "Find what is different",
    synonyms=("next different value", "not", "other value"),
    about="Go down the column to the next cell that shows something else than here, or than the text given",
    keys="Ctrl+J, Shift+X",
    context="cell",
    changes=HERE,
    picture="table-search",
    repeats=True,
)
def find_different(doc: GridDocument, text: str = "", column: str = "") -> CommandResult:
    place, rows = doc.place(), doc.seen_rows()
    at = place.column if not column else _column(doc, column)
    known = text or doc.shown(place.row, at)
    below = range(place.row + 1, doc.sheet.height)
    found = next(
        (row for row in (below if rows is None else rows) if row > place.row and doc.shown(row, at) != known),
        None,
    )
    if found is None or found >= doc.sheet.height:
        raise RimecrestError(
            tr("Below here this column shows nothing but “{text}”.", text=known),
            tr("Go further up, or to another column."),
        )
    doc.go_to_found(found, at)
    return CommandResult({"text": text, "column": column})


def _column(doc: GridDocument, name: str) -> int:
    """A column by its heading, or by its letters. Raises RimecrestError."""
    for column in sorted(doc.sheet.row(0)):
        if doc.shown(0, column).casefold() == name.strip().casefold():
            return column
    if re.fullmatch(r"[A-Za-z]{1,3}", name.strip()) and (column := column_of(name.strip())) < MOST_COLUMNS:
        return column
    raise RimecrestError(
        tr("There is no column “{name}”.", name=name), tr("Name it by its heading, or by its letters.")
    )


@command(
    "replace",
    "Replace",
    about="Write other words wherever these stand, on this sheet or in what is selected",
    context="cell",
    effects=(Effect.EDITS,),
    changes={*HERE, "replaced"},
    picture="find-replace",
)
def replace(
    doc: GridDocument, text: str = "", by: str = "", where: Literal["sheet", "chosen"] = "sheet"
) -> CommandResult:
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
    doc.replaced = count
    says = (
        tr("{count} replaced.", count=counted(count, tr("cell")))
        if count
        else tr("“{text}” is not on this sheet: nothing is replaced.", text=text)
    )
    return CommandResult({"text": text, "by": by, "where": where}, says=says)


STEP = 15
"""Per cent of a step of zooming."""


def _zoom(doc: GridDocument, by: int) -> None:
    share = doc.widget.share + (STEP if by > 0 else -STEP)
    doc.widget.show_at(max(LEAST_SHARE, min(share, MOST_SHARE)))


declare_zoom(declarations, "sheet", _zoom)


@command(
    "zoom-to",
    "Zoom to",
    synonyms=("per cent", "share", "scale"),
    about="Show the sheet at a share of its size, in per cent",
    changes={"zoom"},
    picture="magnify",
)
def zoom_to(doc: GridDocument, to: Annotated[int, Between(LEAST_SHARE, MOST_SHARE)] = 100) -> None:
    doc.widget.show_at(to)
