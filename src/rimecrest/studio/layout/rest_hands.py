"""Laying open on the stage what a bar, group or tab has no room for, so that it is edited there."""

from __future__ import annotations

from PyQt6.QtCore import QPoint

from rimecrest.studio.layout.caret import Caret
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.rest_sheet import Rest


class RestHands:
    """Opens and closes rests; the caret goes along."""

    def __init__(self, frame: Frame, caret: Caret) -> None:
        self._frame = frame
        self._caret = caret

    def at(self, point: QPoint) -> str | None:
        """The bar, group or tab whose » or folded button is there."""
        return next((rest.holder for rest in self._frame.rests() if rest.at.contains(point)), None)

    @property
    def open(self) -> Rest | None:
        """What lies open now."""
        holder = self._frame.sheets.open_holder
        return next((rest for rest in self._frame.rests() if holder and rest.holder == holder), None)

    def turn(self, holder: str) -> None:
        """Lay a rest open, with the caret in it, or close it."""
        self._frame.sheets.open_rest("" if holder == self._frame.sheets.open_holder else holder)
        self._caret.use(self._frame.insertion_points())
        if (rest := self.open) is not None:
            self._caret.put_after(rest.rows[rest.items[0].id], rest.items[0].id)

    def close(self) -> bool:
        """Close what lies open; whether there was something."""
        if not self._frame.sheets.open_holder:
            return False
        self.turn(self._frame.sheets.open_holder)
        return True

    def leave(self) -> None:
        """What lies open closes when the caret has gone elsewhere."""
        rest, slot = self.open, self._caret.slot()
        if rest is not None and slot is not None and slot.surface not in {rest.holder, *rest.rows.values()}:
            self._frame.sheets.open_rest("")
            self._caret.use(self._frame.insertion_points())

    def go_in(self) -> bool:
        """At the last place of a bar, the way on leads into what it has no room for; whether it did."""
        slot, index = self._caret.slot(), self._caret.index()
        if slot is None or index is None or self._frame.sheets.open_holder:
            return False
        behind = self._caret.slots[index + 1 : index + 2]
        last = not behind or behind[0].surface != slot.surface
        if not last or not any(rest.holder == slot.surface for rest in self._frame.rests()):
            return False
        self.turn(slot.surface)
        return True
