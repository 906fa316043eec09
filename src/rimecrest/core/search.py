"""Finding by a few letters: beginnings and words first, then what is spelled alike."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterable, Iterator, Mapping
from heapq import nsmallest

from rapidfuzz import process
from rapidfuzz.distance import JaroWinkler

from rimecrest.core.values import PartlyCompared


class Match(PartlyCompared, frozen=True):
    """Something that can be found. `hint` says where it sits and its key; `more` is searched as well."""

    aside = frozenset({"action"})

    kind: str
    id: str
    title: str
    hint: str = ""
    more: str = ""
    text: str = ""
    """What is put in when it is taken, where that is text."""
    args: tuple[tuple[str, str], ...] = ()
    """The settings that it runs with."""
    action: Callable[[], object] | None = None
    stays: bool = False
    """Whether the list stays open when it is taken: it shows other rows then."""


ALIKE = 0.84
"""Likeness (Jaro-Winkler, 0 to 1) of two words below which one was probably not meant for the other.

Two letters exchanged in a word of five give 0.9 and more; words that merely share a beginning less.
"""
FAR = 0.6
"""The same below which a word is not even worth offering as the nearest."""


class Search:
    """Ranks entries for what was typed.

    Every word of a title and purpose is in an index by its beginning, so that a keystroke looks at what can
    match and not at all there is.
    """

    def __init__(self, entries: Iterable[Match]) -> None:
        self.entries = list(entries)
        self._titles = [_plain(entry.title) for entry in self.entries]
        self._texts = [_plain(f"{entry.title} {entry.more}") for entry in self.entries]
        self._in_titles = _by_word(self._titles)
        self._in_texts = _by_word(self._texts)
        self._sorted = sorted(self._in_texts)
        self._ends: list[int] = []
        """Where each title ends in the text of all of them."""
        length = 0
        for title in self._titles:
            length += len(title) + 1
            self._ends.append(length)
        self._all = "\n".join(self._titles)

    def find(self, typed: str, most: int = 8) -> list[Match]:
        """The best entries, best first: those that have it, then those spelled alike."""
        found = self.having(typed, most)
        if len(found) < most:
            found += [entry for entry in self.nearest(typed, most, ALIKE) if entry not in found]
        return found[:most]

    def having(self, typed: str, most: int = 8) -> list[Match]:
        """The entries that have what was typed: a title that begins so, words in it, words of its purpose.

        The words may come in any order, and each may be the beginning of one.
        """
        wanted = _plain(typed.strip())
        if not wanted:
            return []
        parts = wanted.split()
        ranked: dict[int, float] = {}
        for index in self._inside(wanted) if len(wanted) > 1 else ():
            ranked[index] = 120
        for index in set.intersection(*map(self._beginning, parts)):
            title = self._titles[index]
            if title.startswith(wanted):
                ranked[index] = 400 - len(title)
            elif all(f" {part}" in f" {title}" for part in parts):
                ranked[index] = 300 - len(title)
            else:
                ranked[index] = 150
        return self._best(ranked, most)

    def _beginning(self, part: str) -> set[int]:
        """The entries with a word that begins so."""
        found: set[int] = set()
        at = bisect_left(self._sorted, part)
        while at < len(self._sorted) and self._sorted[at].startswith(part):
            found.update(self._in_texts[self._sorted[at]])
            at += 1
        return found

    def _inside(self, wanted: str) -> Iterator[int]:
        """The entries with these letters anywhere in the title."""
        at = self._all.find(wanted)
        while at >= 0:
            index = bisect_right(self._ends, at)
            yield index
            at = self._all.find(wanted, self._ends[index])

    def nearest(self, typed: str, most: int = 8, least: float = FAR) -> list[Match]:
        """The entries with words spelled most like what was typed, best first.

        Of several typed words each has to be like one of the entry's, or to begin one.
        """
        wanted = _plain(typed.strip())
        if len(wanted) < 3:
            return []
        whole = self._alike(wanted, self._in_titles, 3 * most, least)
        parts = wanted.split()
        if len(parts) > 1:
            each = []
            for part in parts:
                scores = self._alike(part, self._in_texts, 3 * most, ALIKE) if len(part) > 2 else {}
                each.append(scores | dict.fromkeys(self._beginning(part), 1.0))
            both = set.intersection(*map(set, each))
            whole |= {index: 1 + sum(scores[index] for scores in each) for index in both}
        return self._best(whole, most)

    def _alike(
        self, wanted: str, words: Mapping[str, list[int]], most: int, least: float
    ) -> dict[int, float]:
        """Entry → likeness of its word that is most like that one."""
        alike = process.extract(
            wanted, words.keys(), scorer=JaroWinkler.similarity, score_cutoff=least, limit=most
        )
        ranked: dict[int, float] = {}
        for word, score, _ in alike:
            for index in words[word]:
                # Among equals the one of which the word is the greater part.
                share = len(word) / max(len(self._titles[index]), 1)
                ranked[index] = max(ranked.get(index, 0.0), score + share / 100)
        return ranked

    def all(self) -> list[Match]:
        """Everything, from A to Z."""
        return sorted(self.entries, key=lambda entry: entry.title.casefold())

    def _best(self, ranked: dict[int, float], most: int) -> list[Match]:
        best = nsmallest(most, ranked, key=lambda index: (-ranked[index], self._titles[index]))
        return [self.entries[index] for index in best]


def _by_word(texts: Iterable[str]) -> dict[str, list[int]]:
    found: dict[str, list[int]] = {}
    for index, text in enumerate(texts):
        for word in dict.fromkeys(text.split()):
            found.setdefault(word, []).append(index)
    return found


def _plain(text: str) -> str:
    """As it is compared: keyboards have one apostrophe, sentences another."""
    return text.lower().replace("’", "'")


def spans(title: str, typed: str) -> list[tuple[int, int]]:
    """Where the typed letters stand in a title: (start, length) pairs, for emphasis."""
    wanted = typed.strip().lower()
    at = title.lower().find(wanted)
    return [(at, len(wanted))] if wanted and at >= 0 else []
