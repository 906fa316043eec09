"""The seat map: the hexagons of each department, packed and grown to fill the space, or counts that open."""

from __future__ import annotations

import math

from PyQt6.QtCore import (
    QEvent,
    QModelIndex,
    QPersistentModelIndex,
    QPoint,
    QRect,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QRegion,
    QResizeEvent,
)
from PyQt6.QtWidgets import QAbstractItemView, QFrame, QListView

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.rollout.board import SeatState
from rimecrest.studio.rollout.count_drawing import draw_count, draw_words
from rimecrest.studio.rollout.seat_drawing import DrawnStates
from rimecrest.studio.rollout.seat_packing import Box, Packing, pack
from rimecrest.studio.rollout.seat_rows import NOWHERE, Department, SeatRows
from rimecrest.studio.shared.marks import hexagon
from rimecrest.studio.shared.slim_bar import WIDE, slim

Action = QAbstractItemView.CursorAction
STEP = 40
"""Pixels that one step of the wheel's line scrolls."""
TAKING = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)


class SeatMap(QListView):
    """The seats of all departments, each an item that a screen reader can walk.

    Signals:
        opened(seat): a seat was clicked, or reached and pressed.
    """

    opened = pyqtSignal(SeatState)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._drawn = DrawnStates(scheme)
        self._packing = Packing((), (), 0.0, counted=False)
        self._open: set[str] = set()
        """Titles of the departments that were opened."""
        self._chosen = ""
        self._pressed = QPersistentModelIndex()
        self.rows = SeatRows(self)
        self.setModel(self.rows)
        self.setObjectName("seat-map")
        self.setAccessibleName(tr("Seats by department"))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setMouseTracking(True)
        # Seats lie where `_packing` has them: else the list would ask each of thousands for its size.
        self.setUniformItemSizes(True)
        there(self.viewport()).setAutoFillBackground(False)
        slim(self, scheme)

    # What it shows

    def show_seats(self, departments: list[tuple[str, list[SeatState]]]) -> None:
        """Show these; what is open, reached and in view stays so."""
        shown = [Department(title, tuple(seats), title in self._open) for title, seats in departments]
        if shown == self.rows.departments:
            return
        reached = self.currentIndex()
        name = str(reached.data()) if reached.isValid() else ""
        scrolled = self.verticalOffset()
        self.rows.show(shown)
        self._pack()
        there(self.verticalScrollBar()).setValue(scrolled)
        if name and (at := self._named(name)) is not None:
            self.setCurrentIndex(self.rows.index(at))

    def reveal(self, name: str) -> None:
        """Choose a seat, and bring it into view; its department opens for that."""
        at = self.rows.at_seat(name)
        if at is None:
            return
        self._chosen = name
        department = self.rows.departments[self.rows.place(at)[0]]
        if self.rows.counted and not department.open:
            self._turn(department)
        index = self.rows.index(at)
        self.setCurrentIndex(index)
        self.scrollTo(index, QAbstractItemView.ScrollHint.PositionAtCenter)
        there(self.viewport()).update()

    def box_of(self, name: str) -> QRect | None:
        """Where a seat or a department of that name shows, in the map's pixels; None where it does not."""
        at = self._named(name)
        if at is None or not (box := self.visualRect(self.rows.index(at))).isValid():
            return None
        box.translate(there(self.viewport()).pos())
        return box if self.rect().intersects(box) else None

    def _named(self, name: str) -> int | None:
        titles = [department.title for department in self.rows.departments]
        return self.rows.head(titles.index(name)) if name in titles else self.rows.at_seat(name)

    def _turn(self, department: Department) -> None:
        """Open a department's count, or close it."""
        self._open ^= {department.title}
        self.show_seats([(each.title, list(each.seats)) for each in self.rows.departments])

    def _take(self, index: QModelIndex) -> None:
        if not index.isValid() or not self.rows.shows(index.row()):
            return
        row = self.rows.row(index.row())
        if isinstance(row, Department):
            self._turn(row)
            self.scrollTo(self.currentIndex())
        else:
            self._chosen = row.seat.seat
            there(self.viewport()).update()
            self.opened.emit(row)

    # By mouse and by keys

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        super().mousePressEvent(event)
        assert event is not None
        self._pressed = QPersistentModelIndex(self.indexAt(event.position().toPoint()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        super().mouseReleaseEvent(event)
        assert event is not None
        index = self.indexAt(event.position().toPoint())
        if event.button() == Qt.MouseButton.LeftButton and index == QModelIndex(self._pressed):
            self._take(index)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        super().mouseMoveEvent(event)
        assert event is not None
        over = self.indexAt(event.position().toPoint()).isValid()
        shape = Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor
        there(self.viewport()).setCursor(shape)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in TAKING and not event.isAutoRepeat():
            self._take(self.currentIndex())
        else:
            super().keyPressEvent(event)
            self.scrollTo(self.currentIndex())  # Home on the first seat, out of view, brings it back

    def keyboardSearch(self, search: str | None) -> None:
        """Letters that are typed go to the seat or department of that name; one in a count opens that."""
        super().keyboardSearch(search)
        index = self.currentIndex()
        if index.isValid() and not self.rows.shows(index.row()):
            self.reveal(str(index.data()))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        if not self.currentIndex().isValid() or not self.rows.shows(self.currentIndex().row()):
            self.setCurrentIndex(self._step(-1, 1))
        there(self.viewport()).update()

    def moveCursor(self, action: Action, _held: Qt.KeyboardModifier) -> QModelIndex:
        here = self.currentIndex()
        at = here.row() if here.isValid() else -1
        last = self.rows.rowCount()
        match action:
            case Action.MoveHome:
                return self._step(-1, 1)
            case Action.MoveEnd:
                return self._step(last, -1)
            case Action.MoveLeft | Action.MovePrevious:
                return self._step(at, -1)
            case Action.MoveRight | Action.MoveNext:
                return self._step(at, 1)
        down = action in (Action.MoveDown, Action.MovePageDown)
        page = there(self.viewport()).height() if action in (Action.MovePageDown, Action.MovePageUp) else 0
        return self._beyond(here, page, down)

    def _step(self, at: int, by: int) -> QModelIndex:
        """The next row that can be reached, one way or the other; where there is none, the one reached."""
        at += by
        while 0 <= at < self.rows.rowCount():
            if self.rows.shows(at):
                return self.rows.index(at)
            at += by
        return self.currentIndex()

    def _beyond(self, here: QModelIndex, page: int, down: bool) -> QModelIndex:
        """What lies nearest under or over what is reached, at least `page` pixels away if anything does."""
        if not here.isValid():
            return self._step(-1, 1)
        from_ = self.visualRect(here).center()
        boxes = [
            (index, self.visualRect(index).center())
            for at in range(self.rows.rowCount())
            if self.rows.shows(at)
            for index in (self.rows.index(at),)
        ]
        way = 1 if down else -1
        away = [(way * (point.y() - from_.y()), abs(point.x() - from_.x()), index) for index, point in boxes]
        beyond = [each for each in away if each[0] > 2]
        if not beyond:
            return here
        far = [each for each in beyond if each[0] >= page] or [max(beyond, key=lambda each: each[0])]
        row = min(each[0] for each in far)
        return min((each for each in far if each[0] <= row + 2), key=lambda each: each[1])[2]

    # Where things lie

    def _pack(self) -> None:
        departments = self.rows.departments
        # The bar's room is always left: a map that just fits must not be packed anew when the bar comes.
        width = self.width() - WIDE - 2
        if width < 50:
            return
        numbers = [len(department.seats) for department in departments]
        self._packing = pack(numbers, width, self.height(), [department.open for department in departments])
        self.rows.counted = self._packing.counted
        self.updateGeometries()
        there(self.viewport()).update()

    def sizeHint(self) -> QSize:
        return QSize(600, 460)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._pack()

    def doItemsLayout(self) -> None:
        """Nothing: seats are packed when they, or the room for them, change."""

    def updateGeometries(self) -> None:
        bar, view = there(self.verticalScrollBar()), there(self.viewport())
        bar.setRange(0, max(0, math.ceil(self._packing.height) + 2 - view.height()))
        bar.setPageStep(view.height())
        bar.setSingleStep(STEP)

    def scrollContentsBy(self, _across: int, down: int) -> None:
        there(self.viewport()).scroll(0, down)

    def horizontalOffset(self) -> int:
        return 0

    def verticalOffset(self) -> int:
        return there(self.verticalScrollBar()).value()

    def isIndexHidden(self, index: QModelIndex) -> bool:
        return not self.rows.shows(index.row())

    def setSelection(self, _box: QRect, _how: object) -> None:
        """Nothing is selected here: one seat is reached, and one is open."""

    def visualRegionForSelection(self, _selection: object) -> QRegion:
        return QRegion()

    def visualRect(self, index: QModelIndex) -> QRect:
        box = self._box(index.row()) if index.isValid() else None
        if box is None:
            return QRect()
        return QRectF(*box).toAlignedRect().translated(0, -self.verticalOffset())

    def _box(self, at: int) -> Box | None:
        department, seat = self.rows.place(at)
        if department >= len(self._packing.heads):
            return None
        if seat < 0:
            return self._packing.heads[department]
        seats = self._packing.seats[department]
        return seats[seat] if seat < len(seats) else None

    def scrollTo(
        self,
        index: QModelIndex,
        hint: QAbstractItemView.ScrollHint = QAbstractItemView.ScrollHint.EnsureVisible,
    ) -> None:
        box = self._box(index.row()) if index.isValid() else None
        if box is None:
            return
        bar, height = there(self.verticalScrollBar()), there(self.viewport()).height()
        if hint is QAbstractItemView.ScrollHint.PositionAtCenter:
            bar.setValue(round(box.y + box.height / 2 - height / 2))
        elif box.y < bar.value():
            bar.setValue(int(box.y) - 4)
        elif box.y + box.height > bar.value() + height:
            bar.setValue(int(box.y + box.height) + 4 - height)

    def indexAt(self, point: QPoint) -> QModelIndex:
        x, y = point.x(), point.y() + self.verticalOffset()
        for number, (head, seats) in enumerate(zip(self._packing.heads, self._packing.seats, strict=True)):
            if self._packing.counted and QRectF(*head).contains(x, y):
                return self.rows.index(self.rows.head(number))
            if not seats or not seats[0].y <= y <= seats[-1].y + seats[-1].height:
                continue
            for at, box in enumerate(seats):
                if QRectF(*box).contains(x, y) and hexagon(QRectF(*box)).containsPoint(
                    QPoint(x, y).toPointF(), Qt.FillRule.OddEvenFill
                ):
                    return self.rows.index(self.rows.head(number) + 1 + at)
        return NOWHERE

    # How it is drawn

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        there(self.viewport()).update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        painter = QPainter(self.viewport())
        top = self.verticalOffset()
        painter.translate(0, -top)
        seen = QRectF(event.rect()).translated(0, top)
        reached = self.currentIndex().row() if self.hasFocus() else -1
        for number, department in enumerate(self.rows.departments[: len(self._packing.heads)]):
            head = QRectF(*self._packing.heads[number])
            row = self.rows.head(number)
            if head.intersects(seen):
                if self._packing.counted:
                    draw_count(painter, self._scheme, department, head, row == reached)
                else:
                    draw_words(painter, self._scheme, department, head.adjusted(4, 0, 0, 0))
            self._draw_seats(painter, number, seen, reached - row - 1)

    def _draw_seats(self, painter: QPainter, number: int, seen: QRectF, reached: int) -> None:
        boxes, seats = self._packing.seats[number], self.rows.departments[number].seats
        if not boxes or boxes[-1].y + boxes[-1].height < seen.top() or boxes[0].y > seen.bottom():
            return
        ratio, top, bottom = self.devicePixelRatioF(), seen.top(), seen.bottom()
        ringed = []
        for at, (box, seat) in enumerate(zip(boxes, seats, strict=True)):
            if box.y > bottom:
                break
            if box.y + box.height < top:
                continue
            picture = self._drawn.picture(seat.state, int(box.width), int(box.height), ratio)
            painter.drawPixmap(int(box.x), int(box.y), picture)
            if at == reached or seat.seat.seat == self._chosen:
                ringed.append(box)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        # Round the whole hexagon and in ink, so that it is not taken for a state.
        painter.setPen(QPen(self._scheme.color("ink"), 4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for box in ringed:
            painter.drawPolygon(hexagon(QRectF(*box).adjusted(2, 2, -2, -2)))
