"""What somebody probably meant by a word that nothing is called."""

from __future__ import annotations

from collections.abc import Iterable

from rapidfuzz import fuzz, process

LIKE = 60.0
"""Per cent of likeness from which a name is offered: below that, offering one misleads. Ours."""


def nearest(word: str, known: Iterable[str], like: float = LIKE) -> str:
    """The name that a word is most like, in letters that both have in their order; empty: none is like it."""
    found = process.extractOne(word, list(known), scorer=fuzz.ratio, score_cutoff=like)
    return found[0] if found is not None else ""
