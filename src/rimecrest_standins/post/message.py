"""A message that is being written: its fields, its files, its text, and the draft that it is kept in."""

from __future__ import annotations

from datetime import datetime
from email.message import EmailMessage
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtGui import QTextCursor, QTextDocument
from PyQt6.QtWidgets import QLabel

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import read_plain, write_atomically
from rimecrest.core.words import tr
from rimecrest.kit.documents.document import Document, Documents
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.theme import font
from rimecrest_standins.formatted_text.fielded_text import TEXT, Beside, FieldedText
from rimecrest_standins.formatted_text.html_bounds import check_page, words_of
from rimecrest_standins.formatted_text.text_bounds import as_plain, check_text
from rimecrest_standins.post import signature
from rimecrest_standins.post.file_row import FileRow
from rimecrest_standins.post.maildir import DRAFT, DRAFTS, SEEN, Maildir
from rimecrest_standins.post.message_parts import Attached, Written, build, page_of
from rimecrest_standins.post.own import read_own
from rimecrest_standins.post.received import received

MARGIN = 16
"""Pixels around the text."""
TO, COPY, SUBJECT = "to", "copy", "subject"
TITLES = {TO: tr("To"), COPY: tr("Copy"), SUBJECT: tr("Subject")}


class MessageDocument(FieldedText):
    """A message that is being written. It begins with the seat's signature."""

    noun = "message"
    kinds = tr("Messages (*.eml);;All files (*)")
    ending = ".eml"
    titles = TITLES

    def __init__(self, documents: Documents, mailbox: Maildir) -> None:
        super().__init__(documents, MARGIN)
        self.mailbox = mailbox
        self.own = read_own(documents.folder)
        self.writer = QLabel(self.own.sender)
        self.writer.setFont(font(12))
        self.file_row = FileRow(tr("Take {name} out of the message"), "  ✕")
        self.file_row.clicked.connect(lambda name: self.wants.emit("remove-file", {"name": name}))
        self.form.add_row(tr("From"), self.writer)
        self.form.add_row("", self.file_row)
        self.draft = ""
        """The key of the draft that it is kept in; empty: in none."""
        self.answers = ""
        """The id of the message that it answers."""
        self.answered: tuple[str, str] | None = None
        """Folder and key of that message, which is marked when this one is sent."""
        self.begin_anew()

    def another(self) -> Document:
        return MessageDocument(self.documents, self.mailbox)

    def begin_anew(self) -> None:
        """What it is now is where it begins: signed, nothing to undo, nothing to save."""
        signature.sign(self, self.own.signature)
        self.text.clearUndoRedoStacks()
        self.undo.forget()
        self.saved()
        self.put(QTextCursor(self.text))
        self.written = None

    @property
    def files(self) -> tuple[Attached, ...]:
        """The files that go along."""
        return tuple(self.beside.more)

    def show_more(self, more: tuple[Attached, ...]) -> None:
        self.file_row.show_files(more)

    def innermost(self) -> tuple[str, ...]:
        return ({TEXT: "writing", SUBJECT: "composing"}.get(self.part, "address"),)

    def name(self) -> str:
        return self.field(SUBJECT).strip() or tr("New message")

    def pristine(self) -> bool:
        return not self.draft and not self.answers and super().pristine()

    def put_macro(self, _identity: str, _text: str | None) -> None:
        raise RimecrestError(tr("A message keeps no macros."), tr("Keep it among your own instead."))

    # As a message

    def as_written(self, text: QTextDocument, sender: str) -> Written:
        """The message with that text."""
        fields = dict(self.shown())
        return Written(
            sender, fields[TO], fields[COPY], fields[SUBJECT], plain_text(text), text.toHtml(),
            self.files, self.answers, self.template,
        )  # fmt: skip

    def show_written(self, written: Written) -> None:
        """Show another message; one whose page is beyond the bounds as plain text."""
        try:
            self.page.setHtml(check_page(written.html.strip() or page_of(check_text(written.plain))))
        except RimecrestError:
            self.page.setPlainText(as_plain(written.plain or words_of(written.html)))
        fields = ((TO, written.to), (COPY, written.copy), (SUBJECT, written.subject))
        self.show_beside(Beside(fields, written.attached))
        self.answers, self.template = written.answers, written.template

    def read_from(self, path: Path) -> None:
        self.show_written(received(read_plain(path)).written())
        self.draft = ""
        self.undo.forget()
        self.saved()
        self.written = None

    def made_from(self, template: Path) -> None:
        super().made_from(template)
        self.begin_anew()

    def _in_full(self, written: Written) -> EmailMessage:
        return build(written, datetime.now().astimezone(), draft=True)

    def write_to(self, path: Path, _macros: bool = True) -> None:
        write_atomically(path, self._in_full(self.as_written(self.text, self.own.sender)).as_bytes())

    def write_template(self, path: Path) -> None:
        text = signature.with_field(self.text)
        written = self.as_written(text, "template@post.invalid")
        write_atomically(path, self._in_full(replace(written, answers="", template="")).as_bytes())
        text.deleteLater()

    def save(self) -> bool:
        """Keep it among the drafts, in place of what was kept there before."""
        self.settle()
        message = self._in_full(self.as_written(self.text, self.own.sender))
        before, self.draft = self.draft, self.mailbox.deliver(DRAFTS, message, SEEN + DRAFT)
        if before and self.mailbox.has(DRAFTS, before):
            self.mailbox.remove(DRAFTS, before)
        self.saved()
        self.undo.changed.emit()
        return True

    def field_text(self) -> str:
        return signature.PLACE.sub("", super().field_text())
