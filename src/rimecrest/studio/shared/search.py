"""Finding by a few letters: beginnings and words first, then what is spelled alike."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from rapidfuzz import process
from rapidfuzz.distance import JaroWinkler


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
    args: tuple[tuple[str, str], ...] = ()
    """The settings that it runs with."""
    action: Callable[[], object] | None = field(default=None, compare=False)
    stays: bool = False
    """Whether the list stays open when it is taken: it shows other rows then."""


ALIKE = 0.84
"""Likeness (Jaro-Winkler, 0 to 1) of two words below which one was probably not meant for the other.

Two letters exchanged in a word of five give 0.9 and more; words that merely share a beginning less.
"""
FAR = 0.6
"""The same below which a word is not even worth offering as the nearest."""


class Search:
    """Ranks entries for what was typed."""

    def __init__(self, entries: Iterable[Match]) -> None:
        self.entries = list(entries)
        self._titles = [_plain(entry.title) for entry in self.entries]
        self._texts = [_plain(f"{entry.title} {entry.more}") for entry in self.entries]
        words: dict[str, list[int]] = {}
        for index, title in enumerate(self._titles):
            for word in set(title.split()):
                words.setdefault(word, []).append(index)
        self._words = words

    def find(self, typed: str, most: int = 8) -> list[Match]:
        """The best entries, best first: those that have it, then those spelled alike."""
        found = self.having(typed, most)
        if len(found) < most:
            found += [entry for entry in self.nearest(typed, most, ALIKE) if entry not in found]
        return found[:most]

    def having(self, typed: str, most: int = 8) -> list[Match]:
        """The entries that have what was typed: a title that begins so, words in it, words of its purpose."""
        wanted = _plain(typed.strip())
        if not wanted:
            return []
        parts = [f" {part}" for part in wanted.split()]
        ranked: dict[int, float] = {}
        for index, title in enumerate(self._titles):
            if title.startswith(wanted):
                ranked[index] = 400 - len(title)
            elif all(part in f" {title}" for part in parts):
                ranked[index] = 300 - len(title)
            elif all(part in f" {self._texts[index]}" for part in parts):
                ranked[index] = 150
            elif wanted in title:
                ranked[index] = 120
        return self._best(ranked, most)

    def nearest(self, typed: str, most: int = 8, least: float = FAR) -> list[Match]:
        """The entries with a word spelled most like what was typed, best first."""
        wanted = _plain(typed.strip())
        if len(wanted) < 3:
            return []
        alike = process.extract(
            wanted, self._words.keys(), scorer=JaroWinkler.similarity, score_cutoff=least, limit=3 * most
        )
        ranked: dict[int, float] = {}
        for word, score, _ in alike:
            for index in self._words[word]:
                # Among equals the one of which the word is the greater part.
                share = len(word) / max(len(self._titles[index]), 1)
                ranked[index] = max(ranked.get(index, 0.0), score + share / 100)
        return self._best(ranked, most)

    def all(self) -> list[Match]:
        """Everything, from A to Z."""
        return sorted(self.entries, key=lambda entry: entry.title.casefold())

    def _best(self, ranked: dict[int, float], most: int) -> list[Match]:
        best = sorted(ranked, key=lambda index: (-ranked[index], self._titles[index]))
        return [self.entries[index] for index in best[:most]]


def _plain(text: str) -> str:
    """As it is compared: keyboards have one apostrophe, sentences another."""
    return text.lower().replace("’", "'")


def spans(title: str, typed: str) -> list[tuple[int, int]]:
    """Where the typed letters stand in a title: (start, length) pairs, for emphasis."""
    wanted = typed.strip().lower()
    at = title.lower().find(wanted)
    return [(at, len(wanted))] if wanted and at >= 0 else []
