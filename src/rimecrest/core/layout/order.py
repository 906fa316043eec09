"""Order by neighbours: things stand after a neighbour's identity, never at an index.

The things of the lowest layer stand in their own order. What is added later hangs on the thing it follows,
so that a new version of the application or a change beneath does not shuffle it. Several things after one
neighbour stand in the order they were added: layer order, then file order (docs/formats/README.md, "Layout").
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from copy import copy
from typing import Generic, TypeVar

Thing = TypeVar("Thing")
_BASE = "\0base"
_FIRST = "\0first"


class AnchoredOrder(Generic[Thing]):
    """An ordered shelf of things with identities."""

    def __init__(self) -> None:
        self._things: dict[str, Thing] = {}
        self._following: dict[str, list[str]] = {}
        """Anchor → what hangs on it, in order; most things have nothing that does."""
        self._anchor: dict[str, str] = {}
        self._ghosts = 0
        self._hidden: dict[str, Thing] = {}

    def copy(self) -> AnchoredOrder[Thing]:
        """The same things in the same places, to be changed on its own."""
        made = copy(self)
        vars(made).update(
            _things=dict(self._things),
            _anchor=dict(self._anchor),
            _following={name: list(row) for name, row in self._following.items()},
            _hidden=dict(self._hidden),
        )
        return made

    def __contains__(self, identity: str) -> bool:
        return identity in self._anchor

    def append(self, identity: str, thing: Thing) -> None:
        """Put a thing at the end of the base order."""
        self._hang(identity, thing, _BASE)

    def extend(self, things: Mapping[str, Thing]) -> None:
        """Put things by their identities at the end of the base order."""
        self._things.update(things)
        self._anchor.update(dict.fromkeys(things, _BASE))
        self._following.setdefault(_BASE, []).extend(things)

    def put(self, identity: str, thing: Thing, after: str | None) -> bool:
        """Put a thing after another (None = first). False when the anchor is lost: it goes to the end."""
        found = after is None or after in self._anchor
        self._hang(identity, thing, (after or _FIRST) if found else _BASE)
        return found

    def _hang(self, identity: str, thing: Thing, anchor: str) -> None:
        self._things[identity] = thing
        self._anchor[identity] = anchor
        if anchor in self._following:
            self._following[anchor].append(identity)
        else:
            self._following[anchor] = [identity]

    def hide(self, identity: str) -> Thing | None:
        """Take a thing out of sight; its place remains as an anchor."""
        thing = self._things.pop(identity, None)
        if thing is not None:
            self._hidden[identity] = thing
        return thing

    def show(self, identity: str) -> None:
        """Let a thing that was hidden be seen again, where it stood."""
        if identity in self._hidden:
            self._things[identity] = self._hidden.pop(identity)

    def hidden(self, identity: str) -> Thing | None:
        """A thing that is out of sight."""
        return self._hidden.get(identity)

    def move_out(self, identity: str) -> Thing | None:
        """Take a thing out for another place. What stood after it stays where it stands."""
        thing = self._things.pop(identity, None)
        if thing is not None:
            self._ghosts += 1
            ghost = f"\0was:{self._ghosts}"
            anchor = self._anchor.pop(identity)
            row = self._following[anchor]
            row[row.index(identity)] = ghost
            self._anchor[ghost] = anchor
            if identity in self._following:
                self._following[ghost] = self._following.pop(identity)
                for follower in self._following[ghost]:
                    self._anchor[follower] = ghost
        return thing

    def get(self, identity: str) -> Thing | None:
        return self._things.get(identity)

    def change(self, identity: str, thing: Thing) -> None:
        self._things[identity] = thing

    def __iter__(self) -> Iterator[Thing]:
        # An explicit stack: a colleague may chain a thousand items one after the other.
        following, things = self._following, self._things
        base = following.get(_BASE, [])
        if len(following) == 1 and len(things) == len(base):
            # As in nearly every row: nothing hangs on anything, and nothing is out of sight.
            yield from map(things.__getitem__, base)
            return
        stack = [*reversed(following.get(_BASE, ())), *reversed(following.get(_FIRST, ()))]
        while stack:
            name = stack.pop()
            if name in things:
                yield things[name]
            if name in following:
                stack.extend(reversed(following[name]))
