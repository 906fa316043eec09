"""Which key means what on the stage."""

from __future__ import annotations

from enum import Enum, auto

from PyQt6.QtCore import Qt

K = Qt.Key
M = Qt.KeyboardModifier


class Meaning(Enum):
    """What a key press asks for; the overlay does it."""

    BACK = auto()
    FORTH = auto()
    ROW_BACK = auto()
    ROW_FORTH = auto()
    SELECT_BACK = auto()
    SELECT_FORTH = auto()
    SHIFT_BACK = auto()
    SHIFT_FORTH = auto()
    SHIFT_UP = auto()
    SHIFT_DOWN = auto()
    EARLIER = auto()
    LATER = auto()
    NARROWER = auto()
    WIDER = auto()
    LOWER = auto()
    TALLER = auto()
    TO_START = auto()
    TO_END = auto()
    SELECT_TO_START = auto()
    SELECT_TO_END = auto()
    NEXT_SURFACE = auto()
    SURFACE_BEFORE = auto()
    NEXT_TAB = auto()
    TAB_BEFORE = auto()
    TAKE_BEFORE = auto()
    TAKE_BEHIND = auto()
    RENAME = auto()
    COPY = auto()
    CUT = auto()
    PASTE = auto()
    OPEN = auto()
    OWN_STEPS = auto()
    SHOW_ALL = auto()
    GIVE_UP = auto()
    OUTWARD = auto()
    INWARD = auto()
    LEFTWARD = auto()
    RIGHTWARD = auto()
    AFLOAT = auto()
    MENU = auto()
    HIDDEN = auto()
    COMPARE = auto()
    PAST = auto()


_NONE, _SHIFT, _CTRL, _ALT = M.NoModifier, M.ShiftModifier, M.ControlModifier, M.AltModifier
KEYS: dict[tuple[int, Qt.KeyboardModifier], Meaning] = {
    (K.Key_Left, _NONE): Meaning.BACK,
    (K.Key_Up, _NONE): Meaning.ROW_BACK,
    (K.Key_Right, _NONE): Meaning.FORTH,
    (K.Key_Down, _NONE): Meaning.ROW_FORTH,
    (K.Key_Left, _SHIFT): Meaning.SELECT_BACK,
    (K.Key_Up, _SHIFT): Meaning.SELECT_BACK,
    (K.Key_Right, _SHIFT): Meaning.SELECT_FORTH,
    (K.Key_Down, _SHIFT): Meaning.SELECT_FORTH,
    (K.Key_Left, _ALT): Meaning.SHIFT_BACK,
    (K.Key_Up, _ALT): Meaning.SHIFT_UP,
    (K.Key_Right, _ALT): Meaning.SHIFT_FORTH,
    (K.Key_Down, _ALT): Meaning.SHIFT_DOWN,
    (K.Key_PageUp, _ALT): Meaning.EARLIER,
    (K.Key_PageDown, _ALT): Meaning.LATER,
    (K.Key_Left, _ALT | _SHIFT): Meaning.NARROWER,
    (K.Key_Right, _ALT | _SHIFT): Meaning.WIDER,
    (K.Key_Up, _ALT | _SHIFT): Meaning.LOWER,
    (K.Key_Down, _ALT | _SHIFT): Meaning.TALLER,
    (K.Key_Home, _NONE): Meaning.TO_START,
    (K.Key_End, _NONE): Meaning.TO_END,
    (K.Key_Home, _SHIFT): Meaning.SELECT_TO_START,
    (K.Key_End, _SHIFT): Meaning.SELECT_TO_END,
    (K.Key_Tab, _NONE): Meaning.NEXT_SURFACE,
    (K.Key_Backtab, _SHIFT): Meaning.SURFACE_BEFORE,
    (K.Key_Backtab, _NONE): Meaning.SURFACE_BEFORE,
    (K.Key_PageDown, _NONE): Meaning.NEXT_TAB,
    (K.Key_PageUp, _NONE): Meaning.TAB_BEFORE,
    (K.Key_Backspace, _NONE): Meaning.TAKE_BEFORE,
    (K.Key_Delete, _NONE): Meaning.TAKE_BEHIND,
    (K.Key_F2, _NONE): Meaning.RENAME,
    (K.Key_C, _CTRL): Meaning.COPY,
    (K.Key_X, _CTRL): Meaning.CUT,
    (K.Key_V, _CTRL): Meaning.PASTE,
    (K.Key_Return, _NONE): Meaning.OPEN,
    (K.Key_Enter, _NONE): Meaning.OPEN,
    (K.Key_Space, _NONE): Meaning.OPEN,
    (K.Key_Return, _CTRL): Meaning.OWN_STEPS,
    (K.Key_Enter, _CTRL): Meaning.OWN_STEPS,
    (K.Key_Insert, _NONE): Meaning.SHOW_ALL,
    (K.Key_Escape, _NONE): Meaning.GIVE_UP,
    (K.Key_Up, _CTRL): Meaning.OUTWARD,
    (K.Key_Down, _CTRL): Meaning.INWARD,
    (K.Key_Left, _CTRL): Meaning.LEFTWARD,
    (K.Key_Right, _CTRL): Meaning.RIGHTWARD,
    (K.Key_Home, _CTRL): Meaning.AFLOAT,
    (K.Key_Menu, _NONE): Meaning.MENU,
    (K.Key_H, _CTRL): Meaning.HIDDEN,
    (K.Key_F7, _NONE): Meaning.COMPARE,
    (K.Key_F8, _NONE): Meaning.PAST,
    (K.Key_F10, _SHIFT): Meaning.MENU,
}
ONCE = frozenset((Meaning.OPEN, Meaning.OWN_STEPS, Meaning.RENAME, Meaning.PASTE, Meaning.CUT))
"""What a key that is held down does only once."""


OFF_THE_GRID = {
    Meaning.SHIFT_UP: Meaning.SHIFT_BACK,
    Meaning.SHIFT_DOWN: Meaning.SHIFT_FORTH,
    Meaning.EARLIER: Meaning.SHIFT_BACK,
    Meaning.LATER: Meaning.SHIFT_FORTH,
}
"""What these mean where things stand in a row, and for a surface that is held."""
ON_THE_GRID: dict[Meaning, tuple[int, int]] = {
    Meaning.SHIFT_BACK: (-1, 0),
    Meaning.SHIFT_FORTH: (1, 0),
    Meaning.SHIFT_UP: (0, -1),
    Meaning.SHIFT_DOWN: (0, 1),
}
"""Cells to the right and down that a key moves what stands on a panel's free grid."""
SIZES: dict[Meaning, tuple[int, int]] = {
    Meaning.NARROWER: (-1, 0),
    Meaning.WIDER: (1, 0),
    Meaning.LOWER: (0, -1),
    Meaning.TALLER: (0, 1),
}
"""Cells across and down by which a key makes it larger."""


def meaning_of(key: int, held: Qt.KeyboardModifier) -> Meaning | None:
    """What a key press asks for; None for a letter, or a key that means nothing here."""
    return KEYS.get((key, held & ~M.KeypadModifier))


def commands(held: Qt.KeyboardModifier) -> bool:
    """Whether a key with these is a command and writes nothing: Ctrl or Alt, not both (that is Alt Gr)."""
    return bool(held & M.ControlModifier) != bool(held & M.AltModifier)
