"""Writing a message: beginning one, its fields and files, answering, sending."""

from __future__ import annotations

import html
from datetime import datetime
from email.utils import parseaddr
from mimetypes import guess_type
from pathlib import Path
from typing import Annotated, Any, Literal

from msgspec.structs import replace
from PyQt6.QtGui import QTextBlockFormat, QTextCursor

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import read_plain
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Among, Wants
from rimecrest.kit.documents.file_commands import declare_new, declare_open_documents, open_at
from rimecrest.kit.documents.file_document import LARGEST, said_of
from rimecrest.kit.documents.name_list import ask_words, offer_names
from rimecrest.kit.documents.outside import declare_outside
from rimecrest.kit.documents.shared_commands import declare_everyday
from rimecrest.kit.documents.template_commands import declare_templates
from rimecrest.shell.file_dialogs import ask_open
from rimecrest_standins.formatted_text.declared import declare_text
from rimecrest_standins.formatted_text.fielded_text import TEXT, declare_fields
from rimecrest_standins.post.declared import command, declarations
from rimecrest_standins.post.filing import EDITS
from rimecrest_standins.post.mailbox import MailboxDocument
from rimecrest_standins.post.maildir import ANSWERED, DRAFTS, OUTBOX, SEEN
from rimecrest_standins.post.message import COPY, SUBJECT, TITLES, TO, MessageDocument
from rimecrest_standins.post.message_parts import (
    Attached,
    addresses_in,
    again,
    build,
    checked_addresses,
    page_of,
)
from rimecrest_standins.post.own import keep_own, read_own
from rimecrest_standins.post.signature import sign

BEGINS, ANSWER = (Effect.CREATES,), ("answer",)

declare_new(declarations, "message")
declare_open_documents(declarations, "message")
declare_everyday(declarations)
declare_text(declarations, "message")
declare_templates(declarations, "message", ".eml", "writing", begun="composing")
declare_outside(declarations)


@command("open", "Open", about="Open a message from a file, to go on writing it", keys="Ctrl+O",
         effects=(Effect.CREATES, Effect.OPENS_FILES), picture="folder-open-outline",
         everyday=True)  # fmt: skip
def open_(doc: Any, path: Path = Path()) -> CommandResult:
    path = _asked(doc, path, tr("Open a message"), MessageDocument.kinds)
    return NOT_DONE if path == Path() else open_at(doc, path, "", "", lambda *_: None)


def _asked(doc: Any, path: Path, title: str, kinds: str = "") -> Path:
    """The path that was given, cleaned, or one that is asked for; empty where that was given up."""
    chosen = path if path != Path() else Path(ask_open(doc.widget, title, "", kinds))
    return clean_path(chosen)


@command("save", "Save", about="Keep the message among the drafts", keys="Ctrl+S", context="composing",
         effects=(Effect.CREATES, Effect.DELETES), picture="content-save-outline", everyday=True,
         leaves_document=True)  # fmt: skip
def save(doc: MessageDocument) -> CommandResult:
    doc.save()
    return CommandResult(says=tr("Kept among the drafts."))


# Answering


def _begin(doc: MailboxDocument, to: str, copy: str, mark: str, quoted: str) -> MessageDocument:
    """A message that answers the one that is read, which is quoted below the signature."""
    read_now = doc.mailbox.message(doc.folder, doc.one())
    key = (doc.folder, doc.key)
    made = doc.documents.begin()
    assert isinstance(made, MessageDocument)
    for name, words in ((TO, to), (COPY, copy), (SUBJECT, again(read_now.head("Subject"), mark))):
        made.set_field(name, words)
    made.answers, made.answered = read_now.head("Message-ID"), key
    with made.change(tr("the quotation")):
        cursor = QTextCursor(made.text)
        cursor.movePosition(QTextCursor.MoveOperation.End)
        inwards = QTextBlockFormat()
        inwards.setIndent(1)
        cursor.insertBlock()
        cursor.insertBlock(inwards)
        start = cursor.position()
        made.put_html(cursor, quoted)
        cursor.setPosition(start, QTextCursor.MoveMode.KeepAnchor)
        cursor.mergeBlockFormat(inwards)
    made.begin_anew()
    made.focus(TEXT if to else TO)
    return made


def _quoted(doc: MailboxDocument, intro: str) -> str:
    message = doc.mailbox.message(doc.folder, doc.one())
    shown = doc.view_of.reader.view.shows_page
    return f"<p>{html.escape(intro)}</p>{message.page if shown else page_of(message.plain or message.page)}"


def _reply(doc: MailboxDocument, everybody: bool) -> None:
    message = doc.mailbox.message(doc.folder, doc.one())
    own = {parseaddr(read_own(doc.documents.folder).sender)[1].casefold()}
    to = addresses_in(message.head("Reply-To") or message.head("From"))
    others = addresses_in(f"{message.head('To')}, {message.head('Cc')}") if everybody else []
    own |= {parseaddr(each)[1].casefold() for each in to}
    copy = [each for each in others if parseaddr(each)[1].casefold() not in own]
    intro = tr("On {date}, {who} wrote:", date=message.day, who=message.head("From"))
    _begin(doc, ", ".join(to), ", ".join(copy), "Re", _quoted(doc, intro))


@command("reply", "Reply", about="Answer the message, which is quoted", keys="Ctrl+J, R", context="mailbox",
         effects=BEGINS, picture="reply-outline", synonyms=ANSWER)  # fmt: skip
def reply(doc: MailboxDocument) -> None:
    _reply(doc, everybody=False)


@command("reply-all", "Reply to all", about="Answer everybody who has it", keys="Ctrl+J, A",
         context="mailbox", effects=BEGINS, picture="reply-all-outline", synonyms=ANSWER)  # fmt: skip
def reply_all(doc: MailboxDocument) -> None:
    _reply(doc, everybody=True)


@command("forward", "Forward", about="Send the message on to somebody else, with its files",
         keys="Ctrl+J, F", context="mailbox", effects=BEGINS, picture="share-outline")  # fmt: skip
def forward(doc: MailboxDocument) -> None:
    message = doc.mailbox.message(doc.folder, doc.one())
    intro = tr("{who} wrote on {date}:", who=message.head("From"), date=message.day)
    made = _begin(doc, "", "", "Fwd", _quoted(doc, intro))
    made.answers, made.answered = "", None
    made.set_more(message.files)
    made.begin_anew()


@command("edit-again", "Write on", about="Go on writing a draft, or a message again",
         keys="Ctrl+J, E", context="mailbox", effects=BEGINS, picture="email-edit-outline")  # fmt: skip
def edit_again(doc: MailboxDocument) -> None:
    written = doc.mailbox.message(doc.folder, doc.one()).written()
    draft = doc.key if doc.folder == DRAFTS else ""
    for known in doc.documents.all:
        if draft and isinstance(known, MessageDocument) and known.draft == draft:
            doc.documents.show(known)
            return
    made = doc.documents.begin()
    assert isinstance(made, MessageDocument)
    made.show_written(written)
    made.draft = draft
    made.begin_anew()


# Fields and files


declare_fields(declarations, "message", "composing", TITLES)


@command("add-address", "Add an address", about="Add an address to a field", keys="Ctrl+J, Shift+A",
         context="composing", effects=EDITS, changes=("to",), picture="account-plus-outline",
         asks=lambda doc: offer_names(
             doc, tr("Addresses"), sorted(doc.mailbox.people("Inbox")), "add-address", "address"
         ))  # fmt: skip
def add_address(
    doc: MessageDocument, address: Annotated[str, Among("addresses")], field: Literal["to", "copy"] = "to"
) -> None:
    checked_addresses(address)
    doc.set_field(field, ", ".join(filter(None, (doc.field(field).strip(" ,;"), address.strip()))))


@command("delete-address", "Delete the last address", about="Take the last address out of this field",
         keys="Ctrl+J, Shift+D", context="address", effects=EDITS, changes=("to",),
         picture="account-minus-outline")  # fmt: skip
def delete_address(doc: MessageDocument) -> None:
    doc.set_field(doc.part, ", ".join(addresses_in(doc.field(doc.part))[:-1]))


@command("attach-file", "Attach a file", about="Have a file go along with the message",
         keys="Ctrl+J, Shift+F", context="composing", changes=("files",),
         effects=(Effect.EDITS, Effect.OPENS_FILES), picture="file-link-outline",
         synonyms=("attachment", "enclose"))  # fmt: skip
def attach_file(doc: MessageDocument, path: Path = Path()) -> CommandResult:
    path = _asked(doc, path, tr("Attach a file"))
    if path == Path():
        return NOT_DONE
    with said_of(path, tr("file to attach")):
        content = read_plain(path, LARGEST)
    if sum(len(file.content) for file in doc.files) + len(content) > LARGEST:
        too_large = tr("The files are more than {size} MiB together.", size=LARGEST >> 20)
        raise RimecrestError(too_large, tr("Put them where the others can fetch them."))
    kept = tuple(file for file in doc.files if file.name != path.name)
    kind = guess_type(path.name)[0] or "application/octet-stream"
    doc.set_more((*kept, Attached(path.name, kind, content)))
    return CommandResult({"path": str(path)})


@command("remove-file", "Take a file out", about="Take a file out of the message", context="composing",
         effects=EDITS, changes=("files",), picture="file-minus-outline")  # fmt: skip
def remove_file(doc: MessageDocument, name: Annotated[str, Among("files")]) -> None:
    left = tuple(file for file in doc.files if file.name.casefold() != name.strip().casefold())
    if left == doc.files:
        raise RimecrestError(tr("This message has no file “{name}”.", name=name))
    doc.set_more(left)


# The seat's own


@command("insert-signature", "Signature", about="Have your signature beneath the message, once",
         keys="Ctrl+J, Y", context="composing", effects=EDITS, picture="draw")  # fmt: skip
def insert_signature(doc: MessageDocument) -> None:
    if not doc.own.signature:
        raise RimecrestError(
            tr("You have no signature yet."), tr("Write it, select it, and use Keep as my signature.")
        )
    sign(doc, doc.own.signature)


@command("keep-signature", "Keep as my signature", about="Have the chosen words beneath every new message",
         context="writing", effects=(Effect.CREATES, Effect.OVERWRITES), leaves_document=True,
         reaches=lambda doc: Wants(tr("put another signature beneath your messages")),
         picture="draw")  # fmt: skip
def keep_signature(doc: MessageDocument) -> CommandResult:
    chosen = doc.cursor()
    if not chosen.hasSelection():
        raise RimecrestError(tr("Nothing is chosen."), tr("Select the words of your signature."))
    _keep(doc, signature=chosen.selection().toHtml())
    return CommandResult(says=tr("It is beneath every new message from now on."))


@command("set-sender", "Who writes", about="Say your own address, which messages are from",
         context="composing", effects=(Effect.CREATES, Effect.OVERWRITES), changes=("from",),
         leaves_document=True, picture="account-outline",
         reaches=lambda doc, to: Wants(tr("have your messages be from {to}", to=to)),
         asks=ask_words(tr("Who writes"), tr("Your name and address:"), "set-sender", "to"))  # fmt: skip
def set_sender(doc: MessageDocument, to: str) -> None:
    if len(checked_addresses(to)) != 1:
        raise RimecrestError(tr("A message is from one address."), tr("Write one, with your name before it."))
    _keep(doc, sender=to.strip())
    doc.writer.setText(doc.own.sender)


def _keep(doc: MessageDocument, **changed: str) -> None:
    doc.own = doc.own.model_copy(update=changed)
    keep_own(doc.documents.folder, doc.own)


# Sending


@command("send", "Send", about="Send the message: it goes to the outbox, and no further than this computer",
         keys="Ctrl+J, Shift+X", context="composing", picture="send-outline", leaves_document=True,
         effects=(Effect.SENDS, Effect.CREATES, Effect.DELETES),
         reaches=lambda doc: Wants(tr("send “{it}” to {to}", it=doc.name(), to=doc.field(TO))))  # fmt: skip
def send(doc: MessageDocument) -> CommandResult:
    doc.settle()
    if not doc.field(TO).strip():
        raise RimecrestError(tr("The message has nobody to go to."), tr("Write an address after To."))
    written = doc.as_written(doc.text, doc.own.sender)
    message = build(replace(written, template=""), datetime.now().astimezone(), draft=False)
    doc.mailbox.deliver(OUTBOX, message, SEEN)
    if doc.draft and doc.mailbox.has(DRAFTS, doc.draft):
        doc.mailbox.remove(DRAFTS, doc.draft)
    if doc.answered is not None and doc.mailbox.has(*doc.answered):
        where, key = doc.answered
        doc.mailbox.file(key, where, where, doc.mailbox.flags(where, key) + ANSWERED)
    doc.saved()
    says = tr("“{name}” lies in the outbox.", name=doc.name())
    doc.documents.close(doc)
    return CommandResult(says=says)
