"""What a letter carries along in the head of its HTML, which every browser passes over.

Macros that are kept in it are data blocks, in base64, so that nothing in them can end the block (HTML
standard, 4.12.1: data blocks); the template that it was made from is a `meta` of its own name (4.2.5).
"""

from __future__ import annotations

import base64
import binascii
import contextlib
import html
from collections.abc import Mapping

from msgspec import Struct, field

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId
from rimecrest.embed.html_bounds import PageReader

KIND = "text/x-rimecrest-steps"
TEMPLATE = "rimecrest-template"


class Carried(Struct, frozen=True):
    """Macros by id, and the name of the template; empty where there is none."""

    macros: Mapping[str, str] = field(default_factory=dict)
    template: str = ""


def with_carried(page: str, carried: Carried) -> str:
    """The page with that in its head."""
    blocks = "".join(
        f'<script type="{KIND}" id="{html.escape(name)}">{base64.b64encode(text.encode()).decode()}</script>'
        for name, text in sorted(carried.macros.items())
    )
    if carried.template:
        blocks += f'<meta name="{TEMPLATE}" content="{html.escape(carried.template)}">'
    return page.replace("</head>", f"{blocks}</head>", 1) if blocks else page


def read_carried(page: str) -> Carried:
    """What a page carries. A block that cannot be read, or whose id is no macro's, is passed over."""
    reader = _Reader()
    reader.feed(page)
    return Carried(reader.macros, reader.template)


class _Reader(PageReader):
    def __init__(self) -> None:
        super().__init__()
        self.macros: dict[str, str] = {}
        self.template = ""
        self._open = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = dict(attrs)
        self._open = ""
        if tag == "meta" and given.get("name") == TEMPLATE:
            self.template = given.get("content") or ""
        if tag == "script" and given.get("type") == KIND:
            with contextlib.suppress(RimecrestError):
                self._open = MacroId(given.get("id") or "")

    def handle_data(self, data: str) -> None:
        if self._open:
            with contextlib.suppress(binascii.Error, UnicodeDecodeError):
                self.macros[self._open] = base64.b64decode(data.strip(), validate=True).decode()
            self._open = ""
