"""The ruler above the stage: pull its grip to make the colleague's window narrower or wider."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font

NARROWEST, WIDEST = 420, 2560
GRIP = 14


class Ruler(QWidget):
    """Shows pixels. `pulled` carries a width while the grip moves, `settled` the last one."""

    pulled = pyqtSignal(int)
    settled = pyqtSignal(int)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._value = 1024
        self._pulling = False
        self.setFixedHeight(32)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setObjectName("ruler")

    def set_value(self, width: int) -> None:
        self._value = width
        self.setFixedWidth(width + GRIP)
        self.setAccessibleName(tr("Window width, {width} pixels", width=width))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._value + GRIP, 32)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(11))
        foot = self.height() - 6
        painter.setPen(self._scheme.color("line"))
        painter.drawLine(0, foot, self._value, foot)
        for mark in range(100, self._value + 1, 100):
            near_end = self._value - mark < 40
            painter.setPen(self._scheme.color("line"))
            painter.drawLine(mark, foot - 4, mark, foot)
            if not near_end:
                painter.setPen(self._scheme.color("ink2"))
                painter.drawText(QRectF(mark - 40, 2, 80, 16), Qt.AlignmentFlag.AlignCenter, f"{mark:,}")
        painter.setPen(self._scheme.color("ink"))
        painter.drawText(
            QRectF(self._value - 50, 2, 62, 16), Qt.AlignmentFlag.AlignCenter, f"{self._value:,}"
        )
        painter.setPen(self._scheme.color("ink" if self.hasFocus() else "crest"))
        painter.setBrush(self._scheme.color("crest"))
        painter.drawRoundedRect(QRectF(self._value - 7, foot - 9, GRIP, 15), 3, 3)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._pulling = abs(event.position().x() - self._value) < 14

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._pulling:
            width = int(min(max(event.position().x(), NARROWEST), WIDEST))
            if width != self._value:
                self.set_value(width)
                self.pulled.emit(width)

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        if self._pulling:
            self._pulling = False
            self.settled.emit(self._value)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -16, Qt.Key.Key_Right: 16}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        self.set_value(min(max(self._value + step, NARROWEST), WIDEST))
        self.settled.emit(self._value)
