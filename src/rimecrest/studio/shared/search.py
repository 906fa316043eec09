"""Finding by a few letters: a cheap filter first, then fuzzy ranks."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from rapidfuzz import fuzz, process


@dataclass(frozen=True)
class Match:
    """Something that can be found. `hint` says where it sits and its key; `more` is searched as well."""

    kind: str
    id: str
    title: str
    hint: str = ""
    more: str = ""
    text: str = ""
    """What is put in when it is taken, where that is text."""
    action: Callable[[], object] | None = field(default=None, compare=False)


CUTOFF = 72
"""Score (0 to 100) of rapidfuzz's partial ratio below which a word was probably not meant."""


class Search:
    """Ranks entries for what was typed."""

    def __init__(self, entries: Iterable[Match]) -> None:
        self.entries = list(entries)
        self._titles = [entry.title.lower() for entry in self.entries]
        self._texts = [f"{entry.title} {entry.more}".lower() for entry in self.entries]

    def find(self, typed: str, most: int = 8) -> list[Match]:
        """The best entries, best first: a title that begins so, a word in it, a word of its purpose."""
        wanted = typed.strip().lower()
        if not wanted:
            return []
        ranked: dict[int, float] = {}
        for index, title in enumerate(self._titles):
            if title.startswith(wanted):
                ranked[index] = 400 - len(title)
            elif f" {wanted}" in f" {title}":
                ranked[index] = 300 - len(title)
            elif f" {wanted}" in self._texts[index]:
                ranked[index] = 150
            elif wanted in title:
                ranked[index] = 120
        if len(ranked) < most and len(wanted) > 2:
            for _, score, index in process.extract(
                wanted, self._titles, scorer=fuzz.partial_ratio, score_cutoff=CUTOFF, limit=most
            ):
                ranked.setdefault(index, score)
        best = sorted(ranked, key=lambda index: (-ranked[index], self._titles[index]))
        return [self.entries[index] for index in best[:most]]


def spans(title: str, typed: str) -> list[tuple[int, int]]:
    """Where the typed letters stand in a title: (start, length) pairs, for emphasis."""
    wanted = typed.strip().lower()
    at = title.lower().find(wanted)
    return [(at, len(wanted))] if wanted and at >= 0 else []
