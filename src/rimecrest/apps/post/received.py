"""A message as it came (RFC 5322, MIME), read within bounds: whatever it holds, reading it takes no longer.

The standard library parses one head block or decodes one part at a time. The structure of parts is read here,
line by line: the library's own reader goes as deep as a message says.
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

from rimecrest.apps.post.message_parts import (
    LONGEST_HEAD,
    WRITTEN,
    Attached,
    Written,
    decoded,
    decoded_addresses,
    file_name,
)
from rimecrest.core.log import log
from rimecrest.core.words import tr

HEADS = 64 * 1024
"""Bytes of a head block that are read at most."""
DEEPEST, MOST_PARTS = 10, 500
"""Parts within parts, and parts of a message, that are told apart at most."""
_ADDRESSES = {"from", "to", "cc", "bcc", "reply-to", "sender", f"{WRITTEN}to".lower(), f"{WRITTEN}cc".lower()}
_SLOW_CHARSETS = {"punycode", "idna", "unicode_escape", "raw_unicode_escape"}
"""Not written in any message, and two of them take time by the square of a text's length."""
_HEAD_LINES = re.compile(rb"(?:(?:From |[!-9;-~]*:|[\t ])[^\n]*(?:\n|\Z))*+")
"""The lines of a head block: they begin like a head, or go on with the one before."""
_BLANK_LINE = re.compile(rb"\r?\n")


class Received(Struct, frozen=True):
    """A message, read. `plain` and `page` are its text, plain and as HTML; either may be empty."""

    heads: Message
    plain: str = ""
    page: str = ""
    files: tuple[Attached, ...] = ()
    more: bool = False
    """Whether it has more parts than are read."""

    def head(self, name: str) -> str:
        """A head in words; empty where there is none, or it cannot be read."""
        return head_of(self.heads, name)

    @property
    def day(self) -> str:
        """When it was written, as `2026-11-09 08:15`; empty where that cannot be read."""
        return day(self.head("Date"))

    def written(self) -> Written:
        """The message, to go on writing it."""
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
    """A part that holds no others."""

    heads: Message
    body: bytes

    @property
    def kind(self) -> str:
        return self.heads.get_content_type()

    @property
    def is_file(self) -> bool:
        return self.heads.get_content_disposition() == "attachment" or self.kind == "message/rfc822"


def received(content: bytes) -> Received:
    """Read a message of its bytes. What is broken, or beyond the bounds, is left out."""
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
    """The heads at the beginning of a message or part, each as it is written there, within the bounds."""
    return _split(content)[0]


def head_of(heads: Message, name: str) -> str:
    """A head in words; empty where there is none, or it cannot be read."""
    try:
        written = str(heads.get(name) or "")
    except (ValueError, IndexError, TypeError, AttributeError):
        return ""  # the library stumbles over some broken heads
    return decoded_addresses(written) if name.lower() in _ADDRESSES else decoded(written)


def day(written: str) -> str:
    """A date of a head as `2026-11-09 08:15`, in the time of whoever wrote; empty where it is none."""
    try:
        return parsedate_to_datetime(written).strftime("%Y-%m-%d %H:%M")
    except (ValueError, OverflowError, TypeError):
        return ""


def _split(content: bytes) -> tuple[Message, bytes]:
    """The heads of a message or part, and what follows them."""
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
    """The parts that hold no others, in their order."""
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
    """A part without the end of the line before the next boundary, which belongs to that."""
    return part.removesuffix(b"\n").removesuffix(b"\r")


def _boundary(heads: Message) -> bytes:
    """What parts the parts of a multipart; empty where it holds none."""
    try:
        if heads.get_content_maintype() != "multipart":
            return b""
        return (heads.get_boundary() or "").encode("ascii", "surrogateescape")
    except (ValueError, TypeError, LookupError):
        return b""


def _decoded(part: _Part) -> bytes:
    """The content of a part; as it stands there where that cannot be decoded."""
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
    """The name that a part has as a file; empty where it has none."""
    try:
        words = decoded(part.heads.get_filename() or "")
        if not words and part.kind == "message/rfc822":
            words = f"{head_of(heads_in(part.body), 'Subject')}.eml".removeprefix(".eml")
    except (ValueError, TypeError, LookupError, IndexError):
        return ""
    return file_name(words) if words else ""
