"""A colleague's own hands on the bars of their window: docking, floating, and back as it was."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject, QPoint
from PyQt6.QtWidgets import QMenu, QWidget

from rimecrest.core.catalogue.surfaces import AFLOAT, Edge
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.seen import SeenPanel, SeenToolbar
from rimecrest.core.words import tr
from rimecrest.kit.personal.shown_stack import ShownStack
from rimecrest.shell.theme import font
from rimecrest.surfaces.frame import Frame

PLACES: tuple[tuple[Edge, str], ...] = (
    ("top", tr("At the top")),
    ("left", tr("At the left")),
    ("right", tr("At the right")),
    ("bottom", tr("At the bottom")),
    ("float", tr("Floating")),
    ("window", tr("In a window of its own")),
)
NEAR = 40
"""Pixels from an edge of the document within which a bar that is dropped docks there."""
FIRST = (60, 40)
"""Where a bar floats at first, in pixels from the document's corner."""


class BarMenu(QObject):
    """Opens on a right-click on a bar, and takes up a floating bar that was dropped."""

    def __init__(self, frame: Frame, stack: ShownStack) -> None:
        super().__init__()
        self._frame = frame
        self._stack = stack
        frame.bar_asked.connect(self.open)
        frame.bar_dropped.connect(self._dropped)

    def open(self, bar: str, where: QPoint) -> None:
        """The places where a bar can stand."""
        frame = self._frame
        row = frame.outcome.row(bar) if frame.outcome is not None else None
        if row is None:
            return
        parent: QWidget = frame
        menu = QMenu(parent)
        menu.setObjectName("bar-menu")
        menu.setFont(font(13))
        menu.addSection(row.title)
        for edge, words in PLACES:
            action = menu.addAction(words, partial(self.dock, bar, edge, FIRST if edge in AFLOAT else None))
            if action is not None:
                action.setCheckable(True)
                action.setChecked(edge == getattr(row, "edge", ""))
        if self._stack.personal.touches(bar):
            menu.addSeparator()
            menu.addAction(tr("As it came"), partial(self.reset, bar))
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(where)

    def dock(self, bar: str, edge: Edge, at: tuple[int, int] | None = None) -> None:
        """Put a bar somewhere else in this colleague's window."""
        stack = self._stack
        try:
            stack.personal.dock(stack.state, bar, edge, at)
        except RimecrestError as error:
            self._frame.say(str(error))
        stack.again()

    def reset(self, bar: str) -> None:
        """Have a bar where it came."""
        try:
            self._stack.personal.reset(bar)
        except RimecrestError as error:
            self._frame.say(str(error))
        self._stack.again()

    def _dropped(self, bar: str, point: QPoint, corner: QPoint) -> None:
        frame = self._frame
        row = frame.outcome.row(bar) if frame.outcome is not None else None
        outside = isinstance(row, SeenToolbar | SeenPanel) and row.edge == "window"
        ground = frame.centre_rect()
        far: dict[Edge, int] = {
            "left": point.x() - ground.left(),
            "right": ground.right() - point.x(),
            "top": point.y() - ground.top(),
            "bottom": ground.bottom() - point.y(),
        }
        edge = min(far, key=lambda edge: far[edge])
        if far[edge] <= NEAR and (ground.contains(point) or not outside):
            self.dock(bar, edge)
        elif outside:
            self.dock(bar, "window", (corner.x(), corner.y()))
        else:
            self.dock(bar, "float", (max(corner.x(), 0), max(corner.y(), 0)))
