"""Marks of state, the same everywhere: a shape with a corner cut out and a sign, never a colour alone."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from rimecrest.core.check.kinds import Weight
from rimecrest.shell.theme import Scheme, bold

SIGNS = {Weight.BLOCKS: "!", Weight.ASKS: "?", Weight.TELLS: "i"}


def notched(box: QRectF, cut: float = 6, radius: float = 2.5) -> QPainterPath:
    """A rounded box whose upper right corner is really cut out."""
    path = QPainterPath()
    path.addRoundedRect(box, radius, radius)
    corner = QPainterPath()
    corner.addPolygon(
        QPolygonF(
            [
                QPointF(box.right() - cut, box.top() - 1),
                QPointF(box.right() + 1, box.top() - 1),
                QPointF(box.right() + 1, box.top() + cut),
            ]
        )
    )
    corner.closeSubpath()
    return path.subtracted(corner)


def draw_mark(painter: QPainter, scheme: Scheme, weight: Weight, box: QRectF) -> None:
    """One mark in a box, about 16 pixels square."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(scheme.color(weight.value))
    painter.drawPath(notched(box))
    painter.setPen(scheme.color("on_crest"))
    painter.setFont(bold(11))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, SIGNS[weight])
    painter.restore()


def draw_owner(painter: QPainter, scheme: Scheme, box: QRectF, mine: bool) -> None:
    """The bar along the leading edge of an item or key cap: solid for this layer, broken for another."""
    bar = QRectF(box.left() + 1, box.top() + 5, 3, box.height() - 10)
    if mine:
        painter.fillRect(bar, scheme.color("crest"))
        return
    part = bar.height() / 5
    for at in (0, 2, 4):
        painter.fillRect(QRectF(bar.x(), bar.y() + at * part, 3, part), scheme.color("slate"))


class Mark(QWidget):
    """A mark as a widget."""

    def __init__(self, weight: Weight, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._weight = weight
        self._scheme = scheme
        self.setAccessibleName(weight.word)
        self.setToolTip(weight.word.capitalize())
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(18, 18)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        draw_mark(QPainter(self), self._scheme, self._weight, QRectF(1, 1, 16, 16))


def hexagon(box: QRectF) -> QPolygonF:
    """A hexagon standing on its point, as high as the box: a rime crystal stands for a seat."""
    x, y, w, h = box.x(), box.y(), box.width(), box.height()
    return QPolygonF(
        [
            QPointF(x + w / 2, y),
            QPointF(x + w, y + h / 4),
            QPointF(x + w, y + 3 * h / 4),
            QPointF(x + w / 2, y + h),
            QPointF(x, y + 3 * h / 4),
            QPointF(x, y + h / 4),
        ]
    )
