"""Things that are put into the text."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from pathlib import Path

from PyQt6.QtGui import (
    QTextBlock,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocumentFragment,
    QTextFormat,
    QTextLength,
)

from rimecrest.apps.letters.declared import command
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.looks import give_look, parse_look, parse_made_look, runs
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.embed.document import Reached
from rimecrest.embed.outside import open_link, opening

EDITS = (Effect.EDITS,)


@command(
    "insert-rule",
    "Line across",
    synonyms=("horizontal line",),
    about="Draw a line across the page",
    keys="Ctrl+J, H",
    context="writing",
    effects=EDITS,
    picture="minus",
)
def insert_rule(doc: LetterDocument) -> None:
    cursor = doc.cursor()
    rule = cursor.blockFormat()
    rule.setProperty(
        QTextFormat.Property.BlockTrailingHorizontalRulerWidth,
        QTextLength(QTextLength.Type.PercentageLength, 100),
    )
    plain = cursor.blockFormat()
    plain.clearProperty(QTextFormat.Property.BlockTrailingHorizontalRulerWidth.value)
    cursor.setBlockFormat(rule)
    cursor.insertBlock(plain)
    doc.put(cursor)


@command(
    "insert-date",
    "Today's date",
    about="Write today's date",
    keys="Ctrl+J, D",
    context="writing",
    effects=EDITS,
    picture="calendar-today",
)
def insert_date(doc: LetterDocument) -> None:
    today = date.today()
    cursor = doc.cursor()
    cursor.insertText(f"{today.day} {today:%B %Y}")
    doc.put(cursor)


@command(
    "insert-link",
    "Link",
    about="Make the selected words a link to an address",
    context="writing",
    effects=EDITS,
    picture="link-variant",
)
def insert_link(doc: LetterDocument, to: str) -> None:
    cursor = doc.cursor()
    look = QTextCharFormat()
    look.setAnchor(True)
    look.setAnchorHref(to.strip().strip("\"'"))
    look.setFontUnderline(True)
    look.setForeground(doc.widget.palette().link())
    if cursor.hasSelection():
        cursor.mergeCharFormat(look)
    else:
        plain = cursor.charFormat()
        cursor.insertText(to, look)
        cursor.setCharFormat(plain)
        doc.put(cursor)


@command(
    "remove-link",
    "Remove link",
    about="Take the address from the link at the cursor, or from those in the selection, and its look",
    context="writing",
    effects=EDITS,
    picture="link-variant-off",
)
def remove_link(doc: LetterDocument) -> None:
    cursor, document = doc.cursor(), doc.widget.document()
    first, last = cursor.selectionStart(), cursor.selectionEnd()
    found = [run for run in runs(document, parse_look("linked")) if run[0] <= last and run[1] >= first]
    if cursor.hasSelection():
        found = [(max(start, first), min(end, last)) for start, end in found if start < last and end > first]
    if not found:
        raise RimecrestError(tr("There is no link here."), tr("Put the cursor into one, or select it."))
    for start, end in found:
        give_look(document, start, end, parse_made_look("no link, not underlined, the usual colour"))


@command(
    "follow-link",
    "Follow the link",
    about="Open the address of the link at the cursor",
    context="writing",
    effects=(Effect.OPENS_LINKS,),
    picture="link-box-outline",
    leaves_document=True,
    reaches=lambda doc: opening(doc.cursor().charFormat().anchorHref()),
)
def follow_link(doc: LetterDocument) -> None:
    address = doc.cursor().charFormat().anchorHref()
    if not address:
        raise RimecrestError(tr("There is no link here."), tr("Put the cursor into one."))
    open_link(address)


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
    block = doc.widget.document().begin()
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
def insert_file(doc: LetterDocument, path: Path) -> Reached:
    path = clean_path(path)
    block = LetterDocument(doc.documents)
    block.open_path(path)
    cursor = doc.cursor()
    cursor.insertFragment(QTextDocumentFragment(block.widget.document()))
    block.widget.deleteLater()
    doc.put(cursor)
    return Reached({"path": str(path)})
