"""A slim scroll bar in the studio's own colours."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QScrollBar, QStyle, QStyleOptionSlider

from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there

WIDE = 9
"""Pixels across."""


class SlimBar(QScrollBar):
    """A rounded handle without a groove or arrows."""

    def __init__(self, scheme: Scheme, orientation: Qt.Orientation = Qt.Orientation.Vertical) -> None:
        super().__init__(orientation)
        self._scheme = scheme

    def sizeHint(self) -> QSize:
        size = super().sizeHint()
        upright = self.orientation() is Qt.Orientation.Vertical
        return QSize(WIDE, size.height()) if upright else QSize(size.width(), WIDE)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if self.maximum() <= self.minimum():
            return
        option = QStyleOptionSlider()
        self.initStyleOption(option)
        part = QStyle.SubControl.SC_ScrollBarSlider
        handle = there(self.style()).subControlRect(QStyle.ComplexControl.CC_ScrollBar, option, part, self)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        active = self.underMouse() or self.isSliderDown()
        painter.setBrush(self._scheme.color("ink2" if active else "faint"))
        painter.drawRoundedRect(QRectF(handle).adjusted(2, 2, -2, -2), 2.5, 2.5)


def slim(area: QAbstractScrollArea, scheme: Scheme) -> None:
    """Give what scrolls its slim bars."""
    area.setVerticalScrollBar(SlimBar(scheme))
    area.setHorizontalScrollBar(SlimBar(scheme, Qt.Orientation.Horizontal))
