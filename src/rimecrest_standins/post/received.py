"""Read a received message (RFC 5322, MIME) within fixed bounds, so that no message can take too long.

The standard library parses one header block or decodes one part at a time. This module splits the message
into parts itself, because the library's parser recurses as deeply as the message asks it to.
"""

from __future__ import annotations

import codecs
import re
from collections.abc import Iterator
from email.message import Message
from email.parser import BytesHeaderParser
from email.policy import compat32
from email.utils import parsedate_to_datetime

from msgspec import Struct

from rimecrest.core.log import log
from rimecrest.core.words import tr
from rimecrest_standins.post.message_parts import (
    LONGEST_HEAD,
    WRITTEN,
    Attached,
    Written,
    decoded,
    decoded_addresses,
    file_name,
)

HEADS = 64 * 1024
"""Longest header block that is read, in bytes."""
DEEPEST, MOST_PARTS = 10, 500
"""Limits on the nesting and the number of parts."""
_ADDRESSES = {"from", "to", "cc", "bcc", "reply-to", "sender", f"{WRITTEN}to".lower(), f"{WRITTEN}cc".lower()}
_SLOW_CHARSETS = {"punycode", "idna", "unicode_escape", "raw_unicode_escape"}
"""Codecs that no message uses. Decoding `punycode` and `idna` takes quadratic time."""
_HEAD_LINES = re.compile(rb"(?:(?:From |[!-9;-~]*:|[\t ])[^\n]*(?:\n|\Z))*+")
"""Header lines and their continuation lines."""
_BLANK_LINE = re.compile(rb"\r?\n")


class Received(Struct, frozen=True):
    """A parsed message. `plain` and `page` are its text and HTML bodies; either may be empty."""

    heads: Message
    plain: str = ""
    page: str = ""
    files: tuple[Attached, ...] = ()
    more: bool = False
    """True if the message has more than `MOST_PARTS` parts."""

    def head(self, name: str) -> str:
        """Return a decoded header; an empty string if it is missing or unreadable."""
        return head_of(self.heads, name)

    @property
    def day(self) -> str:
        """Date and time as `2026-11-09 08:15`; an empty string if unreadable."""
        return day(self.head("Date"))

    def written(self) -> Written:
        """Return the message for editing."""
        return Written(
            sender=self.head("From"),
            to=self.head(f"{WRITTEN}To") or self.head("To"),
            copy=self.head(f"{WRITTEN}Cc") or self.head("Cc"),
            subject=self.head("Subject"),
            plain=self.plain,
            html=self.page,
            attached=self.files,
            answers=self.head("In-Reply-To"),
            template=self.head(f"{WRITTEN}Template"),
        )


class _Part(Struct):
    """A part that has no parts of its own."""

    heads: Message
    body: bytes

    @property
    def kind(self) -> str:
        return self.heads.get_content_type()

    @property
    def is_file(self) -> bool:
        return self.heads.get_content_disposition() == "attachment" or self.kind == "message/rfc822"


def received(content: bytes) -> Received:
    """Parse a message, leaving out everything that is broken or exceeds the bounds."""
    top, body = _split(content)
    parts = []
    leaves = _leaves(top, body, DEEPEST)
    for part in leaves:
        parts.append(part)
        if len(parts) == MOST_PARTS:
            break
    texts: dict[str, str] = {}
    files: dict[str, Attached] = {}
    for number, part in enumerate(parts, 1):
        kind = part.kind
        if kind in ("text/plain", "text/html") and kind not in texts and not part.is_file:
            texts[kind] = _text(part)
            continue
        name = _name(part) or tr("file {number}", number=number)
        while name in files:
            name = f"{number} {name}"
        files[name] = Attached(name, kind, _decoded(part))
    more = next(leaves, None) is not None
    return Received(top, texts.get("text/plain", ""), texts.get("text/html", ""), tuple(files.values()), more)


def heads_in(content: bytes) -> Message:
    """Return the raw headers of a message or part, cut to the bounds."""
    return _split(content)[0]


def head_of(heads: Message, name: str) -> str:
    """Return a decoded header; an empty string if it is missing or unreadable."""
    try:
        written = str(heads.get(name) or "")
    except (ValueError, IndexError, TypeError, AttributeError):
        return ""  # the library stumbles over some broken heads
    return decoded_addresses(written) if name.lower() in _ADDRESSES else decoded(written)


def day(written: str) -> str:
    """Return a date header as `2026-11-09 08:15`, in the sender's time zone; empty if it is invalid."""
    try:
        return parsedate_to_datetime(written).strftime("%Y-%m-%d %H:%M")
    except (ValueError, OverflowError, TypeError):
        return ""


def _split(content: bytes) -> tuple[Message, bytes]:
    """Split a message or part into its headers and its body."""
    found = _HEAD_LINES.match(content)
    end = found.end() if found else 0
    heads = BytesHeaderParser(policy=compat32).parsebytes(content[: min(end, HEADS)])
    blank = _BLANK_LINE.match(content, end)
    body = content[blank.end() if blank else end :]
    for name in {name for name in heads if name.lower() not in _ADDRESSES}:
        value = str(heads[name])
        if len(value) > LONGEST_HEAD:
            del heads[name]
            heads[name] = value[:LONGEST_HEAD]
    return heads, body


def _leaves(heads: Message, body: bytes, deep: int) -> Iterator[_Part]:
    """Yield the innermost parts in order."""
    boundary = _boundary(heads)
    if not boundary or not deep:
        yield _Part(heads, body)
        return
    line = re.compile(rb"^--" + re.escape(boundary) + rb"(--)?[ \t]*\r?$\n?", re.MULTILINE)
    start, found = None, None
    for found in line.finditer(body):
        if start is not None:
            yield from _leaves(*_split(_without_line_end(body[start : found.start()])), deep - 1)
        start = None if found[1] else found.end()
        if found[1]:
            break
    if start is not None:  # its end is missing
        yield from _leaves(*_split(body[start:]), deep - 1)
    if found is None:  # it has no parts, whatever it says
        yield _Part(Message(), body)


def _without_line_end(part: bytes) -> bytes:
    """Remove the line break before a boundary, which belongs to the boundary."""
    return part.removesuffix(b"\n").removesuffix(b"\r")


def _boundary(heads: Message) -> bytes:
    """Return the boundary of a multipart; an empty string for any other type."""
    try:
        if heads.get_content_maintype() != "multipart":
            return b""
        return (heads.get_boundary() or "").encode("ascii", "surrogateescape")
    except (ValueError, TypeError, LookupError):
        return b""


def _decoded(part: _Part) -> bytes:
    """Return the decoded content of a part, or its raw body if decoding fails."""
    try:
        part.heads.set_payload(part.body.decode("ascii", "surrogateescape"))
        content = part.heads.get_payload(decode=True)
    except Exception as error:
        # The library's decoders fail in many ways; one bad part must not keep the others from showing.
        log.warning("part as it stands", reason=type(error).__name__)
        content = None
    return content if isinstance(content, bytes) else part.body


def _text(part: _Part) -> str:
    content = _decoded(part)
    try:
        name = codecs.lookup(str(part.heads.get_content_charset("utf-8"))).name
        charset = "utf-8" if name in _SLOW_CHARSETS else name
        text = content.decode(charset, "replace")
    except (LookupError, ValueError, TypeError):
        text = content.decode("utf-8", "replace")
    return text.replace("\r\n", "\n")


def _name(part: _Part) -> str:
    """Return the file name of a part; an empty string if it has none."""
    try:
        words = decoded(part.heads.get_filename() or "")
        if not words and part.kind == "message/rfc822":
            words = f"{head_of(heads_in(part.body), 'Subject')}.eml".removeprefix(".eml")
    except (ValueError, TypeError, LookupError, IndexError):
        return ""
    return file_name(words) if words else ""
