"""A text that is only read: nothing of it is fetched, and nothing runs."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent

from rimecrest.embed.formatted_text.view import MOVE_KEYS, TextView
from rimecrest.shell.theme import font


class ReadingView(TextView):
    """A text that is only read. A click on a link asks for it to be opened."""

    linked = pyqtSignal(str)

    def __init__(self, noun: str, margin: int) -> None:
        """`margin` is in pixels, around the text."""
        super().__init__(noun)
        self.setReadOnly(True)
        self.setTextInteractionFlags(
            Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
        )
        document = self.document()
        assert document is not None
        self.text = document
        document.setDefaultFont(font(15))
        document.setDocumentMargin(margin)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in MOVE_KEYS:
            super().keyPressEvent(event)
        else:
            event.ignore()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        super().mouseReleaseEvent(event)
        assert event is not None
        address = self.anchorAt(event.position().toPoint())
        if address and event.button() == Qt.MouseButton.LeftButton and not self.textCursor().hasSelection():
            self.linked.emit(address)
