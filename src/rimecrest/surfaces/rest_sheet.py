"""What stands behind » or in a folded group, laid open: the studio edits it there like any other row."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct
from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenItem, SeenMenu
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.menu_sheet import MenuSheet
from rimecrest.surfaces.painting import Painting


class Rest(Struct, frozen=True):
    """What one » or folded group holds.

    `holder` is its bar, group or tab, `at` where that is opened, in the frame's pixels; `rows` tells for each
    item the row that it belongs to, `whole` whether all of a row is in here: then its first place is as well.
    """

    holder: str
    title: str
    at: QRect
    items: tuple[SeenItem, ...]
    rows: Mapping[str, str]
    whole: bool = False


class RestSheet(MenuSheet):
    """The items of a rest, one a line."""

    def __init__(self, rest: Rest, painting: Painting, parent: QWidget) -> None:
        menu = SeenMenu(id=rest.holder, layer="", title=rest.title, items=rest.items)
        super().__init__(menu, painting, parent)
        self.rest = rest

    def insertion_points(self, frame: QWidget) -> list[InsertionPoint]:
        """The places behind each item, of the row that it belongs to."""
        points = super().insertion_points(frame)
        ground = QRect(self.mapTo(frame, QPoint(0, 0)), self.size())
        found = [
            InsertionPoint(self.rest.rows[point.after], point.after, point.caret, ground=ground)
            for point in points
            if point.after is not None
        ]
        if self.rest.whole:
            found.insert(0, InsertionPoint(self.rest.holder, None, points[0].caret, ground=ground))
        return found
