"""Where the keys lie: the two full-size shapes, with and without the number pad.

Keys carry the names that XKB gives them (AD01 is the first of the second letter row, counted from below:
https://www.x.org/releases/current/doc/kbproto/xkbproto.html, "Key Names"). Places and sizes are in key
widths of 19.05 mm, from the upper left corner; the rows and their stagger are those of ISO/IEC 9995-2.
"""

from __future__ import annotations

from collections.abc import Iterator
from enum import Enum
from functools import lru_cache
from typing import Literal

from msgspec import Struct

Shape = Literal["iso", "ansi"]


class Hand(Enum):
    LEFT = "left"
    RIGHT = "right"


class Cap(Struct, frozen=True):
    """One physical key: `x`, `y` of its upper left corner, `width` and `height`, all in key widths."""

    key: str
    x: float
    y: float
    width: float = 1.0
    height: float = 1.0

    @property
    def centre(self) -> tuple[float, float]:
        return self.x + self.width / 2, self.y + self.height / 2


class Geometry(Struct, frozen=True):
    """All keys of one shape."""

    shape: Shape
    caps: dict[str, Cap]
    width: float
    height: float

    def hand(self, key: str) -> Hand | None:
        """The hand that a touch typist uses; None for keys that belong to neither, such as the pad's."""
        if key in _LEFT:
            return Hand.LEFT
        return Hand.RIGHT if key in _RIGHT else None

    def distance(self, one: str, other: str) -> float:
        """Between two keys' centres, in key widths."""
        (x, y), (u, v) = self.caps[one].centre, self.caps[other].centre
        return float(((x - u) ** 2 + (y - v) ** 2) ** 0.5)


# The keys on which the four fingers of each hand rest (ISO/IEC 9995-2, home row).
HOME = {
    Hand.LEFT: ("AC01", "AC02", "AC03", "AC04"),
    Hand.RIGHT: ("AC07", "AC08", "AC09", "AC10"),
}
_LEFT = {
    "ESC", "TLDE", *(f"AE{n:02}" for n in range(1, 6)), "TAB", *(f"AD{n:02}" for n in range(1, 6)), "CAPS",
    *(f"AC{n:02}" for n in range(1, 6)), "LFSH", "LSGT", *(f"AB{n:02}" for n in range(1, 6)), "LCTL",
    "LWIN", "LALT", *(f"FK{n:02}" for n in range(1, 6)),
}  # fmt: skip
_RIGHT = {
    *(f"AE{n:02}" for n in range(6, 13)), "BKSP", *(f"AD{n:02}" for n in range(6, 13)), "RTRN", "BKSL",
    *(f"AC{n:02}" for n in range(6, 12)), *(f"AB{n:02}" for n in range(6, 12)), "RTSH", "RALT", "RWIN",
    "MENU", "RCTL", *(f"FK{n:02}" for n in range(6, 13)),
}  # fmt: skip

_TOP = 1.5
"""Upper edge of the digit row: the row of function keys and half a key between."""


def _row(names: list[str], x: float, y: float) -> Iterator[Cap]:
    for index, name in enumerate(names):
        yield Cap(name, x + index, y)


def _letters(shape: Shape) -> Iterator[Cap]:
    yield from _row(["TLDE", *(f"AE{n:02}" for n in range(1, 13))], 0, _TOP)
    yield Cap("BKSP", 13, _TOP, 2)
    yield Cap("TAB", 0, _TOP + 1, 1.5)
    yield from _row([f"AD{n:02}" for n in range(1, 13)], 1.5, _TOP + 1)
    yield Cap("CAPS", 0, _TOP + 2, 1.75)
    yield from _row([f"AC{n:02}" for n in range(1, 12)], 1.75, _TOP + 2)
    if shape == "iso":
        yield Cap("BKSL", 12.75, _TOP + 2)
        yield Cap("RTRN", 13.75, _TOP + 1, 1.25, 2)
        yield Cap("LFSH", 0, _TOP + 3, 1.25)
        yield Cap("LSGT", 1.25, _TOP + 3)
    else:
        yield Cap("BKSL", 13.5, _TOP + 1, 1.5)
        yield Cap("RTRN", 12.75, _TOP + 2, 2.25)
        yield Cap("LFSH", 0, _TOP + 3, 2.25)
    yield from _row([f"AB{n:02}" for n in range(1, 11)], 2.25, _TOP + 3)
    yield Cap("RTSH", 12.25, _TOP + 3, 2.75)


def _bottom() -> Iterator[Cap]:
    x = 0.0
    for name, width in (
        ("LCTL", 1.25),
        ("LWIN", 1.25),
        ("LALT", 1.25),
        ("SPCE", 6.25),
        ("RALT", 1.25),
        ("RWIN", 1.25),
        ("MENU", 1.25),
        ("RCTL", 1.25),
    ):
        yield Cap(name, x, _TOP + 4, width)
        x += width


def _function_row() -> Iterator[Cap]:
    yield Cap("ESC", 0, 0)
    for block in range(3):
        yield from _row([f"FK{n:02}" for n in range(4 * block + 1, 4 * block + 5)], 2 + 4.5 * block, 0)
    yield from _row(["PRSC", "SCLK", "PAUS"], 15.25, 0)


def _navigation() -> Iterator[Cap]:
    yield from _row(["INS", "HOME", "PGUP"], 15.25, _TOP)
    yield from _row(["DELE", "END", "PGDN"], 15.25, _TOP + 1)
    yield Cap("UP", 16.25, _TOP + 3)
    yield from _row(["LEFT", "DOWN", "RGHT"], 15.25, _TOP + 4)


def _number_pad() -> Iterator[Cap]:
    x = 18.5
    yield from _row(["NMLK", "KPDV", "KPMU", "KPSU"], x, _TOP)
    for row, names in enumerate((["KP7", "KP8", "KP9"], ["KP4", "KP5", "KP6"], ["KP1", "KP2", "KP3"])):
        yield from _row(names, x, _TOP + 1 + row)
    yield Cap("KPAD", x + 3, _TOP + 1, 1, 2)
    yield Cap("KPEN", x + 3, _TOP + 3, 1, 2)
    yield Cap("KP0", x, _TOP + 4, 2)
    yield Cap("KPDL", x + 2, _TOP + 4)


@lru_cache(maxsize=4)
def geometry(shape: Shape = "iso", pad: bool = True) -> Geometry:
    """The keys of one shape, with or without the number pad."""
    parts = [*_function_row(), *_letters(shape), *_bottom(), *_navigation()]
    if pad:
        parts += _number_pad()
    caps = {cap.key: cap for cap in parts}
    width = max(cap.x + cap.width for cap in parts)
    return Geometry(shape, caps, width, max(cap.y + cap.height for cap in parts))
