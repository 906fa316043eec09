"""Who wins a key.

1. A binding from a fixed layout beats all others.
2. Then a binding from the personal layer wins, over built-in ones too.
3. Then the narrower context wins, or the one with the higher declared rank.
4. Then the higher layer wins.
5. A winner displaces every live loser whose sequence, on the keys of the seat, equals, begins or extends
   its own.
6. If two bindings with different targets tie exactly, neither runs, and both still displace lower ones.
7. A binding without a target removes the key: it wins and does nothing.
8. Where one writes, a sequence that begins with a character takes no part: the character is written. The
   same goes for every key that a field of a panel keeps, while the field has the focus.

Rules 1 to 4 are one sort key (`strength_of`). An exception between two particular bindings would make the
order circular. (docs/conflicts.md, "Who wins".) The running application, the key bed, tooltips, key fields,
messages and `rimecrest why` call `rule`. The checks compare bindings with `contest`, and a property test
holds that both give the same result.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct, field

from rimecrest.core.keys.chords import Sequence, touches
from rimecrest.core.keys.contexts import FIELD, Contexts
from rimecrest.core.keys.focus_keys import kept_by_field

PERSONAL = "personal"
"""The layer of a colleague's own keys and items. It is above all layers of their stack."""


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
    spelled: Sequence = ()
    """The sequence by the names of the keys on the seat's keyboard; empty if they are as written."""

    @property
    def strokes(self) -> Sequence:
        """What is pressed. Two spellings of one key have the same strokes, and only one of them can win."""
        return self.spelled or self.sequence

    @property
    def target(self) -> tuple[str | None, tuple[tuple[str, str], ...]]:
        return self.run, self.args


class Ruling(Struct, frozen=True):
    """What `rule` decided about a set of bindings that are live together."""

    winners: tuple[Binding, ...]
    displaced: dict[str, Binding] = field(default_factory=dict)
    """Loser's id → the binding that displaced it."""


Strength = tuple[bool, bool, tuple[int, int], int]


def strength_of(fixed: bool, personal: bool, narrowness: tuple[int, int], level: int) -> Strength:
    """Sort key for rules 1 to 4; the larger one wins."""
    return fixed, personal, narrowness, level


def strength(binding: Binding, contexts: Contexts) -> Strength:
    """Sort key of a binding for rules 1 to 4."""
    personal = binding.layer == PERSONAL
    return strength_of(binding.fixed, personal, contexts.narrowness(binding.context), binding.level)


def contest(one: Strength, other: Strength) -> int:
    """Who goes before of two bindings that are live together: 1 the one, -1 the other, 0 neither (a tie)."""
    return (one > other) - (one < other)


def rule(live: Iterable[Binding], contexts: Contexts) -> Ruling:
    """Decide among bindings that are live at once. Order of `live` does not matter but within a tie."""
    ordered = sorted(live, key=lambda binding: strength(binding, contexts), reverse=True)
    # Every sequence of a standing binding, and every beginning of one, so that rule 5 is a look-up.
    whole: dict[Sequence, Binding] = {}
    beginnings: dict[Sequence, Binding] = {}
    displaced: dict[str, Binding] = {}
    fallen: set[str] = set()
    for binding in ordered:
        strokes = binding.strokes
        rival = _rival(strokes, whole, beginnings)
        if rival is None:
            whole[strokes] = binding
            for length in range(1, len(strokes)):
                beginnings.setdefault(strokes[:length], binding)
        elif contest(strength(rival, contexts), strength(binding, contexts)) > 0:
            displaced[binding.id] = rival
        elif rival.target == binding.target and rival.strokes == strokes:
            continue
        else:
            fallen.update((rival.id, binding.id))
    winners = tuple(binding for binding in whole.values() if binding.id not in fallen)
    return Ruling(winners, displaced)


def _rival(
    sequence: Sequence, whole: dict[Sequence, Binding], beginnings: dict[Sequence, Binding]
) -> Binding | None:
    for length in range(1, len(sequence) + 1):
        if (found := whole.get(sequence[:length])) is not None:
            return found
    return beginnings.get(sequence)


def _taking_part(bindings: Iterable[Binding], live: frozenset[str], contexts: Contexts) -> list[Binding]:
    writes = any(context.types and context.id in live for context in contexts)
    field = FIELD in live
    return [
        b
        for b in bindings
        if b.context in live
        and not (writes and b.strokes[0].types_text)
        and not (field and kept_by_field(b.strokes[0]))
    ]


def standing(
    bindings: Iterable[Binding], live: frozenset[str], contexts: Contexts
) -> dict[Sequence, Binding]:
    """The keys that work when the contexts `live` are live, by their strokes."""
    ruling = rule(_taking_part(bindings, live, contexts), contexts)
    return {binding.strokes: binding for binding in ruling.winners}


def working(bindings: Iterable[Binding], contexts: Contexts) -> list[Binding]:
    """The bindings that really run something in some place of the application, lowest layer first."""
    everything = list(bindings)
    found: dict[str, Binding] = {}
    for place in contexts.places:
        table = standing(everything, contexts.live([place]), contexts)
        found |= {binding.id: binding for binding in table.values() if binding.run is not None}
    return sorted(found.values(), key=lambda binding: binding.level)


def winners_on(
    bindings: Iterable[Binding], sequence: Sequence, context: str, contexts: Contexts
) -> list[Binding]:
    """The winners whose strokes equal, begin or extend these, where `context` is the innermost."""
    near = _taking_part(
        (b for b in bindings if b.strokes[0] == sequence[0]), contexts.live([context]), contexts
    )
    return [b for b in rule(near, contexts).winners if touches(b.strokes, sequence)]


def deciding(
    bindings: Iterable[Binding], sequence: Sequence, context: str, contexts: Contexts
) -> tuple[Binding | None, dict[str, Binding]]:
    """Who wins a sequence where `context` is the innermost live one.

    Returns:
        The binding that runs when the sequence is pressed (None if none does), and for every displaced
        binding that touches the sequence the one that displaced it, by id.
    """
    near = _taking_part(
        (b for b in bindings if b.strokes[0] == sequence[0]), contexts.live([context]), contexts
    )
    ruling = rule(near, contexts)
    return next((b for b in ruling.winners if b.strokes == sequence), None), ruling.displaced
