"""Macros that are kept in a letter: data blocks in the head of its HTML, which every browser passes over.

The text is base64, so that nothing in it can end the block (HTML standard, 4.12.1: data blocks).
"""

from __future__ import annotations

import base64
import binascii
import contextlib
import html
from collections.abc import Mapping
from html.parser import HTMLParser

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId

KIND = "text/x-rimecrest-steps"


def with_macros(page: str, macros: Mapping[str, str]) -> str:
    """The page with macros in its head."""
    blocks = "".join(
        f'<script type="{KIND}" id="{html.escape(name)}">{base64.b64encode(text.encode()).decode()}</script>'
        for name, text in sorted(macros.items())
    )
    return page.replace("</head>", f"{blocks}</head>", 1) if blocks else page


def read_macros(page: str) -> dict[str, str]:
    """The macros in a page. A block that cannot be read, or whose id is no macro's, is passed over."""
    reader = _Reader()
    reader.feed(page)
    return reader.macros


class _Reader(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.macros: dict[str, str] = {}
        self._open = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = dict(attrs)
        self._open = ""
        if tag == "script" and given.get("type") == KIND:
            with contextlib.suppress(RimecrestError):
                self._open = MacroId(given.get("id") or "")

    def handle_data(self, data: str) -> None:
        if self._open:
            with contextlib.suppress(binascii.Error, UnicodeDecodeError):
                self.macros[self._open] = base64.b64decode(data.strip(), validate=True).decode()
            self._open = ""
