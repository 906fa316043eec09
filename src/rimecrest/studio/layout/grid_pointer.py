"""Dragging things over a panel's free grid: where they would stand, and the lines that they snap to."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct, field
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QRect

from rimecrest.core.layout.panel_grid import CELL, Cells, columns_of, inside, places, snapped
from rimecrest.core.words import tr
from rimecrest.studio.layout.grid_presenter import GridPresenter
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.panel import PanelView


class Placing(Struct, frozen=True):
    """What is being dragged: identity → the cells it would take; `boxes` and `lines` are drawn."""

    moved: dict[str, Cells]
    boxes: list[QRect] = field(default_factory=list)
    lines: list[QRect] = field(default_factory=list)


class GridPointer:
    """From the way of the mouse to cells."""

    def __init__(self, frame: Frame, presenter: GridPresenter) -> None:
        self._frame = frame
        self._presenter = presenter

    def view_at(self, things: Sequence[str], point: QPoint) -> PanelView | None:
        """The panel with a free grid that these stand on, while the point is over it."""
        panel = self._presenter.panel_of(things)
        view = self._frame.panels.view(panel.id) if panel is not None else None
        if view is None:
            return None
        return view if QRect(view.mapTo(self._frame, QPoint(0, 0)), view.size()).contains(point) else None

    def placing(self, things: Sequence[str], led_by: str, way: QPoint, point: QPoint) -> Placing | None:
        """What a drop would do, after the mouse went that way; None: it is over no grid of theirs.

        Args:
            led_by: the one that was taken hold of: it is what snaps.
        """
        view = self.view_at(things, point)
        if view is None:
            return None
        now = places(view.panel)
        right, down = round(way.x() / CELL), round(way.y() / CELL)
        lead = replace(now[led_by], column=now[led_by].column + right, row=now[led_by].row + down)
        lead = inside(lead, columns_of(view.panel))
        found = snapped(lead, [cells for name, cells in now.items() if name not in things])
        by = found.cells.column - now[led_by].column, found.cells.row - now[led_by].row
        moved = {
            name: replace(now[name], column=now[name].column + by[0], row=now[name].row + by[1])
            for name in things
        }
        origin = view.origin(self._frame)
        boxes = [_box(cells, origin) for cells in moved.values()]
        ground = QRect(view.mapTo(self._frame, QPoint(0, 0)), view.size())
        lines = [QRect(origin.x() + c * CELL, ground.top(), 1, ground.height()) for c in found.columns]
        lines += [QRect(ground.left(), origin.y() + r * CELL, ground.width(), 1) for r in found.rows]
        return Placing(moved, boxes, lines)

    def drop(self, placing: Placing) -> bool:
        """Put what was dragged where it is."""
        panel = self._presenter.panel_of(list(placing.moved))
        return panel is not None and self._presenter.put(panel, placing.moved, tr("move"))

    def pull(self, thing: str, way: QPoint) -> bool:
        """The right edge of a thing was pulled."""
        return self._presenter.resize([thing], round(way.x() / CELL), 0)


def _box(cells: Cells, origin: QPoint) -> QRect:
    return PanelView.box_of(cells).translated(origin - PanelView.box_of(Cells(0, 0, 1, 1)).topLeft())
