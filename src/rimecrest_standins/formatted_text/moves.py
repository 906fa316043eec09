"""What the cursor's way from one place to another means, said in commands.

The recorder asks: a colleague clicked or pressed the arrows, and what counts is where that led. In this
order: what was just written, the whole text, its ends, a heading, a paragraph and its ends, words, and
only then characters.
"""

from __future__ import annotations

from msgspec import Struct
from PyQt6.QtGui import QTextBlock, QTextCursor, QTextDocument

from rimecrest.kit.documents.document import Move


class Place(Struct, frozen=True):
    """The cursor: what is chosen lies between the two positions, counted in characters."""

    anchor: int
    position: int
    look_chosen: bool = False
    """What is written next looks other than what it goes on from. Any move ends that, also one and back."""


def moves(
    document: QTextDocument, written: tuple[int, int] | None, before: Place, after: Place
) -> list[Move]:
    """The commands that lead the cursor from one place to the other.

    `written` is from where to where was written last, without a move in between.
    """
    if before == after:
        return []
    # Commands go on from behind what is chosen, whichever way it was chosen.
    here = max(before.anchor, before.position)
    start, end = sorted((after.anchor, after.position))
    if (before.anchor, before.position) == (after.anchor, after.position):
        return [("select-nothing", {})] if start == end and before.look_chosen else []
    if start == end:
        first = min(before.anchor, before.position)
        if first != here and after.position in (first, here):
            return [(f"go-to-selection-{'start' if after.position == first else 'end'}", {})]
        return _to(document, here, after.position)
    if written == (start, end):
        return [("select-written", {})]
    if start == 0 and end >= document.characterCount() - 1:
        return [("select-all", {})]
    for verb, reach in (("select-word", _word), ("select-paragraph", _paragraph)):
        if reach(document, here) == (start, end):
            # The same command finds it again from here, so no move is needed.
            return [(verb, {})]
        if reach(document, start) == (start, end):
            return [*_to(document, here, start), (verb, {})]
    return [
        *_to(document, here, after.anchor),
        ("select-characters", {"by": str(after.position - after.anchor)}),
    ]


def _word(document: QTextDocument, position: int) -> tuple[int, int]:
    probe = QTextCursor(document)
    probe.setPosition(position)
    probe.select(QTextCursor.SelectionType.WordUnderCursor)
    return probe.selectionStart(), probe.selectionEnd()


def _paragraph(document: QTextDocument, position: int) -> tuple[int, int]:
    block = document.findBlock(position)
    return block.position(), block.position() + block.length() - 1


def _to(document: QTextDocument, start: int, end: int) -> list[Move]:
    """From one position to another, without choosing anything."""
    if start == end:
        return [("select-nothing", {})]
    if end == 0:
        return [("go-to-start", {})]
    if end >= document.characterCount() - 1:
        return [("go-to-end", {})]
    here, there = document.findBlock(start), document.findBlock(end)
    found: list[Move] = []
    at = start
    if here != there:
        if there.blockFormat().headingLevel() and there.text().strip() and _only(document.begin(), there):
            found.append(("go-to-heading", {"name": there.text().strip()}))
        else:
            found.append(("go-paragraphs", {"by": str(there.blockNumber() - here.blockNumber())}))
        at = there.position()
    elif end == there.position():
        return [("go-paragraphs", {"by": "0"})]
    if end == there.position() + there.length() - 1 and end != at:
        return [*found, ("go-to-paragraph-end", {})]
    return [*found, *_within(document, at, end)]


def _within(document: QTextDocument, start: int, end: int) -> list[Move]:
    if start == end:
        return []
    move = QTextCursor.MoveOperation.NextWord if end > start else QTextCursor.MoveOperation.PreviousWord
    probe = QTextCursor(document)
    probe.setPosition(start)
    words = 0
    while (probe.position() < end) if end > start else (probe.position() > end):
        if not probe.movePosition(move):
            break
        words += 1
    if probe.position() == end:
        return [("go-words", {"by": str(words if end > start else -words)})]
    return [("go-characters", {"by": str(end - start)})]


def _only(first: QTextBlock, heading: QTextBlock) -> bool:
    """Whether no earlier heading has the same words: only then they lead there."""
    block = first
    while block.isValid() and block != heading:
        if block.blockFormat().headingLevel() and block.text().strip() == heading.text().strip():
            return False
        block = block.next()
    return True
