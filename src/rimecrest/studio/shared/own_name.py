"""The name by which people know the specialist: asked once, kept in their profile."""

from __future__ import annotations

import getpass
from pathlib import Path

from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.studio.shared.session import own_folder


def own_name() -> str:
    """As it was given last, else the account's."""
    try:
        return _file().read_text("utf-8").strip()
    except (OSError, UnicodeDecodeError):
        return getpass.getuser().capitalize()


def keep_own_name(name: str) -> None:
    """Take it from now on. Raises RimecrestError when it cannot be kept."""
    write_atomically(_file(), f"{name}\n".encode())


def _file() -> Path:
    return own_folder() / "maker-name.txt"
