"""The widget that formatted text is written in: a text editor whose every change goes through the dispatcher.

Typing comes out as the signal `typed`; only moving the cursor is left to the toolkit.
"""

from __future__ import annotations

import base64
import binascii
from urllib.parse import unquote, unquote_to_bytes

from PyQt6.QtCore import QBuffer, QByteArray, QMimeData, Qt, QUrl, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QImage,
    QImageReader,
    QInputMethodEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QTextFormat,
)
from PyQt6.QtWidgets import QFrame, QTextEdit

from rimecrest.core.words import tr
from rimecrest.kit.documents.typed_keys import MOVE_KEYS, take_composed, take_key
from rimecrest.shell.theme import LIGHT

KINDS = ("png", "jpeg", "gif", "bmp", "webp")
"""Formats of pictures that are shown: all are of pixels; what is drawn by a program of its own is not."""
MOST_PIXELS = 40_000_000
"""Of all pictures in a text, by their headers, before they are decoded: four bytes each."""
NO_PICTURE = 24
"""Pixels of the frame that stands for a picture outside of the text."""


def picture_in(address: str, most: int = MOST_PIXELS) -> QImage | None:
    """The picture that a `data:` address is (RFC 2397); None where it is none, or has more pixels."""
    head, comma, body = address.partition(",")
    if not head.startswith("data:image/") or not comma:
        return None
    try:
        content = base64.b64decode(unquote(body)) if head.endswith(";base64") else unquote_to_bytes(body)
    except (binascii.Error, ValueError):
        return None
    buffer = QBuffer()
    buffer.setData(QByteArray(content))
    reader = QImageReader(buffer)
    if bytes(reader.format().data()).decode("ascii", "replace") not in KINDS:
        return None
    size = reader.size()
    if not size.isValid() or size.width() * size.height() > most:
        return None
    image = reader.read()
    return None if image.isNull() else image


def _no_picture() -> QImage:
    """What stands where a picture lies outside of the text: an empty frame."""
    image = QImage(NO_PICTURE, NO_PICTURE, QImage.Format.Format_RGB32)
    image.fill(QColor(LIGHT.line))
    painter = QPainter(image)
    painter.fillRect(1, 1, NO_PICTURE - 2, NO_PICTURE - 2, QColor(LIGHT.paper))
    painter.end()
    return image


class TextView(QTextEdit):
    """Shows the text. `typed` carries text to write at the cursor."""

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)

    def __init__(self, noun: str) -> None:
        super().__init__()
        self.setObjectName(noun)
        self.setAccessibleName(tr("The {noun}", noun=noun))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setAcceptDrops(False)
        self.setTabChangesFocus(False)
        self._room = MOST_PIXELS
        """Pixels of more pictures that are shown."""

    def setHtml(self, text: str | None) -> None:
        """Show another page."""
        self._room = MOST_PIXELS
        super().setHtml(text)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        take_key(event, MOVE_KEYS, super().keyPressEvent, self.typed.emit)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        chosen = self.textCursor()
        if event.button() == Qt.MouseButton.RightButton:
            # The menu is that of the place that was clicked, unless what is chosen was clicked.
            there = self.cursorForPosition(event.position().toPoint())
            if not chosen.selectionStart() <= there.position() <= chosen.selectionEnd():
                self.setTextCursor(there)
            event.accept()
        else:
            super().mousePressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        document, bar = self.document(), self.verticalScrollBar()
        layout = document.documentLayout() if document is not None else None
        assert event is not None
        assert bar is not None
        assert layout is not None
        # Where a new page begins shows as a dashed line: the text itself has no pages on the screen.
        painter, edge = QPainter(self.viewport()), event.rect().right() - 12
        painter.setPen(QPen(self.palette().mid(), 1, Qt.PenStyle.DashLine))
        block = self.cursorForPosition(event.rect().topLeft()).block()
        while block.isValid():
            box = layout.blockBoundingRect(block)
            top = int(box.top()) - bar.value()
            if top > event.rect().bottom():
                break
            breaks = block.blockFormat().pageBreakPolicy()
            if breaks & QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore:
                painter.drawLine(12, top - 1, edge, top - 1)
            block = block.next()

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        self.composing.emit(event)
        take_composed(event, super().inputMethodEvent, self.typed.emit)

    def loadResource(self, _kind: int, name: QUrl) -> QImage:
        """Nothing but the pictures in the text itself: no file or address that it names is ever read.

        The answer is a picture whatever is asked for. Without an answer the toolkit looks for the file by
        itself, and an answer to one question, as for a style sheet, is kept and given to all others.
        """
        picture = picture_in(name.toString(), self._room)
        self._room -= picture.width() * picture.height() if picture is not None else 0
        return picture or _no_picture()

    def insertFromMimeData(self, _source: QMimeData | None) -> None:
        """Nothing: pasting is a command, so that it is counted, recorded and undone like all others."""
