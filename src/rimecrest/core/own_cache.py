"""Where a program keeps what it could work out again, from one start to the next."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from platformdirs import user_cache_path


def own_cache() -> Path | None:
    """A folder that nobody else can write into or read (XDG base directories, `XDG_CACHE_HOME`).

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
    return folder if ours and not stat.S_IMODE(found.st_mode) & 0o077 else None
