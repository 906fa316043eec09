"""The numbers of the suggestions, with where each comes from. All times are in seconds.

They can be overridden in workspace.json, `constants`, by name.
"""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import fields, replace

from rimecrest.core.effort.slips import SIGMA
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr


class Constants(Struct, frozen=True):
    """Every constant of the cost of a key."""

    press: float = 0.153
    """Pressing the key under the finger, a in Fitts' law: the mean repeat time of one key (Soukoreff,
    MacKenzie: Theoretical upper and lower bounds on typing speed, Behaviour & Information Technology 14,
    1995)."""
    bit: float = 0.204
    """Each bit of difficulty, b in Fitts' law: 1 / 4.9 bits a second (the same paper, after MacKenzie,
    Sellen, Buxton: A comparison of input devices, CHI 1991). T = a + b·log2(D/W + 1)."""
    held: float = 0.28
    """Each held modifier: a keystroke of its own, K of an average office worker who is no typist (Card,
    Moran, Newell: The keystroke-level model for user performance time with interactive systems, CACM 23,
    1980)."""
    third: float = 0.56
    """The third modifier, instead: ours, two keystrokes, since no resting hand holds three."""
    one_hand: float = 0.14
    """One hand holding the modifier and pressing the key: ours, half a keystroke."""
    chord: float = 0.28
    """Each further chord of a sequence, beside its reach: a keystroke, for letting go and beginning anew."""
    sigma: float = SIGMA
    """Where a finger comes down, in key widths; see `slips`."""
    slip_plain: float = 3.0
    """What hitting a plain neighbour costs: ours, noticing (M, making up one's mind: 1.35 s in the same
    model) and undoing (M and a chord)."""
    slip_deletes: float = 30.0
    """What hitting something destructive costs: ours, finding out and putting it back."""
    slip_sends: float = 120.0
    """What hitting something that sends costs: ours, a second message to put it right."""
    first_letter: float = 0.68
    """What the initial of the first word is worth: ours, half of M."""
    other_letter: float = 0.45
    """What the initial of another word is worth: ours, a third of M."""
    elsewhere: float = 0.81
    """What the same key in another application is worth: ours, three fifths of M."""
    family: float = 0.27
    """What standing with its family is worth (what shares a word stands behind the same opener or modifiers):
    ours, a fifth of M."""


SPAN = {1: 5.5, 2: 4.5, 3: 3.5}
"""Held modifiers → how far from them, in key widths of 19 mm, the same hand still reaches a key. Ours, and
careful: 105 mm between thumb or little finger and the key, less with every finger that is bound."""

DEFAULTS = Constants()


def constants_of(overrides: Mapping[str, float]) -> Constants:
    """The constants with those that a workspace sets otherwise.

    Raises:
        RimecrestError: a name that is no constant, or a value below nothing.
    """
    known = {field.name for field in fields(Constants)}
    for name, value in overrides.items():
        if name not in known:
            raise RimecrestError(
                tr("workspace.json sets the constant “{name}”, which does not exist.", name=name),
                tr("There are: {known}.", known=", ".join(sorted(known))),
            )
        if value < 0 or (name == "sigma" and value == 0):
            raise RimecrestError(
                tr("The constant “{name}” cannot be {value}.", name=name, value=value),
                tr("Take a positive number."),
            )
    return replace(DEFAULTS, **overrides)


def usable(overrides: Mapping[str, float]) -> Constants:
    """The same where an override may be wrong: then the defaults hold, and a finding says so."""
    try:
        return constants_of(overrides)
    except RimecrestError:
        return DEFAULTS
