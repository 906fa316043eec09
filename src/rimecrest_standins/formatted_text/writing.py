"""Writing itself: lines, taking away, copying."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData
from PyQt6.QtGui import QClipboard, QTextCharFormat, QTextCursor
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.commands.leaving import writing as writing_to
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.documents.shared_declarations import SharedDeclarations
from rimecrest.kit.documents.template_commands import block_file, keep_block
from rimecrest.shell.plain_text import plain_text
from rimecrest_standins.formatted_text.document import FormattedText
from rimecrest_standins.formatted_text.formatting import style_cursor
from rimecrest_standins.formatted_text.html_bounds import check_page

writing = SharedDeclarations()
command = writing.command

EDITS = (Effect.EDITS,)
MOVE = QTextCursor.MoveOperation
KEEP = QTextCursor.MoveMode.KeepAnchor


@command(
    "new-line",
    "New line",
    about="Begin a new paragraph",
    keys=("Return", "KP_Enter"),
    context="writing",
    effects=EDITS,
    picture="keyboard-return",
    repeats=True,
)
def new_line(doc: FormattedText) -> None:
    cursor = doc.cursor()
    heading = cursor.blockFormat().headingLevel()
    cursor.insertBlock()
    if heading:
        # What follows a heading is text again.
        style_cursor(cursor, "text")
    doc.put(cursor)


@command(
    "break-line",
    "Break the line",
    about="Go on in the next line of the same paragraph",
    keys=("Shift+Return", "Shift+KP_Enter"),
    context="writing",
    effects=EDITS,
    picture="arrow-down-left",
    repeats=True,
)
def break_line(doc: FormattedText) -> None:
    cursor = doc.cursor()
    cursor.insertText("\u2028")
    doc.put(cursor)


def _take_away(doc: FormattedText, move: QTextCursor.MoveOperation) -> None:
    cursor = doc.cursor()
    if not cursor.hasSelection():
        cursor.movePosition(move, KEEP)
    cursor.removeSelectedText()
    doc.put(cursor)


@command(
    "delete-character-before",
    "Delete the character before",
    was=("take-back-character",),
    about="Delete what is before the cursor",
    keys=("BackSpace", "Shift+BackSpace"),
    context="writing",
    effects=EDITS,
    deletes_selection=True,
    picture="backspace-outline",
    repeats=True,
    takes_back="character",
)
def take_back_character(doc: FormattedText) -> None:
    cursor = doc.cursor()
    point = cursor.currentList() if cursor.atBlockStart() and not cursor.hasSelection() else None
    if point is not None:
        # At the start of a point, the point goes first, then the line.
        point.remove(cursor.block())
        return
    _take_away(doc, MOVE.PreviousCharacter)


@command(
    "delete-character-after",
    "Delete the character after",
    was=("take-next-character",),
    about="Delete what is after the cursor",
    keys="Delete",
    context="writing",
    effects=EDITS,
    deletes_selection=True,
    picture="eraser",
    repeats=True,
)
def take_next_character(doc: FormattedText) -> None:
    _take_away(doc, MOVE.NextCharacter)


@command(
    "delete-word-before",
    "Delete the word before",
    was=("take-back-word",),
    about="Delete the word before the cursor",
    keys="Ctrl+BackSpace",
    context="writing",
    effects=EDITS,
    deletes_selection=True,
    picture="backspace-reverse-outline",
    repeats=True,
    takes_back="word",
)
def take_back_word(doc: FormattedText) -> None:
    _take_away(doc, MOVE.PreviousWord)


@command(
    "delete-word-after",
    "Delete the word after",
    was=("take-next-word",),
    about="Delete the word after the cursor",
    keys="Ctrl+Delete",
    context="writing",
    effects=EDITS,
    deletes_selection=True,
    repeats=True,
)
def take_next_word(doc: FormattedText) -> None:
    _take_away(doc, MOVE.NextWord)


def _copied(doc: FormattedText) -> QMimeData:
    cursor = doc.cursor()
    if not cursor.hasSelection():
        raise RimecrestError(tr("Nothing is chosen."), tr("Select some words first."))
    fragment = cursor.selection()
    data = QMimeData()
    data.setText(plain_text(fragment))
    data.setHtml(fragment.toHtml())
    return data


@command(
    "copy",
    "Copy",
    about="Copy the selected words",
    keys=("Ctrl+C", "Ctrl+Insert"),
    context="writing",
    effects=(Effect.CLIPBOARD,),
    picture="content-copy",
    everyday=True,
)
def copy(doc: FormattedText) -> None:
    clipboard().setMimeData(_copied(doc))


@command(
    "cut",
    "Cut",
    about="Delete the selected words to put them elsewhere",
    keys=("Ctrl+X", "Shift+Delete"),
    context="writing",
    deletes_selection=True,
    effects=(*EDITS, Effect.CLIPBOARD),
    picture="content-cut",
    everyday=True,
)
def cut(doc: FormattedText) -> None:
    clipboard().setMimeData(_copied(doc))
    cursor = doc.cursor()
    cursor.removeSelectedText()
    doc.put(cursor)


def clipboard() -> QClipboard:
    """What the desktop carries from one program to another."""
    found = QApplication.clipboard()
    assert found is not None
    return found


def _copied_elsewhere() -> QMimeData:
    data = clipboard().mimeData()
    if data is None or not (data.hasText() or data.hasHtml()):
        raise RimecrestError(tr("There is no text to paste."), tr("Copy some first."))
    return data


@command(
    "paste",
    "Paste",
    about="Put what was copied here, as it looks",
    keys=("Ctrl+V", "Shift+Insert"),
    context="writing",
    effects=EDITS,
    picture="content-paste",
    everyday=True,
)
def paste(doc: FormattedText) -> CommandResult:
    data, cursor = _copied_elsewhere(), doc.cursor()
    if not data.hasHtml():
        cursor.insertText(data.text())
        doc.put(cursor)
        return CommandResult(text=data.text())
    start = cursor.selectionStart()
    cursor.insertHtml(check_page(data.html()))
    doc.put(cursor)
    return CommandResult(
        text=_between(doc, start), lost=tr("The look of what was pasted is not kept, its words are.")
    )


def _between(doc: FormattedText, start: int) -> str:
    """The words from a position to the cursor."""
    cursor = doc.cursor()
    cursor.setPosition(start, KEEP)
    return plain_text(cursor.selection())


@command(
    "paste-words",
    "Paste words only",
    about="Put what was copied here, without its formatting",
    keys="Ctrl+Shift+V",
    context="writing",
    effects=EDITS,
    picture="clipboard-text-outline",
)
def paste_words(doc: FormattedText) -> CommandResult:
    cursor, text = doc.cursor(), _copied_elsewhere().text()
    cursor.insertText(text, cursor.charFormat())
    doc.put(cursor)
    return CommandResult(text=text)


def _recase(doc: FormattedText, upper: bool) -> None:
    cursor = doc.cursor()
    if not cursor.hasSelection():
        cursor.select(QTextCursor.SelectionType.WordUnderCursor)
    if not cursor.hasSelection():
        raise RimecrestError(tr("There is no word here."), tr("Put the cursor into one, or choose some."))
    start, text = cursor.selectionStart(), cursor.selectedText()
    # Character by character, so that each keeps its look.
    for offset, character in enumerate(text):
        changed = character.upper() if upper else character.lower()
        if changed != character and len(changed) == 1:
            cursor.setPosition(start + offset)
            cursor.movePosition(MOVE.NextCharacter, KEEP)
            look: QTextCharFormat = cursor.charFormat()
            cursor.insertText(changed, look)
    cursor.setPosition(start)
    cursor.setPosition(start + len(text), KEEP)
    doc.put(cursor)


@command(
    "capitals",
    "Capitals",
    synonyms=("upper case",),
    about="Write the selected words in capital letters",
    keys="Ctrl+J, Shift+C",
    context="writing",
    effects=EDITS,
    picture="format-letter-case-upper",
)
def capitals(doc: FormattedText) -> None:
    _recase(doc, upper=True)


@command(
    "small-letters",
    "Small letters",
    synonyms=("lower case",),
    about="Write the selected words in small letters",
    keys="Ctrl+J, Shift+S",
    context="writing",
    effects=EDITS,
    picture="format-letter-case-lower",
)
def small_letters(doc: FormattedText) -> None:
    _recase(doc, upper=False)


@command(
    "save-block",
    "Keep as a text block",
    about="Keep the chosen words, as they look, to put them in again anywhere",
    context="writing",
    effects=(Effect.CREATES, Effect.OVERWRITES),
    changes={"text-blocks"},
    picture="note-plus-outline",
    synonyms=("snippet", "phrase", "autotext"),
    leaves_document=True,
    reaches=lambda doc, name="": writing_to(block_file(doc, name), shelf=True) if name else None,
)
def save_block(doc: FormattedText, name: str = "") -> CommandResult:
    cursor = doc.cursor()
    if not cursor.hasSelection():
        raise RimecrestError(tr("Nothing is chosen."), tr("Choose the words that the block shall have."))
    return keep_block(doc, name, cursor.selection().toHtml())
