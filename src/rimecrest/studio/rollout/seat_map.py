"""The seat map: the hexagons of each department, packed and grown to fill the space."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QKeyEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QRegion,
    QResizeEvent,
)
from PyQt6.QtWidgets import QAbstractButton, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.rollout.board import SeatState, State
from rimecrest.studio.shared.marks import hexagon

LARGEST, SMALLEST = 104, 22
CAPTION = 44


def _draw_ring(painter: QPainter, box: QRectF, pen: QPen) -> None:
    inset = max(2.5, box.width() / 14)
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolygon(hexagon(box.adjusted(inset, inset, -inset, -inset)))


def draw_state(painter: QPainter, scheme: Scheme, state: State, box: QRectF, wave: str = "") -> None:
    """One hexagon: fill and sign tell the state, the outline the wave."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    shape = hexagon(box)
    filled = {State.HAS: "crest", State.FAILED: "blocks"}.get(state)
    line = {State.FAILED: "blocks", State.NOT_YET: "faint"}.get(state, "crest")
    painter.setPen(QPen(scheme.color(line), 2.6 if wave == "1" and not filled else 1.4))
    painter.setBrush(scheme.color(filled or "sheet"))
    painter.drawPolygon(shape)
    ring = QPen(scheme.color("on_crest" if filled else line), 1.6)
    if wave == "1" and filled:
        # On a filled one the strong outline of the first wave stands inside.
        _draw_ring(painter, box, ring)
    elif wave == "3":
        # Dashes would tear the edge of a filled one: they stand inside as well.
        ring.setDashPattern([2.0, 3.0])
        _draw_ring(painter, box, ring)
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


class SeatCell(QAbstractButton):
    """One seat."""

    def __init__(self, seat: SeatState, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self.seat = seat
        self._scheme = scheme
        self.chosen = False
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        name = seat.seat
        words = f"{name.seat}, {name.name}: {tr(seat.state.value)}"
        if seat.release:
            words += tr(", has release {release}", release=seat.release)
        self.setObjectName(f"seat {name.seat}")
        self.setAccessibleName(words)
        self.setToolTip(tr("{words}\nwave {wave}", words=words, wave=name.wave))

    def resizeEvent(self, _event: QResizeEvent | None) -> None:
        self.setMask(QRegion(hexagon(QRectF(self.rect())).toPolygon()))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        box = QRectF(self.rect()).adjusted(2, 2, -2, -2)
        draw_state(painter, self._scheme, self.seat.state, box, self.seat.seat.wave)
        if self.chosen or self.hasFocus():
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            # Round the whole cell and in ink: the line inside a filled one tells the first wave.
            painter.setPen(QPen(self._scheme.color("ink"), 4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(hexagon(box))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()


class SeatMap(QWidget):
    """The hexagons of all departments. `opened` carries the seat that was clicked, or reached and pressed."""

    opened = pyqtSignal(SeatState)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._departments: list[tuple[str, list[SeatCell]]] = []
        self._captions: list[tuple[QRectF, str, str]] = []
        self._open = ""

    def show_seats(self, departments: list[tuple[str, list[SeatState]]]) -> None:
        for _, cells in self._departments:
            for cell in cells:
                cell.hide()
                cell.deleteLater()
        self._departments = []
        for title, seats in departments:
            cells = []
            for seat in seats:
                cell = SeatCell(seat, self._scheme, self)
                cell.chosen = seat.seat.seat == self._open
                cell.clicked.connect(lambda _=False, cell=cell: self._choose(cell))
                cell.show()
                cells.append(cell)
            self._departments.append((title, cells))
        self._arrange()

    def _choose(self, chosen: SeatCell) -> None:
        self._open = chosen.seat.seat.seat
        for _, cells in self._departments:
            for cell in cells:
                cell.chosen = cell is chosen
                cell.update()
        self.opened.emit(chosen.seat)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        cells = [cell for _, row in self._departments for cell in row]
        now = next((i for i, cell in enumerate(cells) if cell.hasFocus()), None)
        if step is None or now is None:
            super().keyPressEvent(event)
        else:
            cells[(now + step) % len(cells)].setFocus(Qt.FocusReason.TabFocusReason)

    def resizeEvent(self, _event: QResizeEvent | None) -> None:
        self._arrange()

    def sizeHint(self) -> QSize:
        return QSize(600, 460)

    def _arrange(self) -> None:
        if not self._departments or self.width() < 50:
            return
        size = next((size for size in range(LARGEST, SMALLEST, -2) if self._lay(size, move=False)), SMALLEST)
        self._lay(size, move=True)
        self.update()

    def _lay(self, size: int, move: bool) -> bool:
        """Lay all departments with hexagons `size` pixels wide; whether they fit."""
        gap, x, y, line, lines = 36.0, 0.0, 0.0, 0.0, []
        row: list[tuple[str, list[SeatCell], float, float, int]] = []
        tall = size * 2 / math.sqrt(3)
        for title, cells in self._departments:
            across = max(3, math.ceil(math.sqrt(len(cells) * 1.5)))
            down = math.ceil(len(cells) / across)
            width = max(size * (across + 0.5), 150.0)
            height = CAPTION + tall * (0.75 * (down - 1) + 1)
            if x and x + width > self.width():
                lines.append((row, line))
                row, x, line = [], 0.0, 0.0
            row.append((title, cells, width, height, across))
            x += width + gap
            line = max(line, height)
        lines.append((row, line))
        total = sum(height for _, height in lines) + 22 * (len(lines) - 1)
        if move:
            self._captions = []
            for row, height in lines:
                x = 0.0
                for title, cells, width, _, across in row:
                    self._place(title, cells, QPointF(x, y), width, across, size, tall)
                    x += width + gap
                y += height + 22
        return total <= self.height()

    def _place(
        self,
        title: str,
        cells: list[SeatCell],
        at: QPointF,
        width: float,
        across: int,
        size: int,
        tall: float,
    ) -> None:
        waves = sorted({cell.seat.seat.wave for cell in cells})
        words = tr("{number} seats, wave {waves}", number=len(cells), waves=" and ".join(waves))
        self._captions.append((QRectF(at.x(), at.y(), width, CAPTION), title, words))
        for index, cell in enumerate(cells):
            row, column = divmod(index, across)
            x = at.x() + (column + 0.5 * (row % 2)) * size
            y = at.y() + CAPTION + row * tall * 0.75
            cell.setGeometry(round(x), round(y), size, round(tall))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        for box, title, words in self._captions:
            painter.setPen(self._scheme.color("ink"))
            painter.setFont(bold(13))
            painter.drawText(box.adjusted(4, 0, 0, -22), Qt.AlignmentFlag.AlignVCenter, title)
            painter.setPen(self._scheme.color("ink2"))
            painter.setFont(font(11))
            painter.drawText(box.adjusted(4, 18, 0, -6), Qt.AlignmentFlag.AlignVCenter, words)


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
        rows = [(state, "", tr(state.value)) for state in State]
        rows += [
            (State.NOT_YET, "1", "wave 1"),
            (State.NOT_YET, "2", "wave 2"),
            (State.NOT_YET, "3", "wave 3"),
        ]
        widths = [painter.fontMetrics().horizontalAdvance(words) for _, _, words in rows]
        # Closer together before anything is cut off.
        gap = max(30.0, min(48.0, (self.width() - 8 - sum(widths)) / len(rows)))
        x = 4.0
        for (state, wave, words), width in zip(rows, widths, strict=True):
            draw_state(painter, self._scheme, state, QRectF(x, 5, 18, 20), wave)
            painter.setPen(self._scheme.color("ink2"))
            painter.drawText(QRectF(x + 23, 0, width + 4, 30), Qt.AlignmentFlag.AlignVCenter, words)
            x += width + gap
