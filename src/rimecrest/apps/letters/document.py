"""A letter: formatted text with tables and notes, and the cursor in it."""

from __future__ import annotations

from contextlib import AbstractContextManager
from pathlib import Path

from PyQt6.QtCore import QObject
from PyQt6.QtGui import (
    QImage,
    QTextCharFormat,
    QTextCursor,
    QTextFrame,
    QTextTable,
)
from PyQt6.QtWidgets import QFileDialog, QMessageBox

from rimecrest.apps.letters.view import LetterView
from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.embed.look import font
from rimecrest.embed.undo import TextUndo

MARGIN = 44
"""Pixels around the text."""
HTML = (".html", ".htm")
KINDS = "Letters (*.html *.htm);;Text (*.txt);;All files (*)"
LARGEST = 32 * 1024 * 1024
"""Bytes of a letter that is opened at most."""


class LetterDocument(QObject):
    """The document of Letters."""

    def __init__(self) -> None:
        super().__init__()
        self.widget = LetterView()
        self.typed = self.widget.typed
        self.composing = self.widget.composing
        self.path: Path | None = None
        self.sought = ""
        """The words that were sought last."""
        document = self.widget.document()
        document.setDefaultFont(font(15))
        document.setDocumentMargin(MARGIN)
        self.undo = TextUndo(document, lambda: self.cursor().position())
        document.setModified(False)
        document.modificationChanged.connect(lambda _: self.undo.changed.emit())

    # The cursor

    def cursor(self) -> QTextCursor:
        return self.widget.textCursor()

    def place(self, cursor: QTextCursor) -> None:
        """Put the cursor there, and let it be seen."""
        self.widget.setTextCursor(cursor)
        self.widget.ensureCursorVisible()

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

    # Changing

    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        return self.undo.change(label, fold)

    def write(self, text: str) -> None:
        """Write at the cursor; typing within a word is one undo."""
        cursor = self.cursor()
        folds = f"word to {cursor.position()}" if not cursor.hasSelection() else ""
        with self.change("writing", folds):
            cursor.insertText(text)
        # The next character joins when it goes on where this one ended; a blank ends the word.
        self.undo.name_last("" if text[-1:].isspace() else f"word to {cursor.position()}")
        self.place(cursor)

    def format_words(self, change: QTextCharFormat) -> None:
        """Merge a format into the chosen words, or into what is written next."""
        cursor = self.cursor()
        cursor.mergeCharFormat(change)
        self.widget.mergeCurrentCharFormat(change)

    # Files

    def title(self) -> str:
        name = self.path.stem if self.path else "New letter"
        return f"{name} *" if self.widget.document().isModified() else name

    def open_path(self, path: Path) -> None:
        """Show another letter. Raises RimecrestError when it cannot be read; this one then stays."""
        try:
            if path.stat().st_size > LARGEST:
                raise RimecrestError(f"{path} is too large for a letter.", "Choose a file under 32 MiB.")
            text = path.read_text("utf-8")
        except UnicodeDecodeError:
            raise RimecrestError(f"{path} is not UTF-8 text.", "Choose an HTML or text file.") from None
        except OSError as error:
            raise RimecrestError(
                f"{path} cannot be opened: {error.strerror}.",
                "Choose another file; this letter is as it was.",
            ) from None
        if path.suffix.lower() in HTML:
            self.widget.setHtml(text)
        else:
            self.widget.setPlainText(text)
        self._begin(path)

    def begin_new(self) -> None:
        self.widget.clear()
        self.widget.setCurrentCharFormat(QTextCharFormat())
        self._begin(None)

    def _begin(self, path: Path | None) -> None:
        document = self.widget.document()
        document.rootFrame().setFrameFormat(_root_format(document.rootFrame()))
        self.path = path
        self.undo.forget()
        document.setModified(False)

    def save_to(self, path: Path) -> None:
        """Save as HTML, whole or not at all. Raises RimecrestError when it cannot be written."""
        write_atomically(path, self.widget.document().toHtml().encode())
        self.path = path
        self.widget.document().setModified(False)
        self.undo.changed.emit()

    def save(self) -> None:
        """Save where the letter lies; ask for a place when it has none, or lies there as plain text."""
        if self.path is not None and self.path.suffix.lower() in HTML:
            self.save_to(self.path)
            return
        begin = str(self.path.with_suffix(".html") if self.path else "Letter.html")
        name, _ = QFileDialog.getSaveFileName(self.widget, "Save the letter", begin, KINDS)
        if name:
            self.save_to(with_ending(Path(name)))

    def may_close(self) -> bool:
        """Ask about unsaved changes. False: stay with this letter."""
        if not self.widget.document().isModified():
            return True
        box = QMessageBox(self.widget)
        box.setObjectName("unsaved")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(f"“{self.title().removesuffix(' *')}” has changes that are not saved.")
        box.setInformativeText("Save them first?")
        save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        leave = box.addButton("Leave them", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.exec()
        if box.clickedButton() is save:
            self.save()
            return not self.widget.document().isModified()
        return box.clickedButton() is leave

    def picture(self) -> QImage:
        return self.widget.grab().toImage()


def with_ending(path: Path) -> Path:
    """The path with an ending: letters are HTML unless somebody says otherwise."""
    return path if path.suffix else path.with_suffix(".html")


def _root_format(root: QTextFrame) -> object:
    made = root.frameFormat()
    made.setMargin(MARGIN)
    return made
