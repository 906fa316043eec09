"""Choosing a file for a step or an item: from the companions, the open documents, or the disk.

What no colleague can reach is copied into companions with one more row; it is never done unasked.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.check import unreachable
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.core.workspace.bring_in import COMPANIONS, BringIn
from rimecrest.shell.file_dialogs import ask_open
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.choice_list import ChoiceList
from rimecrest.studio.shared.open_files import open_files
from rimecrest.studio.shared.session import Session

Commit = Callable[..., object]
"""Takes the path to be written, and the edits that have to come before it."""


class FileChoice:
    """The rows to choose from, and what comes of them. See `Commit`."""

    def __init__(self, session: Session, scheme: Scheme, parent: QWidget) -> None:
        self._session = session
        self._scheme = scheme
        self._parent = parent

    def choose(
        self,
        app: str,
        now: str,
        corner: QPoint,
        commit: Commit,
        write: Callable[[], None],
        left: Callable[[], None],
    ) -> ChoiceList:
        """Open the list.

        Args:
            now: the path that stands there.
            corner: where on the screen.
            write: to write or paste a path instead.
            left: it was closed, whether something was chosen or not.
        """
        menu = ChoiceList(self._scheme, self._parent)
        if now and unreachable(now):
            menu.add(self._copy_words(now), partial(self._bring_in, now, commit))
            menu.addSeparator()
        menu.add(tr("Write or paste a path …"), write, keys="Ctrl+V")
        menu.pasted = lambda text: self.take(text, corner, commit)
        menu.add(tr("Choose a file …"), partial(self._browse, now, corner, commit))
        companions = sorted(self._session.workspace.companion_paths)
        opened = [path for path in open_files(app) if path != now]
        if companions:
            menu.addSeparator()
        for path in companions:
            words = tr("{name}, from companions", name=path.removeprefix(COMPANIONS))
            menu.add(words, partial(commit, path), now=path == now)
        if opened:
            menu.addSeparator()
        for path in opened:
            words = tr("{name}, open in {title}", name=Path(path).name, title=self._title(app))
            menu.add(words, partial(self.take, path, corner, commit))
        menu.aboutToHide.connect(left)
        menu.show_at(corner)
        return menu

    def take(self, written: str, corner: QPoint, commit: Commit) -> None:
        """Take a path as it was chosen, dropped or pasted; ask where colleagues could not reach it."""
        path = str(clean_path(written)) if written.strip() else ""
        if not unreachable(path) or not Path(path).is_file():
            commit(path)
            if unreachable(written):
                self._session.say(
                    tr("No colleague can reach “{path}”. Lay the file into companions/.", path=path)
                )
            elif path != written:
                self._session.say(tr("The path was cleaned: {path}", path=path))
            return
        menu = ChoiceList(self._scheme, self._parent)
        menu.add(self._copy_words(path), partial(self._bring_in, path, commit), now=True)
        menu.add(tr("Leave it there: it opens on this seat only"), partial(commit, path))
        menu.show_at(corner)

    def _copy_words(self, path: str) -> str:
        return tr("Copy {name} into companions, for all seats", name=clean_path(path).name)

    def _bring_in(self, path: str, commit: Commit) -> None:
        try:
            made = BringIn.of(self._session.workspace, clean_path(path))
        except RimecrestError as error:
            self._session.say(str(error))
            return
        commit(made.place, made)

    def _browse(self, now: str, corner: QPoint, commit: Commit) -> None:
        begin = str(clean_path(now).parent) if now and not now.startswith(COMPANIONS) else ""
        name = ask_open(self._parent, tr("The file that is opened"), begin)
        if name:
            self.take(name, corner, commit)

    def _title(self, app: str) -> str:
        known = self._session.workspace.catalogues.get(app)
        return known.title if known is not None else app.capitalize()
