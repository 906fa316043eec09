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

TOLD = {
    "open": 1,
    "os.chmod": 1,
    "os.fsync": 1,
    "os.mkdir": 1,
    "os.remove": 1,
    "os.rename": 2,
    "os.rmdir": 1,
    "os.truncate": 1,
}
"""Event → how many of its first arguments are paths."""


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
        if not any(self._within(path) for path in arguments[: TOLD[event]]) or _only_reads(event, arguments):
            return
        number, self.done = self.done, self.done + 1
        self.trail.append(f"{event} {arguments[0]}")
        if self.at < 0 or number < self.at or (self.fault is Fault.REFUSED and number > self.at):
            return
        if self.fault is Fault.KILLED:
            raise Killed
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    def _within(self, path: object) -> bool:
        return isinstance(path, str | os.PathLike) and Path(path).is_relative_to(self.folder)


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
    _hook("os.fsync", (os.readlink(f"/proc/self/fd/{handle}"),))
    _fsync(handle)


@contextlib.contextmanager
def failing(folder: Path, fault: Fault, at: int = -1) -> Iterator[Failing]:
    """Let the operations on a folder fail from a number on, as long as this lasts."""
    layer = Failing(folder, fault, at)
    _now.append(layer)
    os.fsync = _told_fsync
    try:
        yield layer
    finally:
        os.fsync = _fsync
        _now.pop()
