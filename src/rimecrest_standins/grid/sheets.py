"""Sheets: added, named, copied, moved, taken away; always by name."""

from __future__ import annotations

from typing import Annotated

from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.declare import Between
from rimecrest_standins.grid.book import Sheet
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.navigation import HERE
from rimecrest_standins.grid.place import Place
from rimecrest_standins.grid.references import renamed

EDITS = (Effect.EDITS,)
SHEETS = {*HERE, "sheets", "here.sheet", "headings"}


def _free(doc: GridDocument, name: str) -> str:
    """The name, when no sheet has it. Raises RimecrestError with a free one."""
    name = name.strip()
    if not name:
        raise RimecrestError(tr("A sheet needs a name."), tr("Write one."))
    if doc.book.sheet(name) is not None:
        free = doc.book.free_name(name)
        raise RimecrestError(
            tr("There is a sheet “{name}” already.", name=name), tr("“{free}” is free.", free=free)
        )
    return name


@command(
    "add-sheet",
    "New sheet",
    about="Add a sheet after this one, and go there",
    keys="Ctrl+J, S",
    effects=EDITS,
    changes=SHEETS,
    picture="table-plus",
)
def add_sheet(doc: GridDocument, name: str = "") -> None:
    sheet = Sheet(_free(doc, name) if name else doc.book.free_name())
    at = doc.book.sheets.index(doc.sheet) + 1
    doc.book.rearrange(lambda shapes: shapes.insert(at, (sheet, sheet.name, {}, None)))
    doc.show_sheet(sheet)


def _ask_name(doc: GridDocument) -> None:
    """Have the name written over the sheet's tab."""
    doc.widget.sheets.edit_name(doc.book.sheets.index(doc.sheet))


@command(
    "name-sheet",
    "Name the sheet",
    synonyms=("rename",),
    about="Give this sheet another name; formulas that refer to it go on doing so",
    keys="Ctrl+J, Shift+S",
    effects=EDITS,
    changes=SHEETS,
    picture="rename-outline",
    asks=_ask_name,
)
def name_sheet(doc: GridDocument, name: str = "") -> None:
    old, place = doc.sheet.name, doc.place()
    if not name.strip() or name.strip().lower() != old.lower():
        name = _free(doc, name)
    for sheet in doc.book.sheets:
        if not sheet.formulas:
            continue
        for number, row in enumerate(list(sheet.rows)):
            made = {
                column: replace(cell, written=renamed(cell.written, old, name.strip()))
                for column, cell in row.items()
                if cell.is_formula
            }
            doc.book.splice(sheet, number, 1, [{**row, **made}])
    doc.book.set_shape(doc.sheet, name=name.strip())
    doc.go(replace(place, sheet=name.strip()))


@command(
    "copy-sheet",
    "Copy the sheet",
    about="Add a copy of this sheet after it, and go there",
    effects=EDITS,
    changes=SHEETS,
    picture="content-duplicate",
)
def copy_sheet(doc: GridDocument, name: str = "") -> None:
    source, place = doc.sheet, doc.place()
    sheet = Sheet(_free(doc, name) if name else doc.book.free_name(source.name))
    at = doc.book.sheets.index(source) + 1
    shape = (sheet, sheet.name, dict(source.widths), source.narrowed)
    doc.book.rearrange(lambda shapes: shapes.insert(at, shape))
    doc.book.splice(sheet, 0, 0, source.rows)
    doc.go(replace(place, sheet=sheet.name))


@command(
    "move-sheet",
    "Move the sheet",
    about="Move this sheet so many places to the right; below 0 is left",
    keys="Ctrl+J, Shift+Right",
    effects=EDITS,
    changes=SHEETS,
    picture="table-arrow-right",
)
def move_sheet(doc: GridDocument, by: Annotated[int, Between(-100, 100)] = 1) -> None:
    at = doc.book.sheets.index(doc.sheet)
    to = max(0, min(at + by, len(doc.book.sheets) - 1))
    doc.book.rearrange(lambda shapes: shapes.insert(to, shapes.pop(at)))


@command(
    "delete-sheet",
    "Delete sheet",
    was=("take-sheet",),
    about="Delete this sheet, with what is in it",
    effects=(Effect.EDITS, Effect.DELETES),
    changes=SHEETS,
    picture="table-remove",
)
def take_sheet(doc: GridDocument) -> None:
    if len(doc.book.sheets) == 1:
        raise RimecrestError(tr("A workbook has at least one sheet."), tr("Add another one first."))
    at = doc.book.sheets.index(doc.sheet)
    doc.book.rearrange(lambda shapes: shapes.pop(at) and None)
    sheet = doc.book.sheets[min(at, len(doc.book.sheets) - 1)]
    doc.go(Place.on(sheet.name, 0, 0))
