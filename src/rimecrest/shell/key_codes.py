"""Which chord a key press is.

A chord is matched by key code plus held modifiers: letters and symbols by the key's unshifted symbol in the
seat's Latin group, the digits of the top row by position, everything else by keysym name; AltGr never forms
a chord. On X11 the key's symbols come from the server's own keyboard mapping; where there is no server (the
offscreen platform) Qt's key stands in.
"""

from __future__ import annotations

from ctypes import CDLL
from functools import lru_cache
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication, QKeyEvent

from rimecrest.core.keys.chords import MODIFIERS, NAMED, Chord, key_name
from rimecrest.core.words import tr

# Key codes of the digits in the top row, from 1 to 0: evdev codes 2 to 11 plus X11's offset of 8.
_TOP_ROW = {code: str((code - 9) % 10) for code in range(10, 20)}

_BY_QT = {
    Qt.Key.Key_Return: "Return", Qt.Key.Key_Enter: "KP_Enter", Qt.Key.Key_Escape: "Escape",
    Qt.Key.Key_Tab: "Tab", Qt.Key.Key_Backtab: "Tab", Qt.Key.Key_Backspace: "BackSpace",
    Qt.Key.Key_Delete: "Delete", Qt.Key.Key_Insert: "Insert", Qt.Key.Key_Home: "Home",
    Qt.Key.Key_End: "End", Qt.Key.Key_PageUp: "Page_Up", Qt.Key.Key_PageDown: "Page_Down",
    Qt.Key.Key_Left: "Left", Qt.Key.Key_Right: "Right", Qt.Key.Key_Up: "Up", Qt.Key.Key_Down: "Down",
    Qt.Key.Key_Space: "space", Qt.Key.Key_Pause: "Pause", Qt.Key.Key_Print: "Print",
    Qt.Key.Key_Menu: "Menu", Qt.Key.Key_ScrollLock: "Scroll_Lock",
}  # fmt: skip
_SHIFTED = dict(zip('~_+{}|:"<>?!@#$%^&*()', "`-=[]\\;',./1234567890", strict=True))
_HELD = (
    (Qt.KeyboardModifier.ControlModifier, "Ctrl"),
    (Qt.KeyboardModifier.AltModifier, "Alt"),
    (Qt.KeyboardModifier.ShiftModifier, "Shift"),
    (Qt.KeyboardModifier.MetaModifier, "Super"),
)
_ONLY_MODIFIERS = {
    Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt, Qt.Key.Key_Meta, Qt.Key.Key_AltGr,
    Qt.Key.Key_Super_L, Qt.Key.Key_Super_R, Qt.Key.Key_CapsLock, Qt.Key.Key_NumLock,
}  # fmt: skip
_FIRST_LATIN, _LAST_LATIN = 0x21, 0x24F
"""Code points of what Latin keyboards write: Unicode's Basic Latin to Latin Extended-B, without the space."""
_MODE_SWITCH = Qt.KeyboardModifier.GroupSwitchModifier
_ISO_LEVEL3 = 0x80
"""Bit of X11's fifth modifier, where every common keyboard puts AltGr."""


def silence_of(event: QKeyEvent) -> str:
    """Why a key press is no chord, for who wonders that nothing was heard; empty for a chord."""
    held = event.modifiers() & _MODE_SWITCH or event.nativeModifiers() & _ISO_LEVEL3
    if event.key() == Qt.Key.Key_AltGr or held:
        return tr("AltGr writes characters: no hotkey is made with it.")
    if Qt.Key.Key_Dead_Grave.value <= event.key() <= Qt.Key.Key_Dead_Longsolidusoverlay.value:
        return tr("That key writes an accent together with the next one: it is no hotkey by itself.")
    return ""


def chord_of(event: QKeyEvent) -> Chord | None:
    """The chord of a key press; None for a modifier alone, AltGr, or a key without a name."""
    if event.key() in _ONLY_MODIFIERS or event.modifiers() & _MODE_SWITCH:
        return None
    if event.nativeModifiers() & _ISO_LEVEL3:
        return None
    held = {name for flag, name in _HELD if event.modifiers() & flag}
    if event.key() == Qt.Key.Key_Backtab:
        held.add("Shift")
    key = _key(event)
    return Chord(tuple(name for name in MODIFIERS if name in held), key) if key else None


def _key(event: QKeyEvent) -> str:
    if keypad := _keypad_key(event):
        return keypad
    code = event.nativeScanCode()
    if code and QGuiApplication.platformName() == "xcb":
        if code in _TOP_ROW:
            return _TOP_ROW[code]
        if symbol := _unshifted(code):
            return symbol
    return _qt_key(event.key())


_KEYPAD = {
    **{getattr(Qt.Key, f"Key_{digit}"): f"KP_{digit}" for digit in range(10)},
    Qt.Key.Key_Plus: "KP_Add", Qt.Key.Key_Minus: "KP_Subtract", Qt.Key.Key_Asterisk: "KP_Multiply",
    Qt.Key.Key_Slash: "KP_Divide", Qt.Key.Key_Period: "KP_Decimal", Qt.Key.Key_Comma: "KP_Decimal",
    Qt.Key.Key_Enter: "KP_Enter",
}  # fmt: skip


def _keypad_key(event: QKeyEvent) -> str:
    """The name of a key of the keypad; empty for others, and where it only moves (without NumLock)."""
    if not event.modifiers() & Qt.KeyboardModifier.KeypadModifier:
        return ""
    return _KEYPAD.get(event.key(), "")


def _qt_key(key: int) -> str:
    named = _BY_QT.get(Qt.Key(key)) if key in _QT_VALUES else None
    if named:
        return named
    if Qt.Key.Key_F1 <= key <= Qt.Key.Key_F24:
        return f"F{key - Qt.Key.Key_F1 + 1}"
    if _FIRST_LATIN <= key <= _LAST_LATIN:
        letter = key_name(chr(key))
        return _SHIFTED.get(letter, letter)
    return ""


_QT_VALUES = {key.value for key in _BY_QT}


def _unshifted(code: int) -> str:
    """The key's symbol without Shift in the first group that has Latin letters, or its keysym name."""
    symbols = _KEYBOARD.symbols().get(code, ())
    column = _KEYBOARD.latin_column
    for symbol in (*symbols[column : column + 1], *symbols[:1]):
        if letter := _latin(symbol):
            return key_name(letter)
        if name := _keysym_names().get(symbol):
            return name
    return ""


def own_symbols(event: QKeyEvent) -> str:
    """The characters that a key writes by itself and with Shift; empty where there is no server to ask."""
    if QGuiApplication.platformName() != "xcb":
        return ""
    symbols = _KEYBOARD.symbols().get(event.nativeScanCode(), ())
    return "".join(_latin(symbol) for symbol in symbols[:2])


def top_row_digit(symbol: str) -> str:
    """The digit of the top row's key that gives this symbol unshifted; empty when none does, or a digit
    itself."""
    if len(symbol) != 1 or symbol.isalnum() or QGuiApplication.platformName() != "xcb":
        return ""
    # Where another key has the symbol too, that one is meant.
    codes = [code for code in _KEYBOARD.symbols() if _unshifted(code) == symbol]
    return _TOP_ROW[codes[0]] if codes and all(code in _TOP_ROW for code in codes) else ""


_FUNCTION_KEYSYMS = range(0xFD00, 0x10000)
"""Those of keys that do something or are of the keypad, though some write a character as well."""


@lru_cache(maxsize=1024)
def _latin(symbol: int) -> str:
    """The Latin character that an X11 keysym writes; empty for any other.

    Most keysyms beyond Latin-1 are older than Unicode and have numbers of their own; the library that Qt
    reads keyboards with under X11 knows all of them.
    """
    if symbol in _FUNCTION_KEYSYMS:
        return ""
    code = CDLL("libxkbcommon.so.0").xkb_keysym_to_utf32(symbol)
    return chr(code) if _FIRST_LATIN <= code <= _LAST_LATIN else ""


class _Keyboard:
    """The server's keyboard mapping, read again when the server says that it is another one."""

    def __init__(self) -> None:
        self._display: Any = None
        self._symbols: dict[int, tuple[int, ...]] | None = None
        self.latin_column = 0
        """Where the symbols without Shift of the first group with Latin letters stand in a row."""
        self.edition = 0
        """Grows with each mapping."""

    def symbols(self) -> dict[int, tuple[int, ...]]:
        """Key code → its symbols; nothing where there is no server."""
        self.look()
        if self._symbols is None:
            self._symbols = rows = self._read()
            latin = any(_latin(row[0]).isalpha() for row in rows.values() if row)
            self.latin_column = 0 if latin else 2
            self.edition += 1
        return self._symbols

    def look(self) -> None:
        """Notice that the seat changed its keyboard (X11 tells every client: MappingNotify)."""
        from Xlib.X import MappingNotify  # noqa: PLC0415  only under X11

        if self._display is None:
            return
        while self._display.pending_events():
            if self._display.next_event().type == MappingNotify:
                self._symbols = None

    def _read(self) -> dict[int, tuple[int, ...]]:
        from Xlib.display import Display  # noqa: PLC0415  only under X11
        from Xlib.error import DisplayError  # noqa: PLC0415  only under X11

        try:
            self._display = self._display or Display()
        except DisplayError:
            return {}
        first = self._display.display.info.min_keycode
        count = self._display.display.info.max_keycode - first + 1
        rows = self._display.get_keyboard_mapping(first, count)
        return {first + index: tuple(row) for index, row in enumerate(rows)}


_KEYBOARD = _Keyboard()


def keyboard_edition() -> int:
    """A number that is another one when the seat has another keyboard since."""
    if QGuiApplication.platformName() == "xcb":
        _KEYBOARD.symbols()
    return _KEYBOARD.edition


@lru_cache(maxsize=1)
def _keysym_names() -> dict[int, str]:
    from Xlib import XK  # noqa: PLC0415  only under X11

    XK.load_keysym_group("xkb")
    return {XK.string_to_keysym(name): name for name in NAMED} | {0xFE20: "Tab"}  # ISO_Left_Tab
