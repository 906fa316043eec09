"""Moving and copying macros between shelves, and to and from the document that is being tried."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.core.workspace.file_edits import CarryMacro, PutMacro
from rimecrest.core.workspace.fresh import fresh_macro
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.where_used import uses
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.presenter import MacroKey
from rimecrest.studio.macros.shelves import DOCUMENT
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.live_preview import LivePreview
from rimecrest.studio.shared.session import Session


class ShelfMoves:
    """Asks for a shelf under a word, and carries a macro there."""

    def __init__(
        self, session: Session, preview: LivePreview, scheme: Scheme, opened: Callable[[MacroKey], None]
    ) -> None:
        """`opened` is called with the macro where it stands then."""
        self._session = session
        self._preview = preview
        self._scheme = scheme
        self._opened = opened

    def _shelves(self) -> list[str]:
        return [layer.id for layer in self._session.workspace.settings.layers] + [MINE]

    def choose_shelf(self, word: QWidget, file: MacroFile, copy: bool) -> None:
        """Ask where a macro, or a copy of it, shall go."""
        workspace = self._session.workspace
        pairs = [(name, workspace.layer_title(name)) for name in self._shelves() if name != file.layer]
        if self._preview.running and self._preview.app == file.macro.application:
            pairs.append((DOCUMENT, tr("The document being tried")))
        choose_from(word, pairs, "", self._scheme, lambda layer: self._carry(file, layer, copy))

    def _carry(self, file: MacroFile, layer: str, copy: bool) -> None:
        session = self._session
        if layer == DOCUMENT:
            self._preview.keep(file.id, file.text)
            if not copy:
                session.do(PutMacro(file.layer, file.id, None))
            return
        found = [] if copy else uses(session.workspace, file.layer, file.id)
        before = set(session.workspace.macros)
        if not session.do(CarryMacro(file.layer, file.id, layer, copy)):
            return
        seen = session.workspace
        self._opened(next(iter(set(seen.macros) - before), (layer, file.id)))
        lost = [use for use in found if not _sees(seen, use.layer, file.id)]
        if lost:
            told = tr("{words} cannot see it there any more.", words=lost[0].words)
            session.say(
                tr(
                    "“{name}” is on the shelf {shelf}; {told}",
                    name=file.name,
                    shelf=seen.layer_title(layer),
                    told=told,
                )
            )

    def choose_for_kept(self, row: QWidget, identity: str) -> None:
        """Ask where a macro that is kept in the document shall go."""
        text = self._preview.kept.get(identity)
        if text is None:
            return
        titles = [(name, self._session.workspace.layer_title(name)) for name in self._shelves()]
        pairs = [
            (f"{how} {name}", f"{how.capitalize()} to {title}")
            for how in ("move", "copy")
            for name, title in titles
        ]

        def take(value: str) -> None:
            how, _, layer = value.partition(" ")
            # What comes out of a document is a new macro here, whatever it was called there.
            there = fresh_macro(self._session.workspace, identity)
            if self._session.do(PutMacro(layer, there, text)):
                if how == "move":
                    self._preview.keep(identity, None)
                self._opened((layer, there))

        choose_from(row, pairs, "", self._scheme, take)


def _sees(workspace: Workspace, layer: str, macro: str) -> bool:
    """Whether a layer still sees a macro of that id."""
    return macro in workspace.macros_of(workspace.stack_up_to(layer))
