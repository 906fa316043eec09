"""Whoever holds a workspace open: the lock, saving, and noticing that another program wrote into it."""

from __future__ import annotations

import contextlib
import hashlib
import os
from pathlib import Path

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import Folder, cannot_write
from rimecrest.core.identities import MacroId
from rimecrest.core.words import tr
from rimecrest.core.workspace.folder import open_workspace, read_workspace
from rimecrest.core.workspace.journal import Journal
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.lock import WorkspaceLock
from rimecrest.core.workspace.parts import MACROS, PARTS, changed_files
from rimecrest.core.workspace.workspace import Workspace


class ChangedMeanwhile(RimecrestError):
    """Another program wrote a file since we read it; ours was not written over it."""

    def __init__(self, name: str) -> None:
        super().__init__(
            tr("Another program changed {name} meanwhile; your last step was not done.", name=name),
            tr("The file was read again: look at it, then do the step once more."),
        )


class Keeper:
    """Saves the edits of one studio into one folder.

    The first to open a folder holds its lock; a second one is read-only, and `held_by` says who has it.
    """

    def __init__(self, folder: Path, mine: Path | None = None) -> None:
        """`mine` is the folder of the specialist's own macros, outside of the workspace."""
        self.folder = folder
        self._mine = Folder(mine) if mine is not None else None
        self._lock = WorkspaceLock(folder)
        self._journal = Journal(folder)
        self._digests: dict[str, str] = {}

    @property
    def read_only(self) -> bool:
        return not self._lock.ours

    @property
    def held_by(self) -> str:
        """Who has it, where it is read-only here."""
        return self._lock.held_by

    def open(self, complete: bool | None = None) -> Workspace:
        """Take the lock if it is free, then read the folder, as `open_workspace`.

        Raises:
            RimecrestError: as there; the lock is free again.
        """
        try:
            return self._open(complete)
        except RimecrestError:
            self._lock.release()
            raise

    def _open(self, complete: bool | None) -> Workspace:
        if (self.folder / "workspace.json").is_file():  # else reading says what is wrong
            self._lock.take()
        if self.read_only:
            workspace = read_workspace(self.folder)
        else:
            folders = {path for part in PARTS for path in part.folders(self.folder)}
            for within in (".rimecrest", *(path.relative_to(self.folder).as_posix() for path in folders)):
                Folder(self.folder).tidy(self._lock.taken_at, within)
            workspace = open_workspace(self.folder, complete)
        self._digests = self._on_disk()
        return self._with_mine(workspace)

    def read(self) -> Workspace:
        """The workspace as it lies there now. Raises RimecrestError."""
        return self._with_mine(read_workspace(self.folder))

    def _with_mine(self, workspace: Workspace) -> Workspace:
        if self._mine is not None:
            for path in sorted(self._mine.path.glob("*.steps")):
                with contextlib.suppress(UnicodeDecodeError, RimecrestError):
                    text = self._mine.read(path.name).decode()
                    workspace = workspace.with_macro(MINE, MacroId(path.stem), text)
        return workspace

    def close(self) -> None:
        """Give the lock back."""
        self._lock.release()

    def save(self, label: str, before: Workspace, after: Workspace) -> dict[str, bytes | None]:
        """Save an edit, whole or not at all.

        Returns:
            What was written in the folder: path → content; None: the file went.

        Raises:
            ChangedMeanwhile: another program wrote one of the files since we last read or wrote it.
            RimecrestError: read-only, the lock is no longer ours, or the folder cannot be written.
        """
        if self.read_only:
            raise RimecrestError(
                tr("This workspace is open read-only: {held_by} has it.", held_by=self.held_by),
                tr("Close it there, then open it here again."),
            )
        if not self.folder.is_dir():
            raise cannot_write(self.folder, FileNotFoundError(2, tr("the folder is gone")))
        self._lock.check()
        files = changed_files(before, after)
        mine = MACROS.place.replace("*", MINE, 1).partition("*")[0]
        own = {name: files.pop(name) for name in list(files) if name.startswith(mine)}
        for name in files:
            if self._digest(name) != self._digests.get(name):
                raise ChangedMeanwhile(name)
        # A macro that moves between the shelves is in both for a moment, never in none.
        self._save_mine({name: content for name, content in own.items() if content is not None})
        if files:
            self._journal.save(label, files)
        self._save_mine({name: content for name, content in own.items() if content is None})
        for name in files:
            self._note(name)
        return files

    def forget_journal(self) -> None:
        """Drop what the journal still holds of earlier saves."""
        self._journal.forget()

    def _save_mine(self, files: dict[str, bytes | None]) -> None:
        if files and self._mine is None:
            raise RimecrestError(tr("There is no shelf of your own here."), tr("Put it on a shared one."))
        for name, content in files.items():
            assert self._mine is not None
            file = Path(name).name
            self._mine.remove(file) if content is None else self._mine.write(file, content)

    def _note(self, name: str) -> None:
        digest = self._digest(name)
        if digest is None:
            self._digests.pop(name, None)
        else:
            self._digests[name] = digest

    def foreign_changes(self) -> list[str]:
        """Files that another program wrote, made or took away since we last read or wrote them."""
        now = self._on_disk()
        names = {**self._digests, **now}
        changed = [name for name in names if self._digests.get(name) != now.get(name)]
        self._digests = now
        return sorted(changed)

    def _on_disk(self) -> dict[str, str]:
        names = [
            path.relative_to(self.folder).as_posix() for part in PARTS for path in part.files(self.folder)
        ]
        return {name: digest for name in names if (digest := self._digest(name)) is not None}

    def _digest(self, name: str) -> str | None:
        """What tells a file's content apart; None where there is none."""
        path = self.folder / name
        if not os.path.lexists(path):
            return None
        try:
            return hashlib.sha256(Folder(self.folder).read(name)).hexdigest()
        except BrokenFile as broken:
            return broken.sentence
