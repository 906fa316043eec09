"""Things that are put into the text."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QDesktopServices, QTextCharFormat, QTextFormat, QTextLength

from rimecrest.apps.letters.declared import command
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError

EDITS = (Effect.EDITS,)


@command(
    "insert-rule",
    "Line across",
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
    doc.place(cursor)


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
    doc.place(cursor)


@command(
    "insert-link",
    "Link",
    about="Make the chosen words a link to an address",
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
        doc.place(cursor)


@command(
    "follow-link",
    "Follow the link",
    about="Open the address of the link at the cursor",
    context="writing",
    effects=(Effect.OPENS_LINKS,),
    picture="link-box-outline",
    leaves_document=True,
)
def follow_link(doc: LetterDocument) -> None:
    address = doc.cursor().charFormat().anchorHref()
    if not address:
        raise RimecrestError("There is no link here.", "Put the cursor into one.")
    if not QDesktopServices.openUrl(QUrl.fromUserInput(address)):
        raise RimecrestError(f"Nothing on this computer opens {address}.")
