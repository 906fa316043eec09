"""Keep a document within the limits of `text_bounds` while it is edited, so that it can be opened again."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtGui import QTextBlock, QTextCursor, QTextDocument, QTextFrame, QTextTable

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest_standins.formatted_text.text_bounds import (
    LONGEST_LINE,
    LONGEST_TEXT,
    LONGEST_WORD,
    MOST_CELLS,
    MOST_LINES,
    MOST_UNBROKEN,
    unbroken,
)


def check_written(document: QTextDocument, first: int, last: int, grown: bool) -> None:
    """Check the part of a document that has just changed.

    Args:
        grown: the document has become longer. If not, only the changed lines are checked.

    Raises:
        RimecrestError: the document exceeds a limit.
    """
    if grown:
        _within(tr("characters"), document.characterCount(), LONGEST_TEXT)
        _within(tr("lines"), document.blockCount(), MOST_LINES)
        root = document.rootFrame()
        _within(tr("cells of tables"), _cells(root, 1) if root is not None else 0, MOST_CELLS)
    long = False
    for block in _blocks(document.findBlock(first), last):
        _within(tr("characters in one line"), block.length(), LONGEST_LINE)
        long = long or block.length() > LONGEST_WORD
    if long:
        every = _blocks(document.begin(), document.characterCount())
        count = sum(unbroken(block.text()) for block in every if block.length() > LONGEST_WORD)
        _within(tr("characters in very long words"), count, MOST_UNBROKEN)


def has_room(cursor: QTextCursor, text: str) -> bool:
    """Return True if typing `text` cannot exceed a limit. Close to one, each key is its own undo step."""
    document = cursor.document()
    return (
        document is not None
        and document.characterCount() < LONGEST_TEXT - LONGEST_LINE
        and document.blockCount() + text.count("\n") < MOST_LINES
        and cursor.block().length() + len(text) < LONGEST_WORD
    )


def _blocks(block: QTextBlock, last: int) -> Iterator[QTextBlock]:
    while block.isValid() and block.position() <= last:
        yield block
        block = block.next()


def _cells(frame: QTextFrame, each: int) -> int:
    """Count the table cells in a frame, in the way `html_bounds` does."""
    count = 0
    for inner in filter(None, frame.childFrames()):
        table = isinstance(inner, QTextTable)
        count += inner.rows() * inner.columns() * each if isinstance(inner, QTextTable) else 0
        count += _cells(inner, each * 2 if table else each)
    return count


def _within(what: str, count: int, most: int) -> None:
    if count > most:
        raise RimecrestError(
            tr("A text has at most {most:,} {what}.", most=most, what=what),
            tr("Begin another one for the rest; this one is as it was."),
        )
