"""Reading only what is a plain file of the folder itself: never through a link, never a pipe or device."""

from __future__ import annotations

import stat
from pathlib import Path

from rimecrest.core.errors import BrokenFile
from rimecrest.core.words import tr


def why_not_plain(path: Path, folder: Path) -> str:
    """Why a file of a folder is not read, as the rest of a sentence; empty for a plain one, or none."""
    here = folder
    for name in path.relative_to(folder).parts:
        here = here / name
        if here.is_symlink():
            return tr("it is reached through a link, and links are not followed")
    try:
        mode = path.lstat().st_mode
    except OSError:
        return ""
    return "" if stat.S_ISREG(mode) else tr("it is no plain file")


def read_plain(path: Path, folder: Path, name: str) -> bytes:
    """The content of a plain file.

    Raises:
        BrokenFile: it is none, or cannot be read.
    """
    if reason := why_not_plain(path, folder):
        raise BrokenFile(name, reason)
    try:
        return path.read_bytes()
    except OSError as error:
        raise BrokenFile(name, tr("it cannot be read ({reason})", reason=error.strerror)) from None
