"""The moves of an arrangement, drawn over the bed."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from rimecrest.shell.theme import Scheme
from rimecrest.studio.keys.bed_view import KeyBed


class MovesOverlay(QWidget):
    """The moves of an arrangement, drawn over the bed as arrows from key to key."""

    def __init__(self, bed: KeyBed, scheme: Scheme) -> None:
        super().__init__(bed)
        self._bed = bed
        self._scheme = scheme
        self._moves: list[tuple[str, str]] = []
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def show_moves(self, moves: list[tuple[str, str]]) -> None:
        """Draw arrows between physical keys; an empty list draws none."""
        self._moves = moves
        self.setGeometry(self._bed.rect())
        self.setVisible(bool(moves))
        self.raise_()
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 2))
        for before, after in self._moves:
            start, end = self._bed.brow(before), self._bed.brow(after)
            if start is None or end is None:
                continue
            bend = QPointF((start.x() + end.x()) / 2, min(start.y(), end.y()) - 26)
            path = QPainterPath(start)
            path.quadTo(bend, end)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(path)
            painter.setBrush(self._scheme.color("crest"))
            painter.drawEllipse(end, 4, 4)
            painter.setBrush(self._scheme.color("sheet"))
            painter.drawEllipse(start, 3, 3)
