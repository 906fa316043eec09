"""No search for garbage while a program starts: nearly all that is made then stays for as long as it runs."""

from __future__ import annotations

import gc


def hold() -> None:
    """A program with a window begins to load."""
    gc.disable()


def release() -> None:
    """It is loaded: from now on garbage is searched for, but not among what there is already."""
    if not gc.isenabled():
        gc.freeze()
        gc.enable()
