"""Where the seats of each department lie on the seat map: packed and grown, or counts that open.

No Qt in here. Boxes are in pixels from the upper left corner of the map. While all seats fit the space at a
size that can be read, each is a hexagon there; some hundreds that do not fit are scrolled. Of more than that
each department is a count, and one that is opened shows its seats under its count, over the whole width.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from msgspec import Struct

LARGEST, SMALLEST = 104, 26
"""Widths of a hexagon: the largest that still looks like a map, the smallest that can be told and clicked."""
ROOMY = 36
"""Width of a hexagon where there is room to scroll."""
FEW = 600
"""Seats that still show one by one where they do not fit: a few turns of the wheel go over all of them."""
CAPTION = 44
"""Height of a department's title and numbers over its hexagons."""
COUNT_WIDTH, COUNT_HEIGHT = 266, 92
GAP = 14
"""Between counts, and around what is open."""
BESIDE, BELOW = 36.0, 22.0
"""Between departments whose seats all show."""


class Box(NamedTuple):
    """A place on the map, in pixels."""

    x: float
    y: float
    width: float
    height: float


class Packing(Struct, frozen=True):
    """Boxes by department: its caption or count, and its seats (none where it is a closed count)."""

    heads: tuple[Box, ...]
    seats: tuple[tuple[Box, ...], ...]
    height: float
    counted: bool
    """Whether departments are counts that open."""


def pack(numbers: Sequence[int], width: int, height: int, opened: Sequence[bool]) -> Packing:
    """Lay departments of so many seats into a space; `opened` says which show theirs where all do not fit."""
    sizes = range(LARGEST, SMALLEST - 1, -2)
    size = next((size for size in sizes if _beside_one_another(numbers, width, size)[1] <= height), None)
    if size is None and sum(numbers) > FEW:
        return _counted(numbers, width, opened)
    heads, below = _beside_one_another(numbers, width, size or ROOMY)
    combs = (
        _comb(number, _across(number), size or ROOMY, head.x, head.y + CAPTION)
        for number, head in zip(numbers, heads, strict=True)
    )
    return Packing(tuple(heads), tuple(combs), below, counted=False)


def _across(number: int) -> int:
    """How many seats of a department stand in a row: a comb half as wide again as it is high."""
    return max(3, math.ceil(math.sqrt(number * 1.5)))


def _beside_one_another(numbers: Sequence[int], width: int, size: int) -> tuple[list[Box], float]:
    """Where the captions stand when all seats show at a size, and where the last comb ends."""
    heads: list[Box] = []
    x, y, line = 0.0, 0.0, 0.0
    for number in numbers:
        across = _across(number)
        wide = max(size * (across + 0.5), 150.0)
        if x and x + wide > width:
            x, y, line = 0.0, y + line + BELOW, 0.0
        heads.append(Box(x, y, wide, CAPTION))
        x += wide + BESIDE
        line = max(line, CAPTION + _tall(size) * (0.75 * (math.ceil(number / across) - 1) + 1))
    return heads, y + line


def _tall(size: int) -> float:
    return size * 2 / math.sqrt(3)


def _counted(numbers: Sequence[int], width: int, opened: Sequence[bool]) -> Packing:
    columns = max(1, int((width + GAP) // (COUNT_WIDTH + GAP)))
    heads: list[Box] = []
    seats: list[tuple[Box, ...]] = []
    column, y = 0, 0.0
    for number, is_open in zip(numbers, opened, strict=True):
        if column == columns or (column and is_open):
            column, y = 0, y + COUNT_HEIGHT + GAP
        comb: tuple[Box, ...] = ()
        if is_open:
            heads.append(Box(0.0, y, float(width), COUNT_HEIGHT))
            across = max(1, int(width / ROOMY - 0.5))
            comb = _comb(number, across, ROOMY, 0.0, y + COUNT_HEIGHT + GAP)
            y = (comb[-1].y + comb[-1].height if comb else y + COUNT_HEIGHT) + GAP
        else:
            heads.append(Box(column * (COUNT_WIDTH + GAP), y, COUNT_WIDTH, COUNT_HEIGHT))
            column += 1
        seats.append(comb)
    below = y + COUNT_HEIGHT if column else y
    return Packing(tuple(heads), tuple(seats), below, counted=True)


def _comb(number: int, across: int, size: int, x: float, y: float) -> tuple[Box, ...]:
    tall = _tall(size)
    found = []
    for index in range(number):
        row, column = divmod(index, across)
        left, top = x + (column + 0.5 * (row % 2)) * size, y + row * tall * 0.75
        found.append(Box(float(round(left)), float(round(top)), float(size), float(round(tall))))
    return tuple(found)
