"""How wide a label is, without a window: the same answer on every machine and on the command line.

Advance widths are those of the Inter typeface (version 4, regular weight), written by
`tools/text_widths.py`. A character that is not in the table counts as 0.66 em.
"""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path

from rimecrest.core.catalogue.items import FaceKind

LABEL_SIZE = 12
"""Pixels of an item's label."""
CELL_HEIGHT = 28
"""Pixels of an item in a ribbon group; one that shows the picture only is a square of it."""
CELL_PICTURE = 16
CELL_LEAD = 10
"""Pixels before the picture: the mark of who placed the item stands in them."""
CELL_GAP = 7
"""Pixels between the picture and the words."""
CELL_TAIL = 8
CELL_MOST = 148
"""Pixels of a single-width item at most; a double one has twice that and the gap between."""
COLUMN_GAP = 4
SEPARATOR = 9
"""Pixels of a line between items, along their row."""
BAR_CELL = 34
"""Pixels of an item of a bar, across it; one that shows the picture only is a square of it."""
BAR_PICTURE = 20
BAR_DOUBLE = 152
"""Pixels of a double-width item of a bar with words at least."""
BAR_MARGIN, BAR_GAP = 4, 2
MORE = 22
"""Pixels of the » button."""
PAGE_MARGIN, GROUP_GAP, GROUP_SIDE = 6, 10, 4
"""Pixels beside a tab's groups, between two of them, and beside the items in one."""
TITLE_MOST = 260
"""Pixels of the name of a tab or group; a longer one ends in "…"."""
HEAD_ROOM = 27
"""Pixels of a group's head beside its name: the mark of whose it is, and the cut corner."""
_UNKNOWN = 0.66


@lru_cache(maxsize=1)
def _table() -> dict[str, float]:
    text = Path(__file__).with_name("inter_widths.json").read_text("utf-8")
    return {str(key): float(value) for key, value in json.loads(text).items()}


@lru_cache(maxsize=8192)
def text_width(text: str, size: float = LABEL_SIZE) -> float:
    """Pixels that a text takes on one line at a font size in pixels."""
    table = _table()
    return sum(table.get(character, _UNKNOWN) for character in text) * size


def cell_room(width: int, picture: bool) -> float:
    """Pixels for the words of an item that is `width` columns wide, beside its picture or alone."""
    whole = CELL_MOST * width + COLUMN_GAP * (width - 1)
    return whole - CELL_LEAD - CELL_TAIL - (CELL_PICTURE + CELL_GAP if picture else 0)


def cell_width(label: str, width: int, picture: bool) -> int:
    """Pixels of an item in a ribbon group, with its words."""
    beside = CELL_LEAD + CELL_TAIL + (CELL_PICTURE + CELL_GAP if picture else 0)
    return round(min(text_width(label), cell_room(width, picture))) + beside + 1


@lru_cache(maxsize=8192)
def fits(label: str, width: int, picture: bool) -> bool:
    """Whether the words of an item show whole in a ribbon group."""
    return text_width(label) <= cell_room(width, picture)


def bar_length(label: str, face: FaceKind, width: int, picture: bool) -> int:
    """Pixels of an item along a bar that lies."""
    if face == "picture" and picture:
        return BAR_CELL * width
    beside = BAR_PICTURE + 6 if face == "both" and picture else 0
    natural = max(round(text_width(label)) + 16 + beside, BAR_CELL)
    return natural if width == 1 else max(natural + BAR_CELL, BAR_DOUBLE)
