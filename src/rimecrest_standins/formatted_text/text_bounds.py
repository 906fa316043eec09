"""Limits on texts, checked before the toolkit lays them out and while somebody is writing."""

from __future__ import annotations

import re
from collections.abc import Iterator

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

LONGEST_TEXT, MOST_LINES, LONGEST_LINE = 2_000_000, 50_000, 200_000
"""Limits on characters, lines, and characters per line. Every key typed lays out the whole line again."""
LONGEST_WORD, MOST_UNBROKEN = 1_000, 25_000
"""Words up to the first length do not count; the second limits the characters in all longer words together.
Breaking a word into lines takes quadratic time, and longer still if the word consists of many spans."""
MOST_CELLS = 20_000
"""Limit on table cells. A spanning cell counts as all that it covers; each outer table doubles the count."""
MOST_ELEMENTS = 200_000
"""Limit on the elements of a page: ten times as many as in a letter of 300 pages."""
_UNBROKEN = re.compile(rf"[^\s\u00ad\u200b\u2e80-\u9fff\uac00-\ud7af\uff00-\uffef]{{{LONGEST_WORD + 1},}}")
"""A long word. East Asian characters are left out: a line may break between any two of them (UAX 14)."""


def within(what: str, count: int, most: int) -> None:
    """Raise RimecrestError if `count` exceeds `most`."""
    if count > most:
        raise RimecrestError(
            tr("This text has more than {most:,} {what}.", most=most, what=what),
            tr("Ask whoever made it for a plainer one."),
        )


def unbroken(line: str) -> int:
    """Count the characters of a line that belong to very long words."""
    return sum(len(word[0]) for word in _UNBROKEN.finditer(line)) if len(line) > LONGEST_WORD else 0


def check_text(text: str) -> str:
    """Return a plain text unchanged. Raises RimecrestError if it exceeds a limit."""
    within(tr("characters"), len(text), LONGEST_TEXT)
    lines = text.split("\n")
    within(tr("lines"), len(lines), MOST_LINES)
    within(tr("characters in one line"), max(map(len, lines)), LONGEST_LINE)
    within(tr("characters in very long words"), sum(map(unbroken, lines)), MOST_UNBROKEN)
    return text


def elements_beyond(page: str) -> str:
    """Return a sentence if a page written by us has too many elements; otherwise an empty string."""
    if page.count("<") - page.count("</") <= MOST_ELEMENTS:
        return ""
    return tr("This text has more than {most:,} {what}.", most=MOST_ELEMENTS, what=tr("elements"))


def as_plain(text: str) -> str:
    """Return a plain text within the limits: long words and lines are split, the end is cut off."""
    made = "\n".join(_pieces(text[:LONGEST_TEXT]))
    if sum(map(unbroken, made.split("\n"))) > MOST_UNBROKEN:
        made = _UNBROKEN.sub(lambda word: " ".join(_cut(word[0], LONGEST_WORD)), made)
    return "\n".join(made[:LONGEST_TEXT].split("\n")[:MOST_LINES])


def _pieces(text: str) -> Iterator[str]:
    for line in text.split("\n"):
        yield from _cut(line, LONGEST_LINE) if line else ("",)


def _cut(text: str, size: int) -> Iterator[str]:
    return (text[at : at + size] for at in range(0, len(text), size))
