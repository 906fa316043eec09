"""The cells of one sheet, as a table: moving among them, and choosing a block."""

from __future__ import annotations

from PyQt6.QtCore import (
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QPersistentModelIndex,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QInputMethodEvent, QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QAbstractItemView, QFrame, QHeaderView, QTableView, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.documents.typed_keys import MOVE_KEYS, moves_with
from rimecrest.shell.plain_text import typed_text
from rimecrest.shell.theme import font
from rimecrest.shell.there import there
from rimecrest_standins.grid.cell_painting import CellPainter, Headings
from rimecrest_standins.grid.sheet_model import SheetModel

ROW_HEIGHT = 25
COLUMN_WIDTH = 104
"""Pixels of a column that was not given another width."""
_REACHES = {
    Qt.Key.Key_Left: QAbstractItemView.CursorAction.MoveLeft,
    Qt.Key.Key_Right: QAbstractItemView.CursorAction.MoveRight,
    Qt.Key.Key_Up: QAbstractItemView.CursorAction.MoveUp,
    Qt.Key.Key_Down: QAbstractItemView.CursorAction.MoveDown,
    Qt.Key.Key_Home: QAbstractItemView.CursorAction.MoveHome,
    Qt.Key.Key_End: QAbstractItemView.CursorAction.MoveEnd,
    Qt.Key.Key_PageUp: QAbstractItemView.CursorAction.MovePageUp,
    Qt.Key.Key_PageDown: QAbstractItemView.CursorAction.MovePageDown,
}


class Cells(QTableView):
    """The cells of one sheet."""

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)
    moved = pyqtSignal()
    pressed_in = pyqtSignal()
    """The mouse is about to go to another cell."""

    def __init__(self, model: SheetModel, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("cells")
        self.setAccessibleName(tr("The sheet"))
        self.setModel(model)
        self._anchor = QPersistentModelIndex()
        self.setItemDelegate(CellPainter(model, self))
        self.setFont(font(13))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ContiguousSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setTabKeyNavigation(False)
        self.setWordWrap(False)
        self.setCornerButtonEnabled(False)
        rows = Headings(Qt.Orientation.Vertical, self)
        columns = Headings(Qt.Orientation.Horizontal, self)
        self.setVerticalHeader(rows)
        self.setHorizontalHeader(columns)
        rows.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        rows.setDefaultSectionSize(ROW_HEIGHT)
        rows.setMinimumWidth(48)
        columns.setDefaultSectionSize(COLUMN_WIDTH)
        columns.setFixedHeight(ROW_HEIGHT)

    def begin_at(self, cell: QModelIndex) -> None:
        """A block that is chosen with Shift from now on begins at this cell.

        The toolkit's own anchor knows only its own keys and clicks, not where a command put the cursor.
        """
        self._anchor = QPersistentModelIndex(cell)

    def _reach_to(self, cell: QModelIndex) -> None:
        """Choose the block from the anchor to a cell."""
        anchor = QModelIndex(self._anchor)
        if not anchor.isValid():
            anchor = self.currentIndex()
            self.begin_at(anchor)
        if cell.isValid() and anchor.isValid():
            rows, columns = sorted((anchor.row(), cell.row())), sorted((anchor.column(), cell.column()))
            model, chosen = there(self.model()), there(self.selectionModel())
            block = QItemSelection(model.index(rows[0], columns[0]), model.index(rows[1], columns[1]))
            chosen.setCurrentIndex(cell, QItemSelectionModel.SelectionFlag.NoUpdate)
            chosen.select(block, QItemSelectionModel.SelectionFlag.ClearAndSelect)
            self.scrollTo(cell)

    def _far_corner(self) -> QModelIndex:
        """The corner of what is chosen that lies opposite the anchor."""
        ranges = there(self.selectionModel()).selection()
        anchor = QModelIndex(self._anchor)
        if not ranges or not anchor.isValid():
            return self.currentIndex()
        block = ranges[0]
        row = block.top() if anchor.row() == block.bottom() else block.bottom()
        column = block.left() if anchor.column() == block.right() else block.right()
        return there(self.model()).index(row, column)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if moves_with(event, MOVE_KEYS):
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                no_update = QItemSelectionModel.SelectionFlag.NoUpdate
                there(self.selectionModel()).setCurrentIndex(self._far_corner(), no_update)
                self._reach_to(self.moveCursor(_REACHES[Qt.Key(event.key())], event.modifiers()))
            else:
                super().keyPressEvent(event)
                self.begin_at(self.currentIndex())
        elif text := typed_text(event):
            self.typed.emit(text)
            event.accept()
        else:
            event.ignore()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pressed_in.emit()
        pressed = self.indexAt(event.position().toPoint())
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._reach_to(pressed)
        else:
            super().mousePressEvent(event)
            self.begin_at(pressed)

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        assert event is not None
        self.composing.emit(event)
        if event.commitString():
            self.typed.emit(event.commitString())
        event.accept()

    def selectionChanged(self, selected: QItemSelection, deselected: QItemSelection) -> None:
        super().selectionChanged(selected, deselected)
        self.moved.emit()

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        self.moved.emit()
