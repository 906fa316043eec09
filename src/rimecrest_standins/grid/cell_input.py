"""Writing in cells: beginning, keeping, dropping, copying, filling."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from msgspec.structs import replace
from PyQt6.QtGui import QTextCursor

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.declare import Between
from rimecrest_standins.grid.book import Cell, parse_cell_name
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.navigation import HERE

EDITS = (Effect.EDITS,)


@command(
    "start-writing",
    "Write in the cell",
    about="Change what this cell has",
    keys="F2",
    context="cell",
    picture="form-textbox",
)
def start_writing(doc: GridDocument) -> None:
    doc.start_writing(doc.here.written)


def _declare_confirm(
    verb: str, name: str, keys: str | tuple[str, ...], way: str, down: int, right: int, was: str
) -> None:
    def keep(doc: GridDocument) -> None:
        doc.keep_writing()
        place = doc.place()
        if place.row + down >= 0 and place.column + right >= 0:
            doc.go_to(place.row + down, place.column + right)

    command(
        verb,
        name,
        about=tr("Confirm what was written") + (tr(", and move {way}", way=way) if down or right else ""),
        keys=keys,
        context="writing",
        effects=EDITS,
        changes=HERE,
        picture="keyboard-return",
        was=(was,),
    )(keep)


_declare_confirm(
    "confirm-down", tr("Confirm and move down"), ("Return", "KP_Enter"), "down", 1, 0, was="keep-writing"
)
_declare_confirm("confirm-right", tr("Confirm and move right"), "Tab", "right", 0, 1, was="keep-right")
_declare_confirm("confirm-left", tr("Confirm and move left"), "Shift+Tab", "left", 0, -1, was="keep-left")
_declare_confirm("confirm", "Confirm", "Ctrl+Return", "", 0, 0, was="keep-here")
_declare_confirm("confirm-up", tr("Confirm and move up"), "Shift+Return", "up", -1, 0, was="keep-up")


@command(
    "discard-entry",
    "Discard this entry",
    was=("drop-writing",),
    about="Leave the cell as it was before",
    keys="Escape",
    context="writing",
    takes_back="all",
    picture="keyboard-esc",
)
def drop_writing(doc: GridDocument) -> None:
    doc.drop_writing()


def _take_away(doc: GridDocument, word: bool, forwards: bool) -> None:
    if doc.widget.note.isVisible():
        cursor = doc.widget.note.textCursor()
        if not cursor.hasSelection():
            move = QTextCursor.MoveOperation
            step = (move.NextWord if word else move.NextCharacter) if forwards else (
                move.PreviousWord if word else move.PreviousCharacter)  # fmt: skip
            cursor.movePosition(step, QTextCursor.MoveMode.KeepAnchor)
        cursor.removeSelectedText()
        return
    field = doc.widget.field
    if word and not field.hasSelectedText():
        field.cursorWordForward(True) if forwards else field.cursorWordBackward(True)
    if field.hasSelectedText():
        field.insert("")
    else:
        field.del_() if forwards else field.backspace()
    doc.widget.place_fields()
    doc.widget.tell()


def _declare_take(
    verb: str, name: str, where: str, keys: str | tuple[str, ...], word: bool, forwards: bool, was: str
) -> None:
    def take(doc: GridDocument) -> None:
        _take_away(doc, word, forwards)

    command(
        verb,
        name,
        about=f"Delete what is {where}",
        keys=keys,
        context="writing",
        repeats=True,
        takes_back="" if forwards else "word" if word else "character",
        picture="eraser" if forwards else "backspace-outline",
        was=(was,),
    )(take)


_declare_take(
    "delete-character-before",
    tr("Delete the character before"),
    tr("before the cursor"),
    ("BackSpace", "Shift+BackSpace"),
    word=False,
    forwards=False,
    was="take-back-character",
)
_declare_take(
    "delete-character-after",
    tr("Delete the character after"),
    tr("after the cursor"),
    "Delete",
    word=False,
    forwards=True,
    was="take-next-character",
)
_declare_take(
    "delete-word-before",
    tr("Delete the word before"),
    tr("before the cursor"),
    "Ctrl+BackSpace",
    word=True,
    forwards=False,
    was="take-back-word",
)
_declare_take(
    "delete-word-after",
    tr("Delete the word after"),
    tr("after the cursor"),
    "Ctrl+Delete",
    word=True,
    forwards=True,
    was="take-next-word",
)


@command(
    "select-words",
    "Select all of the cell",
    was=("choose-words",),
    about="Select all that is written in the cell",
    keys="Ctrl+A",
    context="writing",
)
def choose_words(doc: GridDocument) -> None:
    doc.widget.field.selectAll()


Steps = Annotated[int, Between(-10_000, 10_000)]


@command(
    "go-characters",
    "Go by characters",
    about="Go so many characters on in what is being written; below 0 is back",
    context="writing",
    picture="arrow-right-thin",
)
def go_characters(doc: GridDocument, by: Steps = 1) -> None:
    place = doc.place()
    doc.widget.set_field_cursor(max(place.at + by, 0), 0)


@command(
    "select-characters",
    "Select characters",
    was=("choose-characters",),
    about="Select so many characters from the cursor on; below 0, those before it",
    context="writing",
    picture="form-textbox",
)
def choose_characters(doc: GridDocument, by: Steps = 1) -> None:
    doc.widget.set_field_cursor(doc.place().at, by)


@command(
    "insert-cell",
    "Insert a cell’s name",
    was=("put-cell",),
    about="Write the name of a cell or block into the formula",
    context="sum",
    picture="crosshairs",
)
def put_cell(doc: GridDocument, name: str) -> None:
    first, _, last = name.partition(":")
    if parse_cell_name(first) is None or (last and parse_cell_name(last) is None):
        raise RimecrestError(
            tr("“{name}” is no name of a cell.", name=name), tr("Write it as B7, or B7:D9 for a block.")
        )
    doc.write(name.upper())


@command(
    "set-cell",
    "Set the cell",
    about="Write a value or a formula into this cell at once",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="pencil-box-outline",
)
def set_cell(doc: GridDocument, to: str) -> None:
    place = doc.place()
    doc.book.put(doc.sheet, place.row, place.column, replace(doc.here, written=to))


@command(
    "empty-cells",
    "Empty the cells",
    about="Delete what is written in the selected cells; their formatting and notes stay",
    keys=("Delete", "BackSpace"),
    context="cell",
    effects=EDITS,
    deletes_selection=True,
    changes=HERE,
    picture="eraser",
)
def empty_cells(doc: GridDocument) -> None:
    each_chosen(doc, lambda cell: replace(cell, written=""))


def each_chosen(doc: GridDocument, change: Callable[[Cell], Cell]) -> None:
    """Change every chosen cell, as `each_chosen_at` does."""
    each_chosen_at(doc, lambda _row, _column, cell: change(cell))


def filled_block(doc: GridDocument) -> tuple[int, int, int, int]:
    """Top, left, bottom, right of what is chosen; whole rows and columns only as far as they are filled."""
    place = doc.place()
    bottom, right = place.bottom, place.right
    if bottom == doc.last_row():
        bottom = max(doc.sheet.height - 1, place.top)
    if right == doc.last_column():
        right = max(doc.sheet.breadth - 1, place.left)
    return place.top, place.left, bottom, right


def each_chosen_at(doc: GridDocument, change: Callable[[int, int, Cell], Cell]) -> None:
    """Change every cell of `filled_block` by its row and column; rows that are not seen stay as they are."""
    top, left, bottom, right = filled_block(doc)
    rows = doc.seen_rows()
    if rows is None:
        doc.book.change_at(doc.sheet, top, bottom, left, right, change)
        return
    for row in rows:
        if top <= row <= bottom:
            doc.book.change_at(doc.sheet, row, row, left, right, change)
