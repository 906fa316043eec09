"""Which items stay when there is not room for all."""

from __future__ import annotations

from collections.abc import Sequence


def staying(lengths: Sequence[int], collapse: Sequence[int], room: int, more: int) -> set[int]:
    """Indices of the items that stay visible.

    Args:
        lengths: pixels of each item along the bar.
        collapse: what has more stays longer; among equals the last goes first.
        room: pixels there are.
        more: pixels of the » button, needed as soon as one item goes.
    """
    total = sum(lengths)
    if total <= room:
        return set(range(len(lengths)))
    left = set(range(len(lengths)))
    for index in sorted(left, key=lambda index: (collapse[index], -index)):
        left.discard(index)
        total -= lengths[index]
        if total + more <= room:
            break
    return left
