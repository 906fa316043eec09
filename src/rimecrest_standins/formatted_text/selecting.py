"""Choosing text and moving the cursor."""

from __future__ import annotations

from typing import Annotated

from PyQt6.QtGui import QTextCursor

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.declare import Among, Between
from rimecrest.kit.documents.shared_declarations import SharedDeclarations
from rimecrest_standins.formatted_text.document import FormattedText

selecting = SharedDeclarations()
command = selecting.command

SELECT = QTextCursor.SelectionType
MOVE = QTextCursor.MoveOperation


def _choose(doc: FormattedText, what: QTextCursor.SelectionType) -> None:
    cursor = doc.cursor()
    cursor.select(what)
    doc.put(cursor)


@command(
    "select-all",
    "Select all",
    was=("choose-all",),
    about="Select the whole {noun}",
    keys="Ctrl+A",
    context="writing",
    selects_all=True,
    picture="select-all",
    everyday=True,
)
def choose_all(doc: FormattedText) -> None:
    _choose(doc, SELECT.Document)


@command(
    "select-word",
    "Select word",
    was=("choose-word",),
    about="Select the word at the cursor",
    keys="Ctrl+J, W",
    context="writing",
    picture="form-textbox",
)
def choose_word(doc: FormattedText) -> None:
    _choose(doc, SELECT.WordUnderCursor)


@command(
    "select-paragraph",
    "Select paragraph",
    was=("choose-paragraph",),
    about="Select the paragraph at the cursor",
    keys="Ctrl+J, P",
    context="writing",
    picture="format-pilcrow",
)
def choose_paragraph(doc: FormattedText) -> None:
    _choose(doc, SELECT.BlockUnderCursor if doc.cursor().block().blockNumber() else SELECT.LineUnderCursor)
    cursor = doc.cursor()
    block = doc.text.findBlock(cursor.selectionEnd())
    cursor.setPosition(block.position())
    cursor.movePosition(MOVE.EndOfBlock, QTextCursor.MoveMode.KeepAnchor)
    doc.put(cursor)


@command(
    "select-nothing",
    "Select nothing",
    was=("choose-nothing",),
    about="Select nothing",
    keys="Escape",
    context="writing",
)
def choose_nothing(doc: FormattedText) -> None:
    cursor = doc.cursor()
    cursor.clearSelection()
    doc.put(cursor)


@command(
    "go-to-selection-start",
    "Go to the start of the selection",
    about="Put the cursor in front of what is selected, and select nothing",
    context="writing",
)
def go_to_selection_start(doc: FormattedText) -> None:
    _collapse(doc, doc.cursor().selectionStart())


@command(
    "go-to-selection-end",
    "Go to the end of the selection",
    about="Put the cursor behind what is selected, and select nothing",
    context="writing",
)
def go_to_selection_end(doc: FormattedText) -> None:
    _collapse(doc, doc.cursor().selectionEnd())


def _collapse(doc: FormattedText, position: int) -> None:
    cursor = doc.cursor()
    cursor.setPosition(position)
    doc.put(cursor)


def _go(doc: FormattedText, where: QTextCursor.MoveOperation) -> None:
    cursor = doc.cursor()
    cursor.movePosition(where)
    doc.put(cursor)


@command(
    "go-to-start",
    "Go to the start",
    about="Go to the start of the {noun}",
    keys="Ctrl+Home",
    context="writing",
    picture="arrow-collapse-up",
)
def go_to_start(doc: FormattedText) -> None:
    _go(doc, MOVE.Start)


@command(
    "go-to-end",
    "Go to the end",
    about="Go to the end of the {noun}",
    keys="Ctrl+End",
    context="writing",
    picture="arrow-collapse-down",
)
def go_to_end(doc: FormattedText) -> None:
    _go(doc, MOVE.End)


@command(
    "go-to-heading",
    "Go to a heading",
    about="Go to the heading with these words",
    context="writing",
    picture="page-next-outline",
)
def go_to_heading(doc: FormattedText, name: Annotated[str, Among("headings")]) -> None:
    find_heading(doc, name)


def find_heading(doc: FormattedText, name: str) -> None:
    """Put the cursor to a heading. Raises RimecrestError when the text has none with these words."""
    block = doc.text.begin()
    while block.isValid():
        if block.blockFormat().headingLevel() and block.text().strip() == name.strip():
            doc.put(QTextCursor(block))
            return
        block = block.next()
    raise RimecrestError(
        tr("The {noun} has no heading “{name}”.", noun=doc.noun, name=name), tr("Check its words.")
    )


@command(
    "go-to-next-heading",
    "Go to the next heading",
    about="Go to the next heading below the cursor",
    keys="Ctrl+J, G",
    context="writing",
    picture="page-next-outline",
)
def go_to_next_heading(doc: FormattedText) -> None:
    block = doc.cursor().block().next()
    while block.isValid():
        if block.blockFormat().headingLevel():
            doc.put(QTextCursor(block))
            return
        block = block.next()
    raise RimecrestError(tr("There is no heading below."))


Steps = Annotated[int, Between(-100_000, 100_000)]


@command(
    "go-paragraphs",
    "Go by paragraphs",
    about="Go to the start of the paragraph so many further on; 0 is this one, below 0 is back",
    context="writing",
    picture="format-pilcrow-arrow-right",
)
def go_paragraphs(doc: FormattedText, by: Steps = 1) -> None:
    document = doc.text
    wanted = doc.cursor().block().blockNumber() + by
    if not 0 <= wanted < document.blockCount():
        raise RimecrestError(tr("The {noun} ends before that paragraph.", noun=doc.noun))
    doc.put(QTextCursor(document.findBlockByNumber(wanted)))


@command(
    "go-to-paragraph-end",
    "Go to the end of the paragraph",
    about="Go to the end of this paragraph",
    context="writing",
    picture="page-last",
)
def go_to_paragraph_end(doc: FormattedText) -> None:
    _go(doc, MOVE.EndOfBlock)


@command(
    "go-words",
    "Go by words",
    about="Go so many words on; below 0 is back",
    context="writing",
    picture="arrow-right-thin",
)
def go_words(doc: FormattedText, by: Steps = 1) -> None:
    cursor = doc.cursor()
    cursor.clearSelection()
    cursor.movePosition(MOVE.NextWord if by > 0 else MOVE.PreviousWord, n=abs(by))
    doc.put(cursor)


@command(
    "go-characters",
    "Go by characters",
    about="Go so many characters on; below 0 is back",
    context="writing",
    picture="arrow-right-thin",
)
def go_characters(doc: FormattedText, by: Steps = 1) -> None:
    cursor = doc.cursor()
    cursor.setPosition(_clamped(doc, cursor.position() + by))
    doc.put(cursor)


@command(
    "select-characters",
    "Select characters",
    was=("choose-characters",),
    about="Select so many characters from the cursor on; below 0, those before it",
    context="writing",
    picture="form-textbox",
)
def choose_characters(doc: FormattedText, by: Steps = 1) -> None:
    cursor = doc.cursor()
    start = cursor.position()
    cursor.setPosition(start)
    cursor.setPosition(_clamped(doc, start + by), QTextCursor.MoveMode.KeepAnchor)
    doc.put(cursor)


@command(
    "select-written",
    "Select what was just written",
    was=("choose-written",),
    about="Select the words that were written last",
    context="writing",
    picture="text-recognition",
)
def choose_written(doc: FormattedText) -> None:
    if doc.written is None:
        raise RimecrestError(tr("Nothing was written just now."), tr("Write something first."))
    cursor = doc.cursor()
    cursor.setPosition(_clamped(doc, doc.written[0]))
    cursor.setPosition(_clamped(doc, doc.written[1]), QTextCursor.MoveMode.KeepAnchor)
    doc.put(cursor)


def _clamped(doc: FormattedText, position: int) -> int:
    return max(0, min(position, doc.text.characterCount() - 1))


@command(
    "keep-selection",
    "Keep this selection",
    synonyms=("remember", "mark"),
    about="Remember what is selected, or where the cursor is, to come back to; the {noun} stays as it is",
    keys="Ctrl+J, Shift+Y",
    context="writing",
    picture="bookmark-plus-outline",
)
def keep_selection(doc: FormattedText) -> None:
    doc.kept = doc.cursor()


@command(
    "back-to-selection",
    "Back to the kept selection",
    synonyms=("return", "recall"),
    about="Select again what was kept, wherever it stands now",
    keys="Ctrl+J, Shift+J",
    context="writing",
    picture="bookmark-outline",
)
def back_to_selection(doc: FormattedText) -> None:
    if doc.kept is None:
        raise RimecrestError(
            tr("Nothing was kept in this {noun}.", noun=doc.noun), tr("Use Keep this selection first.")
        )
    doc.put(QTextCursor(doc.kept))
