"""Where a cell or its note is written: what is typed comes out as a signal, the document changes the text."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor, QInputMethodEvent, QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QPlainTextEdit, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.plain_text import typed_text
from rimecrest.shell.theme import font

MOVES = {
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down,
    Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown,
}  # fmt: skip
"""The keys that move within a field, or among cells."""


class CellField(QLineEdit):
    """Where a cell is written. Its text changes only by the document."""

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("cell-field")
        self.setAccessibleName(tr("The cell that is written"))
        self.setFrame(False)
        self.setFont(font(13))
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.NoContextMenu)
        self.hide()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End):
            super().keyPressEvent(event)
        elif text := typed_text(event):
            self.typed.emit(text)
        else:
            event.ignore()

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        assert event is not None
        self.composing.emit(event)
        super().inputMethodEvent(QInputMethodEvent(event.preeditString(), event.attributes()))
        if event.commitString():
            self.typed.emit(event.commitString())


class NoteField(QPlainTextEdit):
    """Where a note is written, beside its cell."""

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("note-field")
        self.setAccessibleName(tr("The note of the cell"))
        self.setFont(font(12))
        self.setUndoRedoEnabled(False)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.NoContextMenu)
        colours = self.palette()
        colours.setColor(colours.ColorRole.Base, QColor("#FFF8E1"))
        self.setPalette(colours)
        self.hide()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in MOVES:
            super().keyPressEvent(event)
        elif text := typed_text(event):
            self.typed.emit(text)
        else:
            event.ignore()

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        assert event is not None
        self.composing.emit(event)
        super().inputMethodEvent(QInputMethodEvent(event.preeditString(), event.attributes()))
        if event.commitString():
            self.typed.emit(event.commitString())
