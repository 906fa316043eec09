"""What the mouse does with surfaces as wholes: hold one by its name, drag it, begin a new one.

It knows the frame and the caret, and asks the presenter; drawing and events are the overlay's.
"""

from __future__ import annotations

from typing import Literal

from msgspec import Struct
from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.surfaces import Edge
from rimecrest.core.layout.seen import SeenPanel, SeenToolbar
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.surfaces.frame import Frame

Kind = Literal["tab", "group", "bar", "panel", "menu"]
PLUS = 16
HANDLE = 14
"""Pixels of the handle at the end of a bar; where there is no room for it, the bar's first pixels are it."""
STRIP = 5
BETWEEN = 5
"""Pixels around the boundary of two tab names in which a new tab can begin."""
ZONE = 44
"""Pixels from an edge of the document within which a bar that is dropped docks there."""


class Plus(Struct, frozen=True):
    """A place where something new can begin: a tab behind another one, or a bar at an edge."""

    box: QRect
    kind: Literal["tab", "bar"]
    after: str | None = None
    edge: Edge = "top"


class Target(Struct, frozen=True):
    """Where what is dragged would go; `line` is drawn there."""

    line: QRect
    after: str | None = None
    into: str = ""
    edge: Edge | None = None
    at: tuple[int, int] | None = None


def handles(frame: Frame) -> list[tuple[str, QRect]]:
    """The handles of the bars that stand at an edge."""
    found = []
    afloat = {name for name, _ in frame.floating_heads()}
    for name, box in frame.bar_rects():
        if name in afloat:
            continue
        upright = box.height() > box.width()
        if frame.spare(name) > HANDLE + 6:
            corner = (
                QPoint(box.center().x() - HANDLE // 2, box.bottom() - HANDLE - 3)
                if upright
                else QPoint(box.right() - HANDLE - 3, box.center().y() - HANDLE // 2)
            )
            found.append((name, QRect(corner.x(), corner.y(), HANDLE, HANDLE)))
        else:
            wide, tall = (box.width(), STRIP) if upright else (STRIP, box.height())
            found.append((name, QRect(box.x(), box.y(), wide, tall)))
    return found


def end_plus(frame: Frame) -> Plus:
    """The plus at the end of the tab row."""
    tabs, strip = frame.tab_rects(), frame.strip_rect()
    left = tabs[-1][1].right() + 8 if tabs else strip.left() + 10
    box = QRect(left, strip.center().y() - PLUS // 2, PLUS, PLUS)
    return Plus(box, "tab", tabs[-1][0] if tabs else None)


def edge_pluses(frame: Frame) -> list[Plus]:
    """The pluses at the edges of the document."""
    ground = frame.centre_rect()
    middle = ground.center()
    places: dict[Edge, QPoint] = {
        "top": QPoint(middle.x(), ground.top() + PLUS // 2 + 2),
        "bottom": QPoint(middle.x(), ground.bottom() - PLUS // 2 - 2),
        "left": QPoint(ground.left() + PLUS // 2 + 2, middle.y()),
        "right": QPoint(ground.right() - PLUS // 2 - 2, middle.y()),
    }
    found = []
    for edge, centre in places.items():
        box = QRect(0, 0, PLUS, PLUS)
        box.moveCenter(centre)
        found.append(Plus(box, "bar", edge=edge))
    return found


class SurfaceTools:
    """From presses, moves and releases on names and handles to what they mean."""

    def __init__(self, frame: Frame, caret: Caret, presenter: SurfacePresenter) -> None:
        self._frame = frame
        self._caret = caret
        self._presenter = presenter
        self.target: Target | None = None
        self.near: Plus | None = None
        """The plus that the pointer is at."""
        self.dragging = False
        self._pressed: tuple[Kind, str] | None = None
        self._pressed_at = QPoint()

    def thing_at(self, point: QPoint) -> tuple[Kind, str] | None:
        """The surface whose name or handle is there."""
        frame = self._frame
        for menu, box in reversed(frame.menu_rects()):
            if box.contains(point):
                return ("menu", menu) if point.y() < box.top() + 24 else None
        rows: list[tuple[Kind, list[tuple[str, QRect]]]] = [
            ("bar", frame.floating_heads()),
            ("panel", frame.panel_heads()),
            ("tab", frame.tab_rects()),
            ("group", frame.head_rects()),
            ("bar", handles(frame)),
        ]
        for kind, boxes in rows:
            for name, box in boxes:
                if box.contains(point):
                    return kind, name
        return None

    def plus_at(self, point: QPoint) -> Plus | None:
        """The place there where something new can begin."""
        frame = self._frame
        for plus in (end_plus(frame), *edge_pluses(frame)):
            if plus.box.adjusted(-3, -3, 3, 3).contains(point):
                return plus
        if not frame.strip_rect().contains(point):
            return None
        after: str | None = None
        for name, box in frame.tab_rects():
            if abs(point.x() - box.left()) <= BETWEEN and point.x() < box.center().x():
                mark = QRect(box.left() - PLUS // 2 - 1, box.center().y() - PLUS // 2, PLUS, PLUS)
                return Plus(mark, "tab", after)
            after = name
        return None

    def press(self, point: QPoint) -> bool:
        """The mouse goes down; whether it holds a surface now."""
        found = self.thing_at(point)
        if found is None or self.plus_at(point) is not None:
            return False
        self._pressed, self._pressed_at = found, point
        self._caret.hold(found[1])
        if self._frame.outcome is not None and self._frame.outcome.tab(found[1]) is not None:
            # The eyes are on it: the caret does not stay where they no longer are.
            self._frame.choose_tab(found[1])
        return True

    def move(self, point: QPoint) -> bool:
        """The mouse is elsewhere; whether a surface is being dragged."""
        self.near = None if self._pressed else self.plus_at(point)
        if self._pressed is None:
            return False
        far = (point - self._pressed_at).manhattanLength() >= QApplication.startDragDistance()
        self.dragging = self.dragging or (far and self._pressed[0] != "menu")
        self.target = self._target(point) if self.dragging else None
        return self.dragging

    def _target(self, point: QPoint) -> Target | None:
        assert self._pressed is not None
        kind = self._pressed[0]
        if kind == "tab":
            return self._between_tabs(point)
        if kind == "group":
            return self._between_groups(point)
        return self.docking(point)

    def _between_tabs(self, point: QPoint) -> Target | None:
        tabs = self._frame.tab_rects()
        places: list[tuple[str | None, int]] = [(None, tabs[0][1].left() - 1)] if tabs else []
        places += [(name, box.right() + 1) for name, box in tabs]
        strip = self._frame.strip_rect()
        if not places or abs(point.y() - strip.center().y()) > strip.height():
            return None
        after, x = min(places, key=lambda place: abs(place[1] - point.x()))
        return Target(QRect(x - 1, strip.top() + 5, 3, strip.height() - 10), after)

    def _between_groups(self, point: QPoint) -> Target | None:
        for tab, box in self._frame.tab_rects():
            if box.contains(point):
                # Rest on a tab's name to drop in that tab.
                self._frame.choose_tab(tab)
        slots = [slot for slot in self._frame.insertion_points() if slot.new_group]
        if not slots:
            return None
        slot = min(slots, key=lambda slot: abs(slot.caret.center().x() - point.x()))
        return Target(slot.caret, slot.after, slot.surface)

    def docking(self, point: QPoint) -> Target:
        """Where a bar that is dropped would stand: at the edge that is near, else floating."""
        ground = self._frame.centre_rect()
        far: dict[Edge, int] = {
            "left": point.x() - ground.left(),
            "right": ground.right() - point.x(),
            "top": point.y() - ground.top(),
            "bottom": ground.bottom() - point.y(),
        }
        edge = min(far, key=lambda edge: far[edge])
        if far[edge] > ZONE:
            at = point - ground.topLeft()
            return Target(QRect(point.x(), point.y(), 60, 34), edge="float", at=(at.x(), at.y()))
        lines = {
            "left": QRect(ground.left(), ground.top(), 3, ground.height()),
            "right": QRect(ground.right() - 2, ground.top(), 3, ground.height()),
            "top": QRect(ground.left(), ground.top(), ground.width(), 3),
            "bottom": QRect(ground.left(), ground.bottom() - 2, ground.width(), 3),
        }
        return Target(lines[edge], edge=edge)

    def release(self) -> None:
        """The mouse goes up: what was dragged goes where it was dropped, and stays held."""
        if self.dragging and self._pressed is not None and self.target is not None:
            (kind, thing), target = self._pressed, self.target
            if kind in ("bar", "panel") and target.edge is not None:
                seen = self._frame.outcome
                row = seen.row(thing) if seen is not None else None
                outside = isinstance(row, SeenToolbar | SeenPanel) and row.edge == "window"
                # Dragged over the document, what has a window of its own keeps it.
                edge: Edge = "window" if outside and target.edge == "float" else target.edge
                self._presenter.dock(thing, edge, target.at)
            else:
                self._presenter.move(thing, target.after, target.into)
            self._caret.hold(thing)
        self.let_go()

    def dragged(self) -> list[str]:
        """The surface that is being dragged."""
        return [self._pressed[1]] if self.dragging and self._pressed is not None else []

    def let_go(self) -> None:
        """Nothing is pressed any more."""
        self._pressed = self.target = None
        self.dragging = False
