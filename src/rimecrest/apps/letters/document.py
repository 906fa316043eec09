"""A letter: formatted text with tables and notes, and the cursor in it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from contextlib import AbstractContextManager
from pathlib import Path

from PyQt6.QtCore import QRect
from PyQt6.QtGui import (
    QTextBlock,
    QTextCharFormat,
    QTextCursor,
    QTextDocumentFragment,
    QTextFrame,
    QTextTable,
)

from rimecrest.apps.letters.carried import Carried, read_carried, with_carried
from rimecrest.apps.letters.looks import change_looks
from rimecrest.apps.letters.moves import Place, moves
from rimecrest.apps.letters.view import LetterView
from rimecrest.core.template_fields import places
from rimecrest.core.words import tr
from rimecrest.embed.document import Documents, Move
from rimecrest.embed.file_document import FileDocument, text_of, write_text
from rimecrest.embed.html_bounds import check_page, check_text
from rimecrest.embed.undo import TextUndo
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.theme import font

MARGIN = 44
"""Pixels around the text."""
HTML = (".html", ".htm")


class LetterDocument(FileDocument):
    """The document of Letters."""

    noun = "letter"
    inherits_look = True
    kinds = tr("Letters (*.html *.htm);;Text (*.txt);;All files (*)")
    ending = ".html"

    def __init__(self, documents: Documents) -> None:
        super().__init__(documents)
        self.widget: LetterView = LetterView()
        self.widget.typed.connect(self.typed)
        self.widget.composing.connect(self.composing)
        self.replaced = 0
        """How many places the last replacing has changed."""
        self.sought_look = ""
        """The look that words were found by last."""
        self.kept: QTextCursor | None = None
        """The selection that was kept; it goes along with what is written before it."""
        self.written: tuple[int, int] | None = None
        """From where to where was written last, without a move in between."""
        document = self.widget.document()
        document.setDefaultFont(font(15))
        document.setDocumentMargin(MARGIN)
        self.undo: TextUndo = TextUndo(document, self.widget)
        document.setModified(False)
        document.contentsChange.connect(self._taken_away)
        document.modificationChanged.connect(lambda _: self.undo.changed.emit())

    def _taken_away(self, at: int, removed: int, added: int) -> None:
        """Characters went: what was written last is shorter by those of them that were its."""
        if self.written is None or added or not removed:
            return
        first, end = self.written
        if first <= at and at + removed <= end:
            self.written = (first, end - removed) if end - removed > first else None

    # The cursor

    def cursor(self) -> QTextCursor:
        """The cursor, with what is chosen before it: which way it was chosen makes no difference."""
        cursor = self.widget.textCursor()
        if cursor.anchor() > cursor.position():
            start, end = cursor.position(), cursor.anchor()
            cursor.setPosition(start)
            cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
        return cursor

    def put(self, cursor: QTextCursor) -> None:
        """Put the cursor there, and let it be seen."""
        self.widget.setTextCursor(cursor)
        self.widget.ensureCursorVisible()

    def look(self) -> QTextCharFormat:
        """How the chosen words begin, or how what is written next will look."""
        cursor = self.cursor()
        if cursor.hasSelection():
            first = QTextCursor(self.widget.document())
            first.setPosition(cursor.selectionStart() + 1)
            return first.charFormat()
        return cursor.charFormat()

    def settle(self) -> None:
        self.written = None

    def table(self) -> QTextTable | None:
        return self.cursor().currentTable()

    def note(self) -> QTextFrame | None:
        """The note that the cursor is in."""
        frame = self.cursor().currentFrame()
        root = self.widget.document().rootFrame()
        while frame is not None and frame is not root:
            if not isinstance(frame, QTextTable):
                return frame
            frame = frame.parentFrame()
        return None

    def innermost(self) -> tuple[str, ...]:
        found = []
        if self.note() is not None:
            found.append("note")
        if self.table() is not None:
            found.append("table")
        return tuple(found) or ("writing",)

    def place(self) -> Place:
        cursor = self.widget.textCursor()
        plain = QTextCursor(self.widget.document())
        plain.setPosition(cursor.position())
        chosen = not cursor.hasSelection() and cursor.charFormat() != plain.charFormat()
        return Place(cursor.anchor(), cursor.position(), chosen)

    def go(self, place: Place) -> None:
        last = self.widget.document().characterCount() - 1
        cursor = self.cursor()
        cursor.setPosition(min(place.anchor, last))
        cursor.setPosition(min(place.position, last), QTextCursor.MoveMode.KeepAnchor)
        self.put(cursor)

    def offset(self) -> int:
        return self.cursor().position()

    def replaces(self) -> bool:
        return self.cursor().hasSelection()

    def spot(self) -> QRect:
        self.widget.ensureCursorVisible()
        box = self.widget.cursorRect()
        return box.translated(self.widget.viewport().pos())

    def has_selection(self, place: Place) -> bool:
        return place.anchor != place.position

    def moves(self, before: Place, after: Place) -> Sequence[Move]:
        return moves(self.widget.document(), self.written, before, after)

    # Changing

    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        return self.undo.change(label, fold)

    def write(self, text: str) -> None:
        """Write at the cursor; typing within a word is one undo."""
        cursor = self.cursor()
        start = cursor.selectionStart()
        folds = f"word to {cursor.position()}" if not cursor.hasSelection() else ""
        with self.change("writing", folds):
            cursor.insertText(text)
        # The next character joins when it goes on where this one ended; a blank ends the word.
        self.undo.name_last("" if text[-1:].isspace() else f"word to {cursor.position()}")
        first = self.written[0] if self.written and self.written[1] == start else start
        self.written = (first, cursor.position())
        self.put(cursor)

    def format_words(self, change: QTextCharFormat) -> None:
        """Merge a format into the chosen words, or into what is written next."""
        cursor = self.cursor()
        cursor.mergeCharFormat(change)
        self.widget.mergeCurrentCharFormat(change)

    def change_words(self, change: Callable[[QTextCharFormat, QTextBlock], None]) -> None:
        """Change a copy of each look of the chosen words, or of what is written next."""
        cursor = self.cursor()
        if cursor.hasSelection():
            change_looks(self.widget.document(), cursor.selectionStart(), cursor.selectionEnd(), change)
        else:
            look = self.widget.currentCharFormat()
            change(look, cursor.block())
            self.widget.setCurrentCharFormat(look)

    # Templates

    def field_text(self) -> str:
        return plain_text(self.widget.document())

    def fill_fields(self, answers: Mapping[str, str]) -> None:
        document = self.widget.document()
        # From the last to the first: what stands before keeps its place.
        for begin, end, name in reversed(places(plain_text(document))):
            if name in answers:
                cursor = QTextCursor(document)
                cursor.setPosition(begin)
                cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
                cursor.insertText(answers[name])

    def put_block(self, path: Path) -> None:
        block = LetterDocument(self.documents)
        try:
            block.open_path(path)
            cursor = self.cursor()
            cursor.insertFragment(QTextDocumentFragment(block.widget.document()))
        finally:
            block.widget.deleteLater()
        self.put(cursor)

    # Files

    def modified(self) -> bool:
        return self.widget.document().isModified() or self.macros_changed

    def saved(self) -> None:
        self.widget.document().setModified(False)

    def keeps_all(self, path: Path) -> bool:
        return path.suffix.lower() in HTML

    def read_from(self, path: Path) -> None:
        text = text_of(path)
        if path.suffix.lower() in HTML:
            carried = read_carried(check_page(text))
            self.macros, self.template = dict(carried.macros), carried.template
            self.widget.setHtml(text)
        else:
            self.widget.setPlainText(check_text(text))
        document = self.widget.document()
        document.rootFrame().setFrameFormat(_root_format(document.rootFrame()))
        self.undo.forget()
        self.written = None
        document.setModified(False)

    def write_to(self, path: Path, macros: bool = True) -> None:
        if path.suffix.lower() == ".txt":
            write_text(path, plain_text(self.widget.document()))
        else:
            html = self.widget.document().toHtml()
            carried = Carried(self.macros, self.template) if macros else Carried()
            write_text(path, with_carried(html, carried))


def _root_format(root: QTextFrame) -> object:
    made = root.frameFormat()
    made.setMargin(MARGIN)
    return made
