"""Choosing text and moving the cursor."""

from __future__ import annotations

from PyQt6.QtGui import QTextCursor

from rimecrest.apps.letters.declared import command
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.core.errors import RimecrestError

SELECT = QTextCursor.SelectionType
MOVE = QTextCursor.MoveOperation


def _choose(doc: LetterDocument, what: QTextCursor.SelectionType) -> None:
    cursor = doc.cursor()
    cursor.select(what)
    doc.place(cursor)


@command(
    "choose-all",
    "Choose all",
    about="Choose the whole letter",
    keys="Ctrl+A",
    context="writing",
    picture="select-all",
    everyday=True,
)
def choose_all(doc: LetterDocument) -> None:
    _choose(doc, SELECT.Document)


@command(
    "choose-word",
    "Choose word",
    about="Choose the word at the cursor",
    keys="Ctrl+J, W",
    context="writing",
    picture="form-textbox",
)
def choose_word(doc: LetterDocument) -> None:
    _choose(doc, SELECT.WordUnderCursor)


@command(
    "choose-paragraph",
    "Choose paragraph",
    about="Choose the paragraph at the cursor",
    keys="Ctrl+J, P",
    context="writing",
    picture="format-paragraph",
)
def choose_paragraph(doc: LetterDocument) -> None:
    _choose(doc, SELECT.BlockUnderCursor if doc.cursor().block().blockNumber() else SELECT.LineUnderCursor)
    cursor = doc.cursor()
    block = doc.widget.document().findBlock(cursor.selectionEnd())
    cursor.setPosition(block.position())
    cursor.movePosition(MOVE.EndOfBlock, QTextCursor.MoveMode.KeepAnchor)
    doc.place(cursor)


@command(
    "choose-nothing", "Choose nothing", about="Let go of what is chosen", keys="Escape", context="writing"
)
def choose_nothing(doc: LetterDocument) -> None:
    cursor = doc.cursor()
    cursor.clearSelection()
    doc.place(cursor)


def _go(doc: LetterDocument, where: QTextCursor.MoveOperation) -> None:
    cursor = doc.cursor()
    cursor.movePosition(where)
    doc.place(cursor)


@command(
    "go-to-start",
    "Go to the start",
    about="Go to the start of the letter",
    keys="Ctrl+Home",
    context="writing",
    picture="arrow-collapse-up",
)
def go_to_start(doc: LetterDocument) -> None:
    _go(doc, MOVE.Start)


@command(
    "go-to-end",
    "Go to the end",
    about="Go to the end of the letter",
    keys="Ctrl+End",
    context="writing",
    picture="arrow-collapse-down",
)
def go_to_end(doc: LetterDocument) -> None:
    _go(doc, MOVE.End)


@command(
    "go-to-heading",
    "Go to a heading",
    about="Go to the heading with these words",
    context="writing",
    picture="page-next-outline",
)
def go_to_heading(doc: LetterDocument, name: str) -> None:
    block = doc.widget.document().begin()
    while block.isValid():
        if block.blockFormat().headingLevel() and block.text().strip() == name.strip():
            doc.place(QTextCursor(block))
            return
        block = block.next()
    raise RimecrestError(f"The letter has no heading “{name}”.", "Check its words.")
