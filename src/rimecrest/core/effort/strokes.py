"""How long a keystroke takes on one keyboard: the reach and the held modifiers.

Reach is Fitts' law from the home position of the hand that presses. The hand that holds the modifiers does
not reach, unless the chord can be spanned by it (`constants.SPAN`).
"""

from __future__ import annotations

from functools import lru_cache
from math import log2
from typing import NamedTuple

from rimecrest.core.effort.constants import SPAN, Constants
from rimecrest.core.keys.chords import Chord
from rimecrest.core.keys.keyboards.geometry import HOME, Geometry, Hand
from rimecrest.core.keys.keyboards.national import keyboard

_HOLDING = {
    Hand.LEFT: {"Ctrl": "LCTL", "Shift": "LFSH", "Alt": "LALT", "Super": "LWIN"},
    # The right Alt is AltGr on national keyboards and forms no chord.
    Hand.RIGHT: {"Ctrl": "RCTL", "Shift": "RTSH", "Super": "RWIN"},
}


class Stroke(NamedTuple):
    """One keystroke: `reach` and `modifiers` in seconds, `distance` from home in key widths, the hand that
    presses, and whether it holds the modifiers as well."""

    reach: float
    modifiers: float
    distance: float
    hand: Hand
    one_hand: bool

    @property
    def seconds(self) -> float:
        return self.reach + self.modifiers


@lru_cache(maxsize=65536)
def stroke(chord: Chord, board: str, constants: Constants) -> Stroke | None:
    """The quickest way to press a chord on a keyboard; None when it has no such key or no hand reaches it."""
    here = keyboard(board)
    key = here.key_for(chord.key)
    shape = here.geometry
    if key is None or key not in shape.caps:
        return None
    natural = shape.hand(key) or Hand.RIGHT
    count = len(chord.mods)
    held = constants.held * min(count, 2) + constants.third * max(0, count - 2)
    if not count:
        return _pressed(shape, key, natural, 0.0, False, constants)
    found: list[Stroke] = []
    for holder, keys in _HOLDING.items():
        if not all(name in keys for name in chord.mods):
            continue
        other = Hand.RIGHT if holder is Hand.LEFT else Hand.LEFT
        found.append(_pressed(shape, key, other, held, False, constants))
        if max(shape.distance(keys[name], key) for name in chord.mods) <= SPAN[min(count, 3)]:
            found.append(_pressed(shape, key, holder, held + constants.one_hand, True, constants))
    if not found:  # Alt with a modifier on the other side: both hands hold, the natural one presses.
        found.append(_pressed(shape, key, natural, held + constants.one_hand, True, constants))
    return min(found, key=lambda one: (one.seconds, one.hand is not natural))


def _pressed(
    shape: Geometry, key: str, hand: Hand, held: float, one_hand: bool, constants: Constants
) -> Stroke:
    distance = 0.0 if key == "SPCE" else min(shape.distance(rest, key) for rest in HOME[hand])
    reach = constants.press + constants.bit * log2(distance + 1)
    return Stroke(reach, held, distance, hand, one_hand)
