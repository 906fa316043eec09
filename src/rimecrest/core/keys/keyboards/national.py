"""What each key gives on a national keyboard, and which key a chord is there.

The identity of a key (docs/formats/README.md, "Layout"): the digits of the top row by position;
else its unshifted letter or symbol in the keyboard's Latin group; else its keysym name.
"""

from functools import cache, cached_property, lru_cache
from pathlib import Path
from typing import Literal

from msgspec.structs import replace
from pydantic import Field

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import MODIFIERS, Chord, Sequence, key_name
from rimecrest.core.keys.keyboards.geometry import Geometry, geometry
from rimecrest.core.model import Record, parse_record

TOP_ROW = {f"AE{number:02}": str(number % 10) for number in range(1, 11)}
"""The digits by position."""

KEY_OF_NAME = {
    "Escape": "ESC", "Tab": "TAB", "BackSpace": "BKSP", "Return": "RTRN", "space": "SPCE", "Insert": "INS",
    "Delete": "DELE", "Home": "HOME", "End": "END", "Page_Up": "PGUP", "Page_Down": "PGDN", "Up": "UP",
    "Down": "DOWN", "Left": "LEFT", "Right": "RGHT", "Print": "PRSC", "Scroll_Lock": "SCLK", "Pause": "PAUS",
    "Menu": "MENU",
    **{f"F{n}": f"FK{n:02}" for n in range(1, 13)}, **{f"KP_{n}": f"KP{n}" for n in range(10)},
    "KP_Add": "KPAD", "KP_Subtract": "KPSU", "KP_Multiply": "KPMU", "KP_Divide": "KPDV", "KP_Enter": "KPEN",
    "KP_Decimal": "KPDL",
}  # fmt: skip
"""Keysym name → physical key, for the keys that are the same on every keyboard."""
_NAME_OF_KEY = {key: name for name, key in KEY_OF_NAME.items()}

DEAD = {
    "dead_grave": "`", "dead_acute": "´", "dead_circumflex": "^", "dead_tilde": "~", "dead_diaeresis": "¨",
    "dead_caron": "ˇ", "dead_cedilla": "¸", "dead_ogonek": "˛", "dead_abovering": "˚", "dead_abovedot": "˙",
    "dead_doubleacute": "˝", "dead_macron": "¯", "dead_breve": "˘", "dead_belowdot": ".", "dead_stroke": "/",
}  # fmt: skip
"""What is printed on the cap of a key that waits for a letter to put its accent on."""


class KeyboardTable(Record):
    """A stored table: `keys` gives what each key types at its levels (plain, Shift, AltGr, AltGr+Shift)."""

    code: str
    name: str
    shape: Literal["iso", "ansi"] = "iso"
    latin: str = ""
    """The layout whose symbols name the keys, where this one's own letters are not Latin."""
    keys: dict[str, tuple[str, ...]] = Field(default_factory=dict)


class Keyboard:
    """One national keyboard."""

    def __init__(self, table: KeyboardTable) -> None:
        self.code = table.code
        self.name = table.name
        self.shape = table.shape
        self._levels = table.keys
        latin = _table(table.latin).keys if table.latin else {}
        self._naming = {**dict.fromkeys(table.keys, ()), **latin} if latin else table.keys

    @property
    def geometry(self) -> Geometry:
        return geometry(self.shape)

    def levels(self, key: str) -> tuple[str, ...]:
        """What a key types plain, with Shift, with AltGr and with both; dead keys by their keysym name."""
        return self._levels.get(key, ())

    def identity(self, key: str) -> str:
        """The name that a key has in a chord; empty when it can be in none."""
        if key in TOP_ROW:
            return TOP_ROW[key]
        if key in _NAME_OF_KEY:
            return _NAME_OF_KEY[key]
        levels = self._naming.get(key, ())
        return key_name(levels[0]) if levels and levels[0] else ""

    @cached_property
    def _by_identity(self) -> dict[str, str]:
        found: dict[str, str] = {}
        for key in (*TOP_ROW, *self._naming):
            found.setdefault(self.identity(key), key)
        # The symbol that a key of the top row gives unshifted is that key too, where no other has it.
        for key in TOP_ROW:
            levels = self._naming.get(key, ())
            if levels and levels[0]:
                found.setdefault(key_name(levels[0]), key)
        found.pop("", None)
        return {**KEY_OF_NAME, **found}

    @cached_property
    def _names_here(self) -> dict[str, str]:
        """Any name of a key → the one that its keystroke has here."""
        return {name: self.identity(key) or name for name, key in self._by_identity.items()}

    def key_for(self, name: str) -> str | None:
        """The physical key that a chord's key is here; None when this keyboard has none."""
        return self._by_identity.get(name)

    def canonical(self, chord: Chord) -> Chord | None:
        """The one chord of a physical keystroke; None when no key here gives that symbol unshifted."""
        name = self._names_here.get(chord.key)
        if name is None:
            return None
        return chord if name == chord.key else Chord(chord.mods, name)

    def canonical_sequence(self, sequence: Sequence) -> Sequence | None:
        """The same for each chord in a row; None when one of them cannot be typed."""
        chords = tuple(known for chord in sequence if (known := self.canonical(chord)) is not None)
        return chords if len(chords) == len(sequence) else None

    def spelled(self, chord: Chord) -> Chord | None:
        """A chord written with a shifted symbol, such as `Ctrl+?`, as the keystroke it is here.

        None when no key gives that symbol plain or with Shift.
        """
        plain = self.canonical(chord)
        if plain is not None:
            return plain
        for key, levels in self._naming.items():
            if len(levels) > 1 and levels[1] == chord.key and self.identity(key):
                held = {*chord.mods, "Shift"}
                return Chord(tuple(name for name in MODIFIERS if name in held), self.identity(key))
        return None

    def dead(self, chord: Chord) -> str:
        """Return the keysym name of the dead key that a keystroke produces; empty if it produces none.

        In a context for typing, a dead key composes the next character, so no hotkey sees it. Only Shift
        matters, not Ctrl or Alt: a key can be dead without Shift only, or with Shift only.
        """
        levels = self._levels.get(self.key_for(chord.key) or "", ())
        given = levels["Shift" in chord.mods :][:1] or levels[:1]
        return given[0] if given and given[0].startswith("dead_") else ""

    def typed(self, chord: Chord) -> str:
        """The character that a key types with AltGr (and Shift); empty when none."""
        key = self.key_for(chord.key)
        levels = self._levels.get(key or "", ())
        at = 3 if "Shift" in chord.mods else 2
        return levels[at] if len(levels) > at else ""

    def legend(self, key: str) -> str:
        """What is printed on the cap, in the national letters."""
        levels = self._levels.get(key, ())
        if not levels or not levels[0]:
            return _NAME_OF_KEY.get(key, "")
        symbol = levels[0]
        return DEAD.get(symbol, symbol.removeprefix("dead_")) if len(symbol) > 1 else key_name(symbol)


_TABLES = Path(__file__).with_name("tables")


@lru_cache(maxsize=1)
def known_keyboards() -> tuple[str, ...]:
    """The codes of all keyboards that have a table."""
    return tuple(sorted(path.stem for path in _TABLES.glob("*.json")))


@cache
def _table(code: str) -> KeyboardTable:
    if code not in known_keyboards():
        raise RimecrestError(f"There is no keyboard “{code}”.", f"Known are: {', '.join(known_keyboards())}.")
    text = (_TABLES / f"{code}.json").read_text("utf-8")
    return parse_record(KeyboardTable, text, "keyboard", f"{code}.json")


@cache
def keyboard(code: str) -> Keyboard:
    """The keyboard of that code. Raises RimecrestError when there is no table of it."""
    return Keyboard(_table(code))


def spelled_on(code: str, sequence: Sequence) -> Sequence:
    """A sequence in the names that its keys have on a keyboard: `Ctrl+-` is `Ctrl+6` on the French one.

    As it is where the keyboard is not known or has no such key.
    """
    known = keyboard(code).canonical_sequence(sequence) if code in known_keyboards() else None
    return known or sequence


def on_keyboard(bindings: tuple[Binding, ...], code: str) -> tuple[Binding, ...]:
    """The bindings with the strokes that they have on a keyboard; as they are where it is not known."""
    spelled = [(binding, spelled_on(code, binding.sequence)) for binding in bindings]
    return tuple(b if strokes == b.sequence else replace(b, spelled=strokes) for b, strokes in spelled)


def keyboard_name(code: str) -> str:
    """The words for people: “German”, or the code itself where it is not known."""
    return keyboard(code).name if code in known_keyboards() else f"“{code}”"
