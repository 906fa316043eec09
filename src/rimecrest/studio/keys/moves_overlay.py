"""The moves of an arrangement, drawn over the bed."""

from __future__ import annotations

from msgspec import Struct
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold
from rimecrest.studio.keys.bed_view import KeyBed


class Arrow(Struct, frozen=True):
    """A move from one physical key to another.

    An end is empty where it lies under other modifiers, or behind another opener, than the bed shows; its
    sequence is told in words then.
    """

    start: str
    end: str
    before: str
    after: str

    @property
    def words(self) -> str:
        if not self.end:
            return tr("to {keys}", keys=self.after)
        return "" if self.start else tr("from {keys}", keys=self.before)


class MovesOverlay(QWidget):
    """The moves of an arrangement, drawn over the bed as arrows from key to key."""

    def __init__(self, bed: KeyBed, scheme: Scheme) -> None:
        super().__init__(bed)
        self._bed = bed
        self._scheme = scheme
        self.arrows: list[Arrow] = []
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def show_moves(self, arrows: list[Arrow]) -> None:
        """Draw arrows over the bed; an empty list draws none."""
        self.arrows = arrows
        self.setGeometry(self._bed.rect())
        self.setVisible(bool(arrows))
        self.raise_()
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 2))
        for arrow in self.arrows:
            start, end = self._bed.brow(arrow.start), self._bed.brow(arrow.end)
            if start is None or end is None:
                if (here := start or end) is not None:
                    self._tell(painter, here, arrow.words, leaving=end is None)
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

    def _tell(self, painter: QPainter, at: QPointF, words: str, leaving: bool) -> None:
        """A move whose other end is not shown: a dot on the key, and the other sequence above it."""
        crest, sheet = self._scheme.color("crest"), self._scheme.color("sheet")
        painter.setBrush(sheet if leaving else crest)
        painter.drawEllipse(at, 3 if leaving else 4, 3 if leaving else 4)
        painter.setFont(bold(11))
        wide = QFontMetricsF(painter.font()).horizontalAdvance(words) + 10
        left = min(max(at.x() - wide / 2, 0.0), self.width() - wide)
        box = QRectF(left, at.y() - 22, wide, 17)
        painter.setBrush(sheet)
        painter.drawRoundedRect(box, 4, 4)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
