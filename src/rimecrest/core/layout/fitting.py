"""What stays whole when there is not room for all."""

from __future__ import annotations

from collections.abc import Callable, Sequence


def staying(lengths: Sequence[int], collapse: Sequence[int], room: int, more: int) -> set[int]:
    """Indices of the items of a bar that stay visible.

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


def fit_groups(
    collapse: Sequence[Sequence[int | None]],
    width: Callable[[int, frozenset[int]], int],
    folded: Sequence[int],
    room: int,
) -> tuple[list[frozenset[int]], set[int]]:
    """How the groups of a ribbon tab are made to fit.

    First the words of single items go, then a group folds into one button with its name.

    Args:
        collapse: for each group the rank of each of its items: what has more stays longer; None for what has
            no words that could go.
        width: pixels of a group whose items at some places show no words.
        folded: pixels of each group as one button.
        room: pixels there are for all groups together.

    Returns:
        For each group the places whose words go, and the groups that fold.
    """
    bare: list[frozenset[int]] = [frozenset() for _ in collapse]
    widths = [width(group, frozenset()) for group in range(len(collapse))]
    going = [
        (rank, -group, -place)
        for group, ranks in enumerate(collapse)
        for place, rank in enumerate(ranks)
        if rank is not None
    ]
    total = sum(widths)
    for _, group, place in sorted(going):
        if total <= room:
            break
        bare[-group] |= {-place}
        total -= widths[-group]
        widths[-group] = width(-group, bare[-group])
        total += widths[-group]
    folds: set[int] = set()
    last = [max((rank for rank in ranks if rank is not None), default=0) for ranks in collapse]
    for group in sorted(range(len(collapse)), key=lambda group: (last[group], -group)):
        if sum(widths) <= room:
            break
        if folded[group] < widths[group]:
            folds.add(group)
            widths[group] = folded[group]
    return bare, folds
