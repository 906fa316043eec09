"""Text as it was typed: what the toolkit's own short cuts would change on the way.

`toPlainText` turns no-break spaces into blanks, and Python calls them unprintable. Every character that a
person can type comes through here as it is.
"""

from __future__ import annotations

import unicodedata

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QTextDocument, QTextDocumentFragment

from rimecrest.shell.key_codes import own_symbols

_PARAGRAPHS = {0x2029: "\n", 0xFDD0: "\n", 0xFDD1: "\n"}
"""What ends a paragraph, table cell or frame in the raw text (QTextDocument::toRawText)."""
_LINES = {**_PARAGRAPHS, 0x2028: "\n"}


def plain_text(source: QTextDocument | QTextDocumentFragment, lines: bool = True) -> str:
    """The text of a document or of a part of it, its paragraphs parted by new lines.

    Args:
        lines: whether breaks within a paragraph (U+2028) become new lines as well.
    """
    return source.toRawText().translate(_LINES if lines else _PARAGRAPHS)


def is_writable(text: str) -> bool:
    """Whether a text is something to write: not empty, and no control characters in it."""
    return bool(text) and not any(unicodedata.category(character) == "Cc" for character in text)


def typed_text(event: QKeyEvent) -> str:
    """The text that a key press writes; empty for a command."""
    held, text = event.modifiers(), event.text()
    control = bool(held & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.MetaModifier))
    alt = bool(held & Qt.KeyboardModifier.AltModifier)
    # Ctrl and Alt together with a text that the key does not write without them is AltGr, as some send it.
    keypad = bool(held & Qt.KeyboardModifier.KeypadModifier)
    if control != alt or not is_writable(text) or (alt and (keypad or text in own_symbols(event))):
        return ""
    return text
