"""Names of a package that are imported when they are first asked for (PEP 562).

A program that wants one function of a package does not load the rest of it: an application starts without the
macro language's grammar until a macro is there, and without what edits a workspace.
"""

from __future__ import annotations

import sys
from collections.abc import Callable, Mapping
from importlib import import_module
from typing import Any


class LateModule:
    """A module that is imported when something of it is first asked for."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:
        return getattr(import_module(self._name), name)


def late_names(package: str, table: Mapping[str, str]) -> Callable[[str], Any]:
    """The `__getattr__` of a package.

    Args:
        table: module of the package → the names that it gives, with blanks between them.
    """
    where = {name: module for module, names in table.items() for name in names.split()}

    def late(name: str) -> Any:
        if name not in where:
            raise AttributeError(f"module {package!r} has no attribute {name!r}")
        found = getattr(import_module(f"{package}.{where[name]}"), name)
        setattr(sys.modules[package], name, found)
        return found

    return late
