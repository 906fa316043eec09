"""What a message is made of (RFC 5322, MIME): read for showing, and put together for sending."""

from __future__ import annotations

import html
import re
from collections.abc import Iterator
from datetime import datetime
from email.errors import HeaderParseError, MessageError
from email.header import decode_header, make_header
from email.headerregistry import Address
from email.message import EmailMessage, Message
from email.policy import SMTP
from email.utils import format_datetime, formataddr, getaddresses, make_msgid, parseaddr

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

WRITTEN = "Rimecrest-Written-"
"""Begins the names of heads that keep an address field of a draft as it was written: `To` may hold no more
than addresses, and a draft or template holds what is not finished yet."""
_ADDRESS = re.compile(r"[^@\s,;:<>\"()\[\]]+@[^@\s,;:<>\"()\[\]]+\.[^@\s,;:<>\"()\[\]]+")
_BETWEEN = re.compile(r"[,;](?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)")
"""What stands between addresses: not within quotation marks."""
_LINE_ENDS = re.compile(r"[\r\n]+")


class Attached(Struct, frozen=True):
    """A file that goes along."""

    name: str
    kind: str
    """Its media type, as `text/csv`."""
    content: bytes


class Written(Struct, frozen=True):
    """A message as it is being written. Addresses are as they stand in their fields."""

    sender: str = ""
    to: str = ""
    copy: str = ""
    subject: str = ""
    plain: str = ""
    html: str = ""
    attached: tuple[Attached, ...] = ()
    answers: str = ""
    """The id of the message that it answers."""
    template: str = ""


def decoded(value: object) -> str:
    """The words of a head, however they are encoded (RFC 2047); as they stand where that is broken."""
    written = _LINE_ENDS.sub("", str(value or ""))
    if "=?" not in written:
        return written.strip()
    try:
        return str(make_header(decode_header(written))).strip()
    except (HeaderParseError, LookupError, UnicodeDecodeError, ValueError):
        return written.strip()


def head(message: Message, name: str) -> str:
    """A head of a message in words; empty where there is none, or it cannot be read."""
    try:
        return decoded(message.get(name))
    except (MessageError, ValueError, IndexError, TypeError, AttributeError):
        return ""  # the library stumbles over some broken heads


def pairs_in(field: str) -> list[tuple[str, str]]:
    """Names and addresses of an address field, also with semicolons between them."""
    return [(name, address) for name, address in getaddresses([field.replace(";", ",")]) if name or address]


def addresses_in(field: str) -> list[str]:
    """What stands in an address field and is an address, as it is written there."""
    return [
        formataddr(pair, "utf-8") if pair[0].isascii() else f"{pair[0]} <{pair[1]}>"
        for pair in pairs_in(field)
        if _ADDRESS.fullmatch(pair[1])
    ]


def checked_addresses(field: str) -> list[Address]:
    """The addresses of a field. Raises RimecrestError when one of them is none."""
    found = []
    for each in filter(None, map(str.strip, _BETWEEN.split(field))):
        name, address = parseaddr(each)
        if not _ADDRESS.fullmatch(address):
            raise RimecrestError(
                tr("“{each}” is no address.", each=each),
                tr("An address is written like ailis@care.vessry.example, several with commas between them."),
            )
        try:
            found.append(Address(decoded(name), addr_spec=address))
        except (ValueError, HeaderParseError):
            raise RimecrestError(tr("“{each}” is no address.", each=each), tr("Write it anew.")) from None
    return found


def build(written: Written, at: datetime, draft: bool) -> EmailMessage:
    """A message in full: plain text, the same formatted, and the files.

    Args:
        draft: it is not finished: what stands in its address fields need not be addresses.

    Raises:
        RimecrestError: what is to be sent has something else in an address field.
    """
    message = EmailMessage(policy=SMTP)
    message["From"] = checked_addresses(written.sender)
    for name, field in (("To", written.to), ("Cc", written.copy)):
        try:
            if field.strip():
                message[name] = checked_addresses(field)
        except RimecrestError:
            if not draft:
                raise
        if draft and field:
            message[WRITTEN + name] = one_line(field)
    message["Subject"] = one_line(written.subject)
    message["Date"] = format_datetime(at)
    message["Message-ID"] = make_msgid(domain="post.invalid")
    if written.answers:
        message["In-Reply-To"] = message["References"] = one_line(written.answers)
    if written.template:
        message[WRITTEN + "Template"] = one_line(written.template)
    message.set_content(written.plain)
    message.add_alternative(written.html, subtype="html")
    for file in written.attached:
        main, _, sub = file.kind.partition("/")
        message.add_attachment(file.content, maintype=main, subtype=sub, filename=file.name)
    return message


def one_line(text: str) -> str:
    """A head's words: an end of a line in them would begin another head."""
    return _LINE_ENDS.sub(" ", text).strip()


def read(message: EmailMessage) -> Written:
    """A message, to go on writing it."""
    plain, page = texts(message)
    return Written(
        sender=head(message, "From"),
        to=head(message, WRITTEN + "To") or head(message, "To"),
        copy=head(message, WRITTEN + "Cc") or head(message, "Cc"),
        subject=head(message, "Subject"),
        plain=plain,
        html=page,
        attached=tuple(attachments(message)),
        answers=head(message, "In-Reply-To"),
        template=head(message, WRITTEN + "Template"),
    )


def texts(message: EmailMessage) -> tuple[str, str]:
    """The text of a message, plain and as HTML; either may be empty."""
    return _text(message, "plain"), _text(message, "html")


def _text(message: EmailMessage, kind: str) -> str:
    try:
        part = message.get_body(preferencelist=(kind,))
    except (MessageError, AttributeError, KeyError, ValueError):
        return ""
    if part is None:
        return ""
    try:
        return str(part.get_content()).replace("\r\n", "\n")
    except (LookupError, ValueError, MessageError, KeyError):
        content = part.get_payload(decode=True)
        return content.decode("utf-8", "replace") if isinstance(content, bytes) else ""


def attachments(message: EmailMessage) -> Iterator[Attached]:
    """The files of a message. What cannot be decoded comes as it stands."""
    seen: set[str] = set()
    for number, part in enumerate(_files(message), 1):
        content = part.get_payload(decode=True)
        if content is None:  # a message within the message
            content = b"".join(each.as_bytes() for each in part.iter_parts())
        name = file_name(decoded(part.get_filename()) or tr("file {number}", number=number))
        while name in seen:
            name = f"{number} {name}"
        seen.add(name)
        yield Attached(name, part.get_content_type(), content if isinstance(content, bytes) else b"")


def _files(message: EmailMessage) -> Iterator[EmailMessage]:
    bodies = [message.get_body(preferencelist=(kind,)) for kind in ("plain", "html")]
    for part in message.walk():
        if isinstance(part, EmailMessage) and not part.is_multipart() and part not in bodies:
            yield part


def file_name(name: str) -> str:
    """A name that a file can have: no folder, nothing that hides it."""
    return re.sub(r"[/\\\x00-\x1f]", "_", name).strip().lstrip(".")[:120] or tr("file")


def page_of(plain: str) -> str:
    """Plain text as a page that shows the same: an empty line parts paragraphs."""
    parts = re.split(r"\n\s*\n", html.escape(plain.strip()))
    return "".join(f"<p>{'<br>'.join(part.splitlines())}</p>" for part in parts)


def again(subject: str, mark: str) -> str:
    """A subject with a mark before it, once: `Re: Berth 2`."""
    return subject if subject.casefold().startswith(f"{mark.casefold()}:") else f"{mark}: {subject}"
