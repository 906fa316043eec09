"""The widget a letter is written in: a text editor whose every change goes through the dispatcher.

Typing comes out as the signal `typed`; only moving the cursor is left to the toolkit.
"""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, Qt, pyqtSignal
from PyQt6.QtGui import QInputMethodEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QTextFormat
from PyQt6.QtWidgets import QFrame, QTextEdit

from rimecrest.core.words import tr
from rimecrest.shell.plain_text import typed_text

_MOVES = {
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down,
    Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown,
}  # fmt: skip


class LetterView(QTextEdit):
    """Shows the letter. `typed` carries text to write at the cursor."""

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("letter")
        self.setAccessibleName(tr("The letter"))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setAcceptDrops(False)
        self.setTabChangesFocus(False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in _MOVES:
            super().keyPressEvent(event)
        elif text := typed_text(event):
            self.typed.emit(text)
            event.accept()
        else:
            event.ignore()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        chosen = self.textCursor()
        if event.button() == Qt.MouseButton.RightButton:
            # The menu is that of the place that was clicked, unless what is chosen was clicked.
            there = self.cursorForPosition(event.position().toPoint())
            if not chosen.selectionStart() <= there.position() <= chosen.selectionEnd():
                self.setTextCursor(there)
            event.accept()
        else:
            super().mousePressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        # Where a new page begins shows as a dashed line: the text itself has no pages on the screen.
        painter = QPainter(self.viewport())
        painter.setPen(QPen(self.palette().mid(), 1, Qt.PenStyle.DashLine))
        offset = self.verticalScrollBar().value()
        block = self.cursorForPosition(event.rect().topLeft()).block()
        while block.isValid():
            box = self.document().documentLayout().blockBoundingRect(block)
            top = int(box.top()) - offset
            if top > event.rect().bottom():
                break
            breaks = block.blockFormat().pageBreakPolicy()
            if breaks & QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore:
                painter.drawLine(12, top - 1, self.viewport().width() - 12, top - 1)
            block = block.next()

    def inputMethodEvent(self, event: QInputMethodEvent) -> None:
        self.composing.emit(event)
        super().inputMethodEvent(QInputMethodEvent(event.preeditString(), event.attributes()))
        if event.commitString():
            self.typed.emit(event.commitString())

    def insertFromMimeData(self, _source: QMimeData) -> None:
        """Nothing: pasting is a command, so that it is counted, recorded and undone like all others."""
