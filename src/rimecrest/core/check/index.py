"""All bindings of one application by their sequence, so that an edit is checked only where it falls.

Each rule about keys looks at one bucket: the claims on one sequence, together with those on the sequences
that it begins or that begin it, or that are the same keystroke on some keyboard: `KeyIndex.near` names them.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable, Iterator, Mapping
from copy import copy
from functools import lru_cache
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue, OwnKey
from rimecrest.core.keys.chords import format_sequence, parse_sequence
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import KeyBinding, Layout


class Claim(Struct, frozen=True, gc=False):
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


Bound = tuple[int, KeyBinding | OwnKey, str | None]
"""A binding: its level, its key, what it does in any application where that is told by its target alone."""


class Bucket:
    """The bindings on one sequence, side by side.

    Most of them meet nothing, and an estate has a hundred thousand: they are kept as they come, and a claim
    is made of one only when a rule looks at it.
    """

    __slots__ = ("held", "spelled")

    def __init__(self) -> None:
        self.held: list[Any] = []
        """The three parts of each `Bound`, one binding after the other: one list takes half of the memory."""
        self.spelled: dict[int, frozenset[Traits]] | None = None
        """Place among the bindings → the traits of the seats that have this spelling, where not all have."""

    def __len__(self) -> int:
        return len(self.held) // 3

    @property
    def levels(self) -> list[int]:
        return self.held[::3]

    @property
    def keys(self) -> list[KeyBinding | OwnKey]:
        return self.held[1::3]

    @property
    def meanings(self) -> list[str | None]:
        return self.held[2::3]

    def at(self, place: int) -> Bound:
        """The binding at a place."""
        level, key, meaning = self.held[3 * place : 3 * place + 3]
        return level, key, meaning

    def add(
        self,
        level: int,
        key: KeyBinding | OwnKey,
        meaning: str | None,
        traits: frozenset[Traits] | None = None,
    ) -> None:
        """One more binding."""
        if traits is not None:
            self.spelled = self.spelled or {}
            self.spelled[len(self)] = traits
        self.held += (level, key, meaning)

    def traits(self, place: int) -> frozenset[Traits] | None:
        """The traits of the seats that have the binding at a place spelled so; None: all have."""
        return self.spelled.get(place) if self.spelled else None

    def without(self, level: int, gone: Container[int]) -> Bucket:
        """The others than those of a level whose keys have one of these `id`s."""
        left = Bucket()
        for place in range(len(self)):
            at, key, meaning = self.at(place)
            if at != level or id(key) not in gone:
                left.add(at, key, meaning, self.traits(place))
        return left


NOTHING = Bucket()
NO_MEANINGS: Mapping[str, str] = MappingProxyType({})


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
        plain: Mapping[str, str] = NO_MEANINGS,
        watched: frozenset[str] = frozenset(),
    ) -> None:
        """
        Args:
            aliases: which sequences are the same keystrokes as a given one on some keyboard.
            profiles: the traits that seats have.
            plain: targets that are there and run without settings, and what each does in any application: one
                object for each meaning.
            watched: targets whose sequences are wanted, beside the macros.
        """
        self._aliases = aliases
        self._profiles = profiles
        self._watched = watched
        self._plain = plain
        self._common: dict[str | None, str] = {
            run: meaning for run, meaning in plain.items() if run not in watched
        }
        self._fixed: set[int] = set()
        self.buckets: dict[str, Bucket] = {}
        self.longer: dict[str, list[str]] = {}
        self.nested: set[str] = set()
        """Sequences that begin, or began, another that some key is on, and those that go on from one."""
        self.same_stroke: dict[str, tuple[str, ...]] = {}
        """Sequence → others that are the same keystrokes on some keyboard."""
        self.special: set[str] = set()
        """Sequences that run, or ran, anything but a plain target."""
        self.sequences: dict[str, tuple[str, ...]] = {}
        """A macro or watched target → the sequences that run it, or did."""

    def add_own(self, catalogue: Catalogue) -> None:
        """The keys that the application comes with."""
        for own in catalogue.keys:
            self._add(own.keys, 0, own)

    def add_layer(self, level: int, layout: Layout, keys: Iterable[KeyBinding]) -> None:
        """Some keys of a layer."""
        self._fixed.discard(level)
        if layout.policy == "fixed":
            self._fixed.add(level)
        buckets, common = self.buckets, self._common
        for key in keys:
            run = key.run
            if key.on:
                for text, traits in self._spellings(key):
                    self._add(text, level, key, key.args, traits)
                continue
            meaning = common.get(run)
            if meaning is None or key.args:
                self._add(key.keys, level, key, key.args)
                continue
            # What runs a plain command is the common case.
            bucket = buckets.get(key.keys)
            if bucket is None:
                bucket = self._begun(key.keys)
            bucket.held += (level, key, meaning)

    def claims(self, text: str, levels: Container[int] | None = None) -> list[Claim]:
        """The bindings on a sequence, or those of some levels of them.

        Each call makes claims of its own.
        """
        here = enumerate(self.buckets.get(text, NOTHING).levels)
        return [self.claim(text, place) for place, level in here if levels is None or level in levels]

    def claim(self, text: str, place: int) -> Claim:
        """The binding at a place of the bucket of a sequence."""
        bucket = self.buckets[text]
        level, key, _ = bucket.at(place)
        if isinstance(key, KeyBinding):
            traits = bucket.traits(place)
            return Claim(level, key.in_context, key.run, key, traits, level in self._fixed, key.args)
        return Claim(level, key.context, key.run, key, None, False, {})

    def _spellings(self, key: KeyBinding) -> Iterator[tuple[str, frozenset[Traits]]]:
        found: dict[str, set[Traits]] = {}
        for traits in self._profiles:
            text = key.on_seat(traits)
            if text is not None:
                found.setdefault(text, set()).add(traits)
        for text, having in found.items():
            yield text, frozenset(having)

    def _add(
        self,
        text: str,
        level: int,
        key: KeyBinding | OwnKey,
        given: Mapping[str, str] | None = None,
        traits: frozenset[Traits] | None = None,
    ) -> None:
        bucket = self.buckets.get(text)
        if bucket is None:
            bucket = self._begun(text)
        run = key.run
        meaning = self._plain.get(run) if run is not None else None
        bucket.add(level, key, meaning, traits)
        if given or meaning is None:
            self.special.add(text)
        if run is not None and (run in self._watched or run.startswith("macro:")):
            at = self.sequences.get(run, ())
            if text not in at:
                self.sequences[run] = (*at, text)

    def _begun(self, text: str) -> Bucket:
        """The bucket of a sequence that no key is on yet."""
        bucket = self.buckets[text] = Bucket()
        self.know(text)
        return bucket

    def know(self, text: str) -> None:
        """A sequence that no key was on before."""
        for shorter in beginnings(text):
            self.longer.setdefault(shorter, []).append(text)
            if shorter in self.buckets:
                self.nested |= {shorter, text}
        if text in self.longer:
            self.nested.update((text, *self.longer[text]))
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
        policy = (
            before is not None
            and after is not None
            and (before.policy, before.applies) != (after.policy, after.applies)
        )
        known = set(map(id, old))
        kept = set() if policy else known.intersection(map(id, new))
        gone = known - kept
        left = [key for key in old if id(key) in gone] if gone else []
        added = [key for key in new if id(key) not in kept]
        texts = {text for keys in (left, added) for key in keys for text in self._texts(key)}
        made = self._alike()
        for text in texts:
            if text not in self.buckets:
                # This index's own lists, before they get longer.
                made.longer |= {shorter: [*self.longer.get(shorter, ())] for shorter in beginnings(text)}
                made.know(text)
            made.buckets[text] = self.buckets.get(text, NOTHING).without(level, gone)
        if after is not None:
            made.add_layer(level, after, added)
        return made, frozenset(texts)

    def _alike(self) -> KeyIndex:
        """Another one that holds the same, so far."""
        made = copy(self)
        for name in ("buckets", "longer", "nested", "same_stroke", "special", "sequences", "_fixed"):
            setattr(made, name, copy(getattr(self, name)))
        return made

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

    def around(self, text: str) -> list[str]:
        """The sequences with keys that go on from this one or begin it."""
        return [other for other in (*self.longer.get(text, ()), *beginnings(text)) if other in self.buckets]

    def near(self, text: str) -> Iterator[str]:
        """The sequences whose claims meet those on this one."""
        yield from beginnings(text)
        yield from self.longer.get(text, ())
        yield from self.same_stroke.get(text, ())
