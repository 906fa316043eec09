"""Finding, counting, and the size of what is seen."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal

from PyQt6.QtCore import Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QTextBlock,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextFragment,
)

from rimecrest.apps.letters.declared import command, declarations
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.formatting import MARK
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.embed.document import Reached
from rimecrest.embed.search_commands import ask_replacement, declare_search
from rimecrest.embed.view_commands import declare_zoom


def _find(doc: LetterDocument, text: str, backwards: bool) -> None:
    flags = QTextDocument.FindFlag.FindBackward if backwards else QTextDocument.FindFlag(0)
    document = doc.widget.document()
    found = document.find(text, doc.cursor(), flags)
    if found.isNull():
        # Once round: from the other end.
        end = QTextCursor(document)
        if backwards:
            end.movePosition(QTextCursor.MoveOperation.End)
        found = document.find(text, end, flags)
    if found.isNull():
        raise RimecrestError(tr("“{text}” is not in this letter.", text=text))
    doc.put(found)


declare_search(
    declarations,
    ("Find words in the letter", "Find the same words before the cursor"),
    "writing",
    _find,
    lambda doc: doc.cursor().selectedText(),
)


@command(
    "replace",
    "Replace",
    about="Write other words wherever these stand",
    context="writing",
    effects=(Effect.EDITS,),
    picture="find-replace",
)
def replace(doc: LetterDocument, text: str = "", by: str = "") -> Reached | None:
    if not text:
        asked = ask_replacement(doc.widget)
        if asked is None:
            return None
        text, by = asked
    document, cursor = doc.widget.document(), QTextCursor(doc.widget.document())
    count = 0
    while not (found := document.find(text, cursor)).isNull():
        found.insertText(by)
        cursor = found
        count += 1
    if not count:
        raise RimecrestError(tr("“{text}” is not in this letter.", text=text))
    return Reached({"text": text, "by": by})


def _zoom(doc: LetterDocument, by: int) -> None:
    doc.widget.zoomIn(by)


declare_zoom(declarations, "letter", _zoom)


Seen = Literal["bold", "slanted", "underlined", "struck-out", "marked", "linked"]
_SEEN: dict[str, Callable[[QTextCharFormat], bool]] = {
    "bold": lambda look: look.fontWeight() >= QFont.Weight.Bold,
    "slanted": lambda look: look.fontItalic(),
    "underlined": lambda look: look.fontUnderline() and not look.isAnchor(),
    "struck-out": lambda look: look.fontStrikeOut(),
    "marked": lambda look: look.background().style() != Qt.BrushStyle.NoBrush,
    "linked": lambda look: bool(look.anchorHref()),
}


def _fragments(block: QTextBlock) -> Iterator[QTextFragment]:
    fragments = block.begin()
    while not fragments.atEnd():
        yield fragments.fragment()
        fragments += 1


def _runs(doc: LetterDocument, look: str) -> list[tuple[int, int]]:
    """From where to where words have a look, in the order of the letter."""
    found: list[tuple[int, int]] = []
    block = doc.widget.document().begin()
    while block.isValid():
        for fragment in _fragments(block):
            if _SEEN[look](fragment.charFormat()):
                start, end = fragment.position(), fragment.position() + fragment.length()
                if found and found[-1][1] == start:
                    start = found.pop()[0]
                found.append((start, end))
        block = block.next()
    return found


@command(
    "find-formatting",
    "Find by formatting",
    was=("find-look",),
    about="Select the next words with this formatting",
    context="writing",
    picture="format-color-highlight",
)
def find_look(doc: LetterDocument, look: Seen = "bold") -> None:
    runs = _runs(doc, look)
    if not runs:
        raise RimecrestError(tr("No words in this letter are {replace}.", replace=look.replace("-", " ")))
    here = doc.cursor().selectionEnd()
    start, end = next((run for run in runs if run[0] >= here), runs[0])
    cursor = doc.cursor()
    cursor.setPosition(start)
    cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
    doc.put(cursor)


@command(
    "replace-formatting",
    "Replace formatting",
    was=("replace-look",),
    about="Give all words with this formatting another one",
    context="writing",
    effects=(Effect.EDITS,),
    picture="format-paint",
)
def replace_look(
    doc: LetterDocument,
    look: Seen = "bold",
    by: Literal["plain", "bold", "slanted", "underlined", "marked"] = "plain",
) -> None:
    runs = _runs(doc, look)
    if not runs:
        raise RimecrestError(tr("No words in this letter are {replace}.", replace=look.replace("-", " ")))
    made = QTextCharFormat()
    made.setFontWeight(QFont.Weight.Bold if by == "bold" else QFont.Weight.Normal)
    made.setFontItalic(by == "slanted")
    made.setFontUnderline(by == "underlined")
    made.setFontStrikeOut(False)
    made.setBackground(QColor(MARK) if by == "marked" else QBrush(Qt.BrushStyle.NoBrush))
    for start, end in runs:
        cursor = QTextCursor(doc.widget.document())
        cursor.setPosition(start)
        cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
        cursor.mergeCharFormat(made)
