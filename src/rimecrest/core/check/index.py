"""All bindings of one application by their sequence, so that an edit is checked only where it falls.

Each rule about keys looks at one bucket: the claims on one sequence, together with those on the sequences
that it begins or that begin it, or that are the same keystroke on some keyboard: `KeyIndex.near` names them.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator
from functools import lru_cache
from typing import NamedTuple

from rimecrest.core.catalogue import Catalogue, OwnKey
from rimecrest.core.keys import Traits, format_sequence, parse_sequence
from rimecrest.core.layout import KeyBinding, Layout


class Claim(NamedTuple):
    """A binding of a layer.

    `level` counts layers from 0 (built-in); `traits` are those of the seats that have this spelling of it
    (None = all).
    """

    level: int
    context: str
    run: str | None
    key: KeyBinding | OwnKey
    traits: frozenset[Traits] | None
    fixed: bool
    given: dict[str, str]
    """The settings as they are stored."""

    @property
    def args(self) -> tuple[tuple[str, str], ...]:
        return tuple(sorted(self.given.items())) if self.given else ()


Bucket = list[Claim]


@lru_cache(maxsize=65536)
def beginnings(text: str) -> tuple[str, ...]:
    """The shorter sequences that begin this one."""
    if "," not in text:
        return ()
    sequence = parse_sequence(text)
    return tuple([format_sequence(sequence[:length]) for length in range(1, len(sequence))])


class KeyIndex:
    """The buckets of one application. A change makes a new index that shares the buckets it left alone."""

    def __init__(
        self,
        aliases: Callable[[str], tuple[str, ...]],
        profiles: tuple[Traits, ...],
        plain: Collection[str] = (),
        watched: frozenset[str] = frozenset(),
    ) -> None:
        """
        Args:
            aliases: which sequences are the same keystrokes as a given one on some keyboard.
            profiles: the traits that seats have.
            plain: targets that are there and run without settings.
            watched: targets whose sequences are wanted, beside the macros.
        """
        self._aliases = aliases
        self._profiles = profiles
        self._watched = watched
        self._plain = plain
        self._common = frozenset(plain) - watched
        self.buckets: dict[str, Bucket] = {}
        self.longer: dict[str, tuple[str, ...]] = {}
        self.same_stroke: dict[str, tuple[str, ...]] = {}
        """Sequence → others that are the same keystrokes on some keyboard."""
        self.special: set[str] = set()
        """Sequences that run, or ran, anything but a plain target."""
        self.sequences: dict[str, tuple[str, ...]] = {}
        """A macro or watched target → the sequences that run it, or did."""

    def add_own(self, catalogue: Catalogue) -> None:
        """The keys that the application comes with."""
        for own in catalogue.keys:
            self._add(own.keys, Claim(0, own.context, own.run, own, None, False, {}))

    def add_layer(self, level: int, layout: Layout, keys: Iterable[KeyBinding]) -> None:
        """Some keys of a layer."""
        fixed = layout.policy == "fixed"
        buckets, add, made = self.buckets, self._add, Claim._make
        plain = self._common
        for key in keys:
            if key.on:
                for text, traits in self._spellings(key):
                    add(text, Claim(level, key.in_context, key.run, key, traits, fixed, key.args))
                continue
            run, text, args = key.run, key.keys, key.args
            claim = made((level, key.in_context, run, key, None, fixed, args))
            # What runs a plain command on a sequence that is there already is the common case.
            bucket = buckets.get(text) if run in plain and not args else None
            if bucket is not None:
                bucket.append(claim)
            else:
                add(text, claim)

    def _spellings(self, key: KeyBinding) -> Iterator[tuple[str, frozenset[Traits]]]:
        found: dict[str, set[Traits]] = {}
        for traits in self._profiles:
            text = key.on_seat(traits)
            if text is not None:
                found.setdefault(text, set()).add(traits)
        for text, having in found.items():
            yield text, frozenset(having)

    def _add(self, text: str, claim: Claim) -> None:
        bucket = self.buckets.get(text)
        if bucket is None:
            self.buckets[text] = [claim]
            self._know(text)
        else:
            bucket.append(claim)
        run = claim.run
        if claim.given or run not in self._plain:
            self.special.add(text)
        if run is not None and (run in self._watched or run.startswith("macro:")):
            at = self.sequences.get(run, ())
            if text not in at:
                self.sequences[run] = (*at, text)

    def _know(self, text: str) -> None:
        for shorter in beginnings(text):
            if text not in (known := self.longer.get(shorter, ())):
                self.longer[shorter] = (*known, text)
        for other in self._aliases(text):
            for one, two in ((text, other), (other, text)):
                if two not in (known := self.same_stroke.get(one, ())):
                    self.same_stroke[one] = (*known, two)

    def changed(
        self, level: int, before: Layout | None, after: Layout | None
    ) -> tuple[KeyIndex, frozenset[str]]:
        """The index after one layer's layout changed, and the sequences whose claims changed."""
        old = before.keys if before else ()
        new = after.keys if after else ()
        policy = before is not None and after is not None and before.policy != after.policy
        kept = set() if policy else {id(key) for key in old} & {id(key) for key in new}
        gone = {id(key) for key in old} - kept
        texts = {t for key in old if id(key) in gone for t in self._texts(key)}
        added = [key for key in new if id(key) not in kept]
        texts |= {t for key in added for t in self._texts(key)}
        made = KeyIndex(self._aliases, self._profiles, self._plain, self._watched)
        made.buckets = dict(self.buckets)
        made.longer = dict(self.longer)
        made.same_stroke = dict(self.same_stroke)
        made.special = set(self.special)
        made.sequences = dict(self.sequences)
        for text in texts:
            left = [c for c in self.buckets.get(text, ()) if not (c.level == level and id(c.key) in gone)]
            made.buckets[text] = left
            made._know(text)
        if after is not None:
            made.add_layer(level, after, added)
        return made, frozenset(texts)

    def _texts(self, key: KeyBinding) -> Iterator[str]:
        if key.on:
            yield from (text for text, _ in self._spellings(key))
        else:
            yield key.keys

    def first_text(self, claim: Claim) -> str:
        """The sequence at which a binding with variants is told of, when it concerns all of them."""
        if claim.traits is None or not isinstance(claim.key, KeyBinding):
            return claim.key.keys
        return min(text for text, _ in self._spellings(claim.key))

    def near(self, text: str) -> Iterator[str]:
        """The sequences whose claims meet those on this one."""
        yield from beginnings(text)
        yield from self.longer.get(text, ())
        yield from self.same_stroke.get(text, ())
