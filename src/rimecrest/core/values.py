"""Values that never change and are compared by some of their fields only."""

from __future__ import annotations

from typing import Any, ClassVar

from msgspec import Struct


class PartlyCompared(Struct, frozen=True, eq=False):
    """A value that equals another of its kind where all their fields are equal but those in `aside`."""

    aside: ClassVar[frozenset[str]]

    def _compared(self) -> tuple[Any, ...]:
        return tuple(getattr(self, name) for name in self.__struct_fields__ if name not in self.aside)

    def __eq__(self, other: object) -> bool:
        if type(self) is not type(other):
            return NotImplemented
        return self is other or self._compared() == other._compared()

    def __ne__(self, other: object) -> bool:
        return not self == other  # a Struct's own would not ask `__eq__`

    def __hash__(self) -> int:
        return hash(self._compared())
