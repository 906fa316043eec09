"""Files that are there whole or not at all: write beside, flush, rename."""

from __future__ import annotations

import contextlib
import os
import stat
from collections.abc import Iterable
from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

BESIDE = ".being-written"
"""How the name of a file ends that is being written."""
LEFT_BEHIND = 60.0
"""Seconds after which such a file is a dead program's: writing one takes a moment, even over a network."""


def write_atomically(path: Path, content: bytes, mode: int = 0o644) -> None:
    """Replace or make a file; it never has other rights than `mode`, or the owner's alone.

    Raises:
        RimecrestError: the folder cannot be written, with the system's reason.
    """
    import tempfile  # noqa: PLC0415  it needs every kind of archive, which no start has a use for

    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, beside = tempfile.mkstemp(dir=path.parent, prefix=".", suffix=BESIDE)
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(content)
                file.flush()
                os.fsync(file.fileno())
            os.chmod(beside, mode)
            os.replace(beside, path)
        except BaseException:
            Path(beside).unlink(missing_ok=True)
            raise
    except OSError as error:
        raise cannot_write(path, error) from error


def tidy(folders: Iterable[Path], now: float) -> None:
    """Take away what programs that were killed while they wrote have left in some folders.

    Args:
        now: seconds since the epoch, by the clock of the disk they lie on.
    """
    for folder in folders:
        for path in folder.glob(f".*{BESIDE}"):
            with contextlib.suppress(OSError):
                found = path.lstat()
                if stat.S_ISREG(found.st_mode) and now - found.st_mtime > LEFT_BEHIND:
                    path.unlink()


def remove(path: Path) -> None:
    """Take a file away; one that is not there is no fault."""
    try:
        path.unlink(missing_ok=True)
    except OSError as error:
        raise cannot_write(path, error) from error


def cannot_write(path: Path, error: OSError) -> RimecrestError:
    return RimecrestError(
        tr("{path} cannot be written: {reason}.", path=path, reason=error.strerror or error),
        tr("Check the folder’s rights and the room on the disk; what was there is still there."),
    )
