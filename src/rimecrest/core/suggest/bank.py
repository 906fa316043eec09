"""Every sequence that could be offered, with what pressing it takes: worked out once for an application."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from msgspec import Struct

from rimecrest.core.effort.constants import Constants
from rimecrest.core.effort.strokes import stroke
from rimecrest.core.keys.chords import Chord, Sequence, format_sequence, parse_sequence
from rimecrest.core.keys.keyboards.national import keyboard

LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
DIGITS = "1234567890"
PUNCTUATION = "',./;-=[]#\\`"


class Bank(Struct, frozen=True):
    """Every sequence that could be offered behind one opener on some keyboards, with what each press takes.

    `reach` and `modifiers` are in seconds, `distance` of the last key from home in key widths; all have one
    entry a sequence.
    """

    sequences: tuple[Sequence, ...]
    texts: tuple[str, ...]
    reach: tuple[float, ...]
    modifiers: tuple[float, ...]
    distance: tuple[float, ...]
    hands: tuple[str, ...]
    letters: tuple[str, ...]
    """The last chord's key, by which it is remembered."""
    groups: tuple[str, ...]
    """The opener, or the modifiers: what a family shares."""
    same_place: tuple[bool, ...]


@lru_cache(maxsize=64)
def bank(openers: tuple[str, ...], boards: tuple[tuple[str, float], ...], constants: Constants) -> Bank:
    """The bank of one application.

    Args:
        openers: the chords behind which there is room for sequences.
        boards: keyboard → its share of the seats.
    """
    rows: list[tuple[Sequence, float, float, float, str, bool]] = []
    for sequence in _candidates(openers):
        reach = modifiers = distance = 0.0
        hands = set()
        for code, share in boards:
            strokes = [stroke(chord, code, constants) for chord in sequence]
            if any(one is None for one in strokes):
                break
            known = [one for one in strokes if one is not None]
            reach += share * (sum(one.reach for one in known) + constants.chord * (len(known) - 1))
            modifiers += share * sum(one.modifiers for one in known)
            distance += share * known[-1].distance
            hands.add(known[-1].hand.value)
        else:
            places = {keyboard(code).key_for(sequence[-1].key) for code, _ in boards}
            hand = hands.pop() if len(hands) == 1 else ""
            rows.append((sequence, reach, modifiers, distance, hand, len(places) == 1))
    return Bank(
        tuple(row[0] for row in rows),
        tuple(format_sequence(row[0]) for row in rows),
        tuple(row[1] for row in rows),
        tuple(row[2] for row in rows),
        tuple(row[3] for row in rows),
        tuple(row[4] for row in rows),
        tuple(row[0][-1].key for row in rows),
        tuple(group_of(row[0]) for row in rows),
        tuple(row[5] for row in rows),
    )


def group_of(sequence: Sequence) -> str:
    """The opener or the modifiers of a sequence: what a family shares."""
    return format_sequence(sequence[:-1]) + ", " + "+".join(sequence[-1].mods)


_HELD_WITH_SYMBOLS: tuple[tuple[str, ...], ...] = (
    ("Ctrl",),
    ("Ctrl", "Shift"),
    ("Alt", "Shift"),
    ("Ctrl", "Alt"),
    ("Ctrl", "Alt", "Shift"),
)
_HELD_WITH_FUNCTION_KEYS: tuple[tuple[str, ...], ...] = ((), ("Shift",), ("Ctrl",), ("Ctrl", "Shift"))


def _candidates(openers: tuple[str, ...]) -> Iterator[Sequence]:
    symbols = [*LETTERS, *DIGITS, *PUNCTUATION]
    for opener in openers:
        begin = parse_sequence(opener)
        yield from ((*begin, Chord((), key)) for key in symbols)
        yield from ((*begin, Chord(("Shift",), key)) for key in symbols)
    for mods in _HELD_WITH_SYMBOLS:
        yield from ((Chord(mods, key),) for key in symbols)
    for mods in _HELD_WITH_FUNCTION_KEYS:
        yield from ((Chord(mods, f"F{number}"),) for number in range(1, 13))
