"""Notes on cells."""

from __future__ import annotations

from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.navigation import HERE

EDITS = (Effect.EDITS,)


@command(
    "write-note",
    "Note",
    about="Write a note on this cell",
    keys="Ctrl+J, P",
    context="cell",
    picture="note-plus-outline",
)
def write_note(doc: GridDocument) -> None:
    doc.start_note()


@command(
    "keep-note",
    "Keep the note",
    about="Keep the note and go on in the sheet",
    keys="Escape",
    context="note",
    effects=EDITS,
    changes=HERE,
    picture="note-check-outline",
)
def keep_note(doc: GridDocument) -> None:
    doc.keep_writing()


@command(
    "new-line",
    "New line",
    about="Begin a new line in the note",
    keys=("Return", "KP_Enter"),
    context="note",
    repeats=True,
)
def new_line(doc: GridDocument) -> None:
    doc.widget.note.insertPlainText("\n")


@command(
    "delete-note",
    "Delete note",
    was=("take-note",),
    about="Delete the note of this cell",
    context="cell",
    effects=(Effect.EDITS, Effect.DELETES),
    changes=HERE,
    picture="note-remove-outline",
)
def take_note(doc: GridDocument) -> None:
    place = doc.place()
    if not doc.here.note:
        raise RimecrestError(tr("This cell has no note."))
    doc.book.put(doc.sheet, place.row, place.column, replace(doc.here, note=""))


@command(
    "next-note",
    "Next note",
    about="Go to the next cell with a note, row by row",
    keys="Ctrl+J, Shift+P",
    context="cell",
    changes=HERE,
    picture="note-search-outline",
)
def next_note(doc: GridDocument) -> None:
    place = doc.place()
    noted = [
        (row, column)
        for row in range(len(doc.sheet.rows))
        for column, cell in sorted(doc.sheet.rows[row].items())
        if cell.note
    ]
    if not noted:
        raise RimecrestError(tr("No cell of this sheet has a note."))
    here = (place.row, place.column)
    doc.go_to(*next((where for where in noted if where > here), noted[0]))
