"""Keys in a field whose text only the document changes: what is typed comes out, moving stays within."""

from __future__ import annotations

from collections.abc import Callable, Container

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QInputMethodEvent, QKeyEvent

from rimecrest.shell.plain_text import typed_text

MOVE_KEYS = frozenset(
    {
        *(Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down),
        *(Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown),
    }
)
"""The keys that move within a text or a field, or among cells."""
LINE_KEYS = frozenset({Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End})
"""Those that move along one line."""


def moves_with(event: QKeyEvent, keys: Container[int]) -> bool:
    """Whether a key press is one of these keys, alone or with Ctrl and Shift."""
    held = event.modifiers()
    other = Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.MetaModifier
    return event.key() in keys and not held & other


def take_key(
    event: QKeyEvent | None,
    moves: Container[int],
    move: Callable[[QKeyEvent], object],
    write: Callable[[str], object],
) -> None:
    """Move with one of the keys that do, write out what types a text, and leave every other key to others."""
    assert event is not None
    if moves_with(event, moves):
        move(event)
    elif text := typed_text(event):
        write(text)
        event.accept()
    else:
        event.ignore()


def take_composed(
    event: QInputMethodEvent | None,
    show: Callable[[QInputMethodEvent], object],
    write: Callable[[str], object],
) -> None:
    """Show what an input method is composing, and write out what it has settled on."""
    assert event is not None
    show(QInputMethodEvent(event.preeditString(), event.attributes()))
    if event.commitString():
        write(event.commitString())
