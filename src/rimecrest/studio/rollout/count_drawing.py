"""A department on the seat map in numbers: over its seats, or as a count that opens."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.rollout.seat_drawing import draw_state
from rimecrest.studio.rollout.seat_rows import Department

SIGN = QRectF(0, 0, 13, 15)
"""The small hexagons that tell which state a number counts."""


def draw_words(painter: QPainter, scheme: Scheme, department: Department, box: QRectF) -> None:
    """A department's title, and under it how many seats it has."""
    painter.setPen(scheme.color("ink"))
    painter.setFont(bold(13))
    metrics = painter.fontMetrics()
    title = metrics.elidedText(department.title, Qt.TextElideMode.ElideRight, int(box.width()))
    painter.drawText(QRectF(box.x(), box.y(), box.width(), 22), Qt.AlignmentFlag.AlignVCenter, title)
    painter.setPen(scheme.color("ink2"))
    painter.setFont(font(11))
    under = QRectF(box.x(), box.y() + 18, box.width(), 20)
    painter.drawText(under, Qt.AlignmentFlag.AlignVCenter, department.numbers)


def draw_count(painter: QPainter, scheme: Scheme, department: Department, box: QRectF, reached: bool) -> None:
    """A department as a count: its words, its seats by state, and an arrow that says it opens."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(scheme.color("ink" if reached else "line"), 2 if reached else 1))
    painter.setBrush(scheme.color("sheet"))
    painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 6, 6)
    draw_words(painter, scheme, department, box.adjusted(14, 10, -40, 0))
    _draw_arrow(painter, scheme, department.open, QPointF(box.right() - 24, box.y() + 22))
    x, y = box.x() + 14, box.y() + 60
    painter.setFont(font(12))
    for state, number in department.states:
        draw_state(painter, scheme, state, SIGN.translated(x, y))
        words = f"{number:,}"
        width = painter.fontMetrics().horizontalAdvance(words)
        painter.setPen(scheme.color("ink2"))
        beside = QRectF(x + SIGN.width() + 5, y - 3, width + 4, SIGN.height() + 6)
        painter.drawText(beside, Qt.AlignmentFlag.AlignVCenter, words)
        x += SIGN.width() + width + 22


def _draw_arrow(painter: QPainter, scheme: Scheme, is_open: bool, middle: QPointF) -> None:
    painter.setPen(QPen(scheme.color("ink2"), 1.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    points = [(-6, -3), (0, 3), (6, -3)] if is_open else [(-3, -6), (3, 0), (-3, 6)]
    painter.drawPolyline(QPolygonF([middle + QPointF(x, y) for x, y in points]))
