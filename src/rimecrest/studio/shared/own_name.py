"""The name by which people know the specialist: asked once, kept in their profile."""

from __future__ import annotations

import getpass

from rimecrest.core.errors import BrokenFile
from rimecrest.core.files import Folder
from rimecrest.studio.shared.session import own_folder

NAME = "maker-name.txt"


def own_name() -> str:
    """As it was given last, else the account's."""
    try:
        return Folder(own_folder()).text(NAME, 4096).strip()
    except BrokenFile:
        return getpass.getuser().capitalize()


def keep_own_name(name: str) -> None:
    """Take it from now on. Raises RimecrestError when it cannot be kept."""
    Folder(own_folder()).write(NAME, f"{name}\n".encode())
