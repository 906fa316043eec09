"""What the keys of the stage do, by what they mean: with the caret, what is chosen, and what is held."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.words import tr
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.clipboard_hands import ClipboardHands
from rimecrest.studio.layout.grid_presenter import GridPresenter
from rimecrest.studio.layout.held_keys import HeldKeys
from rimecrest.studio.layout.key_table import OFF_THE_GRID, ON_THE_GRID, SIZES, Meaning
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.studio.layout.rest_hands import RestHands
from rimecrest.studio.layout.stage_hands import Stage
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.frame import Frame


class StageKeys:
    """Does what a key means."""

    def __init__(
        self,
        stage: Stage,
        frame: Frame,
        session: Session,
        caret: Caret,
        presenter: StagePresenter,
        grid: GridPresenter,
        held: HeldKeys,
        rests: RestHands,
        clipboard: ClipboardHands,
    ) -> None:
        self._stage = stage
        self._frame = frame
        self._session = session
        self._caret = caret
        self._presenter = presenter
        self._grid = grid
        self._held = held
        self._rests = rests
        self._clipboard = clipboard
        self._does: dict[Meaning, Callable[[], None]] = {
            Meaning.OUTWARD: self._outward,
            Meaning.INWARD: self._inward,
            Meaning.MENU: stage.menu_by_key,
            Meaning.HIDDEN: stage.list_hidden,
            Meaning.COMPARE: stage.compare,
            Meaning.PAST: stage.open_past,
            Meaning.FORTH: self._forth,
            Meaning.NEXT_TAB: lambda: self.step_tab(1),
            Meaning.TAB_BEFORE: lambda: self.step_tab(-1),
            Meaning.SHIFT_BACK: lambda: self._shift(-1),
            Meaning.SHIFT_FORTH: lambda: self._shift(1),
            Meaning.TAKE_BEFORE: self._take_before,
            Meaning.TAKE_BEHIND: self._take_behind,
            Meaning.RENAME: self._rename,
            Meaning.COPY: lambda: self._copy(cut=False),
            Meaning.CUT: lambda: self._copy(cut=True),
            Meaning.PASTE: stage.paste,
            Meaning.OPEN: lambda: self._with_last(stage.open_card),
            Meaning.OWN_STEPS: lambda: self._with_last(stage.write_steps),
            Meaning.SHOW_ALL: self._show_all,
        }

    def do(self, meaning: Meaning) -> None:
        """What is held takes the keys first, then a panel's grid; what is looked back at is not changed."""
        held = self._caret.held is not None
        if held:
            meaning = {Meaning.ROW_BACK: Meaning.BACK, Meaning.ROW_FORTH: Meaning.FORTH}.get(meaning, meaning)
        chosen = self._caret.chosen()
        on_grid = not held and self._grid.panel_of(chosen) is not None
        cells = ON_THE_GRID.get(meaning) if on_grid else None
        meaning = OFF_THE_GRID.get(meaning, meaning) if cells is None else meaning
        if self._stage.looking_back and meaning is not Meaning.COMPARE:
            self._stage.compare()
        elif held and meaning is not Meaning.PAST and self._for_held(meaning):
            pass
        elif cells is not None:
            self._grid.nudge(chosen, *cells)
        elif meaning in SIZES:
            if not on_grid:
                self._session.say(tr("Only what stands on a panel’s free grid is sized in cells."))
            self._grid.resize(chosen, *SIZES[meaning])
        elif meaning in _WALKS:
            self._walk(_WALKS[meaning])
        else:
            self._does.get(meaning, self._stage.give_up)()

    def _for_held(self, meaning: Meaning) -> bool:
        done = self._held.do(meaning, self._stage.rename, self._stage.open_card)
        if done:
            self._stage.redrawn()
            if meaning is not Meaning.OPEN:
                self._stage.caret_moved()
        return done

    def _walk(self, step: Callable[[Caret], None]) -> None:
        step(self._caret)
        self._stage.caret_moved()

    def _forth(self) -> None:
        if self._rests.go_in():
            self._stage.caret_moved()
        else:
            self._walk(lambda caret: caret.step(1))

    def _outward(self) -> None:
        self._held.outward()
        self._stage.caret_moved()

    def _inward(self) -> None:
        if not self._frame.sheets.pinned_menu:
            self._stage.give_up()
            return
        for thing in self._caret.chosen()[-1:]:
            self._caret.selected = [thing]
            self._stage.show_submenu()
            self._held.enter(thing, last=False)
        self._stage.caret_moved()

    def step_tab(self, by: int) -> None:
        """Open the next tab; the caret goes along, to its beginning."""
        seen = self._frame.outcome
        tabs = [tab.id for tab in seen.tabs] if seen is not None else []
        if self._frame.open_tab in tabs:
            self._frame.choose_tab(tabs[(tabs.index(self._frame.open_tab) + by) % len(tabs)])
            self.to_page()

    def to_page(self) -> None:
        """Put the caret at the beginning of the tab that is open."""
        rows = {name for name, _ in self._frame.head_rects()} | {self._frame.open_tab}
        slots = [slot for slot in self._caret.slots if slot.surface in rows]
        first = next((slot for slot in slots if not slot.new_group), slots[0] if slots else None)
        if first is None:
            self._caret.leave()
        else:
            self._caret.put(first)
        self._stage.caret_moved()

    def _shift(self, by: int) -> None:
        for thing in self._caret.chosen()[:1]:
            self._presenter.shift(thing, by)

    def _take_before(self) -> None:
        self._take_off(self._caret.chosen())

    def _take_behind(self) -> None:
        behind = self._caret.behind()
        self._take_off(self._caret.selected or ([behind] if behind else []))

    def _take_off(self, things: list[str]) -> None:
        if self._caret.selected or self._presenter.slot() is not None:
            self._presenter.take_off(things)
            self._stage.update()

    def _rename(self) -> None:
        chosen = self._caret.chosen()
        slot = self._presenter.slot()
        if chosen:
            self._stage.rename(chosen[-1])
        elif slot is not None:
            self._stage.rename(slot.surface)

    def _copy(self, cut: bool) -> None:
        if self._frame.outcome is not None:
            self._clipboard.copy(self._frame.outcome, cut=cut)
            self._stage.update()

    def _with_last(self, do: Callable[[str], None]) -> None:
        for thing in self._caret.chosen()[-1:]:
            do(thing)

    def _show_all(self) -> None:
        if self._presenter.slot() is not None:
            self._stage.show_all()


_WALKS: dict[Meaning, Callable[[Caret], None]] = {
    Meaning.BACK: lambda caret: caret.step(-1),
    Meaning.ROW_BACK: lambda caret: caret.step(-1, rows=True),
    Meaning.ROW_FORTH: lambda caret: caret.step(1, rows=True),
    Meaning.SELECT_BACK: lambda caret: caret.step(-1, selecting=True),
    Meaning.SELECT_FORTH: lambda caret: caret.step(1, selecting=True),
    Meaning.TO_START: lambda caret: caret.to_end(False),
    Meaning.TO_END: lambda caret: caret.to_end(True),
    Meaning.SELECT_TO_START: lambda caret: caret.to_end(False, selecting=True),
    Meaning.SELECT_TO_END: lambda caret: caret.to_end(True, selecting=True),
    Meaning.NEXT_SURFACE: lambda caret: caret.jump(1),
    Meaning.SURFACE_BEFORE: lambda caret: caret.jump(-1),
}
"""Where the caret goes."""
