"""Where a cell or its note is written: what is typed comes out as a signal, the document changes the text."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor, QInputMethodEvent, QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QPlainTextEdit, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.documents.typed_keys import LINE_KEYS, MOVE_KEYS, take_composed, take_key
from rimecrest.shell.theme import font


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
        take_key(event, LINE_KEYS, super().keyPressEvent, self.typed.emit)
        if event is not None:
            event.accept()  # otherwise the cells behind the field would get it, and move

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        self.composing.emit(event)
        take_composed(event, super().inputMethodEvent, self.typed.emit)


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
        take_key(event, MOVE_KEYS, super().keyPressEvent, self.typed.emit)
        if event is not None:
            event.accept()

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        self.composing.emit(event)
        take_composed(event, super().inputMethodEvent, self.typed.emit)
