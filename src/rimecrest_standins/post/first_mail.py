"""The first messages in a new mailbox: none, or a copy of the maildir named in the environment."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

FIRST_MAIL = "RIMECREST_FIRST_MAIL"
"""The environment variable, which the demo sets."""


def begin_mailbox(folder: Path) -> None:
    """Make the folder of a mailbox. Raises OSError where that cannot be."""
    first = os.environ.get(FIRST_MAIL)
    if first and Path(first).is_dir():
        shutil.copytree(first, folder)
