"""How wide a label is, without a window: the same answer on every machine and on the command line.

Advance widths are those of the Inter typeface (version 4, regular weight), written by
`tools/text_widths.py`. A character that is not in the table counts as 0.66 em.
"""

from __future__ import annotations

import json
from functools import lru_cache
from importlib import resources

LABEL_SIZE = 12
"""Pixels of an item's label."""
CELL_WIDTH = 76
"""Pixels of a single-width cell in a ribbon tab; a double one has two."""
CELL_PADDING = 6
"""Pixels left free at each side of a cell."""
MOST_LINES = 2
_UNKNOWN = 0.66


@lru_cache(maxsize=1)
def _table() -> dict[str, float]:
    text = resources.files("rimecrest.core.layout").joinpath("inter_widths.json").read_text("utf-8")
    return {str(key): float(value) for key, value in json.loads(text).items()}


@lru_cache(maxsize=8192)
def text_width(text: str, size: float = LABEL_SIZE) -> float:
    """Pixels that a text takes on one line at a font size in pixels."""
    table = _table()
    return sum(table.get(character, _UNKNOWN) for character in text) * size


def cell_room(width: int) -> float:
    """Pixels for the words of an item that is `width` cells wide."""
    return CELL_WIDTH * width - 2 * CELL_PADDING


def wrap(label: str, room: float, size: float = LABEL_SIZE) -> list[str]:
    """The lines of a label, broken at blanks; a word wider than the room has a line of its own."""
    lines: list[str] = []
    for word in label.split():
        if lines and text_width(f"{lines[-1]} {word}", size) <= room:
            lines[-1] = f"{lines[-1]} {word}"
        else:
            lines.append(word)
    return lines or [""]


def fits(label: str, width: int) -> bool:
    """Whether a label shows whole in a cell of a ribbon tab."""
    room = cell_room(width)
    lines = wrap(label, room)
    return len(lines) <= MOST_LINES and all(text_width(line) <= room for line in lines)
