"""What the mouse does on the stage: put the caret, select, drag items, pull an item's edge.

It knows the frame and the caret, and asks the presenter; drawing and events are the overlay's.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.surfaces import Edge
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.grid_pointer import GridPointer, Placing
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.panel_controls import ControlView

Docking = tuple[Edge, tuple[int, int] | None]
EDGE = 5
"""Pixels at an item's right edge that take hold of its width."""
PULL = 12
"""Pixels that an edge has to be pulled to snap to the other width."""
GROUND = 14
"""Pixels around a bar or group that are still meant for it."""
NEAR = 4
"""Pixels around an insertion point within which a click means it."""


class PointerTools:
    """From presses, moves and releases to what they mean."""

    def __init__(
        self,
        frame: Frame,
        caret: Caret,
        presenter: StagePresenter,
        grid: GridPointer,
        docking: Callable[[QPoint], Docking],
    ) -> None:
        """`docking` says where a bar that is dropped at a point would stand."""
        self._grid = grid
        self.placing: Placing | None = None
        """Where what is dragged over a panel's free grid would stand."""
        self._docking = docking
        self._frame = frame
        self._caret = caret
        self._presenter = presenter
        self.hover: InsertionPoint | None = None
        """The insertion point that a click or a drop would mean."""
        self.ground: QPoint | None = None
        """The place of the empty document that a drop would mean: a bar of its own begins there."""
        self.band: QRect | None = None
        """The rectangle that is being drawn to select what it touches."""
        self.dragging = False
        self._corner: QPoint | None = None
        self._pressed: str | None = None
        self._pressed_at = QPoint()
        self._widening: str | None = None
        self._kept: str | None = None
        """The item of a selection that was pressed: released without a drag, only it is selected."""

    def button_at(self, point: QPoint) -> ItemButton | ControlView | None:
        """The button or control that is there."""
        for widget in self._frame.buttons():
            if isinstance(widget, ItemButton | ControlView):
                if self._frame.box_of_widget(widget).contains(point):
                    return widget
        return None

    def _at_edge(self, widget: ItemButton | ControlView, point: QPoint) -> bool:
        if isinstance(widget, ControlView) and self._grid.view_at([widget.item.id], point) is None:
            return False
        right = widget.mapTo(self._frame, QPoint(widget.width(), 0)).x()
        return 0 <= right - point.x() <= EDGE

    def press(self, point: QPoint, held: Qt.KeyboardModifier, left: bool) -> None:
        """A button of the mouse goes down; `left`: the first one."""
        button = self.button_at(point)
        near = self._caret.nearest(point, within=NEAR)
        self._pressed_at = point
        if button is not None and left and self._at_edge(button, point):
            # Pulled, the edge changes the width; only clicked, it is the place behind the item.
            self._widening = button.item.id
            if near is not None:
                self._caret.put(near)
        elif near is not None and (button is None or near.new_group or _upon(near, point)):
            self._caret.put(near)
        elif button is not None:
            several = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier
            self._press_item(button.item.id, bool(held & several))
        elif self._on_ground(point):
            # Nothing is there: a rectangle may begin, and else the caret has gone.
            self._caret.leave()
            self._corner = point
        elif (slot := self._caret.nearest(point, within=40)) is not None:
            self._caret.put(slot)

    def _on_ground(self, point: QPoint) -> bool:
        """Whether that is the empty document, off all surfaces."""
        near = self._caret.nearest(point)
        if not self._frame.centre_rect().contains(point):
            return False
        return near is None or not near.ground.adjusted(-GROUND, -GROUND, GROUND, GROUND).contains(point)

    def _inside(self, box: QRect) -> list[str]:
        """The items that a rectangle touches, in the order in which they stand."""
        return [
            widget.item.id
            for widget in self._frame.buttons()
            if self._frame.box_of_widget(widget).intersects(box)
        ]

    def _press_item(self, identity: str, more: bool) -> None:
        row = self._frame.outcome.row_of(identity) if self._frame.outcome else None
        self._pressed = identity
        if row is None:
            return
        if identity in self._caret.selected and not more:
            # All that is selected may be about to be dragged.
            self._kept = row.id
        else:
            self._caret.select(row.id, identity, more)

    def move(self, point: QPoint) -> Qt.CursorShape:
        """The mouse is elsewhere. Returns the shape of its cursor."""
        if self._widening is not None:
            return Qt.CursorShape.SizeHorCursor
        if self._corner is not None:
            self.band = QRect(self._corner, point).normalized()
            return Qt.CursorShape.CrossCursor
        if self._pressed is not None and not self.dragging:
            far = (point - self._pressed_at).manhattanLength() >= QApplication.startDragDistance()
            self.dragging = far
        if self.dragging:
            for tab, box in self._frame.tab_rects():
                if box.contains(point):
                    # Rest on a tab's name to drop in that tab.
                    self._frame.choose_tab(tab)
            assert self._pressed is not None
            way = point - self._pressed_at
            self.placing = self._grid.placing(self.dragged(), self._pressed, way, point)
            if self.placing is not None:
                self.ground = self.hover = None
                return Qt.CursorShape.ClosedHandCursor
            self.ground = point if self._on_ground(point) else None
            self.hover = None if self.ground is not None else self._caret.nearest(point)
            return Qt.CursorShape.ClosedHandCursor
        button = self.button_at(point)
        self.hover = self._caret.nearest(point, within=6)
        if button is not None and self._at_edge(button, point):
            self.hover = None
            return Qt.CursorShape.SizeHorCursor
        return Qt.CursorShape.ArrowCursor

    def release(self, point: QPoint) -> None:
        """The button of the mouse goes up: what was dragged or pulled takes effect."""
        seen = self._frame.outcome
        if self._widening is not None:
            item = seen.button(self._widening) if seen is not None else None
            by = point.x() - self._pressed_at.x()
            if self._grid.view_at([self._widening], self._pressed_at) is not None:
                self._grid.pull(self._widening, point - self._pressed_at)
            elif item is not None and abs(by) >= PULL:
                self._presenter.widen(item, by)
        elif self.band is not None:
            self._caret.select_all(self._inside(self.band))
        elif self.dragging and self._pressed is not None:
            things = self.dragged()
            if self.placing is not None:
                self._grid.drop(self.placing)
            elif self.hover is not None:
                self._presenter.move(things, self.hover)
            elif self.ground is not None:
                self._drop_on_ground(things, self.ground)
        elif self._kept is not None and self._pressed is not None:
            self._caret.select(self._kept, self._pressed)
        self.let_go()

    def dragged(self) -> list[str]:
        """What is being dragged: the item that was pressed, or all that are selected with it."""
        if self._pressed is None or not self.dragging:
            return []
        selected = self._caret.selected
        return list(selected) if self._pressed in selected else [self._pressed]

    def _drop_on_ground(self, things: list[str], point: QPoint) -> None:
        edge, at = self._docking(point)
        self._presenter.bar_of(things, edge, at)

    def let_go(self) -> None:
        """Nothing is pressed any more."""
        self._pressed = self._widening = self._kept = self.hover = None
        self._corner = self.ground = self.placing = None
        self.band = None
        self.dragging = False


def _upon(slot: InsertionPoint, point: QPoint) -> bool:
    upright = slot.caret.height() > slot.caret.width()
    centre = slot.caret.center()
    return abs(centre.x() - point.x() if upright else centre.y() - point.y()) <= 3
