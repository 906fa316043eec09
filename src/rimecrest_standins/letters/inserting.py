"""Things that are put into the text."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from PyQt6.QtGui import (
    QTextBlock,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocumentFragment,
    QTextFormat,
)

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import CommandResult
from rimecrest_standins.formatted_text.inserting import insert_rule
from rimecrest_standins.letters.declared import command
from rimecrest_standins.letters.document import LetterDocument

EDITS = (Effect.EDITS,)


@command(
    "break-page",
    "New page",
    about="Let this paragraph begin a new page",
    keys="Ctrl+J, B",
    context="writing",
    effects=EDITS,
    picture="format-page-break",
)
def break_page(doc: LetterDocument) -> None:
    cursor = doc.cursor()
    if not cursor.atBlockStart():
        cursor.insertBlock()
    made = cursor.blockFormat()
    made.setPageBreakPolicy(QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore)
    cursor.setBlockFormat(made)
    doc.put(cursor)


@command(
    "break-section",
    "New section",
    about="End this part of the letter with a line, and begin the next on a new page",
    context="writing",
    effects=EDITS,
    picture="format-section",
)
def break_section(doc: LetterDocument) -> None:
    insert_rule(doc)
    break_page(doc)


@command(
    "join-pages",
    "No new page",
    about="Let this paragraph go on where the last one ended",
    context="writing",
    effects=EDITS,
    picture="arrow-collapse-up",
)
def join_pages(doc: LetterDocument) -> None:
    cursor = doc.cursor()
    made = cursor.blockFormat()
    made.setPageBreakPolicy(QTextFormat.PageBreakFlag.PageBreak_Auto)
    cursor.setBlockFormat(made)


@command(
    "list-headings",
    "List of headings",
    about="Put a list of all headings here",
    context="writing",
    effects=EDITS,
    picture="table-of-contents",
)
def list_headings(doc: LetterDocument) -> None:
    found = [(b.blockFormat().headingLevel(), b.text().strip()) for b in _blocks(doc) if b.text().strip()]
    headings = [(level, words) for level, words in found if level]
    if not headings:
        raise RimecrestError(
            tr("The letter has no headings."), tr("Give a paragraph the style heading first.")
        )
    cursor = doc.cursor()
    if not cursor.atBlockStart():
        cursor.insertBlock()
    plain = QTextBlockFormat()
    for level, words in headings:
        plain.setIndent(level - 1)
        cursor.setBlockFormat(plain)
        cursor.insertText(words, QTextCharFormat())
        cursor.insertBlock(QTextBlockFormat(), QTextCharFormat())
    doc.put(cursor)


def _blocks(doc: LetterDocument) -> Iterator[QTextBlock]:
    block = doc.text.begin()
    while block.isValid():
        yield block
        block = block.next()


@command(
    "name-place",
    "Name this place",
    about="Give the place at the cursor a name, to come back to",
    context="writing",
    effects=EDITS,
    picture="map-marker-plus-outline",
)
def name_place(doc: LetterDocument, name: str) -> None:
    cursor = doc.cursor()
    if not cursor.hasSelection():
        cursor.select(QTextCursor.SelectionType.WordUnderCursor)
    if not cursor.hasSelection():
        raise RimecrestError(
            tr("There is no word here that could carry the name."), tr("Put the cursor to one.")
        )
    made = QTextCharFormat()
    made.setAnchor(True)
    made.setAnchorNames([name.strip()])
    cursor.mergeCharFormat(made)


def named_places(doc: LetterDocument) -> dict[str, int]:
    """The named places of a letter with their positions."""
    places: dict[str, int] = {}
    for block in _blocks(doc):
        fragments = block.begin()
        while not fragments.atEnd():
            fragment = fragments.fragment()
            for name in fragment.charFormat().anchorNames():
                places.setdefault(name, fragment.position())
            fragments += 1
    return places


@command(
    "go-to-place",
    "Go to a named place",
    about="Go to the place of this name",
    context="writing",
    picture="map-marker-right-outline",
)
def go_to_place(doc: LetterDocument, name: str) -> None:
    places = named_places(doc)
    if name.strip() not in places:
        known = ", ".join(f"“{place}”" for place in places) or "none"
        raise RimecrestError(
            tr("The letter has no place “{name}”.", name=name), tr("It has: {known}.", known=known)
        )
    cursor = doc.cursor()
    cursor.setPosition(places[name.strip()])
    doc.put(cursor)


@command(
    "insert-file",
    "Text of a file",
    about="Put the text of another letter here, as it looks",
    context="writing",
    effects=(Effect.EDITS, Effect.OPENS_FILES),
    picture="file-import-outline",
)
def insert_file(doc: LetterDocument, path: Path) -> CommandResult:
    path = clean_path(path)
    block = LetterDocument(doc.documents)
    block.open_path(path)
    cursor = doc.cursor()
    cursor.insertFragment(QTextDocumentFragment(block.text))
    block.widget.deleteLater()
    doc.put(cursor)
    return CommandResult({"path": str(path)})
