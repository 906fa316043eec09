"""Keyboards: where each key lies, and what it gives on each national layout.

`keyboard(code)` is one national keyboard, `known_keyboards()` the codes that exist. The tables in `tables/`
are written by `tools/keyboards.py` from the system's XKB data.
"""

from rimecrest.core.keys.keyboards.geometry import HOME, Cap, Geometry, Hand, geometry
from rimecrest.core.keys.keyboards.national import (
    KEY_OF_NAME,
    TOP_ROW,
    Keyboard,
    KeyboardTable,
    keyboard,
    keyboard_name,
    known_keyboards,
    on_keyboard,
    spelled_on,
)

__all__ = [
    "HOME",
    "KEY_OF_NAME",
    "TOP_ROW",
    "Cap",
    "Geometry",
    "Hand",
    "Keyboard",
    "KeyboardTable",
    "geometry",
    "keyboard",
    "keyboard_name",
    "known_keyboards",
    "on_keyboard",
    "spelled_on",
]
