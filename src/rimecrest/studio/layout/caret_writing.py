"""What is written at the caret of the stage: letters look something up, some characters begin things."""

from __future__ import annotations

from rimecrest.core.layout.seen import SeenMenu, SeenPanel
from rimecrest.core.words import tr
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.control_kinds import BY_CHARACTER
from rimecrest.studio.layout.held_keys import HeldKeys
from rimecrest.studio.layout.kind_strip import LINE, KindStrip
from rimecrest.studio.layout.naming import Naming
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.studio.layout.stage_hands import Stage
from rimecrest.surfaces.frame import Frame


class CaretWriting:
    """The letters at the caret, and what a character or a name begins there."""

    def __init__(
        self,
        stage: Stage,
        frame: Frame,
        caret: Caret,
        presenter: StagePresenter,
        held: HeldKeys,
        naming: Naming,
        kinds: KindStrip,
    ) -> None:
        self._stage = stage
        self._frame = frame
        self._caret = caret
        self._presenter = presenter
        self._held = held
        self._naming = naming
        self._kinds = kinds
        kinds.chosen.connect(self.begin_kind)
        self.typed = ""
        self.listing = False
        """Whether a list of candidates is open: arrows and Enter are for it."""

    @property
    def open(self) -> bool:
        """Whether something is looked up just now."""
        return bool(self.typed) or self.listing

    def character(self, text: str) -> None:
        """A character came: it begins something where it can, else it is looked up with those before it."""
        slot = self._presenter.slot()
        if slot is None:
            return
        if not self.typed and text in BY_CHARACTER and self._on_panel():
            self.begin_kind(text)
        elif not self.typed and text == ">" and self._in_menu():
            self.begin_submenu()
        elif text == "|" and not self.typed and not slot.new_group:
            self._presenter.put_separator()
            self._stage.update()
        else:
            self.type(self.typed + text)

    def type(self, text: str) -> None:
        """Have these letters stand at the caret."""
        self.typed = text
        self.offer_kinds()
        self._stage.say_typed(text)

    def stop(self) -> None:
        """Forget what was typed, and close the list."""
        if self.open:
            self.type("")

    def _on_panel(self) -> bool:
        """Whether the caret stands on a panel."""
        slot, seen = self._caret.slot(), self._frame.outcome
        return slot is not None and seen is not None and isinstance(seen.row(slot.surface), SeenPanel)

    def _in_menu(self) -> bool:
        """Whether the caret stands in a right-click menu."""
        slot, seen = self._caret.slot(), self._frame.outcome
        return slot is not None and seen is not None and isinstance(seen.row(slot.surface), SeenMenu)

    def begin_submenu(self) -> None:
        """Ask for the name of a submenu, and put it into the menu at the caret, which goes into it."""
        slot = self._presenter.slot()
        if slot is None:
            return

        def enter(text: str, by_key: bool) -> None:
            made = self._presenter.put_submenu(text or tr("More")) if text or by_key else None
            self._stage.redrawn()
            if made is not None:
                self._caret.select(slot.surface, made)
                self._stage.show_submenu()
                self._held.enter(made, last=False)
            self._stage.caret_moved()

        self._naming.at_caret(slot.caret, tr("More"), enter)

    def begin_kind(self, begins: str) -> None:
        """Ask for the words of what a character begins, and put it on the panel at the caret."""
        slot = self._presenter.slot()
        if slot is None or begins == LINE:
            self._presenter.put_separator()
            self._stage.update()
            return

        def enter(text: str, by_key: bool) -> None:
            if text or by_key:
                self._presenter.put_control(begins, text)
            self._stage.redrawn()
            self._stage.caret_moved()

        self._kinds.hide()
        self._naming.at_caret(slot.caret, BY_CHARACTER[begins].first, enter)

    def offer_kinds(self) -> None:
        """The strip of kinds, while the caret stands on a panel and nothing has been typed."""
        slot = self._caret.slot()
        if slot is not None and not self.open and self._stage.hasFocus() and self._on_panel():
            self._kinds.show_at(slot.caret, self._frame.rect())
        else:
            self._kinds.hide()
