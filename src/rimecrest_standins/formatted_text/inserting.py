"""Lines, dates and links that are put into the text."""

from __future__ import annotations

from datetime import date

from PyQt6.QtGui import QTextCharFormat, QTextFormat, QTextLength

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.documents.outside import open_link, opening
from rimecrest.kit.documents.shared_declarations import SharedDeclarations
from rimecrest_standins.formatted_text.document import FormattedText
from rimecrest_standins.formatted_text.looks import give_look, parse_look, parse_made_look, runs

inserting = SharedDeclarations()
command = inserting.command

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
def insert_rule(doc: FormattedText) -> None:
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
def insert_date(doc: FormattedText) -> None:
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
def insert_link(doc: FormattedText, to: str) -> None:
    cursor = doc.cursor()
    look = QTextCharFormat()
    look.setAnchor(True)
    look.setAnchorHref(to.strip().strip("\"'"))
    look.setFontUnderline(True)
    look.setForeground(doc.page.palette().link())
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
def remove_link(doc: FormattedText) -> None:
    cursor, document = doc.cursor(), doc.text
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
def follow_link(doc: FormattedText) -> None:
    address = doc.cursor().charFormat().anchorHref()
    if not address:
        raise RimecrestError(tr("There is no link here."), tr("Put the cursor into one."))
    open_link(address)
