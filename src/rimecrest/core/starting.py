"""What a program leaves alone while it starts.

No search for garbage: nearly all that is made then stays for as long as it runs. No search for plug-ins of
pydantic through all that is installed: records have none. And what libraries name when they are loaded, but
use for nothing that we ask of them, is loaded by the first who uses it.
"""

from __future__ import annotations

import gc
import importlib
import os
import sys
from types import ModuleType
from typing import Any

_NO_PLUGINS = ("PYDANTIC_DISABLE_PLUGINS", "__all__")
_NAMED_ONLY: dict[str, tuple[str, ...]] = {
    # Needs the standard library's mail and archives: pydantic would search for plug-ins with it.
    "importlib.metadata": ("entry_points",),
    # Needs OpenSSL: pydantic compares secret fields with it.
    "secrets": (),
}
"""Module → the functions that are imported from it by name."""


class _Later(ModuleType):
    """Stands for a module until it is really used."""

    def __init__(self, name: str, functions: tuple[str, ...]) -> None:
        super().__init__(name)
        for function in functions:
            setattr(self, function, self._calling(function))

    def _calling(self, function: str) -> Any:
        def call(*args: Any, **settings: Any) -> Any:
            return getattr(_in_place_of(self), function)(*args, **settings)

        return call

    def __getattr__(self, name: str) -> Any:
        if name == "__path__":
            raise AttributeError(name)  # what imports a name looks for this as well
        return getattr(_in_place_of(self), name)


def _in_place_of(stand_in: ModuleType) -> ModuleType:
    name = stand_in.__name__
    if sys.modules.get(name) is stand_in:
        del sys.modules[name]
    return importlib.import_module(name)


def hold() -> None:
    """A program with a window begins to load."""
    gc.disable()
    os.environ.setdefault(*_NO_PLUGINS)
    for name, functions in _NAMED_ONLY.items():
        if name not in sys.modules:
            sys.modules[name] = _Later(name, functions)
            package, _, inner = name.rpartition(".")
            if package:
                # Where it is found as a part of its package.
                setattr(sys.modules[package], inner, sys.modules[name])


def release() -> None:
    """It is loaded: from now on garbage is searched for, but not among what there is already."""
    if not gc.isenabled():
        gc.freeze()
        gc.enable()
    # The programs that it starts are not ours to tell.
    if os.environ.get(_NO_PLUGINS[0]) == _NO_PLUGINS[1]:
        del os.environ[_NO_PLUGINS[0]]
