"""What a right-click on an item offers: *Why?*, also of a key; while the studio is open, changing it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QPoint
from PyQt6.QtWidgets import QMenu

from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.standpoint import Standpoint
from rimecrest.core.explain.why import why, why_item
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import Sequence, format_sequence
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.words import tr
from rimecrest.kit.key_filter import KeyFilter
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.kit.personal.shown_stack import ShownStack
from rimecrest.kit.remote.studio_door import StudioDoor
from rimecrest.shell.theme import font, palette
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.why_list import WhySheet

if TYPE_CHECKING:
    from rimecrest.core.explain.standpoint import Standpoint
    from rimecrest.core.explain.why import Verdict


class WhyMenu(QObject):
    """Answers *Why?* for one window."""

    def __init__(
        self, frame: Frame, stack: ShownStack, keys: KeyFilter, library: MacroLibrary, studio: StudioDoor
    ) -> None:
        super().__init__(frame)
        self._frame = frame
        self._stack = stack
        self._keys = keys
        self._library = library
        self._studio = studio

    def standpoint(self) -> Standpoint:
        """What this seat has: its installed release, or the draft that is tried."""
        state, outcome = self._stack.state, self._frame.outcome
        assert outcome is not None
        number = tr("Release {release} is installed.", release=state.release) if state.release else ""
        return Standpoint(
            catalogue=self._stack.catalogue,
            traits=state.traits,
            outcome=outcome,
            obstacles=Obstacles(state.reserved),
            titles=state.titles,
            release=number
            or (tr("This is a draft that is being tried.") if state.layouts else tr("No release yet.")),
            layouts=state.layouts,
            macros=self._library.files,
            refused=self._library.refused(),
        )

    def of_item(self, item: SeenButton) -> list[Verdict]:
        """The chain of an item, and of its key where it has one that might not work here."""
        at = self.standpoint()
        links = why_item(at, item.id)
        bound: list[Binding] = at.outcome.keys_of(item.run, item.args)
        if bound and all(link.ok for link in links):
            links += [link for link in why(at, format_sequence(bound[0].sequence)) if not link.ok]
        return links

    def of_keys(self, sequence: Sequence) -> list[Verdict]:
        """The chain of a key, where the colleague is now."""
        at = self.standpoint()
        live = self._keys.live()
        return why(at, format_sequence(sequence), max(live, key=at.contexts.narrowness))

    def menu(self, item: SeenButton, where: QPoint) -> None:
        """The small menu that a right-click on an item opens."""
        menu = QMenu(self._frame)
        menu.setObjectName("item-menu")
        menu.setPalette(palette(self._frame.painting.scheme))
        menu.setFont(font(13))
        menu.addAction(
            tr("Why “{label}”?", label=item.label),
            lambda: self.tell(f"“{item.label}”", self.of_item(item), where),
        )
        menu.addAction(tr("Why does a key do that? Press it …"), self.listen)
        self._add_layers(menu, item)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(where)

    def _add_layers(self, menu: QMenu, item: SeenButton) -> None:
        """While the studio is open here: the layers in which the item can be changed there."""
        layers = self._studio.layers()
        inner = menu.addMenu(tr("Change for")) if layers else None
        for layer, title in layers if inner is not None else ():
            assert inner is not None
            inner.addAction(title.replace("&", "&&"), lambda layer=layer: self._change(item, layer))

    def _change(self, item: SeenButton, layer: str) -> None:
        try:
            self._studio.take_over("change", "item", item.id, layer)
        except RimecrestError as error:
            self._frame.say(str(error))

    def listen(self) -> None:
        """Take the next key as a question."""
        self._frame.say(tr("Press the key in question; Escape leaves it."))
        self._keys.ask(self._asked)

    def _asked(self, sequence: Sequence) -> None:
        self._frame.say("")
        if [chord.key for chord in sequence] == ["Escape"]:
            return
        box = self._frame
        self.tell(format_sequence(sequence), self.of_keys(sequence), box.mapToGlobal(QPoint(40, 120)))

    def tell(self, title: str, links: list[Verdict], where: QPoint) -> None:
        """Open the sheet with a chain."""
        WhySheet(title, links, self._frame.painting.scheme, self._frame).open_at(where)
