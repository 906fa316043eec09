"""Texts held against bounds before the toolkit lays them out; the same hold while one writes."""

from __future__ import annotations

import re
from collections.abc import Iterator

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

LONGEST_TEXT, MOST_LINES, LONGEST_LINE = 2_000_000, 50_000, 200_000
"""Characters and lines of a text, and characters of one line: each key typed in it lays it out anew."""
LONGEST_WORD, MOST_UNBROKEN = 1_000, 25_000
"""Characters that a word may have without counting, and of all longer ones: the time to break a word into
lines grows with its square, and more where it is of many pieces."""
MOST_CELLS = 20_000
"""Cells of all tables, each as many as it reaches over, twice as many with each table around its own."""
MOST_ELEMENTS = 200_000
"""Elements of a page in all: a letter of 300 pages has a tenth of that."""
_UNBROKEN = re.compile(rf"[^\s\u00ad\u200b\u2e80-\u9fff\uac00-\ud7af\uff00-\uffef]{{{LONGEST_WORD + 1},}}")
"""A long word: no blank, nor a sign of East Asia, between any two of which a line may end (UAX 14)."""


def within(what: str, count: int, most: int) -> None:
    """Raise RimecrestError where there are more than so many."""
    if count > most:
        raise RimecrestError(
            tr("This text has more than {most:,} {what}.", most=most, what=what),
            tr("Ask whoever made it for a plainer one."),
        )


def unbroken(line: str) -> int:
    """How many characters a line has in words that are so long that they count."""
    return sum(len(word[0]) for word in _UNBROKEN.finditer(line)) if len(line) > LONGEST_WORD else 0


def check_text(text: str) -> str:
    """A plain text itself. Raises RimecrestError where it is beyond a bound."""
    within(tr("characters"), len(text), LONGEST_TEXT)
    lines = text.split("\n")
    within(tr("lines"), len(lines), MOST_LINES)
    within(tr("characters in one line"), max(map(len, lines)), LONGEST_LINE)
    within(tr("characters in very long words"), sum(map(unbroken, lines)), MOST_UNBROKEN)
    return text


def elements_beyond(page: str) -> str:
    """Say that a page has more elements than are shown; empty where it has not. It is one of ours."""
    if page.count("<") - page.count("</") <= MOST_ELEMENTS:
        return ""
    return tr("This text has more than {most:,} {what}.", most=MOST_ELEMENTS, what=tr("elements"))


def as_plain(text: str) -> str:
    """A plain text as it can be shown: what is beyond the bounds is in pieces, or left out at the end."""
    made = "\n".join(_pieces(text[:LONGEST_TEXT]))
    if sum(map(unbroken, made.split("\n"))) > MOST_UNBROKEN:
        made = _UNBROKEN.sub(lambda word: " ".join(_cut(word[0], LONGEST_WORD)), made)
    return "\n".join(made[:LONGEST_TEXT].split("\n")[:MOST_LINES])


def _pieces(text: str) -> Iterator[str]:
    for line in text.split("\n"):
        yield from _cut(line, LONGEST_LINE) if line else ("",)


def _cut(text: str, size: int) -> Iterator[str]:
    return (text[at : at + size] for at in range(0, len(text), size))
