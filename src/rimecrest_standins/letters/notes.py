"""Notes: short remarks that stand beside the text."""

from __future__ import annotations

from PyQt6.QtGui import QColor, QTextCursor, QTextFrameFormat, QTextLength

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.shell.there import there
from rimecrest_standins.letters.declared import command
from rimecrest_standins.letters.document import LetterDocument

GROUND = "#FFF8E1"
WIDTH = 32
"""Per cent of the text's width."""


@command(
    "insert-note",
    "Note",
    about="Put a note beside the text",
    keys="Ctrl+J, N",
    context="writing",
    effects=(Effect.EDITS,),
    picture="note-plus-outline",
)
def insert_note(doc: LetterDocument) -> None:
    look = QTextFrameFormat()
    look.setPosition(QTextFrameFormat.Position.FloatRight)
    look.setBorder(1)
    look.setPadding(8)
    look.setMargin(6)
    look.setBackground(QColor(GROUND))
    look.setWidth(QTextLength(QTextLength.Type.PercentageLength, WIDTH))
    cursor = doc.cursor()
    cursor.clearSelection()
    frame = cursor.insertFrame(look)
    doc.put(there(frame).firstCursorPosition())


@command(
    "leave-note",
    "Leave the note",
    about="Go on in the letter",
    keys=("Escape", "Ctrl+J, Escape"),
    context="note",
    picture="note-check-outline",
)
def leave_note(doc: LetterDocument) -> None:
    frame = doc.note()
    assert frame is not None  # the context "note" is live
    cursor = QTextCursor(doc.text)
    cursor.setPosition(min(frame.lastPosition() + 1, doc.text.characterCount() - 1))
    doc.put(cursor)


@command(
    "delete-note",
    "Delete note",
    was=("take-note",),
    about="Delete this note, with what is in it",
    keys="Ctrl+J, Shift+D",
    context="note",
    effects=(Effect.EDITS, Effect.DELETES),
    picture="note-remove-outline",
)
def take_note(doc: LetterDocument) -> None:
    frame = doc.note()
    assert frame is not None  # the context "note" is live
    cursor = QTextCursor(doc.text)
    cursor.setPosition(frame.firstPosition() - 1)
    cursor.setPosition(frame.lastPosition() + 1, QTextCursor.MoveMode.KeepAnchor)
    cursor.removeSelectedText()
    doc.put(cursor)
