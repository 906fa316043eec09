"""Sequences that are never suggested, however cheap they are.

1. An opener of the house: bound alone it would swallow all that goes on from it.
2. One that is a single modifier away from what deletes, sends, closes or quits.
3. One that types a character on a keyboard of the audience with AltGr, which many systems take for Ctrl+Alt.
4. For what itself deletes, sends, closes or quits: a single chord with less than two keys held.

(docs/conflicts.md, "Suggesting keys".) What only some keyboards have is in no bank of sequences at all.
"""

from __future__ import annotations

from collections.abc import Iterable

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.check.index import beginnings
from rimecrest.core.check.table import KeyTable
from rimecrest.core.keys.chords import MODIFIERS, Chord, Sequence, format_sequence, parse_sequence
from rimecrest.core.keys.keyboards.national import keyboard

CLOSING = frozenset(("close", "quit"))
"""Verbs of what takes the document or the application away."""


def perilous(table: KeyTable, run: str | None) -> bool:
    """Whether a slip onto it would cost: it deletes, sends, closes or quits."""
    return run is not None and (table.verbs.get(run) in CLOSING or bool(table.danger(run)))


def openers(catalogues: Iterable[Catalogue], tables: Iterable[KeyTable]) -> frozenset[str]:
    """Every sequence with which a longer one begins, or is meant to begin, in some application."""
    meant = {catalogue.opener for catalogue in catalogues if catalogue.opener}
    return frozenset(
        meant | {shorter for table in tables for text in table.index.buckets for shorter in beginnings(text)}
    )


def near_perilous(table: KeyTable, levels: frozenset[int]) -> frozenset[str]:
    """Sequences one modifier away from a perilous one that is bound at these levels."""
    return frozenset(
        other
        for text in table.index.buckets
        if any(perilous(table, claim.run) for claim in table.index.claims(text, levels))
        for other in one_modifier_away(parse_sequence(text))
    )


def one_modifier_away(sequence: Sequence) -> list[str]:
    """The sequences whose last chord has one modifier more, or one less."""
    *begin, last = sequence
    found = []
    for name in MODIFIERS:
        held = {*last.mods} ^ {name}
        mods = tuple(modifier for modifier in MODIFIERS if modifier in held)
        found.append(format_sequence((*begin, Chord(mods, last.key))))
    return found


def types_with_altgr(sequence: Sequence, boards: Iterable[str]) -> bool:
    """Whether its first chord, Ctrl and Alt, is how one of these keyboards types a character."""
    first = sequence[0]
    return {"Ctrl", "Alt"} <= {*first.mods} and any(keyboard(code).typed(first) for code in boards)


def easy(sequence: Sequence) -> bool:
    """Whether it is one chord with less than two keys held: pressed before one has thought."""
    return len(sequence) == 1 and len(sequence[0].mods) < 2
