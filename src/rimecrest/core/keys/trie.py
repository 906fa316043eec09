"""The look-up that a running application does at each key press."""

from __future__ import annotations

from collections.abc import Mapping
from enum import Enum

from msgspec import Struct, field

from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import Chord, Sequence

PATIENCE = 3000
"""Milliseconds that a begun sequence waits for its next chord."""


class Step(Enum):
    """What one more chord did."""

    NOTHING = "no binding goes on like this"
    BEGINS = "a binding begins like this"
    RUNS = "a binding is complete"


class _Node(Struct):
    binding: Binding | None = None
    on: dict[Chord, _Node] = field(default_factory=dict)


class KeyTrie:
    """All standing bindings of one state, walked chord by chord."""

    def __init__(self, table: Mapping[Sequence, Binding]) -> None:
        self._root = _Node()
        for sequence, binding in table.items():
            node = self._root
            for chord in sequence:
                node = node.on.setdefault(chord, _Node())
            node.binding = binding

    def step(self, typed: Sequence) -> tuple[Step, Binding | None]:
        """What the chords typed so far amount to."""
        node = self._root
        for chord in typed:
            if chord not in node.on:
                return Step.NOTHING, None
            node = node.on[chord]
        if node.binding is not None:
            return Step.RUNS, node.binding
        return (Step.BEGINS if node.on else Step.NOTHING), None

    def following(self, typed: Sequence) -> list[tuple[Chord, Binding | None]]:
        """What can follow, in order, for the hint in the status line."""
        node = self._root
        for chord in typed:
            node = node.on.get(chord, _Node())
        return [(chord, node.on[chord].binding) for chord in sorted(node.on)]
