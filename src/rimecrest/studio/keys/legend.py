"""The legend of the bed and the map: what each shape means."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QFontMetrics, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from rimecrest.core.check import Weight
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.marks import draw_mark, draw_owner

ENTRIES = (
    ("mine", "this layer"),
    ("above", "from another layer"),
    ("own", "no bar: the application's own"),
    ("taken", "the desktop takes it"),
    ("missing", "not on every keyboard"),
    ("asks", "question"),
    ("blocks", "error"),
)


class BedLegend(QWidget):
    """One line of signs with their words."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.setFixedHeight(20)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Legend: " + ", ".join(words for _, words in ENTRIES))

    def sizeHint(self) -> QSize:
        return QSize(600, 20)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        metrics = QFontMetrics(font(11))
        x = 0.0
        for kind, words in ENTRIES:
            if kind != "own":
                self._sign(painter, kind, QRectF(x, 3, 14, 14))
                x += 19
            painter.setPen(self._scheme.color("ink2"))
            painter.setFont(font(11))
            wide = metrics.horizontalAdvance(words)
            painter.drawText(QRectF(x, 0, wide + 4, 20), Qt.AlignmentFlag.AlignVCenter, words)
            x += wide + 16

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
