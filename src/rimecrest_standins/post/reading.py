"""Reading a message: its text, its files, its links; what it tells macros."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

from PyQt6.QtGui import QTextDocument

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import write_atomically
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.leaving import writing
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Address, Among, Switch
from rimecrest.kit.documents.name_list import offer_names
from rimecrest.kit.documents.outside import open_link, opening
from rimecrest.kit.documents.view_commands import declare_print, declare_zoom
from rimecrest.shell.file_dialogs import ask_save
from rimecrest_standins.formatted_text.writing import clipboard
from rimecrest_standins.post.declared import command, declarations, reading
from rimecrest_standins.post.filing import EDITS
from rimecrest_standins.post.mailbox import MailboxDocument
from rimecrest_standins.post.maildir import SEEN, STANDING
from rimecrest_standins.post.message import MessageDocument
from rimecrest_standins.post.message_parts import file_name

WRITES = (Effect.CREATES, Effect.OVERWRITES)


@command("read-message", "Read the message", about="Go to the text, and mark the message as read",
         keys=("Return", "KP_Enter"), context="list", effects=EDITS, changes=("unread",),
         picture="email-open-outline")  # fmt: skip
def read_message(doc: MailboxDocument) -> None:
    doc.file([doc.one()], add=SEEN)
    doc.focus("reading")


@command("go-to-text", "Go to the text", about="Go from the list to the text of the message", keys="F6",
         context="list", picture="text-box-outline")  # fmt: skip
def go_to_text(doc: MailboxDocument) -> None:
    doc.focus("reading")


@command("back-to-list", "Back to the list", about="Go from the text to the list of messages",
         keys=("Escape", "F6"), context="reading", picture="format-list-text")  # fmt: skip
def back_to_list(doc: MailboxDocument) -> None:
    doc.focus("list")


@command("show-plain", "Plain text", about="Show messages without their formatting, or with it",
         context="mailbox", picture="format-clear")  # fmt: skip
def show_plain(doc: MailboxDocument, on: Switch = Switch.FLIP) -> CommandResult:
    view = doc.view_of.reader.view
    view.plain_only = on.reached(view.plain_only)
    doc.refresh()
    return CommandResult.switch(view.plain_only)


@command("open-link", "Open a link", about="Open an address that a message has", context="mailbox",
         effects=(Effect.OPENS_LINKS,), picture="link-box-outline", leaves_document=True,
         reaches=lambda doc, to: opening(to))  # fmt: skip
def open_message_link(_doc: MailboxDocument, to: Address) -> None:
    open_link(to)


@command("copy-text", "Copy", about="Copy the chosen words of the message", keys="Ctrl+C",
         context="reading", effects=(Effect.CLIPBOARD,), picture="content-copy", everyday=True)  # fmt: skip
def copy_text(doc: MailboxDocument) -> None:
    words = doc.view_of.reader.view.chosen_words()
    if not words:
        raise RimecrestError(
            tr("No words are chosen."), tr("Choose some with the mouse, or use Choose text.")
        )
    clipboard().setText(words)


@command("choose-text", "Choose text", about="Choose the whole text of the message", keys="Ctrl+A",
         context="reading", picture="select-all", everyday=True)  # fmt: skip
def choose_text(doc: MailboxDocument) -> None:
    doc.view_of.reader.view.selectAll()


def _names(doc: MailboxDocument | MessageDocument) -> list[str]:
    here = doc.view_of.reader.attached if isinstance(doc, MailboxDocument) else doc.files
    return [file.name for file in here]


def _place(doc: MailboxDocument, path: Path, name: str) -> Path | None:
    if path == Path():
        chosen = ask_save(doc.widget, tr("Save {name}", name=name), file_name(name))
        path = Path(chosen)
    return clean_path(path) if path != Path() else None


@command("save-file", "Save a file of the message", about="Save a file that came with the message",
         context="mailbox", effects=WRITES, picture="file-download-outline", leaves_document=True,
         reaches=lambda doc, name, path=Path(): writing(clean_path(path) if path != Path() else None),
         asks=lambda doc: offer_names(doc, tr("Files"), _names(doc), "save-file"))  # fmt: skip
def save_file(
    doc: MailboxDocument, name: Annotated[str, Among("files")], path: Path = Path()
) -> CommandResult:
    for file in doc.view_of.reader.attached:
        if file.name.casefold() == name.strip().casefold():
            place = _place(doc, path, file.name)
            if place is None:
                return NOT_DONE
            write_atomically(place, file.content)
            return CommandResult(
                {"name": file.name, "path": str(place)}, says=tr("Saved to {place}.", place=place)
            )
    raise RimecrestError(tr("This message has no file “{name}”.", name=name))


@command("save-message", "Save the message", about="Save the message to a file, as it is", context="mailbox",
         effects=(Effect.OPENS_FILES, *WRITES), picture="content-save-edit-outline", leaves_document=True,
         reaches=lambda doc, path=Path(): writing(clean_path(path) if path != Path() else None))  # fmt: skip
def save_message(doc: MailboxDocument, path: Path = Path()) -> CommandResult:
    content = doc.mailbox.content(doc.folder, doc.one())
    place = _place(doc, path, f"{doc.title_of(doc.key)}.eml")
    if place is None:
        return NOT_DONE
    write_atomically(place, content)
    return CommandResult({"path": str(place)}, says=tr("Saved to {place}.", place=place))


def _paper(doc: MailboxDocument | MessageDocument) -> QTextDocument:
    text = doc.view_of.reader.view.text if isinstance(doc, MailboxDocument) else doc.text
    copy = text.clone(text)
    assert copy is not None
    return copy


def _zoom(doc: MailboxDocument | MessageDocument, by: int) -> None:
    (doc.view_of.reader.view if isinstance(doc, MailboxDocument) else doc.page).zoomIn(by)


declare_print(declarations, "the text of the message", _paper)
declare_zoom(declarations, "message", _zoom)


def _declare_head(name: str, about: str) -> None:
    @reading(name, about)
    def told(doc: Any) -> str:
        """Of the message that is read, or of the one that is written."""
        if isinstance(doc, MessageDocument):
            return doc.own.sender if name == "from" else doc.field(name)
        return str(getattr(doc.mailbox.heads(doc.folder, doc.key), name.replace("from", "sender")))


for _name, _about in (
    ("from", "Who the message is from"),
    ("to", "Who the message is to"),
    ("copy", "Who has a copy of the message"),
    ("subject", "The subject of the message"),
):
    _declare_head(_name, _about)


@reading("message.text", "The text of the message, without its formatting")
def message_text(doc: Any) -> str:
    return doc.view_of.reader.view.plain if isinstance(doc, MailboxDocument) else doc.field_text()


@reading("files", "The names of the files of the message", type="list")
def files(doc: Any) -> list[str]:
    return _names(doc)


@reading("folder", "The folder that is shown")
def folder(doc: Any) -> str:
    return doc.folder if isinstance(doc, MailboxDocument) else ""


@reading("folders", "The folders of the mailbox", type="list")
def folders(doc: MailboxDocument | MessageDocument) -> list[str]:
    return doc.mailbox.folders()


@reading("unread", "How many messages of the inbox nobody has read", type="number")
def unread(doc: MailboxDocument | MessageDocument) -> int:
    return doc.mailbox.unread(STANDING[0])


@reading("addresses", "The addresses that messages have come from or gone to", type="list")
def addresses(doc: Any) -> list[str]:
    return sorted(set().union(*map(doc.mailbox.people, STANDING)))
