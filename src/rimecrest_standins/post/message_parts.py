"""What a message is made of (RFC 5322, MIME): read for showing, and put together for sending."""

from __future__ import annotations

import html
import re
from datetime import datetime
from email.errors import HeaderParseError
from email.header import decode_header, make_header
from email.headerregistry import Address
from email.message import EmailMessage
from email.policy import SMTP
from email.utils import format_datetime, formataddr, make_msgid, parseaddr

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.invisible import with_names
from rimecrest.core.words import tr

LONGEST_HEAD = 2_000
"""Characters of a head that are read at most; of a list of addresses, as many as its block has."""
WRITTEN = "Rimecrest-Written-"
"""Begins the names of heads that keep an address field of a draft as it was written: `To` may hold no more
than addresses, and a draft or template holds what is not finished yet."""
_ADDRESS = re.compile(r"[^@\s,;:<>\"()\[\]]+@[^@\s,;:<>\"()\[\]]+\.[^@\s,;:<>\"()\[\]]+")
_MARKS = re.compile(r'\\["\\]|[",;]')
"""What counts between addresses; a backslash takes away what the next character means."""
LONGEST_ADDRESS = 500
"""Characters of a name with its address; RFC 5321 (4.5.3.1) has 254 for the address alone."""
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
    written = _LINE_ENDS.sub("", str(value or "")[:LONGEST_HEAD])
    if "=?" not in written:
        return written.strip()
    try:
        return str(make_header(decode_header(written))).strip()
    except (HeaderParseError, LookupError, UnicodeDecodeError, ValueError):
        return written.strip()


def split_addresses(field: str) -> list[str]:
    """What stands between the commas and semicolons of an address field that are not in quotation marks."""
    quotes = [mark.start() for mark in _MARKS.finditer(field) if mark[0] == '"']
    alone = quotes[-1] if len(quotes) % 2 else -1
    found, begin, quoted = [], 0, False
    for mark in _MARKS.finditer(field):
        if mark[0] == '"' and mark.start() != alone:
            quoted = not quoted
        elif mark[0] in ",;" and not quoted:
            found.append(field[begin : mark.start()])
            begin = mark.end()
    return [each for each in map(str.strip, (*found, field[begin:])) if each]


def decoded_addresses(field: str) -> str:
    """An address field in words, however the names in it are encoded."""
    return ", ".join(decoded(each[:LONGEST_ADDRESS]) for each in split_addresses(_LINE_ENDS.sub("", field)))


def _pair(written: str) -> tuple[str, str]:
    """The name and the address in one entry of an address field; both empty where it is none."""
    if len(written) > LONGEST_ADDRESS:
        return "", ""
    try:
        return parseaddr(written)
    except (RecursionError, ValueError, IndexError):
        return "", ""  # the library goes as deep as the brackets do


def pairs_in(field: str) -> list[tuple[str, str]]:
    """Names and addresses of an address field, also with semicolons between them."""
    return [pair for pair in map(_pair, split_addresses(field)) if any(pair)]


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
    for each in split_addresses(field):
        name, address = _pair(each)
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


def file_name(name: str) -> str:
    """A name that a file can have: no folder, nothing that hides it or turns a part of it round."""
    plain = re.sub(r"[/\\\x00-\x1f\ud800-\udfff]", "_", name)
    return with_names(plain).strip().lstrip(".")[:120] or tr("file")


def page_of(plain: str) -> str:
    """Plain text as a page that shows the same: an empty line parts paragraphs."""
    parts = re.split(r"\n\s*\n", html.escape(plain.strip()))
    return "".join(f"<p>{'<br>'.join(part.splitlines())}</p>" for part in parts)


def again(subject: str, mark: str) -> str:
    """A subject with a mark before it, once: `Re: Berth 2`."""
    return subject if subject.casefold().startswith(f"{mark.casefold()}:") else f"{mark}: {subject}"
