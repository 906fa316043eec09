"""Chords and sequences: their one spelling, and reading every spelling people use.

A chord is a key with modifiers held; a sequence is one to three chords in a row. The key is named by its
unshifted Latin letter or symbol, by a digit (top row, by position) or by its keysym name as in the X11
keysym list (https://www.x.org/releases/current/doc/xproto/x11protocol.html#keysym_encoding).
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from rimecrest.core.errors import RimecrestError
from rimecrest.core.nearest import nearest

MODIFIERS = ("Ctrl", "Alt", "Shift", "Super")
LONGEST = 3
"""Chords in a sequence at most: a longer one is not remembered (docs/formats/README.md, "Layout")."""

# Keysym names of the keys that carry no symbol, on every full-size keyboard.
NAMED = (
    "Return", "Escape", "Tab", "BackSpace", "Delete", "Insert", "Home", "End", "Page_Up", "Page_Down",
    "Left", "Right", "Up", "Down", "space", "Pause", "Print", "Menu", "Scroll_Lock",
    *(f"F{number}" for number in range(1, 25)),
    *(f"KP_{digit}" for digit in range(10)),
    "KP_Add", "KP_Subtract", "KP_Multiply", "KP_Divide", "KP_Enter", "KP_Decimal",
    *(f"dead_{accent}" for accent in (
        "grave", "acute", "circumflex", "tilde", "diaeresis", "caron", "cedilla", "ogonek", "abovering",
        "abovedot", "doubleacute", "macron", "breve", "belowdot", "stroke",
    )),
)  # fmt: skip

SYMBOLS = "`-=[]\\;'#,./<"

_SPOKEN = {
    "enter": "Return", "esc": "Escape", "del": "Delete", "ins": "Insert", "pgup": "Page_Up",
    "pageup": "Page_Up", "prior": "Page_Up", "pgdn": "Page_Down", "pgdown": "Page_Down",
    "pagedown": "Page_Down", "next": "Page_Down", "backspace": "BackSpace", "spacebar": "space",
    "plus": "+", "minus": "-", "comma": ",", "period": ".", "slash": "/",
    # As printed on German, French, Spanish, Italian and Scandinavian caps.
    "eingabe": "Return", "entf": "Delete", "einfg": "Insert", "pos1": "Home", "ende": "End",
    "bildauf": "Page_Up", "bildab": "Page_Down", "leertaste": "space", "druck": "Print",
    "entrée": "Return", "échap": "Escape", "suppr": "Delete", "inser": "Insert", "début": "Home",
    "fin": "End", "supr": "Delete", "inicio": "Home", "intro": "Return", "canc": "Delete", "invio": "Return",
    "slett": "Delete", "radera": "Delete",
}  # fmt: skip
_KEYS = {**{name.lower(): name for name in NAMED}, **_SPOKEN}
_HELD = {
    "ctrl": "Ctrl", "control": "Ctrl", "alt": "Alt", "shift": "Shift",
    "super": "Super", "logo": "Super", "strg": "Ctrl", "umschalt": "Shift", "maj": "Shift", "mayús": "Shift",
    "maiusc": "Shift",
}  # fmt: skip


class Chord(NamedTuple):
    """One keystroke: `mods` in the order of MODIFIERS, `key` in its one spelling."""

    mods: tuple[str, ...]
    key: str

    @property
    def types_text(self) -> bool:
        """Whether it would put a character into a text: no modifier but Shift, and a key with a symbol."""
        writes = len(self.key) == 1 or self.key == "space" or self.key in _KEYPAD_WRITES
        return writes and not (set(self.mods) - {"Shift"})


_KEYPAD_WRITES = {f"KP_{digit}" for digit in range(10)} | {
    *("KP_Add", "KP_Subtract", "KP_Multiply", "KP_Divide", "KP_Decimal"),
}
"""Keys of the keypad that write a character, all but Enter."""

Sequence = tuple[Chord, ...]


def parse_chord(text: str) -> Chord:
    """Read one chord in any accepted spelling.

    Raises:
        RimecrestError: no key, an unknown key or modifier, or a modifier twice.
    """
    rest = text.strip()
    mods: list[str] = []
    while True:
        head, plus, tail = rest.partition("+")
        held = _HELD.get(head.strip().lower())
        if not plus or held is None or not tail.strip():
            break
        if held in mods:
            raise RimecrestError(f"“{text.strip()}” holds {held} twice.", "Name each modifier once.")
        mods.append(held)
        rest = tail.strip()
    if rest.lower() in _HELD or rest.rstrip("+").strip().lower() in _HELD or not rest:
        raise RimecrestError(f"“{text.strip()}” is a modifier without a key.", "Add the key, as in Ctrl+J.")
    return Chord(tuple(name for name in MODIFIERS if name in mods), _key(rest, text.strip()))


def key_name(symbol: str) -> str:
    """How a key with that unshifted symbol is named: its capital, where it has just one of its own."""
    capital = symbol.upper()
    return capital if len(capital) == 1 and capital.lower() == symbol.lower() else symbol


def _key(name: str, whole: str) -> str:
    if len(name) == 1:
        return key_name(name)
    known = _KEYS.get(name.lower()) or _KEYS.get(name.lower().replace(" ", "_"))
    if known:
        return known
    wrong = name.split("+")[0] if "+" in name else name
    near = nearest(wrong.lower(), [*_KEYS, *_HELD])
    hint = f" Did you mean {_KEYS.get(near) or _HELD.get(near)}?" if near else ""
    raise RimecrestError(f"“{wrong}” in “{whole}” is no key.{hint}", "Write it like Ctrl+Shift+K or F9.")


def _split(text: str) -> list[str]:
    """The chords of a sequence as written. A comma where a key is expected is that key."""
    parts, now = [], ""
    for character in text:
        written = now.strip()
        complete = bool(written) and (not written.endswith("+") or written.endswith("++") or written == "+")
        if character == "," and complete:
            parts.append(now)
            now = ""
        else:
            now += character
    return [*parts, now] if now.strip() else parts


@lru_cache(maxsize=65536)
def parse_sequence(text: str) -> Sequence:
    """Read one to three chords parted by commas, as in `Ctrl+J, O`.

    Raises:
        RimecrestError: nothing there, more than three chords, or a chord that cannot be read.
    """
    parts = _split(text)
    if not parts:
        raise RimecrestError("No key was given.", "Press a key or write one, as in Ctrl+J, O.")
    if len(parts) > LONGEST:
        raise RimecrestError(f"“{text}” has {len(parts)} chords.", "Three in a row are the most.")
    return tuple(parse_chord(part) for part in parts)


def format_chord(chord: Chord) -> str:
    """The one spelling of a chord."""
    return "+".join((*chord.mods, chord.key))


def format_sequence(sequence: Sequence) -> str:
    """The one spelling of a sequence; `parse_sequence` reads it back to the same."""
    return ", ".join(format_chord(chord) for chord in sequence)


@lru_cache(maxsize=65536)
def normalise(text: str) -> str:
    """Any accepted spelling in its one spelling; equal spellings are one object."""
    return format_sequence(parse_sequence(text))


def touches(one: Sequence, other: Sequence) -> bool:
    """Whether one equals, begins or extends the other: both cannot work in one place."""
    return extends(one, other) or extends(other, one)


def extends(longer: Sequence, shorter: Sequence) -> bool:
    """Whether `shorter` equals `longer` or begins it."""
    return longer[: len(shorter)] == shorter
