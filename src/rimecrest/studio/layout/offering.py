"""What is typed at the caret: the list of candidates under it, and the chosen one previewed on the stage."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import PurePosixPath

from PyQt6.QtCore import QObject, QPoint, Qt, pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.core.catalogue.arguments import ArgumentType, address_words
from rimecrest.core.catalogue.catalogue import Command, Effect
from rimecrest.core.search import Match, Search
from rimecrest.core.words import tr
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.installed_programs import InstalledProgram, installed_programs
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout import gestures
from rimecrest.studio.layout.overlay import Overlay
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.shared.candidates import Candidates
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.insertion_points import InsertionPoint

LETTERS, MOST_PROGRAMS = 3, 4
"""Letters from which installed applications are offered, and how many of them at most."""


def _only_opens(command: Command) -> bool:
    """Whether a command opens something, and does nothing else."""
    opens, may = {Effect.OPENS_LINKS, Effect.OPENS_FILES}, set(command.effects)
    return bool(may & opens) and may <= {*opens, Effect.LEAVES}


class Offering(QObject):
    """Searches what is typed, and shows what it would come to.

    Signals:
        taken(entry): a candidate was chosen.
    """

    taken = pyqtSignal(Match)

    def __init__(
        self,
        overlay: Overlay,
        session: Session,
        scheme: Scheme,
        draw: Callable[[Workspace], None],
        over: QWidget,
    ) -> None:
        """`draw` draws a workspace on the stage; the list lies over `over`."""
        super().__init__(over)
        self._overlay = overlay
        self._session = session
        self._draw = draw
        self._over = over
        self._search: Search | None = None
        self._programs: list[InstalledProgram] | None = None
        self._preview: Workspace | None = None
        self._previewing: tuple[Match, InsertionPoint] | None = None
        self.candidates = Candidates(scheme, over)
        self.candidates.taken.connect(self.taken)
        self.candidates.moved.connect(self._show_preview)
        overlay.typing.connect(self._typed)
        overlay.all_wanted.connect(self._offer_all)
        overlay.candidate.connect(self._key)

    def forget(self) -> None:
        """The workspace is another one: what can be put, and what was previewed, is to be found anew."""
        self._search = self._preview = None
        self._overlay.shown.previewed = set()

    def _searching(self) -> Search:
        if self._search is None:
            session = self._session
            stack = session.aim.stack(session.workspace)
            self._search = Search(
                target_entries(session.workspace, stack, session.aim.app, session.outcome())
            )
        return self._search

    def _typed(self, text: str) -> None:
        if not text:
            self.close()
            self.end_preview()
            return
        found = self._opening(text) or [*self._searching().having(text), *self._starters(text)]
        if found:
            self._offer(text, found)
            return
        title = self._session.workspace.catalogue(self._session.aim.app).title
        self.candidates.nothing = tr(
            "{title} has no command like that, and no macro is called so.", title=title
        )
        nearest = self._searching().nearest(text)
        self._offer(
            text, nearest, tr("{title} has no command like that; nearest:", title=title) if nearest else ""
        )

    def _opening(self, text: str) -> list[Match]:
        """What opens an address, or the companions whose paths begin so, where one was written."""
        session = self._session
        if words := address_words(text):
            return self._openers(ArgumentType.ADDRESS, text, words)
        paths = session.workspace.companion_paths if "/" in text else ()
        return [
            match
            for path in sorted(paths)
            if path.startswith(text)
            for match in self._openers(ArgumentType.PATH, path, PurePosixPath(path).stem)
        ]

    def _starters(self, text: str) -> list[Match]:
        """What starts the installed applications that are called so; a few letters name too many."""
        run = f"{self._session.aim.app}:start-application"
        command = self._session.workspace.catalogue(self._session.aim.app).by_id.get(run)
        words = text.lower().split()
        if command is None or len(text.strip()) < LETTERS:
            return []
        if self._programs is None:
            self._programs = list(installed_programs().values())
        found = [program for program in self._programs if all(w in program.name.lower() for w in words)]
        hint = tr("starts this application")
        return [
            Match("command", run, program.name, hint, text=program.name, args=(("application", program.id),))
            for program in found[:MOST_PROGRAMS]
        ]

    def _openers(self, kind: ArgumentType, value: str, words: str) -> list[Match]:
        """The commands that do nothing but open what is named first, with that name."""
        catalogue = self._session.workspace.catalogue(self._session.aim.app)
        return [
            Match("command", command.id, command.name, value, text=words, args=((argument.name, value),))
            for command in catalogue.commands
            for argument in command.arguments[:1]
            if argument.type is kind and _only_opens(command)
        ]

    def _offer_all(self) -> None:
        """All that can be put at the caret, from A to Z."""
        self._offer("", self._searching().all(), tr("Everything that can be put here, A to Z:"))

    def _offer(self, text: str, rows: list[Match], caption: str = "") -> None:
        slot = self._overlay.caret.slot()
        if slot is None:
            return
        self.candidates.row = 0
        point = QPoint(slot.caret.center().x() + 6, slot.caret.bottom() + 6)
        self.candidates.offer(text, rows, self._overlay.mapTo(self._over, point), caption=caption)
        self._overlay.writing.listing = True
        self._show_preview()

    def close(self) -> None:
        """Close the list."""
        self.candidates.hide()
        self._overlay.writing.listing = False

    def _show_preview(self) -> None:
        entry, slot = self.candidates.current(), self._overlay.caret.slot()
        if entry is None or slot is None:
            self.end_preview()
            return
        if (entry, slot) == self._previewing:
            return
        self._previewing = entry, slot
        item = gestures.item_for(self._session, entry.id, entry.args, entry.text)
        preview = self._session.preview(gestures.put(self._session, slot, [item]))
        if preview is not None:
            self._preview = preview
            self._overlay.shown.previewed = {f"{self._session.aim.layer}:{item.id}"}
            self._draw(preview)

    def take_over(self) -> None:
        """What is previewed is about to be put: it draws the same, and is drawn once."""
        self.close()
        self._previewing = None

    def end_preview(self) -> None:
        """Show the workspace as it is."""
        self._previewing = None
        if self._preview is not None:
            self._preview = None
            self._overlay.shown.previewed = set()
            self._draw(self._session.workspace)

    def _key(self, key: int) -> None:
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.candidates.move_row(1 if key == Qt.Key.Key_Down else -1)
        elif (entry := self.candidates.current()) is not None:
            self.taken.emit(entry)
