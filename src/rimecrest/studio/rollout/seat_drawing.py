"""How the state of a seat is drawn: a hexagon whose fill and sign tell it; and the legend in words."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.rollout.board import State
from rimecrest.studio.shared.marks import hexagon


def draw_state(painter: QPainter, scheme: Scheme, state: State, box: QRectF) -> None:
    """Draw one hexagon: its fill and its sign show the state."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    shape = hexagon(box)
    filled = {State.HAS: "crest", State.FAILED: "blocks"}.get(state)
    line = {State.FAILED: "blocks", State.NOT_YET: "faint"}.get(state, "crest")
    painter.setPen(QPen(scheme.color(line), 1.4))
    painter.setBrush(scheme.color(filled or "sheet"))
    painter.drawPolygon(shape)
    size = box.height() / 4.2
    centre = box.center()
    painter.setPen(QPen(scheme.color("on_crest" if filled else line), max(box.height() / 22, 1.6)))
    if state is State.HAS:
        tick = QPainterPath(QPointF(centre.x() - size * 0.8, centre.y()))
        tick.lineTo(centre.x() - size * 0.2, centre.y() + size * 0.6)
        tick.lineTo(centre.x() + size * 0.9, centre.y() - size * 0.6)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(tick)
    elif state is State.OFFERED:
        painter.setBrush(scheme.color("crest"))
        painter.drawEllipse(centre, size / 4, size / 4)
    elif state is State.FAILED:
        painter.drawLine(
            QPointF(centre.x(), centre.y() - size * 0.8), QPointF(centre.x(), centre.y() + size * 0.2)
        )
        painter.drawPoint(QPointF(centre.x(), centre.y() + size * 0.8))
    painter.restore()


class DrawnStates:
    """Each state drawn once for its size: a map of thousands copies pictures."""

    def __init__(self, scheme: Scheme) -> None:
        self._scheme = scheme
        self._drawn: dict[tuple[State, int, int, float], QPixmap] = {}

    def picture(self, state: State, width: int, height: int, ratio: float) -> QPixmap:
        """A picture of that many pixels of the window, `ratio` dots of the screen to each."""
        key = state, width, height, ratio
        found = self._drawn.get(key)
        if found is None:
            found = QPixmap(round(width * ratio), round(height * ratio))
            found.setDevicePixelRatio(ratio)
            found.fill(Qt.GlobalColor.transparent)
            painter = QPainter(found)
            draw_state(painter, self._scheme, state, QRectF(2, 2, width - 4, height - 4))
            painter.end()
            self._drawn[key] = found
        return found


class Legend(QWidget):
    """What the hexagons mean: the same drawing, with words."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.setFixedHeight(30)
        self.setAccessibleName(tr("Legend: {states}", states=", ".join(tr(state.value) for state in State)))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setFont(font(12))
        rows = [(state, tr(state.value)) for state in State]
        widths = [painter.fontMetrics().horizontalAdvance(words) for _, words in rows]
        # Closer together before anything is cut off.
        gap = max(30.0, min(48.0, (self.width() - 8 - sum(widths)) / len(rows)))
        x = 4.0
        for (state, words), width in zip(rows, widths, strict=True):
            draw_state(painter, self._scheme, state, QRectF(x, 5, 18, 20))
            painter.setPen(self._scheme.color("ink2"))
            painter.drawText(QRectF(x + 23, 0, width + 4, 30), Qt.AlignmentFlag.AlignVCenter, words)
            x += width + gap
