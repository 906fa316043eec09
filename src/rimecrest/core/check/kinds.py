"""Every kind of finding: how much it weighs, and what kinds of fixes it has.

One row a kind. The weight, the order of the fixes, the seats for which a variant may settle it, and what the
studio marks on the stage all follow from here; `rules.RULES` says which rule finds which kinds, `core.mend`
knows the edits. (docs/conflicts.md, "Findings".)
"""

from __future__ import annotations

from enum import Enum

from msgspec import Struct

from rimecrest.core.words import tr


class Weight(Enum):
    """How much a finding weighs, heaviest first."""

    BLOCKS = "blocks"
    ASKS = "asks"
    TELLS = "tells"

    @property
    def word(self) -> str:
        """What it is called on the screen."""
        return {Weight.BLOCKS: tr("error"), Weight.ASKS: tr("question"), Weight.TELLS: tr("note")}[self]

    def lighter_than(self, other: Weight) -> bool:
        """Whether it weighs less."""
        weights = list(Weight)
        return weights.index(self) > weights.index(other)


class Remedy(Enum):
    """Kinds of fixes, as `core.mend` makes them."""

    ACCEPT = "kept on purpose, with a reason"
    NEAREST = "the target that was probably meant"
    REMOVE = "the item is taken off, or the key away"
    TURN_OFF = "the step is turned off"
    COPY_IN = "the file is copied into companions"
    TIP = "a tip with the name"
    WORDS = "the words shown as well"
    WIDER = "double width"
    SHORTER = "a shorter label"
    PICTURE = "the picture only"
    TAKE_ONE_OFF = "one of two is taken off"
    NEW_KEY = "a free key for what has none"
    SAME_KEY = "the key that it has elsewhere"
    VARIANT = "another key for the seats concerned"
    GO_WITHOUT = "no key for the seats concerned"
    FREE_KEY = "another key for all"
    NARROWER = "the same key in a part of its context"
    GIVE_WAY = "the key is given up"
    NO_ACCESS = "its access key is dropped"
    NO_PICTURE = "it shows no picture of its own"
    DELETE_PICTURE = "the picture is deleted"
    OWN_ID = "an identity of its own"
    WHERE_IT_RUNS = "the same key in the context where its target runs"
    NEAREST_NAME = "the name that was probably meant"
    NEAREST_WORD = "the word in a macro that was probably meant"
    BELOW = "one of two is moved below the other things of the panel"
    DEPARTMENT = "the department that was probably meant, or one of that name"


class Told(Enum):
    """By which trait the seats concerned are told from others, so that a variant can be for them."""

    BY_KEYBOARD = "keyboard"
    BY_SESSION = "session"
    BY_WHO_TAKES_IT = "whoever takes the key first: desktop, input method, screen reader"


class Kind(Struct, frozen=True):
    """What every finding of one kind has in common.

    `weight` is that of findings about a layer: of the application's own bindings they only tell. `remedies`
    are in the order in which they are offered. `seats` says for whom a variant may settle it, `marks_targets`
    whether the stage marks the items that run what its keys run. `everyday`: the weight where what is lost
    belongs to the everyday commands.
    """

    weight: Weight
    remedies: tuple[Remedy, ...] = ()
    everyday: Weight | None = None
    seats: Told | None = None
    marks_targets: bool = False


_OTHER_KEY = (Remedy.FREE_KEY, Remedy.GIVE_WAY)
_FOR_SOME_SEATS = (Remedy.VARIANT, Remedy.GO_WITHOUT, *_OTHER_KEY)

KINDS: dict[str, Kind] = {
    "double": Kind(Weight.BLOCKS, _OTHER_KEY, marks_targets=True),
    "prefix": Kind(Weight.BLOCKS, _OTHER_KEY, marks_targets=True),
    "gone": Kind(Weight.BLOCKS, (Remedy.NEAREST, Remedy.REMOVE)),
    "faulty": Kind(Weight.BLOCKS, (Remedy.NEAREST_WORD, Remedy.REMOVE)),
    "reserved": Kind(Weight.BLOCKS, _FOR_SOME_SEATS, seats=Told.BY_WHO_TAKES_IT),
    "unreachable": Kind(Weight.BLOCKS, _FOR_SOME_SEATS, seats=Told.BY_KEYBOARD),
    "same-stroke": Kind(Weight.BLOCKS, _FOR_SOME_SEATS, seats=Told.BY_KEYBOARD),
    "types-text": Kind(Weight.BLOCKS, _FOR_SOME_SEATS, seats=Told.BY_SESSION),
    "takes-caret": Kind(Weight.BLOCKS, _OTHER_KEY),
    "unreadable": Kind(Weight.BLOCKS),
    "same-id": Kind(Weight.BLOCKS, (Remedy.OWN_ID,)),
    "takes-over": Kind(
        Weight.ASKS,
        (Remedy.ACCEPT, Remedy.FREE_KEY, Remedy.NARROWER, Remedy.GIVE_WAY),
        marks_targets=True,
    ),
    "moves-caret": Kind(Weight.ASKS, (Remedy.ACCEPT, Remedy.FREE_KEY, Remedy.NARROWER, Remedy.GIVE_WAY)),
    "access-key": Kind(Weight.ASKS, (Remedy.ACCEPT, *_OTHER_KEY, Remedy.NO_ACCESS)),
    "never-runs": Kind(
        Weight.ASKS, (Remedy.WHERE_IT_RUNS, *_OTHER_KEY, Remedy.REMOVE, Remedy.ACCEPT), marks_targets=True
    ),
    "unknown-name": Kind(Weight.ASKS, (Remedy.NEAREST_NAME,)),
    "overlap": Kind(Weight.ASKS, (Remedy.BELOW,)),
    "unknown-department": Kind(Weight.ASKS, (Remedy.DEPARTMENT,)),
    "out-of-reach": Kind(Weight.ASKS, (Remedy.COPY_IN, Remedy.TURN_OFF)),
    "no-picture": Kind(Weight.ASKS, (Remedy.NO_PICTURE,)),
    "unseen-picture": Kind(Weight.ASKS, (Remedy.NO_PICTURE, Remedy.ACCEPT)),
    "shadows": Kind(Weight.TELLS, (Remedy.ACCEPT, *_OTHER_KEY), Weight.ASKS, marks_targets=True),
    "personal": Kind(Weight.TELLS, (Remedy.ACCEPT, *_OTHER_KEY)),
    "slip": Kind(Weight.TELLS, (Remedy.ACCEPT, *_OTHER_KEY)),
    "two-meanings": Kind(Weight.TELLS, (Remedy.ACCEPT, Remedy.SAME_KEY, *_OTHER_KEY)),
    "no-key": Kind(Weight.TELLS, (Remedy.ACCEPT, Remedy.NEW_KEY)),
    "never-used": Kind(Weight.TELLS, (Remedy.ACCEPT, *_OTHER_KEY)),
    "adrift": Kind(Weight.TELLS),
    "nameless": Kind(Weight.TELLS, (Remedy.TIP, Remedy.WORDS, Remedy.REMOVE)),
    "cut-off": Kind(Weight.TELLS, (Remedy.WIDER, Remedy.SHORTER, Remedy.PICTURE)),
    "no-room": Kind(Weight.TELLS, (Remedy.ACCEPT,)),
    "twin": Kind(Weight.TELLS, (Remedy.TAKE_ONE_OFF, Remedy.ACCEPT)),
    "faulty-unused": Kind(Weight.TELLS, (Remedy.NEAREST_WORD,)),
    "unused-picture": Kind(Weight.TELLS, (Remedy.DELETE_PICTURE,)),
    "unknown": Kind(Weight.TELLS),
}
"""Kind of finding → what they have in common, the heaviest first."""
