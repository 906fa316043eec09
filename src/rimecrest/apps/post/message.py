"""A message that is being written: its fields, its files, its text, and the draft that it is kept in."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from pathlib import Path
from typing import Any

from PyQt6.QtGui import QTextCursor, QTextDocument
from PyQt6.QtWidgets import QWidget

from rimecrest.apps.post import signature
from rimecrest.apps.post.maildir import DRAFT, DRAFTS, SEEN, Maildir, parsed
from rimecrest.apps.post.message_parts import Attached, Written, build, page_of, read
from rimecrest.apps.post.message_view import COPY, FIELDS, SUBJECT, TEXT, TO, MessageView
from rimecrest.apps.post.own import read_own
from rimecrest.core.errors import RimecrestError
from rimecrest.core.template_fields import filled
from rimecrest.core.words import tr
from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.embed.document import Document, Documents, Move
from rimecrest.embed.formatted_text.document import FormattedText
from rimecrest.embed.html_bounds import check_page, check_text
from rimecrest.shell.plain_text import plain_text

MARGIN = 16
"""Pixels around the text."""


@dataclass(frozen=True)
class Beside:
    """What a message has beside its text: its fields by name, and its files."""

    fields: tuple[tuple[str, str], ...] = tuple((name, "") for name in FIELDS)
    files: tuple[Attached, ...] = ()


@dataclass(frozen=True)
class Changed:
    """That, before and after a change."""

    document: MessageDocument
    before: Beside
    after: Beside

    def back(self) -> None:
        self.document.show_beside(self.before)

    def forth(self) -> None:
        self.document.show_beside(self.after)


@dataclass(frozen=True)
class Spot:
    """Where somebody is: in which part, what stands in the fields, and where in the text."""

    part: str
    fields: tuple[tuple[str, str], ...]
    text: Any


class MessageDocument(FormattedText):
    """A message that is being written. It begins with the seat's signature."""

    noun = "message"
    kinds = tr("Messages (*.eml);;All files (*)")
    ending = ".eml"

    def __init__(self, documents: Documents, mailbox: Maildir) -> None:
        super().__init__(documents, MARGIN)
        self.mailbox = mailbox
        self.view_of = MessageView(self.page)
        self.widget: QWidget = self.view_of
        self.own = read_own(documents.folder)
        self.view_of.writer.setText(self.own.sender)
        self.beside = Beside()
        self._saved = self.beside
        self.part = TO
        self.view_of.setFocusProxy(self.view_of.fields[TO])
        self.draft = ""
        """The key of the draft that it is kept in; empty: in none."""
        self.answers = ""
        """The id of the message that it answers."""
        self.answered: tuple[str, str] | None = None
        """Folder and key of that message, which is marked when this one is sent."""
        self.view_of.focused.connect(self._focused)
        self.view_of.left.connect(self.settle_fields)
        self.view_of.files.clicked.connect(lambda name: self.wants.emit("remove-file", {"name": name}))
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

    # The fields and the files

    def _focused(self, part: str) -> None:
        self.part = part
        self.view_of.setFocusProxy(self.page if part == TEXT else self.view_of.fields[part])

    def focus(self, part: str) -> None:
        """Give the keys to a part."""
        self._focused(part)
        self.view_of.focus(part)

    def shown(self) -> tuple[tuple[str, str], ...]:
        """What stands in the fields, half entered or not."""
        return tuple((name, field.text()) for name, field in self.view_of.fields.items())

    def field(self, name: str) -> str:
        """What stands in a field."""
        return self.view_of.fields[name].text()

    def show_beside(self, beside: Beside) -> None:
        """Show other fields and files."""
        if beside.files != self.beside.files:
            self.view_of.files.show_files(beside.files)
        self.beside = beside
        self._show_fields(beside.fields)

    def _show_fields(self, fields: tuple[tuple[str, str], ...]) -> None:
        for name, words in fields:
            if self.field(name) != words:
                self.view_of.fields[name].setText(words)

    def settle(self) -> None:
        super().settle()
        self.settle_fields()

    def settle_fields(self) -> None:
        """Take what was written into the fields as done: one step of undo."""
        if self.shown() != self.beside.fields:
            self._become(replace(self.beside, fields=self.shown()))

    def abandon(self) -> None:
        self._show_fields(self.beside.fields)

    def set_field(self, name: str, words: str) -> None:
        """Write a field anew."""
        self.settle_fields()
        line = " ".join(words.splitlines())
        fields = tuple((each, line if each == name else old) for each, old in self.beside.fields)
        self._become(replace(self.beside, fields=fields))

    def set_files(self, files: tuple[Attached, ...]) -> None:
        """Have other files go along."""
        self.settle_fields()
        self._become(replace(self.beside, files=files))

    def _become(self, beside: Beside) -> None:
        if beside != self.beside:
            with self.change(tr("the fields above the text")):
                before = self.beside
                self.show_beside(beside)
                self.undo.record(Changed(self, before, beside))

    # What every document says

    def innermost(self) -> tuple[str, ...]:
        return ({TEXT: "writing", SUBJECT: "composing"}.get(self.part, "address"),)

    def make_live(self, context: str) -> None:
        if context == "writing":
            self.focus(TEXT)

    def write(self, text: str) -> None:
        if self.part == TEXT:
            super().write(text)
        else:
            field = self.view_of.fields[self.part]
            field.insert(text)
            self.settle_fields()

    def place(self) -> Any:
        return Spot(self.part, self.shown(), super().place())

    def go(self, place: Any) -> None:
        self._show_fields(place.fields)
        self.part = place.part
        super().go(place.text)

    def has_selection(self, place: Any) -> bool:
        return place.part == TEXT and super().has_selection(place.text)

    def moves(self, before: Any, after: Any) -> Sequence[Move] | None:
        found: list[Move] = []
        for (name, was), (_, now) in zip(before.fields, after.fields, strict=True):
            if was != now:
                found.append((f"set-{name}", {"to": now}))
        if before.part != after.part:
            found.append(("go-to-part", {"name": after.part}))
        if after.part == TEXT:
            found += super().moves(before.text, after.text) or ()
        return found

    def name(self) -> str:
        return self.field(SUBJECT).strip() or tr("New message")

    def pristine(self) -> bool:
        return not self.draft and not self.answers and super().pristine()

    def modified(self) -> bool:
        now = replace(self.beside, fields=self.shown())
        return self.text.isModified() or now != self._saved

    def saved(self) -> None:
        self.settle_fields()
        self._saved = self.beside
        self.text.setModified(False)

    def put_macro(self, identity: str, text: str | None) -> None:
        raise RimecrestError(tr("A message keeps no macros."), tr("Keep it among your own instead."))

    # As a message

    def as_written(self, text: QTextDocument, sender: str) -> Written:
        """The message with that text."""
        fields = dict(self.shown())
        return Written(
            sender, fields[TO], fields[COPY], fields[SUBJECT], plain_text(text), text.toHtml(),
            self.beside.files, self.answers, self.template,
        )  # fmt: skip

    def show_written(self, written: Written) -> None:
        """Show another message. Raises RimecrestError where its text is beyond what is shown."""
        self.page.setHtml(check_page(written.html.strip() or page_of(check_text(written.plain))))
        fields = ((TO, written.to), (COPY, written.copy), (SUBJECT, written.subject))
        self.show_beside(Beside(fields, written.attached))
        self.answers, self.template = written.answers, written.template

    def read_from(self, path: Path) -> None:
        self.show_written(read(parsed(path.read_bytes())))
        self.draft = ""
        self.undo.forget()
        self.saved()
        self.written = None

    def made_from(self, template: Path) -> None:
        super().made_from(template)
        self.begin_anew()

    def write_to(self, path: Path, macros: bool = True) -> None:
        written = self.as_written(self.text, self.own.sender)
        write_atomically(path, build(written, datetime.now().astimezone(), draft=True).as_bytes())

    def write_template(self, path: Path) -> None:
        text = signature.with_field(self.text)
        written = replace(self.as_written(text, "template@post.invalid"), answers="", template="")
        write_atomically(path, build(written, datetime.now().astimezone(), draft=True).as_bytes())
        text.deleteLater()

    def save(self) -> bool:
        """Keep it among the drafts, in place of what was kept there before."""
        self.settle()
        message = build(self.as_written(self.text, self.own.sender), datetime.now().astimezone(), draft=True)
        before, self.draft = self.draft, self.mailbox.deliver(DRAFTS, message, SEEN + DRAFT)
        if before and self.mailbox.has(DRAFTS, before):
            self.mailbox.remove(DRAFTS, before)
        self.saved()
        self.undo.changed.emit()
        return True

    # Templates

    def field_text(self) -> str:
        text = signature.PLACE.sub("", plain_text(self.text))
        return "\n".join([*(words for _, words in self.shown()), text])

    def fill_fields(self, answers: Mapping[str, str]) -> None:
        for name, words in self.shown():
            self.set_field(name, filled(words, answers))
        super().fill_fields(answers)
