"""The lock of a workspace: one studio writes, a second one reads and knows who has it.

The lock is the system's own on `.rimecrest/lock` (flock, by the filelock library); no other file stands in
for it where the system has none. Whose it is lies beside it in `.rimecrest/lock.holder`, for people only.
The workspace's folder itself is locked as well: `.rimecrest` may be deleted by somebody who tidies, and a
second studio would find a new, free lock there.
"""

from __future__ import annotations

import contextlib
import fcntl
import getpass
import os
from pathlib import Path

from filelock import FileLock, Timeout

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.words import tr

LOCK, HOLDER = ".rimecrest/lock", ".rimecrest/lock.holder"


class WorkspaceLock:
    """The lock of one folder."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._files = Folder(folder)
        self._open_folder: int | None = None
        """The folder as it is open and locked, where its disk can do that."""
        self._path = folder / LOCK
        self._holder = folder / HOLDER
        self._lock = FileLock(self._path, timeout=0, mode=0o644, fallback_to_soft=False)
        self._file: tuple[int, int] | None = None
        """Device and number of the file that is locked."""
        self.held_by = ""
        """Who has it, when it could not be taken."""

    @property
    def ours(self) -> bool:
        return self._file is not None

    @property
    def taken_at(self) -> float:
        """When it was taken: seconds since the epoch by the disk's own clock; 0 where that is not known."""
        try:
            return self._holder.lstat().st_mtime
        except OSError:
            return 0

    def take(self) -> None:
        """Take it if it is free; `ours` tells whether it was."""
        try:
            self._path.parent.mkdir(exist_ok=True)
            if reason := self._files.why_not_plain(LOCK):
                # Taking it would empty whatever a link leads to.
                self.held_by = tr(
                    "nobody, but {path} cannot be used: {reason}", path=self._path, reason=reason
                )
                return
            if not self._lock_folder():
                self.held_by = self._name() or tr("another Rimecrest")
                return
            self._lock.acquire()
        except Timeout:
            self._let_folder_go()
            self.held_by = self._name() or tr("another Rimecrest")
            return
        except OSError as error:
            self._let_folder_go()
            self.held_by = tr("nobody, but the folder cannot be written ({reason})", reason=error.strerror)
            return
        self._file = self._identity()
        self._sign()

    def check(self) -> None:
        """Make sure that it still locks anybody else out.

        Raises:
            RimecrestError: its file was taken away or put anew, so that another studio may write as well.
        """
        if self._file is not None and self._identity() != self._file and self._open_folder is not None:
            # Somebody tidied `.rimecrest` away. The folder is still ours alone, so the lock can be put anew.
            self._put_anew()
        if self._file is None or self._identity() != self._file:
            raise RimecrestError(
                tr(
                    "{path} was taken away or replaced, so another studio may be writing here.",
                    path=self._path,
                ),
                tr("Open the workspace again; your last step was not done."),
            )

    def release(self) -> None:
        """Give it back."""
        if self._file is not None:
            self._file = None
            self._lock.release()
        self._let_folder_go()

    def _lock_folder(self) -> bool:
        """Lock the folder itself. Returns False where somebody else has.

        A disk that locks no folders is no bar: there the file alone has to do.
        """
        opened = os.open(self._folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            fcntl.flock(opened, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            os.close(opened)
            return False
        except OSError:
            os.close(opened)
            return True
        self._open_folder = opened
        return True

    def _let_folder_go(self) -> None:
        if self._open_folder is not None:
            os.close(self._open_folder)
            self._open_folder = None

    def _put_anew(self) -> None:
        self._lock.release()
        with contextlib.suppress(Timeout, OSError):
            self._path.parent.mkdir(exist_ok=True)
            if not self._files.why_not_plain(LOCK):
                self._lock.acquire()
                self._file = self._identity()
                self._sign()

    def _sign(self) -> None:
        with contextlib.suppress(RimecrestError):
            who = tr(
                "{user} on {machine}, process {process}",
                user=getpass.getuser(),
                machine=os.uname().nodename,
                process=os.getpid(),
            )
            self._files.write(HOLDER, who.encode())

    def _identity(self) -> tuple[int, int] | None:
        try:
            found = os.stat(self._path, follow_symlinks=False)
        except OSError:
            return None
        return found.st_dev, found.st_ino

    def _name(self) -> str:
        try:
            return self._files.text(HOLDER, 4096).strip()
        except BrokenFile:
            return ""
