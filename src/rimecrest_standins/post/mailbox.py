"""The mailbox as the document of a window: which folder is shown, what is read, what changes messages."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from msgspec import Struct
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr
from rimecrest.kit.documents.document import Document, Documents, Move
from rimecrest.kit.documents.list_document import Chosen, ListDocument
from rimecrest_standins.post.mailbox_view import MailboxView
from rimecrest_standins.post.maildir import INBOX, Maildir
from rimecrest_standins.post.message import MessageDocument
from rimecrest_standins.post.own import home


class Shown(Struct, frozen=True):
    """Where somebody is: the folder, the part that has the keys, what is chosen in the list."""

    folder: str
    part: str
    list: Chosen


class Filed(Struct, frozen=True):
    """A message that was moved or marked: its folder, flags and key, before and after.

    One that another program has taken meanwhile is left out.
    """

    mailbox: Maildir
    before: tuple[str, str, str]
    after: tuple[str, str, str]

    def back(self) -> None:
        self._move(self.after, self.before)

    def forth(self) -> None:
        self._move(self.before, self.after)

    def _move(self, before: tuple[str, str, str], after: tuple[str, str, str]) -> None:
        folder, _, key = before
        if self.mailbox.has(folder, key):
            self.mailbox.file(key, folder, *after)


class MailboxDocument(ListDocument):
    """The mailbox of a seat."""

    noun = "mailbox"
    row_noun = "message"
    stays = True

    def __init__(self, documents: Documents) -> None:
        self.mailbox = Maildir(home(documents.folder) / "post")
        self.view_of = MailboxView(self.mailbox)
        super().__init__(documents, self.view_of.model, self.view_of.table)
        self.widget: QWidget = self.view_of
        self.folder = INBOX
        self.order, self.rising = "date", False
        self.searched, self.everywhere = "", False
        """The words that are searched for, and whether in the texts as well."""
        self.part = "list"
        self._stale = False
        self.undo.changed.connect(self._follow)
        view = self.view_of
        view.focused.connect(self._focused)
        view.folder_clicked.connect(lambda name: self.wants.emit("go-to-folder", {"name": name}))
        view.opened.connect(lambda: self.wants.emit("read-message", {}))
        view.reader.view.linked.connect(lambda address: self.wants.emit("open-link", {"to": address}))
        view.reader.files.clicked.connect(lambda name: self.wants.emit("save-file", {"name": name}))
        view.row_changed.connect(self._read)
        self.mailbox.heard = self.refresh
        self.go_to(INBOX)

    def another(self) -> Document:
        return MessageDocument(self.documents, self.mailbox)

    def title_of(self, key: str) -> str:
        return self.mailbox.heads(self.folder, key).subject

    # What is shown

    def go_to(self, folder: str) -> None:
        """Show a folder, whole. Its first message is chosen."""
        self.folder, self.searched = folder, ""
        self.mailbox.look(folder)
        self.refresh()
        self.choose(self.model.keys[:1])

    def refresh(self) -> None:
        """Show what lies in the folder now."""
        self._stale = False
        keys = [key for key in self.mailbox.keys(self.folder) if self._is_sought(key)]
        self.view_of.model.folder = self.folder
        self.show_keys(self._in_order(keys))
        self._read()
        count = counted(len(keys), tr("message"))
        found = tr("{count} with “{it}” in {folder}", count=count, it=self.searched, folder=self.folder)
        self.view_of.say_searched(found if self.searched else "")
        unread = {name: self.mailbox.unread(name) for name in self.mailbox.folders()}
        self.view_of.show_folders(unread, self.folder)

    def _in_order(self, keys: list[str]) -> list[str]:
        if self.order == "date":
            return keys[::-1] if self.rising else keys

        def place(key: str) -> Any:
            value = getattr(self.mailbox.heads(self.folder, key), self.order)
            return value.casefold() if isinstance(value, str) else value

        return sorted(keys, key=place, reverse=not self.rising)

    def _is_sought(self, key: str) -> bool:
        if not self.searched:
            return True
        heads = self.mailbox.heads(self.folder, key)
        text = f"{heads.sender} {heads.to} {heads.subject}"
        if self.everywhere:
            text += self.mailbox.plain(self.folder, key)
        return all(word in text.casefold() for word in self.searched.casefold().split())

    def _read(self) -> None:
        reader = self.view_of.reader
        if not self.key:
            reader.show_nothing(tr("There are no messages here.") if not self.model.keys else "")
            return
        try:
            reader.show_message(self.mailbox.content(self.folder, self.key))
        except RimecrestError as error:
            reader.show_nothing(str(error))

    def _focused(self, part: str) -> None:
        self.part = part
        self.undo.changed.emit()

    def focus(self, part: str) -> None:
        """Give the keys to the list, or to the message that is read."""
        self.part = part
        (self.table if part == "list" else self.view_of.reader.view).setFocus()

    # Changing

    def _follow(self) -> None:
        if self._stale:
            self.refresh()

    def file(self, keys: Sequence[str], folder: str = "", add: str = "", take: str = "") -> None:
        """Move messages of the folder to another one, give them flags, take some. Within a change."""
        for key in keys:
            before = (self.folder, self.mailbox.flags(self.folder, key))
            after = (folder or self.folder, "".join(sorted({*before[1], *add} - {*take})))
            if after != before:
                there = self.mailbox.file(key, self.folder, *after)
                self.undo.record(Filed(self.mailbox, (*before, key), (*after, there)))
                self._stale = True

    # What every document says

    def innermost(self) -> tuple[str, ...]:
        return (self.part,)

    def name(self) -> str:
        return self.folder

    def place(self) -> Any:
        return Shown(self.folder, self.part, super().place())

    def go(self, place: Any) -> None:
        # Undoing may have brought the folder another name.
        known = place.folder in self.mailbox.folders()
        self.folder, self.part = place.folder if known else INBOX, place.part
        self.refresh()
        super().go(place.list)

    def moves(self, before: Any, after: Any) -> Sequence[Move] | None:
        if before.folder != after.folder:
            way = self.way_to(after.list.keys)
            found: Sequence[Move] | None = None
            if way is not None:
                found = [("go-to-folder", {"name": after.folder}), *way]
        else:
            found = super().moves(before.list, after.list)
        if found is not None and before.part != after.part:
            return [*found, ("back-to-list" if after.part == "list" else "go-to-text", {})]
        return found
