"""Who wins a key.

1. A binding from a fixed layout goes before all others.
2. Then the narrower context wins, or the one of higher declared rank.
3. Then the higher layer wins.
4. A winner displaces every live loser whose sequence equals its own, begins it or extends it.
5. Of a full tie between different targets nobody wins, and both still displace what lies beneath.
6. A binding without a target takes the key away: it wins and does nothing.

(docs/conflicts.md, "Who wins".) The running application, the key bed, tooltips and `rimecrest why` call
`rule`; the checks hold claims that meet against one another with `contest`, as `rule` does: a property test
holds that what they find is what it decides.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct, field

from rimecrest.core.keys.chords import Sequence
from rimecrest.core.keys.contexts import Contexts


class Binding(Struct, frozen=True):
    """A sequence bound to a target in one context by one layer.

    `level` counts layers from 0 (built-in) upwards within the stack; `run` is None where the key is taken
    away; `args` are sorted pairs, so that bindings compare.
    """

    id: str
    layer: str
    level: int
    context: str
    sequence: Sequence
    run: str | None
    args: tuple[tuple[str, str], ...] = ()
    fixed: bool = False

    @property
    def target(self) -> tuple[str | None, tuple[tuple[str, str], ...]]:
        return self.run, self.args


class Ruling(Struct, frozen=True):
    """What `rule` decided about a set of bindings that are live together."""

    winners: tuple[Binding, ...]
    displaced: dict[str, Binding] = field(default_factory=dict)
    """Loser's id → the binding that displaced it."""
    tied: tuple[tuple[Binding, Binding], ...] = ()


Strength = tuple[bool, tuple[int, int], int]


def strength_of(fixed: bool, narrowness: tuple[int, int], level: int) -> Strength:
    """Rules 1 to 3 for a binding: from a fixed layout, in a context so narrow, of a layer so high."""
    return fixed, narrowness, level


def strength(binding: Binding, contexts: Contexts) -> Strength:
    """The same for a binding as it stands."""
    return strength_of(binding.fixed, contexts.narrowness(binding.context), binding.level)


def contest(one: Strength, other: Strength) -> int:
    """Who goes before of two bindings that are live together: 1 the one, -1 the other, 0 neither (a tie)."""
    return (one > other) - (one < other)


def rule(live: Iterable[Binding], contexts: Contexts) -> Ruling:
    """Decide among bindings that are live at once. Order of `live` does not matter but within a tie."""
    ordered = sorted(live, key=lambda binding: strength(binding, contexts), reverse=True)
    # Every sequence that a standing binding has, and every beginning of one, so that rule 4 is a look-up.
    whole: dict[Sequence, Binding] = {}
    beginnings: dict[Sequence, Binding] = {}
    displaced: dict[str, Binding] = {}
    tied: list[tuple[Binding, Binding]] = []
    fallen: set[str] = set()
    for binding in ordered:
        rival = _rival(binding.sequence, whole, beginnings)
        if rival is None:
            whole[binding.sequence] = binding
            for length in range(1, len(binding.sequence)):
                beginnings.setdefault(binding.sequence[:length], binding)
        elif contest(strength(rival, contexts), strength(binding, contexts)) > 0:
            displaced[binding.id] = rival
        elif rival.target == binding.target and rival.sequence == binding.sequence:
            continue
        else:
            tied.append((rival, binding))
            fallen.update((rival.id, binding.id))
    winners = tuple(binding for binding in whole.values() if binding.id not in fallen)
    return Ruling(winners, displaced, tuple(tied))


def _rival(
    sequence: Sequence, whole: dict[Sequence, Binding], beginnings: dict[Sequence, Binding]
) -> Binding | None:
    for length in range(1, len(sequence) + 1):
        if (found := whole.get(sequence[:length])) is not None:
            return found
    return beginnings.get(sequence)


def standing(
    bindings: Iterable[Binding], live: frozenset[str], contexts: Contexts
) -> dict[Sequence, Binding]:
    """The keys that work when the contexts `live` are live. Takes no part: bindings of other contexts."""
    ruling = rule((binding for binding in bindings if binding.context in live), contexts)
    return {binding.sequence: binding for binding in ruling.winners}


def working(bindings: Iterable[Binding], contexts: Contexts) -> list[Binding]:
    """The bindings that really run something where they are bound, lowest layer first."""
    everything = list(bindings)
    found = []
    for context in dict.fromkeys(binding.context for binding in everything):
        table = standing(everything, contexts.live([context]), contexts)
        found += [b for b in table.values() if b.context == context and b.run is not None]
    return sorted(found, key=lambda binding: binding.level)
