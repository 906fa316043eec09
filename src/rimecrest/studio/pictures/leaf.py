"""The names of the chooser's pages."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.sentence_widgets import Pressable


class Leaf(Pressable):
    """One of the chooser's pages by its name; the shown one is a tinted chip with a cut corner."""

    def __init__(self, name: str, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(name, scheme, parent)
        self.setCheckable(True)
        self.setObjectName(f"picture-{name.replace(' ', '-')}")

    def sizeHint(self) -> QSize:
        return QSize(self.fontMetrics().horizontalAdvance(self.text()) + 36, 28)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide, high = self.width(), self.height()
        if self.isChecked() or self.underMouse() or self.hasFocus():
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._scheme.color("hover"))
            corners = ((0, 0), (wide - 8, 0), (wide, 8), (wide, high), (0, high))
            painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))
        if self.hasFocus():
            painter.setPen(QPen(self._scheme.color("crest"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(bold(13) if self.isChecked() else font(13))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.text())
