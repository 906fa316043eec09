"""Where a program keeps what it could work out again, from one start to the next."""

from __future__ import annotations

import contextlib
import os
import shutil
import stat
from pathlib import Path

from platformdirs import user_cache_path


def own_cache() -> Path | None:
    """A folder that nobody else can write into, read or replace (XDG base directories, `XDG_CACHE_HOME`).

    What lies in it may be taken as it is, also what would do harm if somebody else had put it there.

    Returns:
        None where there is no such folder, and none can be made.
    """
    folder = user_cache_path("rimecrest")
    try:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        found = folder.lstat()
    except OSError:
        return None
    ours = stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid()
    if not ours or stat.S_IMODE(found.st_mode) & 0o077 or not all(map(_stays, folder.resolve().parents)):
        return None
    return folder


def _stays(folder: Path) -> bool:
    """Whether nobody else can put another folder in place of one that lies in this folder."""
    found = folder.stat()
    others_write = stat.S_IMODE(found.st_mode) & 0o022 and not found.st_mode & stat.S_ISVTX
    return found.st_uid in (0, os.getuid()) and not others_write


def kept_as(name: str, version: str) -> Path | None:
    """Where something is kept that hangs on a version; it may not be there yet.

    When this version is new here, what others have kept under that name goes, but for the last of them: two
    that are used by turns do not begin anew each time.

    Returns:
        None where nothing can be kept (`own_cache`).
    """
    folder = own_cache()
    if folder is None:
        return None
    path = folder / f"{name}-{version}"
    if not path.exists():
        # Another program may clean up at the same time.
        with contextlib.suppress(OSError):
            others = sorted(folder.glob(f"{name}-*"), key=lambda other: other.lstat().st_mtime)
            for old in others[:-1]:
                _remove(old)
    return path


def _remove(path: Path) -> None:
    if path.is_dir() and not path.is_symlink():
        shutil.rmtree(path)
    else:
        path.unlink()
