"""Interfaces on QObjects that hold whoever implements them.

A QObject's own metaclass knows nothing of abstract methods: a class that lacks some could be made all the
same.
"""

from __future__ import annotations

from abc import ABCMeta
from typing import Any

from PyQt6.QtCore import QObject

_QtMeta: Any = type(QObject)


class AbstractQObject(_QtMeta, ABCMeta):  # type: ignore[misc]  # the toolkit's metaclass has no type
    """Metaclass: nothing is made of a class that has abstract methods left."""

    def __call__(cls, *args: Any, **kwargs: Any) -> Any:
        if left := getattr(cls, "__abstractmethods__", ()):
            raise TypeError(f"{cls.__name__} does not say {', '.join(sorted(left))}")
        return super().__call__(*args, **kwargs)
