"""Which keys are shown beside what they run: those that work on a seat."""

from __future__ import annotations

from msgspec import Struct

from rimecrest.core.keys.bindings import working
from rimecrest.core.keys.chords import format_sequence
from rimecrest.core.keys.contexts import Contexts
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.layout.seen import Outcome
from rimecrest.surfaces.painting import Target


class KeySeat(Struct, frozen=True):
    """What decides which keys work on a seat: the application's contexts, what stands in the way there.

    `obstacles` know what the house keeps for itself; `traits` are those of the seat.
    """

    contexts: Contexts
    obstacles: Obstacles
    traits: Traits = NOWHERE


def best_keys(outcome: Outcome, seat: KeySeat) -> dict[Target, str]:
    """The key to show for each target: one that works on such a seat, the highest layer's first."""
    return {target: keys[0] for target, keys in working_keys(outcome, seat).items()}


def working_keys(outcome: Outcome, seat: KeySeat) -> dict[Target, list[str]]:
    """Every key that runs each target on such a seat: those of the layers first, then the built-in ones."""
    contexts, obstacles = seat.contexts, seat.obstacles
    bound = [
        binding
        for binding in working(outcome.bindings, contexts)
        if not obstacles.of(binding.sequence, seat.traits, bool(contexts.types_in(binding.context)))
    ]
    found: dict[Target, list[str]] = {}
    for binding in sorted(bound, key=lambda binding: -binding.level):
        keys, known = format_sequence(binding.sequence), found.setdefault(binding.target, [])
        if keys not in known:
            known.append(keys)
    return found
