"""The places of the studio, in the order of work. A new place is a row here, and its package."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from msgspec import Struct

from rimecrest.core.words import tr
from rimecrest.studio.layout.place import LayoutPlace
from rimecrest.studio.shared.place import Place, Surroundings

# All but the first are loaded after the first paint: a sixth of what the studio loads.


def _macros(surroundings: Surroundings) -> Place:
    from rimecrest.studio.macros.place import MacrosPlace  # noqa: PLC0415  after the first paint

    return MacrosPlace(surroundings)


def _keys(surroundings: Surroundings) -> Place:
    from rimecrest.studio.keys.place import KeysPlace  # noqa: PLC0415  after the first paint

    return KeysPlace(surroundings)


def _rollout(surroundings: Surroundings) -> Place:
    from rimecrest.studio.rollout.place import RolloutPlace  # noqa: PLC0415  after the first paint

    return RolloutPlace(surroundings)


class PlaceRow(Struct, frozen=True):
    """How a place is called, its picture, other words that find it, and how it is made."""

    name: str
    picture: str
    more: str
    make: Callable[[Surroundings], Place]


PLACES = (
    PlaceRow("Macros", "set:format-list-text", tr("steps shelves"), _macros),
    PlaceRow("Layout", "set:application-outline", tr("stage toolbars tabs"), LayoutPlace),
    PlaceRow("Keys", "set:keyboard-outline", tr("bed hotkeys shortcuts"), _keys),
    PlaceRow("Roll-out", "set:hexagon-multiple-outline", tr("release seats map"), _rollout),
)
FIRST = "Layout"
"""The place in which a workspace opens."""


class OpenPlaces(Mapping[str, Place]):
    """The places by name, each made when it is asked for first."""

    def __init__(self, surroundings: Surroundings, made: Callable[[str, Place], None]) -> None:
        """`made` is told of each place, before anybody else has it."""
        self._surroundings = surroundings
        self._tell = made
        self._rows = {row.name: row for row in PLACES}
        self.made: dict[str, Place] = {}
        """Those that there are already."""

    def __getitem__(self, name: str) -> Place:
        if name not in self.made:
            self.made[name] = place = self._rows[name].make(self._surroundings)
            self._tell(name, place)
        return self.made[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._rows)

    def __len__(self) -> int:
        return len(self._rows)

    def make_next(self) -> bool:
        """Make one more; whether there was one left."""
        left = next((name for name in self if name not in self.made), None)
        return left is not None and self[left] is not None
