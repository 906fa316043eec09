"""The caret among the slots of a stage, and the items it has selected. No widgets in here."""

from __future__ import annotations

from msgspec import Struct, field
from PyQt6.QtCore import QPoint, QRect

from rimecrest.surfaces.insertion_points import InsertionPoint

NEAR = 4
"""Pixels around the boundary between two groups that are the boundary's."""
FAR = 20
"""Who asks for a slot within this distance or more takes any slot of the ground that was clicked."""

Key = tuple[str, str | None, bool, bool]


def key_of(slot: InsertionPoint) -> Key:
    return slot.surface, slot.after, slot.new_group, slot.beside


class Caret(Struct):
    """Where the caret is, and what is selected: identities of items, in order."""

    slots: list[InsertionPoint] = field(default_factory=list)
    at: Key | None = None
    selected: list[str] = field(default_factory=list)
    held: str | None = None
    """The tab, group, bar or menu that is held as a whole; then there is no caret."""
    _from: str | None = None

    def use(self, slots: list[InsertionPoint]) -> None:
        """Take over the slots of another drawing; the caret stays where it was, or as near as it can."""
        before = self.index()
        self.slots = slots
        if self.at is not None and self.index() is None:
            same = [slot for slot in slots if slot.surface == self.at[0]]
            if same:
                self.at = key_of(same[min(before or 0, len(same) - 1)] if before is not None else same[-1])
            else:
                # It is seen, or there is none: no key changes what is out of sight.
                self.at = None
        known = {slot.after for slot in slots}
        self.selected = [name for name in self.selected if name in known]

    def index(self) -> int | None:
        return next((i for i, slot in enumerate(self.slots) if key_of(slot) == self.at), None)

    def slot(self) -> InsertionPoint | None:
        index = self.index()
        return None if index is None else self.slots[index]

    def leave(self) -> None:
        """There is no caret any more."""
        self.held = None
        self.at = None
        self.selected = []
        self._from = None

    def hold(self, surface: str) -> None:
        """Hold a tab, group, bar or menu as a whole."""
        self.leave()
        self.held = surface

    def put(self, slot: InsertionPoint) -> None:
        """Stand at a place between items."""
        self.held = None
        self.at = key_of(slot)
        self.selected = []
        self._from = None

    def put_after(self, surface: str, item: str | None) -> None:
        """Put the caret behind an item, whether it is drawn already or will be."""
        self.held = None
        self.at = (surface, item, False, False)
        self.selected = []

    def step(self, by: int, selecting: bool = False, rows: bool = False) -> None:
        """Move along the slots; with `selecting`, the items passed over are selected or let go.

        `rows`: on a panel from row to row, past the slots within one.
        """
        index = self.index()
        if index is None:
            if self.slots:
                self.put(self.slots[0])
            return
        target = index + by
        here = self.slots[index]
        while (
            by
            and 0 <= target < len(self.slots)
            and (
                # Within and below one row nothing lies between: a key selects an item, not a gap.
                (rows and self.slots[target].beside) or (selecting and _one_gap(here, self.slots[target]))
            )
        ):
            target += by
        if not 0 <= target < len(self.slots):
            return
        there = self.slots[target]
        if not selecting:
            self.put(there)
            return
        if here.surface != there.surface or here.new_group or there.new_group:
            return
        passed = there.after if by > 0 else here.after
        if passed is None:
            return
        if passed in self.selected:
            self.selected.remove(passed)
        elif by > 0:
            self.selected.append(passed)
        else:
            self.selected.insert(0, passed)
        self.at = key_of(there)

    def jump(self, by: int) -> None:
        """To the first slot of the next surface, or of the one before."""
        surfaces = list(dict.fromkeys(slot.surface for slot in self.slots if not slot.new_group))
        if not surfaces:
            return
        now = surfaces.index(self.at[0]) if self.at and self.at[0] in surfaces else -1
        name = surfaces[(now + by) % len(surfaces)]
        self.put(next(slot for slot in self.slots if slot.surface == name and not slot.new_group))

    def to_end(self, last: bool, selecting: bool = False) -> None:
        """To the first or the last slot of the surface the caret is on; `selecting` what is passed over."""
        if self.at is None:
            return
        if selecting:
            before = None
            while self.at != before:
                before = self.at
                self.step(1 if last else -1, selecting=True)
            return
        same = [slot for slot in self.slots if slot.surface == self.at[0] and not slot.new_group]
        if same:
            self.put(same[-1 if last else 0])

    def select(self, surface: str, item: str, more: bool = False) -> None:
        """Select an item; the caret stands behind it."""
        self.held = None
        if not more:
            self.selected = []
        if item in self.selected:
            self.selected.remove(item)
        else:
            self.selected.append(item)
        order = [slot.after for slot in self.slots]
        self.selected.sort(key=lambda name: order.index(name) if name in order else 0)
        self.at = (surface, item, False, False)

    def select_all(self, items: list[str]) -> None:
        """Select these, wherever they stand; the caret stands behind the last."""
        slot = next((slot for slot in self.slots if items and slot.after == items[-1]), None)
        self.leave()
        if slot is not None:
            self.at = key_of(slot)
            self.selected = list(items)

    def before(self) -> str | None:
        """The item before the caret."""
        slot = self.slot()
        return slot.after if slot is not None and not slot.new_group else None

    def behind(self) -> str | None:
        """The item after the caret."""
        index = self.index()
        if index is None:
            return None
        here = self.slots[index]
        for there in self.slots[index + 1 :]:
            if there.surface != here.surface or there.new_group:
                return None
            if there.after != here.after:
                return there.after
        return None

    def chosen(self) -> list[str]:
        """The selected items, else the one before the caret."""
        if self.selected:
            return list(self.selected)
        before = self.before()
        return [before] if before else []

    def nearest(self, point: QPoint, within: int | None = None) -> InsertionPoint | None:
        """The slot nearest to a point; `within` limits the distance in pixels."""
        # A point on a bar or in a group means that one, however near another's end may be.
        here = [slot for slot in self.slots if slot.ground.contains(point)]
        least = min((slot.ground.width() * slot.ground.height() for slot in here), default=0)
        inmost = [slot for slot in here if slot.ground.width() * slot.ground.height() == least]
        boundaries = [slot for slot in here if slot.new_group and _distance(slot.caret, point) <= NEAR]
        if here and within is not None and within >= FAR:
            within = None
        best = min(
            [*boundaries, *inmost] or self.slots, key=lambda slot: _distance(slot.caret, point), default=None
        )
        if best is None or (within is not None and _distance(best.caret, point) > within):
            return None
        return best


def _one_gap(one: InsertionPoint, other: InsertionPoint) -> bool:
    """Whether two slots are behind one item, within its row and below it."""
    return (one.surface, one.after, one.new_group) == (other.surface, other.after, other.new_group)


def _distance(box: QRect, point: QPoint) -> int:
    dx = max(box.left() - point.x(), 0, point.x() - box.right())
    dy = max(box.top() - point.y(), 0, point.y() - box.bottom())
    # Off to the side of a bar counts more than along it: a click in the document is no slot.
    return dx + dy
