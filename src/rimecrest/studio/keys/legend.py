"""The legend of the bed and the map: what each shape means."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QFontMetrics, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from rimecrest.core.check.kinds import Weight
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.marks import draw_mark, draw_owner

ENTRIES = (
    ("mine", tr("this layer")),
    ("above", tr("from another layer")),
    ("own", tr("no bar: the application’s own")),
    ("taken", tr("the desktop takes it")),
    ("missing", tr("not on every keyboard")),
    ("asks", "question"),
    ("blocks", "error"),
)
LINE = 20
"""Pixels of one line of the legend."""


class BedLegend(QWidget):
    """One line of signs with their words."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.setFixedHeight(LINE)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Legend: " + ", ".join(words for _, words in ENTRIES))

    def sizeHint(self) -> QSize:
        return QSize(300, LINE)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for kind, words, x, y in self._places(self.width()):
            if kind != "own":
                self._sign(painter, kind, QRectF(x, y + 3, 14, 14))
                x += 19
            painter.setPen(self._scheme.color("ink2"))
            painter.setFont(font(11))
            box = QRectF(x, y, self.width(), LINE)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, words)

    def _places(self, width: int) -> list[tuple[str, str, float, float]]:
        """Each entry with where it stands; what does not fit goes on the next line."""
        metrics = QFontMetrics(font(11))
        found, x, y = [], 0.0, 0.0
        for kind, words in ENTRIES:
            wide = metrics.horizontalAdvance(words) + (0 if kind == "own" else 19)
            if x and x + wide > width:
                x, y = 0.0, y + LINE
            found.append((kind, words, x, y))
            x += wide + 16
        return found

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        assert event is not None
        super().resizeEvent(event)
        self.setFixedHeight(int(self._places(event.size().width())[-1][3]) + LINE)

    def _sign(self, painter: QPainter, kind: str, box: QRectF) -> None:
        scheme = self._scheme
        if kind in ("asks", "blocks"):
            draw_mark(painter, scheme, Weight(kind), box)
            return
        pen = QPen(scheme.color("faint"), 1)
        if kind == "missing":
            pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.setBrush(scheme.color("sheet"))
        painter.drawRect(box)
        if kind in ("mine", "above"):
            draw_owner(painter, scheme, box.adjusted(1, -3, 0, 3), kind == "mine")
        elif kind == "taken":
            painter.fillRect(box, QBrush(scheme.color("faint"), Qt.BrushStyle.BDiagPattern))
