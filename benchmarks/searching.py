"""One more letter in a field that searches: among ten thousand things, among twenty thousand pictures."""

from __future__ import annotations

import random
from collections.abc import Callable

from rapidfuzz import fuzz, process

from rimecrest.core.pictures.index import PictureIndex
from rimecrest.core.search import Match, Search

THINGS, PICTURES = 10_000, 20_000
TYPED = ("s", "sa", "sai", "sail", "saili", "sailing", "sailing n", "saling notcie", "weight", "zzzq")


def _words() -> list[str]:
    """Invented words, with those that are sought among them; the same each time."""
    dice = random.Random(7)
    made = ["".join(dice.choices("abcdefghiklmnoprstuvw", k=dice.randint(3, 9))) for _ in range(3000)]
    return [*made, "sailing", "notice", "weight", "ferry"]


def _each(look: Callable[[str], object]) -> Callable[[], None]:
    def type_all() -> None:
        for text in TYPED:
            look(text)

    return type_all


def comparisons() -> list[tuple[str, str, Callable[[], object], Callable[[], object]]]:
    """What is measured, what against, and both."""
    dice, words = random.Random(11), _words()
    things = [" ".join(dice.sample(words, 3)) for _ in range(THINGS)]
    purposes = [" ".join(dice.sample(words, 6)) for _ in things]
    entries = zip(things, purposes, strict=True)
    search = Search(Match("x", title, title, more=more) for title, more in entries)
    names = ["-".join(dice.sample(words, 2)) for _ in range(PICTURES)]
    index = PictureIndex(names)

    def partial(texts: list[str]) -> Callable[[str], object]:
        return lambda text: process.extract(text, texts, scorer=fuzz.partial_ratio, limit=9)

    return [
        (
            f"finding among {THINGS:,} things, {len(TYPED)} texts",
            "a partial ratio over all",
            _each(lambda text: search.find(text, 9)),
            _each(partial(things)),
        ),
        (
            f"finding among {PICTURES:,} pictures, {len(TYPED)} texts",
            "a partial ratio over all",
            _each(lambda text: index.find(text, 60)),
            _each(partial(names)),
        ),
    ]
