"""Keys that the widget in focus answers by itself when nothing is bound to them.

A test on a virtual screen presses every one of them, and others, and compares what happens with this table.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache

from rimecrest.core.keys.chords import Chord, parse_chord

_PLAIN, _CTRL = ("", "Shift+"), ("Ctrl+", "Ctrl+Shift+")
_ALONG = ("Left", "Right", "Home", "End")
_MOVES = (*_ALONG, "Up", "Down", "Page_Up", "Page_Down")


def _chords(keys: Iterable[str], held: Iterable[str]) -> frozenset[Chord]:
    modifiers = tuple(held)
    return frozenset(parse_chord(f"{mods}{key}") for key in keys for mods in modifiers)


_WORDS_ALONG = _chords(("Left", "Right"), _CTRL)
_ONE_LINE = (
    _chords(_ALONG, _PLAIN)
    | _chords(("BackSpace",), _PLAIN)
    | _chords(("Delete",), ("",))
    | _chords(("D", "E", "K", "U"), ("Ctrl+",))
    | _chords(("BackSpace", "Insert"), ("Ctrl+Shift+",))
)
"""What the toolkit's field of one line answers on X11, beside what commands are bound to."""

ANSWERS: dict[str, frozenset[Chord]] = {
    "text": _chords(_MOVES, _PLAIN) | _chords(_ALONG, _CTRL),
    "reader": _chords(_MOVES, _PLAIN) | _chords(_ALONG, _CTRL) | _chords(("Up", "Down"), _CTRL),
    "line": _chords(_ALONG, _PLAIN) | _WORDS_ALONG,
    "entry": _ONE_LINE
    | _WORDS_ALONG
    | _chords(("BackSpace", "Delete", "Insert", "A", "C", "V", "X"), ("Ctrl+",))
    | _chords(("Return", "KP_Enter"), (*_PLAIN, *_CTRL))
    | _chords(("Insert", "Delete"), ("Shift+",)),
    "field": _ONE_LINE | _chords(("Escape",), ("",)),
    "cells": _chords(_MOVES, (*_PLAIN, *_CTRL)),
    "list": _chords(_MOVES[1:], (*_PLAIN, *_CTRL)),
}
"""Kind of widget (`Context.focus`) -> the chords that it answers: a text, a text that is only read, one line
of text in a document, a field above a text, a field of a panel, cells, a list of rows."""

LEAVES = _chords(("Tab",), _PLAIN)
"""Gives the focus to another widget, from a widget of any kind: nothing is edited, and nothing is lost."""

MENU = "Menu"
"""The key that opens the right-click menu, whatever it is bound to: the toolkit does so first."""

EDITING = frozenset((*_MOVES, "Delete", "BackSpace", "Return", "KP_Enter", "Tab"))
"""Keys that people press for the text, cell or list in focus: alone and with Shift, and some with Ctrl."""

_NUM_LOCK_OFF = {
    "KP_0": "Insert", "KP_1": "End", "KP_2": "Down", "KP_3": "Page_Down", "KP_4": "Left", "KP_6": "Right",
    "KP_7": "Home", "KP_8": "Up", "KP_9": "Page_Up", "KP_Decimal": "Delete",
}  # fmt: skip
_TURNED = {*_NUM_LOCK_OFF, "KP_5"}


@lru_cache(maxsize=4096)
def num_lock_twin(chord: Chord) -> Chord | None:
    """What a digit of the keypad is in the other state of Num Lock; None for 5, which is nothing, and others.

    Without Shift the digit is what it gives while Num Lock is on. With Shift it is what it gives while Num
    Lock is off: X11 lets each turn the other round (XKB key type KEYPAD).
    """
    key = _NUM_LOCK_OFF.get(chord.key)
    return Chord(chord.mods, key) if key else None


def needs_num_lock_off(chord: Chord) -> bool:
    """Whether a chord cannot be pressed while Num Lock is on, as it is on most desktops."""
    return "Shift" in chord.mods and chord.key in _TURNED


EDITS = (
    _chords(("A", "C", "X", "V", "Z", "Y", "Insert", "BackSpace", "Delete"), ("Ctrl+",))
    | _chords(("Insert", "Delete"), ("Shift+",))
    | _chords(("Z",), ("Ctrl+Shift+",))
    | _WORDS_ALONG
)
"""What people press to edit a name in a field that has opened for it."""


def kept_by_field(chord: Chord) -> bool:
    """Whether a key always belongs to the control of a panel that has the focus: it writes or moves there.

    What has a modifier beyond Shift, Shift with Insert or Delete, and F1 to F12 are looked up as bindings.
    """
    if chord.mods == ("Shift",) and chord.key in ("Insert", "Delete"):
        return False
    held = set(chord.mods) - {"Shift"}
    return not held and not (chord.key.startswith("F") and chord.key[1:].isdecimal())


def answers(focus: str, chord: Chord) -> bool:
    """Whether a widget of that kind answers a chord by itself, or leaves the focus to the next widget."""
    return chord in ANSWERS.get(focus, frozenset()) or (bool(focus) and chord in LEAVES)
