"""What keys do to a tab, group, bar or menu that is held as a whole."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.catalogue.surfaces import Edge
from rimecrest.core.layout.seen import SeenGroup, SeenMenu, SeenPanel, SeenSubmenu, SeenToolbar
from rimecrest.core.words import tr
from rimecrest.core.workspace.exactly import neighbours
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.key_table import Meaning
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.frame import Frame

_DOCKS: dict[Meaning, Edge] = {
    Meaning.OUTWARD: "top",
    Meaning.INWARD: "bottom",
    Meaning.LEFTWARD: "left",
    Meaning.RIGHTWARD: "right",
}
FLOATS_AT = (60, 40)
"""Where a bar floats at first that keys have set afloat, in pixels from the document's corner."""


class HeldKeys:
    """Takes hold of surfaces, and moves, hides, removes what is held."""

    def __init__(self, frame: Frame, caret: Caret, presenter: SurfacePresenter, session: Session) -> None:
        self._frame = frame
        self._caret = caret
        self._presenter = presenter
        self._session = session

    def outward(self) -> bool:
        """Hold what the caret, or what is held, stands in; whether there is something."""
        seen, caret = self._frame.outcome, self._caret
        if seen is None:
            return False
        if caret.held is None:
            slot = caret.slot()
            if slot is None:
                return False
            caret.hold(slot.surface)
            return True
        row = seen.row(caret.held)
        if isinstance(row, SeenGroup):
            caret.hold(row.tab)
            return True
        return False

    def _inward(self) -> None:
        seen, held = self._frame.outcome, self._caret.held
        if seen is None or held is None:
            return
        tab = seen.tab(held)
        if tab is not None:
            self._frame.choose_tab(held)
            self._caret.use(self._frame.insertion_points())
            if tab.groups:
                self._caret.hold(tab.groups[0].id)
                return
        self.enter(held, last=False)

    def enter(self, surface: str, last: bool) -> None:
        """Put the caret at the first or last place of a bar, group, panel or menu."""
        self._caret.use(self._frame.insertion_points())
        slots = [slot for slot in self._caret.slots if slot.surface == surface and not slot.new_group]
        if not slots and any(rest.holder == surface for rest in self._frame.rests()):
            # A folded group: its items stand under its button.
            self._frame.sheets.open_rest(surface)
            self._caret.use(self._frame.insertion_points())
            slots = [slot for slot in self._caret.slots if slot.surface == surface]
        if slots:
            self._caret.put(slots[-1 if last else 0])

    def show_submenu(self) -> None:
        """The submenu that is chosen, or that the caret stands in, is open; no other is."""
        seen, caret = self._frame.outcome, self._caret
        if seen is None or not self._frame.sheets.pinned_menu:
            return
        slot = caret.slot()
        chosen = caret.selected or ([caret.held] if caret.held else [])
        item = seen.item(chosen[-1]) if chosen else None
        here = item.id if isinstance(item, SeenSubmenu) else slot.surface if slot is not None else ""
        self._frame.sheets.open_submenu(here if isinstance(seen.item(here), SeenSubmenu) else "")
        caret.use(self._frame.insertion_points())

    def do(self, meaning: Meaning, rename: Callable[[str], None], card: Callable[[str], None]) -> bool:
        """Do what a key means for what is held; whether it meant something."""
        held, seen = self._caret.held, self._frame.outcome
        if held is None or seen is None:
            return False
        row = seen.row(held)
        if isinstance(row, SeenToolbar | SeenPanel) and meaning in (*_DOCKS, Meaning.AFLOAT):
            self._dock(row, meaning)
            return True
        does: dict[Meaning, Callable[[], object]] = {
            Meaning.OUTWARD: self.outward,
            Meaning.INWARD: self._inward,
            Meaning.TO_START: lambda: self.enter(held, last=False),
            Meaning.TO_END: lambda: self.enter(held, last=True),
            Meaning.BACK: lambda: self._step(held, -1),
            Meaning.FORTH: lambda: self._step(held, 1),
            Meaning.SHIFT_BACK: lambda: self._shift(held, -1),
            Meaning.SHIFT_FORTH: lambda: self._shift(held, 1),
            Meaning.TAKE_BEHIND: lambda: self._remove(held),
            Meaning.RENAME: lambda: rename(held),
            Meaning.OPEN: lambda: card(held),
            Meaning.SHOW_ALL: lambda: self.new_behind(held, rename),
            Meaning.TAKE_BEFORE: lambda: self._session.say(tr("Delete removes what is held as a whole.")),
            Meaning.GIVE_UP: self._caret.leave,
        }
        if meaning not in does:
            return False
        does[meaning]()
        return True

    def _dock(self, row: SeenToolbar | SeenPanel, meaning: Meaning) -> None:
        if meaning is not Meaning.AFLOAT:
            self._presenter.dock(row.id, _DOCKS[meaning])
            return
        # Pressed again, it leaves the window.
        edge: Edge = "window" if row.edge == "float" else "float"
        self._presenter.dock(row.id, edge, row.at or FLOATS_AT)

    def _step(self, held: str, by: int) -> None:
        """Hold the neighbour."""
        seen = self._frame.outcome
        assert seen is not None
        if isinstance(seen.row(held), SeenMenu):
            return
        order = neighbours(seen, held)
        target = order.index(held) + by if held in order else -1
        if 0 <= target < len(order):
            if seen.tab(order[target]) is not None:
                self._frame.choose_tab(order[target])
                self._caret.use(self._frame.insertion_points())
            self._caret.hold(order[target])

    def _shift(self, held: str, by: int) -> None:
        if not self._presenter.shift(held, by):
            self._session.say(tr("It cannot go further that way."))
            return
        row = self._session.outcome().row(held)
        if isinstance(row, SeenGroup):
            # It may have gone into the next tab: the eyes go along.
            self._frame.choose_tab(row.tab)
        self._caret.hold(held)

    def _remove(self, held: str) -> None:
        seen = self._frame.outcome
        assert seen is not None
        if isinstance(seen.row(held), SeenMenu):
            self._session.say(tr("A right-click menu cannot be removed; its items can."))
            return
        order = neighbours(seen, held)
        at = order.index(held)
        left = [*order[at + 1 :], *reversed(order[:at])]
        if self._presenter.remove(held):
            self._caret.hold(left[0]) if left else self._caret.leave()

    def new_behind(self, held: str, rename: Callable[[str], None]) -> None:
        """Begin another one of its like behind a surface, ready to be named."""
        seen = self._frame.outcome
        assert seen is not None
        row = seen.row(held)
        made: str | None = None
        if seen.tab(held) is not None:
            made = self._presenter.new_tab(held)
            if made is not None:
                self._frame.choose_tab(made)
        elif isinstance(row, SeenGroup):
            made = self._presenter.new_group(row.tab, held)
        elif isinstance(row, SeenToolbar):
            made = self._presenter.new_bar(row.edge)
        elif isinstance(row, SeenPanel):
            made = self._presenter.new_panel(row.edge)
        if made is not None:
            self._caret.hold(made)
            rename(made)
