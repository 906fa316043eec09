"""Copying cells, and putting what was copied: cells with their formulas, values alone."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtCore import QByteArray, QMetaType, QMimeData, QVariant
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import CommandResult
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.there import there
from rimecrest_standins.grid.book import EMPTY, Cell, Row, row_of
from rimecrest_standins.grid.cell_input import EDITS, each_chosen
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.formulas import plain_value, shown
from rimecrest_standins.grid.navigation import HERE
from rimecrest_standins.grid.place import Place
from rimecrest_standins.grid.references import copied

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
    keys=("Ctrl+C", "Ctrl+Insert"),
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
    keys=("Ctrl+X", "Shift+Delete"),
    deletes_selection=True,
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
    keys=("Ctrl+V", "Shift+Insert"),
    effects=EDITS,
    changes=HERE,
    picture="content-paste",
    everyday=True,
)
def paste(doc: GridDocument) -> CommandResult | None:
    data = _clipboard()
    if doc.entering:
        words = data.text().replace("\n", " ").replace("\t", " ")
        doc.write(words)
        return CommandResult(text=words)
    held = _held.get(data.data(_MIME).data())
    if held is None:
        # What another program copied: a macro puts the same values there.
        put_values(doc, data.text())
        return CommandResult({"text": data.text()}, verb="insert-values")
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
def copy_values(doc: GridDocument) -> CommandResult:
    text = _clipboard().text()
    put_values(doc, text)
    return CommandResult({"text": text}, verb="insert-values")


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
