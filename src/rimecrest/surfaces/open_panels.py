"""The panels of a window: which are open, what stands in their controls, where each stands."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QObject, QPoint, QRect, QSize, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from rimecrest.core.catalogue.surfaces import AFLOAT
from rimecrest.core.layout.seen import Outcome, SeenPanel
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel import PanelView
from rimecrest.surfaces.panel_controls import Choices
from rimecrest.surfaces.removal import drop
from rimecrest.surfaces.tool_windows import ToolWindows

LEFT_FREE = QSize(240, 320)
"""Pixels across and down that panels leave to the document and to what else stands around it."""


def _no_choices(_reading: str) -> list[str]:
    return []


class OpenPanels(QObject):
    """The panels of a frame.

    Signals:
        triggered(item): an item of a panel was clicked.
        happened(control, event): something was done to a control.
        left: Escape in a field.
        asked(panel, point): a panel was right-clicked, where on the screen.
        dropped(panel, view, point): the head of one was let go at a point of the screen.
    """

    triggered = pyqtSignal(str)
    happened = pyqtSignal(str, str)
    left = pyqtSignal()
    asked = pyqtSignal(str, QPoint)
    dropped = pyqtSignal(str, QWidget, QPoint)

    def __init__(self, frame: QWidget, painting: Painting, windows: ToolWindows | None) -> None:
        super().__init__(frame)
        self._frame = frame
        self._painting = painting
        self._windows = windows
        self._outcome: Outcome | None = None
        self.views: list[PanelView] = []
        self._values: dict[str, str] = {}
        """What stands in the controls of panels, by identity."""
        self.shut: set[str] = set()
        """The panels that do not show now."""
        self._met: set[str] = set()
        """The panels whose first state is settled."""
        self.choices: Choices = _no_choices
        """Where the entries of choices come from that a reading tells."""

    # What is open, and what stands in it

    def remember(self, known: dict[str, bool]) -> None:
        """Which panels are open, as it was left; others are as their layout says."""
        self._met |= set(known)
        self.shut |= {name for name, is_open in known.items() if not is_open}

    def values(self) -> dict[str, str]:
        """Identity → what stands in each control that was seen and is still there, also on shut panels."""
        for view in self.views:
            self._values.update(view.values())
        seen = self._outcome
        return {name: value for name, value in self._values.items() if seen is not None and seen.item(name)}

    def put_values(self, values: Mapping[str, str]) -> None:
        """Write values into controls, of open and shut panels, without anything happening on that.

        A control that is not named keeps its value.
        """
        self.values()
        self._values.update(values)
        for view in self.views:
            view.put_values(self._values)

    def refill(self) -> None:
        """Have the choices and lists of the open panels show the entries that there are now."""
        for view in self.views:
            view.refill()

    def view(self, panel: str) -> PanelView | None:
        """An open panel by its identity."""
        return next((view for view in self.views if view.panel.id == panel), None)

    def heads(self) -> list[tuple[str, QRect]]:
        """The open panels with the places of their names, in the frame's pixels."""
        return [
            (view.panel.id, view.head().translated(view.mapTo(self._frame, QPoint(0, 0))))
            for view in self.views
        ]

    # Where they stand

    def take_down(self, outcome: Outcome, rows: QVBoxLayout, middle: QHBoxLayout, same_look: bool) -> None:
        """Out of the layouts before another outcome is drawn; one that is still the same is kept."""
        self._outcome = outcome
        self.values()  # kept before any of them goes
        for view in self.views:
            rows.removeWidget(view)
            middle.removeWidget(view)
            if not same_look or view.panel not in outcome.panels or view.panel.id in self.shut:
                drop(view)

    def put_up(self, rows: QVBoxLayout, middle: QHBoxLayout, centre: QWidget) -> None:
        """Put the open ones beside the document, inside the bars. What was written in them stays."""
        assert self._outcome is not None
        for panel in self._outcome.panels:
            if panel.id not in self._met:
                self._met.add(panel.id)
                if not panel.shown:
                    self.shut.add(panel.id)
        standing = [view for view in self.views if view.parentWidget() is not None]
        shown = [panel for panel in self._outcome.panels if panel.id not in self.shut]
        values = self.values()
        self.views = [
            next((view for view in standing if view.panel == panel), None) or self._make(panel, values)
            for panel in shown
        ]
        place, row = middle.indexOf(centre), rows.indexOf(middle)
        for view in self.views:
            match view.panel.edge:
                case "left":
                    middle.insertWidget(place, view)
                    place += 1
                case "right":
                    middle.insertWidget(place + 1, view)
                case "top":
                    rows.insertWidget(row, view)
                    row += 1
                case "bottom":
                    rows.insertWidget(row + 1, view)
                case "window" if self._windows is not None:
                    self._windows.hold(view.panel.id, view, view.panel.at, view.types())
            view.show()
        self.limit()

    def _make(self, panel: SeenPanel, values: dict[str, str]) -> PanelView:
        view = PanelView(panel, self._painting, self.choices, self._frame)
        view.put_values(values)
        view.triggered.connect(self.triggered)
        view.happened.connect(self.happened)
        view.left.connect(self.left)
        view.asked.connect(lambda point: self.asked.emit(panel.id, point))
        view.dropped.connect(lambda point: self.dropped.emit(panel.id, view, point))
        return view

    def limit(self) -> None:
        """However many panels there are and however large: most of the window is the document's."""
        beside = sum(1 for view in self.views if view.panel.edge in ("left", "right"))
        stacked = sum(1 for view in self.views if view.panel.edge in ("top", "bottom"))
        across = (self._frame.width() - LEFT_FREE.width()) // max(beside, 1)
        down = (self._frame.height() - LEFT_FREE.height()) // max(stacked, 1)
        for view in self.views:
            view.give_way(across, down)

    def float_in(self, ground: QRect) -> None:
        """Place those that float over the document, which is there."""
        for view in self.views:
            apart = view.panel.edge == "window" and self._windows is not None
            if view.panel.edge in AFLOAT and not apart:
                view.float_in(ground)
