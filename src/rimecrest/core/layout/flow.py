"""How the items of a ribbon group flow: two rows, filled column by column."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from msgspec import Struct

ROWS = 2


class Cell(Struct, frozen=True):
    """Where one item stands: its first column, its row, and how many columns it takes.

    A separator has a column of its own, all rows of it: its `span` is 0.
    """

    column: int
    row: int
    span: int


def flow(spans: Sequence[int]) -> list[Cell]:
    """The cells of items in their order, each the first that is free going down, then on.

    Args:
        spans: columns that each item takes; 0 for a separator.
    """
    return list(_flow(tuple(spans)))


@lru_cache(maxsize=4096)
def _flow(spans: tuple[int, ...]) -> tuple[Cell, ...]:
    # Groups of the same spans are many, and each is asked for at many widths.
    taken: set[tuple[int, int]] = set()
    begin = 0
    found = []
    for span in spans:
        if not span:
            column = max((c for c, _ in taken), default=begin - 1) + 1
            taken |= {(column, row) for row in range(ROWS)}
            begin = column + 1
            found.append(Cell(column, 0, 0))
            continue
        column, row = next_free(taken, begin, span)
        taken |= {(column + more, row) for more in range(span)}
        found.append(Cell(column, row, span))
    return tuple(found)


def next_free(taken: set[tuple[int, int]], begin: int, span: int) -> tuple[int, int]:
    """The first column and row, from a column on, where an item of that span has room."""
    column = begin
    while True:
        for row in range(ROWS):
            if not any((column + more, row) in taken for more in range(span)):
                return column, row
        column += 1


def behind(cells: Sequence[Cell]) -> tuple[int, int]:
    """Where one more single item would stand."""
    taken: set[tuple[int, int]] = set()
    begin = 0
    for cell in cells:
        if cell.span:
            taken |= {(cell.column + more, cell.row) for more in range(cell.span)}
        else:
            taken |= {(cell.column, row) for row in range(ROWS)}
            begin = cell.column + 1
    return next_free(taken, begin, 1)


def column_widths(cells: Sequence[Cell], widths: Sequence[int], gap: int) -> list[int]:
    """Pixels of each column: as wide as the widest item in it; an item of two columns widens the second.

    Args:
        widths: pixels of each item, or of the line of a separator.
        gap: pixels between two columns.
    """
    count = max((cell.column + max(cell.span, 1) for cell in cells), default=0)
    found = [0] * count
    for cell, width in zip(cells, widths, strict=True):
        if cell.span < 2:
            found[cell.column] = max(found[cell.column], width)
    for cell, width in zip(cells, widths, strict=True):
        if cell.span > 1:
            last = cell.column + cell.span - 1
            have = sum(found[cell.column : last + 1]) + gap * (cell.span - 1)
            found[last] += max(0, width - have)
    return found
