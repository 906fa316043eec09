"""What a program leaves alone while it starts.

No search for garbage: nearly all that is made then stays for as long as it runs. No search for plug-ins of
pydantic through all that is installed: records have none.
"""

from __future__ import annotations

import gc
import os

_NO_PLUGINS = ("PYDANTIC_DISABLE_PLUGINS", "__all__")


def hold() -> None:
    """A program with a window begins to load."""
    gc.disable()
    os.environ.setdefault(*_NO_PLUGINS)


def release() -> None:
    """It is loaded: from now on garbage is searched for, but not among what there is already."""
    if not gc.isenabled():
        gc.freeze()
        gc.enable()
    # The programs that it starts are not ours to tell.
    if os.environ.get(_NO_PLUGINS[0]) == _NO_PLUGINS[1]:
        del os.environ[_NO_PLUGINS[0]]
