"""Which seats have which layers together, so that only what really meets is held against one another."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cached_property, lru_cache

from rimecrest.core.keys.desktops.profiles import known_profiles
from rimecrest.core.keys.keyboards.national import known_keyboards
from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.layout.seen import BUILT_IN
from rimecrest.core.workspace.workspace import Workspace

UNSAID = "?"
"""The keyboard or desktop of a seat of which people.csv says nothing, or what nobody knows: it may be any of
those that are known."""


def checked_as(traits: Traits) -> Traits:
    """The traits of a seat as the checks take them: `UNSAID` for a keyboard or desktop that is not named."""
    return traits._replace(keyboard=traits.keyboard or UNSAID, desktop=traits.desktop or UNSAID)


def _gathered_as(traits: Traits, known: frozenset[str]) -> Traits:
    """The same, with what nobody knows as `UNSAID`: thousands of unknown names are one kind of seat."""
    said = checked_as(traits)
    return said._replace(
        **{
            kind: UNSAID
            for kind in ("keyboard", "desktop", "input", "reader")
            if getattr(said, kind) not in known
        }
    )


class Audience:
    """The seats of a workspace, gathered by stack and traits."""

    def __init__(self, workspace: Workspace) -> None:
        self._groups: dict[tuple[frozenset[str], Traits], list[str]] = {}
        known = frozenset(("", *known_keyboards(), *known_profiles(), *workspace.settings.reserved))
        stacks: dict[tuple[str, ...], frozenset[str]] = {}
        for seat in workspace.people:
            layers = stacks.get(seat.departments)
            if layers is None:
                layers = stacks[seat.departments] = frozenset((BUILT_IN, *workspace.stack_of(seat)))
            self._groups.setdefault((layers, _gathered_as(seat.traits, known)), []).append(seat.seat)
        if not self._groups:
            # Nobody is listed yet: every layer is checked above the organisation's.
            for layer in workspace.layers:
                layers = frozenset((BUILT_IN, *workspace.stack_up_to(layer)))
                self._groups.setdefault((layers, NOWHERE), [])
        self.seats = lru_cache(maxsize=None)(self._find_seats)
        """Seats that have all these layers and one of these traits (None = any). See `_find_seats`."""
        self.meets = lru_cache(maxsize=None)(self._find_meets)
        self.seats_of_any = lru_cache(maxsize=None)(self._find_seats_of_any)
        """The seats that have at least one of these layers."""

    @cached_property
    def profiles(self) -> tuple[Traits, ...]:
        """The different traits that seats have, in order."""
        return tuple(sorted({traits for _, traits in self._groups}))

    @cached_property
    def keyboards(self) -> dict[str, int]:
        """Keyboard → how many seats have it, most first."""
        found: dict[str, int] = {}
        for (_, traits), seats in self._groups.items():
            if traits.keyboard:
                found[traits.keyboard] = found.get(traits.keyboard, 0) + len(seats)
        return dict(sorted(found.items(), key=lambda pair: (-pair[1], pair[0])))

    def keyboards_of(self, layer: str) -> dict[str, int]:
        """The same for the seats that have one layer."""
        found: dict[str, int] = {}
        for (layers, traits), seats in self._groups.items():
            if layer in layers and traits.keyboard:
                found[traits.keyboard] = found.get(traits.keyboard, 0) + len(seats)
        return dict(sorted(found.items(), key=lambda pair: (-pair[1], pair[0])))

    def _find_seats(
        self, layers: frozenset[str], traits: frozenset[Traits] | None = None
    ) -> tuple[str, ...] | None:
        """Seats that have all these layers, and one of these traits (None = any).

        Returns:
            None when no seat has them together; an empty tuple when nobody is listed yet.
        """
        found = [
            names
            for (stack, having), names in self._groups.items()
            if layers <= stack and (traits is None or having in traits)
        ]
        return tuple([name for names in found for name in names]) if found else None

    def _find_seats_of_any(self, layers: frozenset[str]) -> tuple[str, ...]:
        found: list[str] = []
        for stack, names in self._by_stack.items():
            if not layers.isdisjoint(stack):
                found += names
        return tuple(found)

    @cached_property
    def _by_stack(self) -> dict[frozenset[str], list[str]]:
        found: dict[frozenset[str], list[str]] = {}
        for (stack, _), names in self._groups.items():
            found.setdefault(stack, []).extend(names)
        return found

    def stacks(self, layers: Iterable[str]) -> list[tuple[str, ...]]:
        """The different stacks of shared layers that seats have, each in this order."""
        order = tuple(layers)
        found = dict.fromkeys(stack for stack, _ in self._groups)
        return [tuple(layer for layer in order if layer in stack) for stack in found]

    def kinds(self, layer: str) -> Iterator[tuple[frozenset[str], Traits]]:
        """The different kinds of seats that have a layer: all the layers of each, and its traits."""
        return ((stack, traits) for stack, traits in self._groups if layer in stack)

    def _find_meets(self, layer: str) -> frozenset[str]:
        """The layers that some seat has together with this one, itself included."""
        return frozenset(name for stack, _ in self._groups if layer in stack for name in stack)
