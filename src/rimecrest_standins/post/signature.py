"""The seat's signature in a message: there once, at its place, whatever the message began from.

It begins with a line of two dashes and a blank (RFC 3676, 4.3) and ends where a quotation begins, or with the
text. A template has the field `[[Signature]]` in its place, so that nobody's own travels in it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from PyQt6.QtGui import QTextBlock, QTextCursor, QTextDocument

from rimecrest.shell.plain_text import plain_text
from rimecrest_standins.formatted_text.document import FormattedText

DASHES = "-- "
FIELD = "[[Signature]]"
PLACE = re.compile(r"\[\[\s*Signature\s*\]\]", re.IGNORECASE)


def _blocks(text: QTextDocument) -> Iterator[QTextBlock]:
    block = text.begin()
    while block.isValid():
        yield block
        block = block.next()


def end_of_writing(text: QTextDocument) -> int:
    """Where what is written ends: before what is quoted, which is indented; else with the text."""
    end = text.characterCount() - 1
    for block in reversed(list(_blocks(text))):
        if block.blockFormat().indent() > 0:
            end = max(block.position() - 1, 0)
        elif block.text().strip():
            break
    return end


def span(text: QTextDocument) -> tuple[int, int] | None:
    """From where to where the signature stands; None: there is none."""
    end = end_of_writing(text)
    dashes = [block.position() for block in _blocks(text) if block.text().rstrip() == DASHES.rstrip()]
    starts = [at for at in dashes if at <= end]
    return (starts[-1], end) if starts else None


def _cursor(text: QTextDocument, start: int, end: int) -> QTextCursor:
    cursor = QTextCursor(text)
    cursor.setPosition(start)
    cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
    return cursor


def sign(doc: FormattedText, signature: str) -> None:
    """Have a signature, as HTML, once: where one stands, else at its field, else where the writing ends.

    A seat without a signature keeps what stands there, and no field.
    """
    at = None
    for match in reversed(list(PLACE.finditer(plain_text(doc.text)))):
        _cursor(doc.text, *match.span()).removeSelectedText()
        at = match.start()
    if not signature:
        return
    start, end = span(doc.text) or ((end_of_writing(doc.text),) * 2 if at is None else (at, at))
    cursor = _cursor(doc.text, start, end)
    cursor.removeSelectedText()
    if cursor.block().text() or not start:
        cursor.insertBlock()
    cursor.insertText(DASHES)
    cursor.insertBlock()
    doc.put_html(cursor, signature)


def with_field(text: QTextDocument) -> QTextDocument:
    """A copy of a text that has the field where the signature was."""
    copy = text.clone(text)
    assert copy is not None
    if (found := span(copy)) is not None:
        _cursor(copy, *found).insertText(FIELD)
    return copy
