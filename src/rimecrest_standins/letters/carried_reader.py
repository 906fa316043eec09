"""Reading what a letter carries along (`carried`), out of HTML that may come from anybody."""

from __future__ import annotations

import base64
import binascii
import contextlib

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId
from rimecrest_standins.formatted_text.html_bounds import PageReader
from rimecrest_standins.letters.carried import KIND, TEMPLATE, Carried


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
