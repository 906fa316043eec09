"""HTML from outside, held against bounds before the toolkit's parser sees it, which never gives up.

Each bound is far beyond what a letter has, and far below what the toolkit took seconds for when it was tried
with each alone (PyQt 6.8, a machine of today).
"""

from __future__ import annotations

import re
from collections import Counter
from html.parser import HTMLParser

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

DEEPEST = 200
"""Elements within one another; of 100,000 the toolkit's parser does not come back."""
DEEPEST_TABLES = 8
"""Tables within tables: each level triples the time of laying out; 16 take seconds, 20 for ever."""
MOST_ELEMENTS = 200_000
"""Elements in all: a letter of 300 pages has a tenth of that."""
MOST_CELLS = 20_000
"""Cells of all tables; 50,000 take five seconds to lay out."""
WIDEST_SPAN = 1_000
"""Columns or rows that one cell reaches over."""
LONGEST_WORD = 20_000
"""Characters without a blank: the time to break them into lines grows with their square."""

_VOID = frozenset(
    (
        *("area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "param", "source"),
        *("track", "wbr"),
    )
)
_ENDS = {
    "p": ("p",),
    "li": ("p", "li"),
    "dt": ("p", "dt", "dd"),
    "dd": ("p", "dt", "dd"),
    "td": ("p", "td", "th"),
    "th": ("p", "td", "th"),
    "tr": ("p", "td", "th", "tr"),
    "option": ("option",),
}
"""Element → those that end by themselves where it begins (HTML standard, 13.1.2.4: optional tags)."""
_LONG_WORD = re.compile(rf"\S{{{LONGEST_WORD + 1}}}")


class PageReader(HTMLParser):
    """Reads HTML as it comes: what is marked in ways that no browser knows is a comment."""

    def parse_marked_section(self, i: int, report: int = 1) -> int:
        # The standard library's raises AssertionError at words that it does not know.
        return self.parse_bogus_comment(i, bool(report))


class _Bounds(PageReader):
    def __init__(self) -> None:
        super().__init__()
        self._open: list[str] = []
        self._counts: Counter[str] = Counter()

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self._counts["elements"] += 1
        self._within(tr("elements"), self._counts["elements"], MOST_ELEMENTS)
        if tag in ("td", "th"):
            self._counts["cells"] += 1
            self._within(tr("cells of tables"), self._counts["cells"], MOST_CELLS)
            for name, value in attrs:
                if name in ("colspan", "rowspan") and value:
                    digits = value.strip()
                    wide = int(digits[:9]) if digits[:9].isdecimal() and digits.isascii() else 0
                    self._within(tr("columns or rows of one cell"), wide, WIDEST_SPAN)
        if tag in _VOID:
            return
        while self._open and self._open[-1] in _ENDS.get(tag, ()):
            self._open.pop()
        self._open.append(tag)
        self._within(tr("elements within one another"), len(self._open), DEEPEST)
        if tag == "table":
            self._within(tr("tables within one another"), self._open.count("table"), DEEPEST_TABLES)

    def handle_endtag(self, tag: str) -> None:
        if tag in self._open:
            while self._open.pop() != tag:
                pass

    def handle_data(self, data: str) -> None:
        if _LONG_WORD.search(data):
            self._within(tr("characters without a blank"), LONGEST_WORD + 1, LONGEST_WORD)

    @staticmethod
    def _within(what: str, count: int, most: int) -> None:
        if count > most:
            raise RimecrestError(
                tr("This page has more than {most:,} {what}, so it is not shown.", most=most, what=what),
                tr("Ask whoever made it for a plainer one."),
            )


def check_text(text: str) -> str:
    """A plain text itself. Raises RimecrestError where a word of it is beyond the bound."""
    _Bounds().handle_data(text)
    return text


def check_page(page: str) -> str:
    """The page itself. Raises RimecrestError where it is beyond a bound."""
    bounds = _Bounds()
    bounds.feed(page)
    bounds.close()
    return page
