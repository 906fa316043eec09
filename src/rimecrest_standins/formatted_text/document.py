"""A document with formatted text: the cursor in it, what is written there, how it looks."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QRect
from PyQt6.QtGui import (
    QTextBlock,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextDocumentFragment,
)
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.template_fields import places
from rimecrest.core.words import tr
from rimecrest.kit.documents.document import Documents, Move
from rimecrest.kit.documents.file_document import FileDocument, said_of, text_of
from rimecrest.kit.documents.undo import TextUndo
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.theme import font
from rimecrest_standins.formatted_text.bounds import check_written, has_room
from rimecrest_standins.formatted_text.html_bounds import check_page
from rimecrest_standins.formatted_text.looks import change_looks
from rimecrest_standins.formatted_text.moves import Place, moves
from rimecrest_standins.formatted_text.view import TextView

FONT = 15
"""Pixels of plain text."""


class FormattedText(FileDocument):
    """A document whose text is written and formatted in a `TextView`, its `page`."""

    inherits_look = True

    def __init__(self, documents: Documents, margin: int) -> None:
        """`margin` is in pixels, around the text."""
        super().__init__(documents)
        self.page = TextView(self.noun)
        self.page.typed.connect(self.typed)
        self.page.composing.connect(self.composing)
        self.widget: QWidget = self.page
        document = self.page.document()
        assert document is not None
        self.text: QTextDocument = document
        self.kept: QTextCursor | None = None
        """The selection that was kept; it goes along with what is written before it."""
        self.written: tuple[int, int] | None = None
        """From where to where was written last, without a move in between."""
        document.setDefaultFont(font(FONT))
        document.setDocumentMargin(margin)
        self.undo: TextUndo = TextUndo(document, self.page)
        document.setModified(False)
        document.contentsChange.connect(self._taken_away)
        document.contentsChange.connect(self._touch)
        self._touched: tuple[int, int] | None = None
        """From where to where the change that is under way has changed the text."""
        self._changing = False
        document.modificationChanged.connect(lambda _: self.undo.changed.emit())

    @abstractmethod
    def innermost(self) -> tuple[str, ...]: ...

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
        cursor = self.page.textCursor()
        if cursor.anchor() > cursor.position():
            start, end = cursor.position(), cursor.anchor()
            cursor.setPosition(start)
            cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
        return cursor

    def put(self, cursor: QTextCursor) -> None:
        """Put the cursor there, and let it be seen."""
        self.page.setTextCursor(cursor)
        self.page.ensureCursorVisible()

    def look(self) -> QTextCharFormat:
        """How the chosen words begin, or how what is written next will look."""
        cursor = self.cursor()
        if cursor.hasSelection():
            first = QTextCursor(self.text)
            first.setPosition(cursor.selectionStart() + 1)
            return first.charFormat()
        return cursor.charFormat()

    def settle(self) -> None:
        self.written = None

    def place(self) -> Any:
        cursor = self.page.textCursor()
        plain = QTextCursor(self.text)
        plain.setPosition(cursor.position())
        chosen = not cursor.hasSelection() and cursor.charFormat() != plain.charFormat()
        return Place(cursor.anchor(), cursor.position(), chosen)

    def go(self, place: Any) -> None:
        last = self.text.characterCount() - 1
        cursor = self.cursor()
        cursor.setPosition(min(place.anchor, last))
        cursor.setPosition(min(place.position, last), QTextCursor.MoveMode.KeepAnchor)
        self.put(cursor)

    def offset(self) -> int:
        return self.cursor().position()

    def replaces(self) -> bool:
        return self.cursor().hasSelection()

    def spot(self) -> QRect:
        self.page.ensureCursorVisible()
        viewport = self.page.viewport()
        assert viewport is not None
        box = self.page.cursorRect()
        return box.translated(viewport.mapTo(self.widget, viewport.rect().topLeft()))

    def has_selection(self, place: Any) -> bool:
        return bool(place.anchor != place.position)

    def moves(self, before: Any, after: Any) -> Sequence[Move] | None:
        return moves(self.text, self.written, before, after)

    # Changing

    def _touch(self, at: int, _removed: int, added: int) -> None:
        first, last = self._touched or (at, at)
        self._touched = min(first, at), max(last, at) + added

    @contextmanager
    def change(self, label: str, fold: str = "") -> Iterator[None]:
        """Around everything that changes the document.

        Raises:
            RimecrestError: it would be beyond the bounds; it is as it was before.
        """
        if self._changing:  # part of a change that is under way
            yield
            return
        self._touched, self._changing = None, True
        before = self.text.characterCount()
        try:
            with self.undo.change(label, fold):
                yield
        finally:
            self._changing = False
        if self._touched is not None:
            try:
                check_written(self.text, *self._touched, self.text.characterCount() > before)
            except RimecrestError:
                self.undo.take_back_last()
                raise

    def write(self, text: str) -> None:
        """Write at the cursor; typing within a word is one undo."""
        cursor = self.cursor()
        start = cursor.selectionStart()
        joins = not cursor.hasSelection() and has_room(cursor, text)
        folds = f"word to {cursor.position()}" if joins else ""
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
        self.page.mergeCurrentCharFormat(change)

    def change_words(self, change: Callable[[QTextCharFormat, QTextBlock], None]) -> None:
        """Change a copy of each look of the chosen words, or of what is written next."""
        cursor = self.cursor()
        if cursor.hasSelection():
            change_looks(self.text, cursor.selectionStart(), cursor.selectionEnd(), change)
        else:
            look = self.page.currentCharFormat()
            change(look, cursor.block())
            self.page.setCurrentCharFormat(look)

    def find_words(self, text: str, backwards: bool) -> None:
        """Select the next hit for some words, once round. Raises RimecrestError when there is none."""
        flags = QTextDocument.FindFlag.FindBackward if backwards else QTextDocument.FindFlag(0)
        found = self.text.find(text, self.cursor(), flags)
        if found.isNull():
            # Once round: from the other end.
            end = QTextCursor(self.text)
            if backwards:
                end.movePosition(QTextCursor.MoveOperation.End)
            found = self.text.find(text, end, flags)
        if found.isNull():
            raise RimecrestError(tr("“{text}” is not in this {noun}.", text=text, noun=self.noun))
        self.put(found)

    # Templates

    def field_text(self) -> str:
        return plain_text(self.text)

    def fill_fields(self, answers: Mapping[str, str]) -> None:
        # From the last to the first: what stands before keeps its place.
        for begin, end, name in reversed(places(plain_text(self.text))):
            if name in answers:
                cursor = QTextCursor(self.text)
                cursor.setPosition(begin)
                cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
                cursor.insertText(answers[name])

    def put_html(self, cursor: QTextCursor, html: str) -> None:
        """Put a page in at a cursor, as it looks. Within a change.

        Raises:
            RimecrestError: it is beyond the bounds of what is shown.
        """
        page = TextView(self.noun)
        try:
            page.setHtml(check_page(html))
            cursor.insertFragment(QTextDocumentFragment(page.document()))
        finally:
            page.deleteLater()

    def put_block(self, path: Path) -> None:
        cursor = self.cursor()
        with said_of(path, tr("text block")):
            self.put_html(cursor, text_of(path))
        self.put(cursor)
