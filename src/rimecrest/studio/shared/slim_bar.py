"""A slim scroll bar in the studio's own colours."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QScrollBar, QStyle, QStyleOptionSlider

from rimecrest.shell.theme import Scheme

WIDE = 9
"""Pixels across."""


class SlimBar(QScrollBar):
    """Upright; a rounded handle without a groove or arrows."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__(Qt.Orientation.Vertical)
        self._scheme = scheme

    def sizeHint(self) -> QSize:
        return QSize(WIDE, super().sizeHint().height())

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self.maximum() <= self.minimum():
            return
        option = QStyleOptionSlider()
        self.initStyleOption(option)
        part = QStyle.SubControl.SC_ScrollBarSlider
        handle = self.style().subControlRect(QStyle.ComplexControl.CC_ScrollBar, option, part, self)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        active = self.underMouse() or self.isSliderDown()
        painter.setBrush(self._scheme.color("ink2" if active else "faint"))
        painter.drawRoundedRect(QRectF(handle).adjusted(2, 1, -2, -1), 2.5, 2.5)


def slim(area: QAbstractScrollArea, scheme: Scheme) -> None:
    """Give a scrolling list its slim bar."""
    area.setVerticalScrollBar(SlimBar(scheme))
