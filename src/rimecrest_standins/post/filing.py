"""Where messages lie: folders, marks, the bin; which of them are shown, in which order."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from msgspec import Struct
from PyQt6.QtWidgets import QMessageBox

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Among, Switch, Wants
from rimecrest.kit.documents.list_document import declare_list
from rimecrest.kit.documents.name_list import ask_words, offer_names
from rimecrest_standins.post.declared import command, declarations
from rimecrest_standins.post.mailbox import MailboxDocument
from rimecrest_standins.post.maildir import BIN, FLAGGED, SEEN, STANDING, Maildir

EDITS = (Effect.EDITS,)
Folder = Annotated[str, Among("folders")]
SHOWN = ("chosen.messages", "from", "subject")
"""Readings that another message changes."""
declare_list(declarations, "message", "list", SHOWN)


def _folders(verb: str, setting: str) -> Callable[[MailboxDocument], None]:
    return lambda doc: offer_names(doc, tr("Folders"), doc.mailbox.folders(), verb, setting)


@command("go-to-folder", "Go to a folder", about="Show the messages of a folder", keys="Ctrl+J, G",
         context="mailbox", changes=("folder", "messages", *SHOWN), picture="folder-open-outline",
         asks=_folders("go-to-folder", "name"))  # fmt: skip
def go_to_folder(doc: MailboxDocument, name: Folder) -> None:
    doc.go_to(doc.mailbox.find_folder(name))


class Folders(Struct, frozen=True):
    """A folder that was made (before is empty), removed (after is), or renamed."""

    mailbox: Maildir
    before: str
    after: str

    def _change(self, before: str, after: str) -> None:
        if before and after:
            self.mailbox.rename_folder(before, after)
        elif after:
            self.mailbox.make_folder(after)
        elif not self.mailbox.keys(before):
            self.mailbox.remove_folder(before)

    def back(self) -> None:
        self._change(self.after, self.before)

    def forth(self) -> None:
        self._change(self.before, self.after)


def _refold(doc: MailboxDocument, before: str, after: str) -> None:
    change = Folders(doc.mailbox, before, after)
    change.forth()
    doc.undo.record(change)
    doc.go_to(after or (doc.folder if doc.folder != before else STANDING[0]))


def _own(doc: MailboxDocument) -> str:
    if doc.folder in STANDING:
        always = tr("“{folder}” is always there.", folder=doc.folder)
        raise RimecrestError(always, tr("Go to a folder of your own."))
    return doc.folder


@command("new-folder", "New folder", about="Make a folder, and go there", keys="Ctrl+J, N",
         context="mailbox", effects=(Effect.EDITS, Effect.CREATES), changes=("folder", "folders"),
         picture="folder-plus-outline",
         asks=ask_words(tr("New folder"), tr("Called:"), "new-folder", "name"))  # fmt: skip
def new_folder(doc: MailboxDocument, name: str) -> None:
    _refold(doc, "", doc.mailbox.new_name(name))


@command("rename-folder", "Rename folder", about="Give this folder another name", context="mailbox",
         effects=EDITS, changes=("folder", "folders"), picture="folder-edit-outline",
         asks=ask_words(tr("Rename folder"), tr("Called:"), "rename-folder", "to"))  # fmt: skip
def rename_folder(doc: MailboxDocument, to: str) -> None:
    _refold(doc, _own(doc), doc.mailbox.new_name(to))


@command("remove-folder", "Remove folder", about="Remove this folder, which must be empty",
         context="mailbox", effects=EDITS, changes=("folders",), picture="folder-remove-outline")  # fmt: skip
def remove_folder(doc: MailboxDocument) -> None:
    if doc.mailbox.keys(_own(doc)):
        full = tr("There are messages in “{folder}”.", folder=doc.folder)
        raise RimecrestError(full, tr("Move them away first."))
    _refold(doc, doc.folder, "")


@command("mark-read", "Mark as read", about="Mark the chosen messages as read, or not", keys="Ctrl+J, M",
         context="mailbox", effects=EDITS, changes=("unread",), picture="email-open-outline")  # fmt: skip
def mark_read(doc: MailboxDocument, on: Switch = Switch.FLIP) -> CommandResult:
    reached = on.reached(all(SEEN in doc.mailbox.flags(doc.folder, key) for key in doc.some()))
    doc.file(doc.some(), add=SEEN * reached, take=SEEN * (not reached))
    return CommandResult.switch(reached)


@command("flag-message", "Flag", about="Put a flag on the chosen messages, or take it off",
         keys="Ctrl+J, K", context="mailbox", effects=EDITS, picture="flag-outline",
         synonyms=("star", "important", "follow up"))  # fmt: skip
def flag_message(doc: MailboxDocument, on: Switch = Switch.FLIP) -> CommandResult:
    reached = on.reached(all(FLAGGED in doc.mailbox.flags(doc.folder, key) for key in doc.some()))
    doc.file(doc.some(), add=FLAGGED * reached, take=FLAGGED * (not reached))
    return CommandResult.switch(reached)


@command("mark-all-read", "Mark all as read", about="Mark all messages here as read", context="mailbox",
         effects=EDITS, changes=("unread",), picture="email-check-outline")  # fmt: skip
def mark_all_read(doc: MailboxDocument) -> None:
    doc.file(doc.mailbox.keys(doc.folder), add=SEEN)


@command("move-messages", "Move to a folder", about="Move the chosen messages to another folder",
         keys="Ctrl+J, V", context="mailbox", effects=EDITS, changes=("messages", *SHOWN),
         picture="folder-move-outline", asks=_folders("move-messages", "to"))  # fmt: skip
def move_messages(doc: MailboxDocument, to: Folder) -> None:
    doc.file(doc.some(), doc.mailbox.find_folder(to))


@command("delete-messages", "Delete", about="Move the chosen messages to the bin", keys="Delete",
         context="list", effects=EDITS, changes=("messages", *SHOWN), picture="delete-outline")  # fmt: skip
def delete_messages(doc: MailboxDocument) -> None:
    if doc.folder == BIN:
        raise RimecrestError(tr("These lie in the bin already."), tr("Use Delete for good."))
    doc.file(doc.some(), BIN)


def _in_bin(doc: MailboxDocument) -> list[str]:
    return doc.chosen if doc.folder == BIN else []


def _for_good(doc: MailboxDocument, keys: list[str]) -> CommandResult:
    """Delete messages of the bin; whoever does that by hand is asked."""
    if not keys:
        raise RimecrestError(tr("Nothing is chosen in the bin."), tr("Delete messages first; they go there."))
    what = counted(len(keys), tr("message"))
    question = tr("Delete {what} for good? This cannot be undone.", what=what)
    box = QMessageBox(QMessageBox.Icon.Warning, tr("Bin"), question, YES | NO, doc.widget)
    box.setDefaultButton(NO)
    if not doc.documents.running and box.exec() != YES:
        return NOT_DONE
    doc.undo.forget()
    for key in keys:
        doc.mailbox.remove(BIN, key)
    return CommandResult(says=tr("{what} deleted for good.", what=what))


YES, NO = QMessageBox.StandardButton.Yes, QMessageBox.StandardButton.No


def _deleting(keys: list[str]) -> Wants:
    return Wants(tr("delete {what} for good", what=counted(len(keys), tr("message"))))


@command("delete-for-good", "Delete for good", about="Delete the chosen messages of the bin for good",
         keys="Shift+Delete", context="list", effects=(Effect.DELETES,), leaves_document=True,
         changes=("messages", *SHOWN), picture="delete-forever-outline",
         reaches=lambda doc: _deleting(_in_bin(doc)))  # fmt: skip
def delete_for_good(doc: MailboxDocument) -> CommandResult:
    return _for_good(doc, _in_bin(doc))


@command("empty-bin", "Empty the bin", about="Delete all messages of the bin for good", context="mailbox",
         effects=(Effect.DELETES,), leaves_document=True, changes=("messages", *SHOWN),
         picture="delete-empty-outline", reaches=lambda doc: _deleting(doc.mailbox.keys(BIN)))  # fmt: skip
def empty_bin(doc: MailboxDocument) -> CommandResult:
    return _for_good(doc, doc.mailbox.keys(BIN))


@command("search-messages", "Search", about="Show only messages that have these words", keys="Ctrl+F",
         context="mailbox", changes=("messages", *SHOWN), picture="magnify", everyday=True,
         asks=ask_words(tr("Search"), tr("Sender or subject:"), "search-messages", "words"))  # fmt: skip
def search_messages(doc: MailboxDocument, words: str, where: Literal["heads", "texts"] = "heads") -> None:
    doc.searched, doc.everywhere = words.strip(), where == "texts"
    doc.refresh()


@command("end-search", "Show all", about="Show all messages of the folder again", keys="Escape",
         context="list", changes=("messages", *SHOWN), picture="filter-off-outline")  # fmt: skip
def end_search(doc: MailboxDocument) -> None:
    doc.searched = ""
    doc.refresh()


@command("sort-messages", "Sort", about="Put the messages into another order", context="mailbox",
         changes=("messages",), picture="sort")  # fmt: skip
def sort_messages(
    doc: MailboxDocument,
    by: Literal["date", "sender", "subject", "size"] = "date",
    order: Literal["falling", "rising"] = "falling",
) -> None:
    doc.order, doc.rising = by, order == "rising"
    doc.refresh()


@command("look-for-new", "New messages", about="Look whether messages have come", keys="F5",
         context="mailbox", changes=("messages", "unread"), picture="email-sync-outline")  # fmt: skip
def look_for_new(doc: MailboxDocument) -> None:
    doc.mailbox.look(doc.folder)
    doc.refresh()
