"""What a program leaves alone while it starts.

No search for garbage: nearly all that is made then stays for as long as it runs. No search for plug-ins of
pydantic through all that is installed: records have none. And what would search, `importlib.metadata`, which
needs the whole of the standard library's mail and archives, is loaded by the first who calls it, not by the
first who names it (pydantic does).
"""

from __future__ import annotations

import gc
import importlib
import os
import sys
from types import ModuleType
from typing import Any

_NO_PLUGINS = ("PYDANTIC_DISABLE_PLUGINS", "__all__")
_SEARCH = "importlib.metadata"


class _Later(ModuleType):
    """Stands for `importlib.metadata` until it is really needed."""

    def entry_points(self, **which: Any) -> Any:
        return _in_place_of(self).entry_points(**which)

    def __getattr__(self, name: str) -> Any:
        if name == "__path__":
            raise AttributeError(name)  # what imports a name looks for this as well
        return getattr(_in_place_of(self), name)


def _in_place_of(stand_in: ModuleType) -> Any:
    if sys.modules.get(_SEARCH) is stand_in:
        del sys.modules[_SEARCH]
    return importlib.import_module(_SEARCH)


def hold() -> None:
    """A program with a window begins to load."""
    gc.disable()
    os.environ.setdefault(*_NO_PLUGINS)
    if _SEARCH not in sys.modules:
        # Where it is found by its whole name, and where it is found as a part of its package.
        sys.modules[_SEARCH] = importlib.__dict__["metadata"] = _Later(_SEARCH)


def release() -> None:
    """It is loaded: from now on garbage is searched for, but not among what there is already."""
    if not gc.isenabled():
        gc.freeze()
        gc.enable()
    # The programs that it starts are not ours to tell.
    if os.environ.get(_NO_PLUGINS[0]) == _NO_PLUGINS[1]:
        del os.environ[_NO_PLUGINS[0]]
