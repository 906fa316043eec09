"""What a right-click on an item offers: *Why?*, also of a key; while the studio is open, changing it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from PyQt6.QtCore import QObject, QPoint
from PyQt6.QtWidgets import QMenu, QWidget

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import Sequence, format_sequence
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout.seen import Outcome, SeenButton
from rimecrest.core.release.stack import StackState
from rimecrest.core.words import tr
from rimecrest.embed.key_filter import KeyFilter
from rimecrest.embed.macro_library import MacroLibrary
from rimecrest.embed.studio_door import StudioDoor
from rimecrest.shell.theme import font, palette
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.painting import Painting

if TYPE_CHECKING:
    from rimecrest.core.explain.standpoint import Standpoint
    from rimecrest.core.explain.why import Verdict


class WhyWindow(Protocol):
    """What is asked of the window whose keys and items are in question."""

    catalogue: Catalogue
    state: StackState
    frame: Frame
    painting: Painting
    keys: KeyFilter
    library: MacroLibrary

    @property
    def outcome(self) -> Outcome: ...

    def live(self) -> frozenset[str]: ...


class WhyMenu(QObject):
    """Answers *Why?* for one window."""

    def __init__(self, window: WhyWindow, studio: StudioDoor, parent: QWidget) -> None:
        """`parent` is the window as a widget: what opens stands over it."""
        super().__init__(parent)
        self._studio = studio
        self._window = window
        self._over = parent

    def standpoint(self) -> Standpoint:
        """What this seat has: its installed release, or the draft that is tried."""
        from rimecrest.core.explain.standpoint import Standpoint  # noqa: PLC0415  only when somebody asks

        window, state = self._window, self._window.state
        number = tr("Release {release} is installed.", release=state.release) if state.release else ""
        return Standpoint(
            catalogue=window.catalogue,
            traits=state.traits,
            outcome=window.outcome,
            obstacles=Obstacles(state.reserved),
            titles=state.titles,
            release=number
            or (tr("This is a draft that is being tried.") if state.layouts else tr("No release yet.")),
            layouts=state.layouts,
            macros=window.library.files,
            refused=window.library.refused(),
        )

    def of_item(self, item: SeenButton) -> list[Verdict]:
        """The chain of an item, and of its key where it has one that might not work here."""
        from rimecrest.core.explain.why import why, why_item  # noqa: PLC0415  only when somebody asks

        at = self.standpoint()
        links = why_item(at, item.id)
        bound: list[Binding] = at.outcome.keys_of(item.run, item.args)
        if bound and all(link.ok for link in links):
            links += [link for link in why(at, format_sequence(bound[0].sequence)) if not link.ok]
        return links

    def of_keys(self, sequence: Sequence) -> list[Verdict]:
        """The chain of a key, where the colleague is now."""
        from rimecrest.core.explain.why import why  # noqa: PLC0415  only when somebody asks

        at = self.standpoint()
        live = self._window.live()
        return why(at, format_sequence(sequence), max(live, key=at.contexts.narrowness))

    def menu(self, item: SeenButton, where: QPoint) -> None:
        """The small menu that a right-click on an item opens."""
        menu = QMenu(self._over)
        menu.setObjectName("item-menu")
        menu.setPalette(palette(self._window.painting.scheme))
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
            self._window.frame.say(str(error))

    def listen(self) -> None:
        """Take the next key as a question."""
        self._window.frame.say(tr("Press the key in question; Escape leaves it."))
        self._window.keys.ask(self._asked)

    def _asked(self, sequence: Sequence) -> None:
        self._window.frame.say("")
        if [chord.key for chord in sequence] == ["Escape"]:
            return
        box = self._window.frame
        self.tell(format_sequence(sequence), self.of_keys(sequence), box.mapToGlobal(QPoint(40, 120)))

    def tell(self, title: str, links: list[Verdict], where: QPoint) -> None:
        """Open the sheet with a chain."""
        from rimecrest.surfaces.why_list import WhySheet  # noqa: PLC0415  only when somebody asks

        WhySheet(title, links, self._window.painting.scheme, self._over).open_at(where)
