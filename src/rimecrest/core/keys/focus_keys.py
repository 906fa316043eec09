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


ANSWERS: dict[str, frozenset[Chord]] = {
    "text": _chords(_MOVES, _PLAIN) | _chords(_ALONG, _CTRL),
    "reader": _chords(_MOVES, _PLAIN) | _chords(_ALONG, _CTRL),
    "line": _chords(_ALONG, (*_PLAIN, *_CTRL)),
    "entry": _chords(_ALONG, (*_PLAIN, *_CTRL)) | _chords(("BackSpace", "Delete"), ("", "Ctrl+")),
    "field": _chords(_ALONG, _PLAIN) | _chords(("BackSpace", "Delete"), ("",)),
    "cells": _chords(_MOVES, (*_PLAIN, *_CTRL)),
    "list": _chords(_MOVES[1:], (*_PLAIN, *_CTRL)),
}
"""Kind of widget (`Context.focus`) -> the chords that it answers: a text, a text that is only read, one line
of text in a document, a field above a text, a field of a panel, cells, a list of rows."""

MENU = Chord((), "Menu")
"""Opens the right-click menu, whatever it is bound to: the toolkit does so before the application sees it."""

EDITING = frozenset((*_MOVES, "Delete", "BackSpace", "Return", "KP_Enter", "Tab"))
"""Keys that people press for the text, cell or list in focus: alone and with Shift, and some with Ctrl."""

_NUM_LOCK_OFF = {
    "KP_0": "Insert", "KP_1": "End", "KP_2": "Down", "KP_3": "Page_Down", "KP_4": "Left", "KP_6": "Right",
    "KP_7": "Home", "KP_8": "Up", "KP_9": "Page_Up", "KP_Decimal": "Delete",
}  # fmt: skip


@lru_cache(maxsize=4096)
def without_num_lock(chord: Chord) -> Chord | None:
    """The chord that a key of the keypad gives while Num Lock is off; None if it gives the same."""
    key = _NUM_LOCK_OFF.get(chord.key)
    return Chord(chord.mods, key) if key else None


def answers(focus: str, chord: Chord) -> bool:
    """Whether a widget of that kind answers a chord by itself."""
    return chord in ANSWERS.get(focus, frozenset())
