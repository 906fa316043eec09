"""A file layer that fails: at a chosen operation on a folder the program dies, or the disk refuses.

Python tells its audit hooks of every file that is opened, renamed, removed, made or cut before that is done;
a hook that raises stops it. So the code under test runs unchanged, and nothing that it calls can slip by.
"""

from __future__ import annotations

import contextlib
import errno
import os
import sys
from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import Enum
from pathlib import Path
from typing import Any

TOLD: dict[str, tuple[tuple[int, int | None], ...]] = {
    "open": ((0, None),),
    "os.chmod": ((0, 2),),
    "os.fsync": ((0, None),),
    "os.mkdir": ((0, 2),),
    "os.remove": ((0, 1),),
    "os.rename": ((0, 2), (1, 3)),
    "os.rmdir": ((0, 1),),
    "os.truncate": ((0, None),),
}
"""Event → which of its arguments are paths, each with the argument that has the open folder it begins at."""


class Killed(BaseException):
    """The process ends here: whatever would clean up after it is not carried out either."""


class Fault(Enum):
    KILLED = "killed"
    REFUSED = "refused once"
    FULL = "full from there on"


@dataclass
class Failing:
    """Operations on a folder, counted, and what happens at one of them.

    Args:
        folder: operations outside of it go on as ever.
        at: the number of the first operation that fails, from 0; -1 for none.
    """

    folder: Path
    fault: Fault
    at: int = -1
    done: int = 0
    trail: list[str] = field(default_factory=list)

    def meet(self, event: str, arguments: tuple[Any, ...]) -> None:
        paths = [_whole(arguments, *where) for where in TOLD[event]]
        if not any(map(self._within, paths)) or _only_reads(event, arguments):
            return
        number, self.done = self.done, self.done + 1
        self.trail.append(f"{event} {paths[0]}")
        if self.at < 0 or number < self.at or (self.fault is Fault.REFUSED and number > self.at):
            return
        if self.fault is Fault.KILLED:
            raise Killed
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    def _within(self, path: Path | None) -> bool:
        return path is not None and path.is_relative_to(self.folder)


def _whole(arguments: tuple[Any, ...], at: int, begins: int | None) -> Path | None:
    """The whole path of an argument: a handle's, or one that begins at an open folder."""
    path = arguments[at]
    if isinstance(path, int):
        return Path(os.readlink(f"/proc/self/fd/{path}"))
    if not isinstance(path, str | os.PathLike):
        return None
    folder = arguments[begins] if begins is not None and begins < len(arguments) else -1
    return Path(os.readlink(f"/proc/self/fd/{folder}")) / path if folder >= 0 else Path(path)


def _only_reads(event: str, arguments: tuple[Any, ...]) -> bool:
    return event == "open" and not arguments[2] & (os.O_WRONLY | os.O_RDWR | os.O_CREAT)


_now: list[Failing] = []


def _hook(event: str, arguments: tuple[Any, ...]) -> None:
    if _now and event in TOLD:
        _now[-1].meet(event, arguments)


sys.addaudithook(_hook)
_fsync = os.fsync


def _told_fsync(handle: int) -> None:
    """Flushing a file, of which Python tells no hook; a full disk is often noticed only there."""
    _hook("os.fsync", (handle,))
    _fsync(handle)


_open = os.open


def _told_open(path: Any, flags: int, mode: int = 0o777, *, dir_fd: int | None = None) -> int:
    """Opening a file from an open folder: Python's hook does not tell from which."""
    if dir_fd is not None:
        _hook("open", (f"{os.readlink(f'/proc/self/fd/{dir_fd}')}/{path}", None, flags))
    return _open(path, flags, mode, dir_fd=dir_fd)


@contextlib.contextmanager
def failing(folder: Path, fault: Fault, at: int = -1) -> Iterator[Failing]:
    """Let the operations on a folder fail from a number on, as long as this lasts."""
    layer = Failing(folder, fault, at)
    _now.append(layer)
    os.fsync, os.open = _told_fsync, _told_open
    try:
        yield layer
    finally:
        os.fsync, os.open = _fsync, _open
        _now.pop()
