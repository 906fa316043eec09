"""Writing in cells: beginning, keeping, dropping, copying, filling."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from dataclasses import replace
from typing import Annotated

from PyQt6.QtCore import QByteArray, QMetaType, QMimeData, QVariant
from PyQt6.QtGui import QTextCursor
from PyQt6.QtWidgets import QApplication

from rimecrest.apps.grid.book import EMPTY, Cell, Row, parse_cell_name, row_of
from rimecrest.apps.grid.declared import command
from rimecrest.apps.grid.document import GridDocument
from rimecrest.apps.grid.formulas import plain_value, shown
from rimecrest.apps.grid.navigation import HERE
from rimecrest.apps.grid.place import Place
from rimecrest.apps.grid.references import copied
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.embed.declare import Between
from rimecrest.embed.document import Reached
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.there import there

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


def _declare_confirm(verb: str, name: str, keys: str, way: str, down: int, right: int, was: str) -> None:
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


_declare_confirm("confirm-down", tr("Confirm and move down"), "Return", "down", 1, 0, was="keep-writing")
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


# Copying


_MIME = "application/x-rimecrest-grid"
_TEXT = "text/plain"


class CopiedCells(QMimeData):
    """Cells in the clipboard. Their text is made when somebody asks for it: most pastes are in Grid itself.

    Args:
        mark: names the cells that are held in this process.
        text: makes the text.
        now: make it at once, for it will be another one later.
    """

    def __init__(self, mark: bytes, text: Callable[[], str], now: bool) -> None:
        super().__init__()
        self._mark = mark
        self._make = text
        self._made = text() if now else None

    def formats(self) -> list[str]:
        return [_TEXT, _MIME]

    def hasFormat(self, name: str | None) -> bool:
        return name in (_TEXT, _MIME)

    def retrieveData(self, name: str | None, _kind: QMetaType) -> QVariant:
        if name == _MIME:
            return QVariant(QByteArray(self._mark))
        if name == _TEXT:
            if self._made is None:
                self._made = self._make()
            return QVariant(self._made)
        return QVariant()


_held: dict[bytes, tuple[int, int, list[list[Cell]]]] = {}
"""What was copied last in this process, by the mark in the clipboard: where from, and the cells."""


def _copy(doc: GridDocument) -> None:
    if doc.writing:
        text = doc.widget.field.selectedText() or doc.widget.field.text()
        there(QApplication.clipboard()).setText(text)
        return
    if doc.widget.note.isVisible():
        there(QApplication.clipboard()).setText(plain_text(doc.widget.note.textCursor().selection()))
        return
    place = doc.place()
    seen = doc.seen_rows()
    bottom, right = (
        min(place.bottom, max(doc.sheet.height - 1, place.top)),
        min(place.right, doc.last_column()),
    )
    rows = [row for row in range(place.top, bottom + 1) if seen is None or row in seen]
    columns = range(place.left, right + 1)
    cells = [[doc.sheet.cell(row, column) for column in columns] for row in rows]
    mark = f"{id(doc)} {place}".encode()
    _held.clear()
    _held[mark] = (place.top, place.left, cells)

    def as_text() -> str:
        """What they show, a tab between cells."""
        out = io.StringIO(newline="")
        writer = csv.writer(out, delimiter="\t", lineterminator="\n")
        if formulas:
            writer.writerows([doc.shown(row, column) for column in columns] for row in rows)
        else:
            writer.writerows([shown(plain_value(cell), cell.look.form) for cell in row] for row in cells)
        return out.getvalue().rstrip("\n")

    formulas = any(cell.is_formula for row in cells for cell in row)
    # What formulas show is of now; what was written is as it is whenever somebody wants it.
    there(QApplication.clipboard()).setMimeData(CopiedCells(mark, as_text, now=formulas))


@command(
    "copy",
    "Copy",
    about="Copy the selected cells, or words",
    keys="Ctrl+C",
    effects=(Effect.CLIPBOARD,),
    picture="content-copy",
    everyday=True,
)
def copy(doc: GridDocument) -> None:
    _copy(doc)


@command(
    "cut",
    "Cut",
    about="Take the selected cells, or words, away to put them elsewhere",
    keys="Ctrl+X",
    effects=(*EDITS, Effect.CLIPBOARD),
    changes=HERE,
    picture="content-cut",
    everyday=True,
)
def cut(doc: GridDocument) -> None:
    _copy(doc)
    if doc.writing:
        doc.widget.field.insert("") if doc.widget.field.hasSelectedText() else doc.widget.field.clear()
    elif not doc.widget.note.isVisible():
        each_chosen(doc, lambda cell: EMPTY)


def _clipboard() -> QMimeData:
    data = there(QApplication.clipboard()).mimeData()
    if data is None or not data.hasText():
        raise RimecrestError(tr("There is nothing to paste."), tr("Copy some cells or words first."))
    return data


@command(
    "paste",
    "Paste",
    about="Put what was copied here",
    keys="Ctrl+V",
    effects=EDITS,
    changes=HERE,
    picture="content-paste",
    everyday=True,
)
def paste(doc: GridDocument) -> Reached | None:
    data = _clipboard()
    if doc.entering:
        words = data.text().replace("\n", " ").replace("\t", " ")
        doc.write(words)
        return Reached(text=words)
    held = _held.get(data.data(_MIME).data())
    if held is None:
        # What another program copied: a macro puts the same values there.
        put_values(doc, data.text())
        return Reached({"text": data.text()}, verb="insert-values")
    top, left, cells = held
    place = doc.place()
    down, right = place.top - top, place.left - left
    moved = [
        [
            replace(cell, written=copied(cell.written, down, right)) if cell.is_formula else cell
            for cell in row
        ]
        for row in cells
    ]
    _put_block(doc, moved)
    return None


def _put_block(doc: GridDocument, cells: list[list[Cell]]) -> None:
    """Put cells from the first chosen one on. A single one fills all that is chosen."""
    place = doc.place()
    if len(cells) == 1 and len(cells[0]) == 1 and place.is_block:
        one = cells[0][0]
        each_chosen(doc, lambda _: one)
        return
    rows: list[Row] = []
    for down, line in enumerate(cells):
        placed = {place.left + right: cell for right, cell in enumerate(line)}
        rows.append(row_of({**doc.sheet.row(place.top + down), **placed}))
    doc.book.splice(doc.sheet, place.top, len(rows), rows)
    last_row, last_column = place.top + len(cells) - 1, place.left + max(map(len, cells)) - 1
    doc.go(Place(place.sheet, place.top, place.left, place.top, place.left, last_row, last_column))


@command(
    "insert-values",
    "Insert values",
    was=("put-values",),
    about="Put values here: a tab between cells, a new line between rows",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="clipboard-list-outline",
)
def put_values(doc: GridDocument, text: str) -> None:
    lines = list(csv.reader(io.StringIO(text, newline=""), delimiter="\t")) or [[""]]
    place = doc.place()
    _put_block(
        doc,
        [
            [
                replace(doc.sheet.cell(place.top + down, place.left + right), written=value)
                for right, value in enumerate(line)
            ]
            for down, line in enumerate(lines)
            if line
        ]
        or [[EMPTY]],
    )


@command(
    "copy-values",
    "Paste values only",
    about="Put the values of what was copied here, without formulas and formatting",
    keys="Ctrl+Shift+V",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="clipboard-text-outline",
)
def copy_values(doc: GridDocument) -> Reached:
    text = _clipboard().text()
    put_values(doc, text)
    return Reached({"text": text}, verb="insert-values")


@command(
    "formulas-to-values",
    "Formulas to values",
    was=("make-values",),
    about="Write the present values in place of the selected formulas",
    keys="Ctrl+J, V",
    context="cell",
    effects=EDITS,
    changes=HERE,
    picture="function-variant",
)
def make_values(doc: GridDocument) -> None:
    for row, column, cell in list(doc.chosen_cells()):
        if cell.is_formula:
            value = doc.reckoner.value(doc.sheet, row, column)
            doc.book.put(doc.sheet, row, column, replace(cell, written=shown(value, "plain")))


# Filling


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
