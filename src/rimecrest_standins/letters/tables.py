"""Tables."""

from __future__ import annotations

from typing import Annotated

from PyQt6.QtGui import QTextCursor, QTextLength, QTextTable, QTextTableFormat
from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QFormLayout, QSpinBox

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.words import tr
from rimecrest.kit.declare import Between
from rimecrest.shell.there import there
from rimecrest_standins.letters.declared import command
from rimecrest_standins.letters.document import LetterDocument

EDITS = (Effect.EDITS,)
MOST = 60
"""Rows and columns of a new table, at most."""
Count = Annotated[int, Between(1, MOST)]


def _ask_size(doc: LetterDocument) -> None:
    """Ask how many rows and columns a table shall have; it comes when that is answered."""
    dialog = QDialog(doc.widget.window())
    dialog.setObjectName("table-size")
    dialog.setWindowTitle(tr("Put a table here"))
    form = QFormLayout(dialog)
    boxes = {}
    for name, words in (("rows", tr("Rows")), ("columns", tr("Columns"))):
        box = boxes[name] = QSpinBox(dialog)
        box.setObjectName(f"table-{name}")
        box.setAccessibleName(words)
        box.setRange(1, MOST)
        box.setValue(3)
        form.addRow(words, box)
    buttons = QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
    row = QDialogButtonBox(buttons, dialog)
    row.accepted.connect(dialog.accept)
    row.rejected.connect(dialog.reject)
    form.addRow(row)

    def answered() -> None:
        doc.wants.emit("insert-table", {name: str(box.value()) for name, box in boxes.items()})

    dialog.accepted.connect(answered)
    dialog.finished.connect(dialog.deleteLater)
    boxes["rows"].selectAll()
    dialog.open()


@command(
    "insert-table",
    "Table",
    about="Put a table here; without settings it asks how many rows and columns",
    keys="Ctrl+J, T",
    context="writing",
    effects=EDITS,
    picture="table-plus",
    asks=_ask_size,
)
def insert_table(doc: LetterDocument, rows: Count = 3, columns: Count = 3) -> None:
    look = QTextTableFormat()
    look.setCellPadding(5)
    look.setCellSpacing(0)
    look.setBorder(1)
    look.setBorderCollapse(True)
    look.setWidth(QTextLength(QTextLength.Type.PercentageLength, 100))
    cursor = doc.cursor()
    cursor.clearSelection()
    table = cursor.insertTable(rows, columns, look)
    doc.put(there(table).cellAt(0, 0).firstCursorPosition())


def _here(doc: LetterDocument) -> tuple[QTextTable, int, int]:
    table = doc.table()
    assert table is not None  # the context "table" is live
    cell = table.cellAt(doc.cursor())
    return table, cell.row(), cell.column()


@command(
    "add-row",
    "Row below",
    about="Add a row below this one",
    keys="Ctrl+J, R",
    context="table",
    effects=EDITS,
    picture="table-row-plus-after",
)
def add_row(doc: LetterDocument) -> None:
    table, row, column = _here(doc)
    table.insertRows(row + 1, 1)
    doc.put(table.cellAt(row + 1, column).firstCursorPosition())


@command(
    "add-column",
    "Column after",
    about="Add a column after this one",
    keys="Ctrl+J, C",
    context="table",
    effects=EDITS,
    picture="table-column-plus-after",
)
def add_column(doc: LetterDocument) -> None:
    table, row, column = _here(doc)
    table.insertColumns(column + 1, 1)
    doc.put(table.cellAt(row, column + 1).firstCursorPosition())


@command(
    "delete-row",
    "Delete row",
    was=("take-row",),
    about="Delete this row, with what is in it",
    keys="Ctrl+J, Shift+R",
    context="table",
    effects=(Effect.EDITS, Effect.DELETES),
    picture="table-row-remove",
)
def take_row(doc: LetterDocument) -> None:
    table, row, _ = _here(doc)
    table.removeRows(row, 1)


@command(
    "delete-column",
    "Delete column",
    was=("take-column",),
    about="Delete this column, with what is in it",
    keys="Ctrl+J, Shift+K",
    context="table",
    effects=(Effect.EDITS, Effect.DELETES),
    picture="table-column-remove",
)
def take_column(doc: LetterDocument) -> None:
    table, _, column = _here(doc)
    table.removeColumns(column, 1)


@command(
    "delete-table",
    "Delete table",
    was=("take-table",),
    about="Delete the whole table, with what is in it",
    context="table",
    effects=(Effect.EDITS, Effect.DELETES),
    picture="table-remove",
)
def take_table(doc: LetterDocument) -> None:
    table, _, _ = _here(doc)
    table.removeRows(0, table.rows())


def _to_cell(doc: LetterDocument, by: int) -> bool:
    table, row, column = _here(doc)
    number = row * table.columns() + column + by
    if not 0 <= number < table.rows() * table.columns():
        return False
    cell = table.cellAt(number // table.columns(), number % table.columns())
    doc.put(cell.firstCursorPosition())
    return True


@command(
    "next-cell",
    "Next cell",
    about="Go to the next cell; from the last one, to a new row",
    keys="Tab",
    context="table",
    effects=EDITS,
    picture="keyboard-tab",
    repeats=True,
)
def next_cell(doc: LetterDocument) -> None:
    if not _to_cell(doc, 1):
        table, row, _ = _here(doc)
        table.insertRows(row + 1, 1)
        doc.put(table.cellAt(row + 1, 0).firstCursorPosition())


@command(
    "previous-cell",
    "Previous cell",
    about="Go to the previous cell",
    keys="Shift+Tab",
    context="table",
    picture="keyboard-tab-reverse",
    repeats=True,
)
def previous_cell(doc: LetterDocument) -> None:
    _to_cell(doc, -1)


@command(
    "insert-tab", "Tab", about="Put a tab between the words", keys="Tab", context="writing", effects=EDITS
)
def insert_tab(doc: LetterDocument) -> None:
    cursor: QTextCursor = doc.cursor()
    cursor.insertText("\t")
    doc.put(cursor)
