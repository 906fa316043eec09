"""Finding a picture of the free sets by a word: its own words, then what means the same, then the like."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator
from functools import lru_cache
from heapq import nsmallest
from pathlib import Path

from rapidfuzz import process
from rapidfuzz.distance import JaroWinkler

ALIKE = 0.86
"""Likeness (Jaro-Winkler, 0 to 1) of a typed word and one of a name below which the other was not meant."""
LIKES = 6
"""Words spelled alike that are looked for at most."""


@lru_cache(maxsize=1)
def _synonyms() -> dict[str, tuple[str, ...]]:
    """Word → the words that mean about the same in an office (synonyms.txt, a group a line)."""
    text = Path(__file__).with_name("synonyms.txt").read_text("utf-8")
    found: dict[str, dict[str, None]] = {}
    for line in text.splitlines():
        group = line.split()
        for word in group:
            found.setdefault(_stem(word), {}).update(dict.fromkeys(_stem(other) for other in group))
    return {word: tuple(others) for word, others in found.items()}


def _stem(word: str) -> str:
    """The word without its plural: *ferries* is *ferry*."""
    if len(word) > 4 and word.endswith("ies"):
        return f"{word[:-3]}y"
    if len(word) > 4 and word.endswith(("ses", "xes", "ches", "shes")):
        return word[:-2]
    return word[:-1] if len(word) > 3 and word.endswith("s") and not word.endswith("ss") else word


class PictureIndex:
    """Names of pictures by the beginnings of their words.

    Args:
        names: as items have them without `set:`; words are parted by hyphens and full stops.
    """

    def __init__(self, names: Iterable[str]) -> None:
        self.names = tuple(names)
        by_word: dict[str, list[int]] = {}
        self._lengths: list[int] = []
        for at, name in enumerate(self.names):
            words = dict.fromkeys(name.replace(".", "-").split("-"))
            self._lengths.append(len(words))
            for word in dict.fromkeys((*words, *map(_stem, words))):
                by_word.setdefault(word, []).append(at)
        self._by_word = by_word
        self._words = sorted(by_word)

    def find(self, typed: str, most: int, alike: bool = True) -> list[str]:
        """The names that have every typed word, best first; those of any word where none has all.

        Args:
            alike: whether a word that nothing has may be a slip of the fingers.
        """
        words = typed.lower().replace("-", " ").split()
        if not words:
            return []
        each = [self._scores(word, alike) for word in words]
        every = set(each[0]).intersection(*each[1:])
        ranked = {at: sum(scores[at] for scores in each) for at in every}
        if not ranked:
            ranked = {at: score for scores in each for at, score in scores.items()}
        best = nsmallest(most, ranked, lambda at: (ranked[at] + 0.01 * self._lengths[at], self.names[at]))
        return [self.names[at] for at in best]

    def _scores(self, word: str, slips: bool) -> dict[int, float]:
        """Number → how far a name is from a word: 0 has it, 1 begins so, 2 means so, 3 and more is alike."""
        scores: dict[int, float] = {}
        stem = _stem(word)
        for cost, known in self._known(word, stem):
            for at in self._by_word.get(known, ()):
                if cost < scores.get(at, 9.0):
                    scores[at] = cost
        if slips and not scores and len(word) > 2:
            alike = process.extract(
                word, self._words, scorer=JaroWinkler.similarity, score_cutoff=ALIKE, limit=LIKES
            )
            for known, likeness, _ in alike:
                for at in self._by_word[known]:
                    scores[at] = min(scores.get(at, 9.0), 4 - likeness)
        return scores

    def _known(self, word: str, stem: str) -> Iterator[tuple[float, str]]:
        yield 0, word
        yield 0.2, stem
        for begin in dict.fromkeys((word, stem)):
            at = bisect_left(self._words, begin)
            while at < len(self._words) and self._words[at].startswith(begin):
                yield 1, self._words[at]
                at += 1
        for other in _synonyms().get(stem, ()):
            yield 2, other
