"""The final button beside its picture: on both colour schemes, at its true sizes; dragged out as an image."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, QPoint, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QDrag, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QApplication, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import DARK, LIGHT, Scheme, font
from rimecrest.shell.there import there
from rimecrest.studio.pictures.copying_out import add_picture

SHOWN = (16, 20, 24, 32, 48)
"""Pixels a side."""
GROUND = 92
"""Pixels that one scheme's part is high."""
BUTTON = 18
"""The same on the button itself, beside its words."""


class Preview(QWidget):
    """Draws a picture and its button on both schemes."""

    def __init__(self, book: PictureBook, words: str, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._book = book
        self._words = words
        self._scheme = scheme
        self._name = self.caption = ""
        self._pressed: QPoint | None = None
        self.content: bytes | None = None
        """What is copied and dragged out."""
        self.setAccessibleName(tr("As colleagues see it"))
        self.setToolTip(tr("Drag it into another program"))

    def sizeHint(self) -> QSize:
        return QSize(272, 2 * GROUND + 32)

    def show_picture(self, name: str, content: bytes | None, taken: bool = True) -> None:
        """Show another picture.

        Args:
            content: what is copied; None if it cannot be.
            taken: whether the button has it already; otherwise the words say that Enter takes it.
        """
        self._name, self.content = name, content
        self.caption = tr("As colleagues see it, at 16 to 48 pixels") if taken else tr("Enter takes this one")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("ink2"))
        painter.setFont(font(12))
        painter.drawText(QPointF(1, 14), self.caption)
        for at, scheme in enumerate((LIGHT, DARK)):
            box = QRectF(0.5, 24 + at * (GROUND + 6), self.width() - 1, GROUND)
            painter.setPen(QPen(self._scheme.color("line"), 1))
            painter.setBrush(scheme.color("sheet"))
            painter.drawRoundedRect(box, 6, 6)
            self._paint_line(painter, box, scheme)

    def _paint_line(self, painter: QPainter, box: QRectF, scheme: Scheme) -> None:
        ratio, ink = self.devicePixelRatioF(), scheme.color("ink")
        left, middle = box.left() + 14, box.top() + 32
        for side in SHOWN:
            pixmap = self._book.pixmap(self._name, ink, side, ratio)
            if pixmap is not None:
                painter.drawPixmap(QPointF(round(left), round(middle - side / 2)), pixmap)
            left += side + 16
        left, middle = box.left() + 10, box.bottom() - 18
        pixmap = self._book.pixmap(self._name, ink, BUTTON, ratio)
        if pixmap is not None:
            painter.drawPixmap(QPointF(round(left + 4), round(middle - BUTTON / 2)), pixmap)
            left += BUTTON + 8
        painter.setPen(ink)
        painter.setFont(font(12))
        room = box.right() - left - 6
        shown = painter.fontMetrics().elidedText(self._words, Qt.TextElideMode.ElideRight, int(room))
        line = QRectF(left + 4, middle - 12, room, 24)
        painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, shown)

    # Out to other programs

    def mime(self) -> QMimeData | None:
        """The picture as other programs take it; None: there is none."""
        data = QMimeData()
        return data if add_picture(data, self._book, self._name, self.content) else None

    def copy_out(self) -> bool:
        """Put the picture on the clipboard. Returns whether there is one."""
        data = self.mime()
        if data is not None:
            there(QApplication.clipboard()).setMimeData(data)
        return data is not None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._pressed = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        begun = self._pressed
        far = QApplication.startDragDistance()
        if begun is None or (event.position().toPoint() - begun).manhattanLength() < far:
            return
        self._pressed = None
        data = self.mime()
        if data is not None:
            drag = QDrag(self)
            drag.setMimeData(data)
            drag.exec(Qt.DropAction.CopyAction)
