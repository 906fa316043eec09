"""Pages from outside, held against bounds before the toolkit, which never gives up, sees them.

Each bound is far beyond what a letter has. At each, the toolkit takes at most five times as long as for the
longest plain text (PyQt 6.8, a machine of today; `make bench` measures it). What is beyond them is shown as
plain text.
"""

from __future__ import annotations

import re
from html.parser import HTMLParser

from rimecrest.core.words import tr
from rimecrest_standins.formatted_text.text_bounds import MOST_CELLS, MOST_ELEMENTS, check_text, within

DEEPEST = 200
"""Elements within one another; of 100,000 the toolkit's parser does not come back."""
DEEPEST_TABLES = 8
"""Tables within tables: each level doubles the time of laying out, and more."""
WIDEST_SPAN = 1_000
"""Columns or rows that one cell reaches over."""
MOST_MATCHES = 10_000_000
"""Rules of its style sheets times elements: each rule is held against each element."""

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
_BREAKS = frozenset(
    (
        *(
            "address",
            "blockquote",
            "body",
            "br",
            "center",
            "dd",
            "div",
            "dl",
            "dt",
            "h1",
            "h2",
            "h3",
            "h4",
            "h5",
        ),
        *(
            "h6",
            "hr",
            "html",
            "li",
            "ol",
            "p",
            "pre",
            "table",
            "tbody",
            "td",
            "tfoot",
            "th",
            "thead",
            "tr",
            "ul",
        ),
    )
)
"""Elements that begin a line."""
_UNSEEN = frozenset(("head", "script", "style", "title"))
_BLANKS = re.compile(r"[ \t\r\n\f]+")


class PageReader(HTMLParser):
    """Reads HTML as it comes: what is marked in ways that no browser knows is a comment."""

    def parse_marked_section(self, i: int, report: int = 1) -> int:
        # The standard library's raises AssertionError at words that it does not know.
        return self.parse_bogus_comment(i, bool(report))


class _Bounds(PageReader):
    def __init__(self) -> None:
        super().__init__()
        self._open: list[str] = []
        self._elements = self._cells = self._rules = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self._elements += 1
        within(tr("elements"), self._elements, MOST_ELEMENTS)
        within(tr("rules of style for its elements"), self._elements * self._rules, MOST_MATCHES)
        if tag in ("td", "th"):
            spans = [_span(value) for name, value in attrs if name in ("colspan", "rowspan")]
            reached = 1
            for wide in spans:
                within(tr("columns or rows of one cell"), wide, WIDEST_SPAN)
                reached *= max(wide, 1)
            self._cells += reached << max(self._open.count("table") - 1, 0)
            within(tr("cells of tables"), self._cells, MOST_CELLS)
        if tag in _VOID:
            return
        while self._open and self._open[-1] in _ENDS.get(tag, ()):
            self._open.pop()
        self._open.append(tag)
        within(tr("elements within one another"), len(self._open), DEEPEST)
        if tag == "table":
            within(tr("tables within one another"), self._open.count("table"), DEEPEST_TABLES)

    def handle_endtag(self, tag: str) -> None:
        if tag in self._open:
            while self._open.pop() != tag:
                pass

    def handle_data(self, data: str) -> None:
        if "style" in self._open:
            self._rules += data.count("{") + data.count(",")


def _span(value: str | None) -> int:
    digits = (value or "").strip()
    return int(digits[:9]) if digits[:9].isdecimal() and digits.isascii() else 0


def check_page(page: str) -> str:
    """The page itself. Raises RimecrestError where it is beyond a bound."""
    bounds = _Bounds()
    _read(bounds, page)
    check_text(words_of(page))
    return page


def _read(reader: PageReader, page: str) -> None:
    """Read a whole page. A mark that is never closed is text: the parser would look for its end each time."""
    for begins, ends in (("<!--", "-->"), ("<", ">")):
        closed = page.rfind(ends) + len(ends) if ends in page else 0
        page = page[:closed] + page[closed:].replace(begins, begins.replace("<", "&lt;"))
    reader.feed(page)
    reader.close()


class _Words(PageReader):
    def __init__(self) -> None:
        super().__init__()
        self.words: list[str] = []
        self._unseen = self._as_written = 0

    def handle_starttag(self, tag: str, _attrs: list[tuple[str, str | None]]) -> None:
        self._unseen += tag in _UNSEEN
        self._as_written += tag == "pre"
        if tag in _BREAKS:
            self.words.append("\n")

    def handle_endtag(self, tag: str) -> None:
        self._unseen -= tag in _UNSEEN and self._unseen > 0
        self._as_written -= tag == "pre" and self._as_written > 0
        if tag in _BREAKS:
            self.words.append("\n")

    def handle_data(self, data: str) -> None:
        if not self._unseen:
            self.words.append(data if self._as_written else _BLANKS.sub(" ", data))


def words_of(page: str) -> str:
    """The words of a page, without their look: a line for each paragraph, item and cell."""
    reader = _Words()
    _read(reader, page)
    return re.sub(r" ?\n[ \n]*", "\n", "".join(reader.words)).strip("\n")
