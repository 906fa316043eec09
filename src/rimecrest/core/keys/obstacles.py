"""What stands between a keystroke and an application, on a seat with given traits.

1. reserved: the console, the desktop, the input method or the screen reader takes a chord first.
2. unreachable: the keyboard has no key with that unshifted symbol, or, where one writes, only as a dead key,
   which the input method takes to compose the next character.
3. types text: the first chord types a character: no modifier but Shift where one writes, or Ctrl+Alt on a
   seat whose remote session sends AltGr that way.

(docs/conflicts.md, "Findings".) The checks and `why` ask here.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import Chord, Sequence, format_chord, parse_sequence
from rimecrest.core.keys.desktops.profiles import EVERYWHERE, Profile, known_profiles, profile
from rimecrest.core.keys.keyboards.national import Keyboard, keyboard, keyboard_name, known_keyboards
from rimecrest.core.keys.traits import Traits


class Obstacle(Struct, frozen=True):
    """One thing in the way: `kind` as above, `by` who or which keyboard, `does` what happens instead."""

    kind: str
    by: str
    does: str


def unreadable_chords(added: Mapping[str, Mapping[str, str]]) -> Iterator[tuple[str, str, str]]:
    """Find the chords of an office's own table that cannot be read: (profile, chord, reason)."""
    for name, reserved in added.items():
        for keys in reserved:
            try:
                parse_sequence(keys)
            except RimecrestError as error:
                yield name, keys, error.sentence


class Obstacles:
    """The obstacles of seats, with what a house has added to the profiles.

    Args:
        added: name as in people.csv → chord → what it does there (workspace.json, `reserved`).
        profiles: the traits of the whole audience, for `among`.
    """

    def __init__(self, added: Mapping[str, Mapping[str, str]], profiles: tuple[Traits, ...] = ()) -> None:
        wrong = {(name, keys) for name, keys, _ in unreadable_chords(added)}
        self._added = {
            name: {keys: does for keys, does in reserved.items() if (name, keys) not in wrong}
            for name, reserved in added.items()
        }
        self._everybody = profiles
        self._takers: dict[tuple[str, str], tuple[Profile, ...]] = {}
        self._clears: dict[tuple[Chord, bool], bool] = {}
        self._known: dict[tuple[Sequence, Traits, bool], tuple[Obstacle, ...]] = {}

    def of(self, sequence: Sequence, traits: Traits, typing: bool) -> tuple[Obstacle, ...]:
        """All obstacles of a sequence, in the order of the list above.

        Args:
            typing: whether it is bound where plain keys write.
        """
        key = (sequence, traits, typing)
        known = self._known.get(key)
        if known is None:
            known = self._known[key] = tuple(self._find(sequence, traits, typing))
        return known

    def _find(self, sequence: Sequence, traits: Traits, typing: bool) -> Iterator[Obstacle]:
        yield from self._reserved(sequence, traits)
        boards = [traits.keyboard] if traits.keyboard in known_keyboards() else list(known_keyboards())
        if traits.keyboard:
            for code in boards:
                if lacking := _lacking(sequence, keyboard(code), typing):
                    yield Obstacle("unreachable", keyboard_name(code), lacking)
                    break
        yield from self._types(sequence[0], traits, typing, boards if traits.keyboard else [])

    def among(self, sequence: Sequence, typing: bool) -> list[tuple[Traits, Obstacle]]:
        """The same for the whole audience at once: only those that meet an obstacle."""
        # Nearly every chord is clear on every seat; that is found out once for each.
        if self._clear(sequence[0], True) and all(self._clear(chord, False) for chord in sequence[1:]):
            return []
        return [(traits, found) for traits in self._everybody for found in self.of(sequence, traits, typing)]

    def _clear(self, chord: Chord, first: bool) -> bool:
        """Whether a chord surely has no obstacle on any seat; False where it is worth a closer look."""
        known = self._clears.get((chord, first))
        if known is None:
            known = self._clears[chord, first] = self._surely_clear(chord, first)
        return known

    def _surely_clear(self, chord: Chord, first: bool) -> bool:
        boards = self._all_boards
        here = {board.canonical(chord) for board in boards}
        if None in here or any(board.dead(chord) for board in boards) or (first and chord.types_text):
            return False
        if first and {"Ctrl", "Alt"} <= set(chord.mods) and any(t.remote for t in self._everybody):
            return False
        return not any(chord in t.chords or not here.isdisjoint(t.chords) for t in self._all_takers)

    @cached_property
    def _all_takers(self) -> tuple[Profile, ...]:
        """Whoever takes keys from anybody."""
        known = {taker.id: taker for traits in self._everybody for taker in self.takers(traits)}
        return tuple(known.values())

    @cached_property
    def _all_boards(self) -> tuple[Keyboard, ...]:
        """The keyboards that anybody has; all that are known, where one's is not."""
        codes = {traits.keyboard for traits in self._everybody if traits.keyboard}
        return tuple(
            keyboard(code) for code in (codes if codes <= {*known_keyboards()} else known_keyboards())
        )

    def takers(self, traits: Traits) -> Iterator[Profile]:
        """Whoever takes keys before an application, first come first: what is unknown counts as all."""
        yield EVERYWHERE
        for kind in ("desktop", "input", "reader"):
            if name := getattr(traits, kind):
                if (kind, name) not in self._takers:
                    self._takers[kind, name] = tuple(self._profiles(kind, name))
                yield from self._takers[kind, name]

    def _profiles(self, kind: str, name: str) -> Iterator[Profile]:
        if name in self._added:
            title = profile(name).name if name in known_profiles() else name.capitalize()
            yield Profile(id=name, name=title, reserved=dict(self._added[name]))
        if name in known_profiles() and profile(name).kind == kind:
            yield profile(name)
        elif name not in self._added:
            yield from (profile(known) for known in known_profiles() if profile(known).kind == kind)

    def known(self, kind: str, name: str) -> bool:
        """Whether there is a profile of that name, or the house has said what it takes."""
        return name in self._added or (name in known_profiles() and profile(name).kind == kind)

    def _reserved(self, sequence: Sequence, traits: Traits) -> Iterator[Obstacle]:
        board = keyboard(traits.keyboard) if traits.keyboard in known_keyboards() else None
        for taker in self.takers(traits):
            for chord in sequence:
                here = (board.canonical(chord) if board else None) or chord
                if does := taker.chords.get(here):
                    yield Obstacle("reserved", taker.name, f"{does} with {format_chord(chord)}")
                    return

    def _types(self, first: Chord, traits: Traits, typing: bool, boards: list[str]) -> Iterator[Obstacle]:
        if typing and first.types_text:
            yield Obstacle("types-text", "", "has no modifier but Shift")
        elif traits.remote and {"Ctrl", "Alt"} <= set(first.mods) and "Super" not in first.mods:
            for code in boards:
                if typed := keyboard(code).typed(first):
                    accent = typed.startswith("dead_")
                    yield Obstacle("types-text", keyboard_name(code), "an accent" if accent else typed)
                    return


def _lacking(sequence: Sequence, board: Keyboard, typing: bool) -> str:
    """Return the first key that the keyboard lacks, or that is a dead key in a context for typing."""
    for chord in sequence:
        if board.canonical(chord) is None:
            return chord.key
        if typing and (dead := board.dead(chord)):
            return dead
    return ""
