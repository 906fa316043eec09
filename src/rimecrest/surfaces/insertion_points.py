"""The places between items where something can be put."""

from __future__ import annotations

from msgspec import field
from PyQt6.QtCore import QRect

from rimecrest.core.values import PartlyCompared


class InsertionPoint(PartlyCompared, frozen=True):
    """A place on a surface, after the thing `after` (None = first). `caret` is in the frame's pixels.

    `beside`: on a panel, in the row of that thing; else below its row. `new_group`: in a tab, at a boundary
    between groups; `surface` is then the tab, `after` a group.
    """

    aside = frozenset({"ground"})

    surface: str
    after: str | None
    caret: QRect
    new_group: bool = False
    beside: bool = False
    ground: QRect = field(default_factory=QRect)
    """All of the bar or group, or of the page: a click anywhere in it is meant for it."""
