"""Working in a folder while nobody else does: the system's own lock (flock) on a file in it."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

from filelock import FileLock, Timeout

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder, NotPlain, cannot_write


@contextlib.contextmanager
def alone_in(folder: Path, lock: str, patience: float, busy: RimecrestError) -> Iterator[None]:
    """While this lasts nobody else who asks for the same lock works there; the folder is made.

    Args:
        lock: the name of the file that is locked.
        patience: seconds to wait for whoever has it.
        busy: what is raised when they still have it then.

    Raises:
        RimecrestError: `busy`, or the folder cannot be written.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if reason := Folder(folder).why_not_plain(lock):
            raise NotPlain(reason)
        with FileLock(folder / lock, timeout=patience, mode=0o644, fallback_to_soft=False):
            yield
    except Timeout:
        raise busy from None
    except OSError as error:
        raise cannot_write(folder, error) from error
