"""The grid on which a picture is drawn, by mouse and by the keyboard alone."""

from __future__ import annotations

from enum import Enum

from PyQt6.QtCore import QPoint, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from rimecrest.core.pictures.drawing import Drawing, Mirror, Point, ellipse, frame, line
from rimecrest.core.pictures.paints import INK
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme

SIDE = 336
"""Pixels of the whole grid."""


class Tool(Enum):
    """What a stroke does: its name, its key on the grid, and what it is for."""

    PENCIL = tr("Pencil"), "P", tr("Draw cell by cell")
    ERASE = tr("Erase"), "E", tr("Empty cells; the right mouse button does it with every tool")
    FILL = tr("Fill"), "F", tr("Fill what hangs together")
    LINE = tr("Line"), "L", tr("From one cell to another")
    FRAME = tr("Frame"), "R", tr("A box between two corners")
    ELLIPSE = tr("Ellipse"), "O", tr("An ellipse between two corners")
    SHIFT = tr("Shift"), "S", tr("Move all of it, with the mouse or the arrows")

    @property
    def title(self) -> str:
        return self.value[0]

    @property
    def key(self) -> str:
        return self.value[1]

    @property
    def purpose(self) -> str:
        return self.value[2]


SHAPES = {Tool.LINE: line, Tool.FRAME: frame, Tool.ELLIPSE: ellipse}
_ARROWS: dict[int, Point] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class Canvas(QWidget):
    """Shows a drawing large, and takes strokes.

    Signals:
        drawn(drawing): a stroke was ended.
        tool_wanted(tool): a letter chose another tool.
    """

    drawn = pyqtSignal(Drawing)
    tool_wanted = pyqtSignal(Tool)

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self.drawing = Drawing.empty()
        self.tool = Tool.PENCIL
        self.colour = INK
        self.mirror = Mirror.NONE
        self.cell: Point = (0, 0)
        """Where the keyboard is."""
        self._begun: Point | None = None
        self._stroke: Drawing | None = None
        """The drawing with the stroke that is being made."""
        self._colour_now = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Grid to draw on"))
        self.setObjectName("canvas")
        self.setCursor(Qt.CursorShape.CrossCursor)

    def sizeHint(self) -> QSize:
        return QSize(SIDE + 1, SIDE + 1)

    def show_drawing(self, drawing: Drawing) -> None:
        """Show another drawing; a stroke that is being made is given up."""
        self.drawing = drawing
        x, y = self.cell
        self.cell = (min(x, drawing.size - 1), min(y, drawing.size - 1))
        self.give_up()

    def give_up(self) -> bool:
        """Leave a stroke that was begun undone. Returns whether there was one."""
        begun = self._stroke is not None or self._begun is not None
        self._stroke = self._begun = None
        self.update()
        return begun

    # Strokes

    def _press(self, point: Point, colour: str) -> None:
        self._begun, self._colour_now = point, colour
        if self.tool is Tool.FILL:
            self._stroke = self.drawing.filled(point, colour, self.mirror)
        elif self.tool is Tool.SHIFT:
            self._stroke = self.drawing
        else:
            self._stroke = self.drawing.painted([point], colour, self.mirror)
        self.update()

    def _move(self, point: Point) -> None:
        begun, stroke = self._begun, self._stroke
        if begun is None or stroke is None or point == begun:
            return
        if self.tool in SHAPES:
            self._stroke = self.drawing.painted(
                SHAPES[self.tool](begun, point), self._colour_now, self.mirror
            )
        elif self.tool is Tool.SHIFT:
            self._stroke = self.drawing.shifted(point[0] - begun[0], point[1] - begun[1])
        elif self.tool is not Tool.FILL:
            self._stroke = stroke.painted(line(begun, point), self._colour_now, self.mirror)
            self._begun = point
        self.update()

    def _end(self) -> None:
        made = self._stroke
        self._stroke = self._begun = None
        if made is not None and made != self.drawing:
            self.drawing = made
            self.drawn.emit(made)
        self.update()

    def _colour(self, erases: bool) -> str:
        return "" if erases or self.tool is Tool.ERASE else self.colour

    # The mouse

    def _point(self, at: QPoint) -> Point:
        side = SIDE / self.drawing.size
        return int(at.x() // side), int(at.y() // side)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.cell = self._within(self._point(event.position().toPoint()))
        self._press(self.cell, self._colour(event.button() == Qt.MouseButton.RightButton))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._move(self._point(event.position().toPoint()))

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._end()

    def _within(self, point: Point) -> Point:
        last = self.drawing.size - 1
        return max(0, min(point[0], last)), max(0, min(point[1], last))

    # The keyboard

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, plain = event.key(), not event.modifiers()
        if plain and key in _ARROWS:
            self._step(*_ARROWS[key])
        elif plain and key == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space()
        elif key == Qt.Key.Key_Escape and self.give_up():
            pass
        elif plain and (tool := next((one for one in Tool if one.key == event.text().upper()), None)):
            self.give_up()
            self.tool_wanted.emit(tool)
        else:
            super().keyPressEvent(event)

    def _step(self, dx: int, dy: int) -> None:
        if self.tool is Tool.SHIFT:
            self._stroke = self.drawing.shifted(dx, dy)
            self._end()
            return
        self.cell = self._within((self.cell[0] + dx, self.cell[1] + dy))
        if self._begun is not None:
            self._move(self.cell)
        self._tell()
        self.update()

    def _space(self) -> None:
        """A cell of the pencil, a fill; the first and the second corner of a shape."""
        if self.tool in SHAPES and self._begun is None:
            self._press(self.cell, self._colour(False))
        elif self.tool in SHAPES:
            self._end()
        elif self.tool is not Tool.SHIFT:
            same = self.drawing.at(self.cell) == self.colour and self.tool is Tool.PENCIL
            self._press(self.cell, self._colour(same))
            self._end()
        self._tell()

    def _tell(self) -> None:
        column, row = self.cell
        now = (self._stroke or self.drawing).at(self.cell) or tr("empty")
        self.setAccessibleDescription(
            tr("Column {column}, row {row}: {colour}", column=column + 1, row=row + 1, colour=now)
        )

    # Drawing it

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        shown, scheme = self._stroke or self.drawing, self._scheme
        side = SIDE / shown.size
        painter.fillRect(0, 0, SIDE, SIDE, scheme.color("sheet"))
        for y in range(shown.size):
            for x in range(shown.size):
                if colour := shown.at((x, y)):
                    box = QRectF(x * side, y * side, side, side)
                    painter.fillRect(box, colour_of(colour, scheme))
        painter.setPen(QPen(scheme.color("line"), 1))
        for at in range(shown.size + 1):
            where = round(at * side)
            painter.drawLine(where, 0, where, SIDE)
            painter.drawLine(0, where, SIDE, where)
        self._paint_mirrors(painter)
        if self.hasFocus():
            box = QRectF(self.cell[0] * side, self.cell[1] * side, side, side)
            painter.setPen(QPen(scheme.color("sheet"), 4))
            painter.drawRect(box)
            painter.setPen(QPen(scheme.color("crest"), 2))
            painter.drawRect(box)

    def _paint_mirrors(self, painter: QPainter) -> None:
        painter.setPen(QPen(self._scheme.color("ink"), 1, Qt.PenStyle.DashLine))
        middle = SIDE // 2
        if self.mirror in (Mirror.ACROSS, Mirror.BOTH):
            painter.drawLine(middle, 0, middle, SIDE)
        if self.mirror in (Mirror.DOWN, Mirror.BOTH):
            painter.drawLine(0, middle, SIDE, middle)


def colour_of(colour: str, scheme: Scheme) -> QColor:
    """The colour of a cell on a scheme: a token of it, or a value."""
    return QColor(colour) if colour.startswith("#") else scheme.color(colour)
