"""What was worked out of things that never change, found again by which things they are."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

Value = TypeVar("Value")


class Remembered(Generic[Value]):
    """Values by the things that they were worked out of, compared by `is`: a long record is not gone through.

    The things are kept with their value, so that nothing else has their `id` meanwhile. Of more than `most`
    values the oldest go.
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._known: dict[tuple[Hashable, ...], tuple[tuple[object, ...], Value]] = {}

    def of(self, things: tuple[object, ...], how: tuple[Hashable, ...], make: Callable[[], Value]) -> Value:
        """The value for these things and circumstances, made when it is asked for first."""
        key = (*map(id, things), *how)
        known = self._known.get(key)
        if known is None:
            while len(self._known) >= self._most:
                del self._known[next(iter(self._known))]
            known = self._known[key] = (things, make())
        return known[1]
