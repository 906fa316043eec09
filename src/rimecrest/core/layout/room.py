"""What there is no room for at a window width, worked out without a window.

Widths of words are those of `widths`; the heads of groups are taken a little wider than their letters, as
they are bold. Upright bars are left out: how tall a window is nobody says.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial

from rimecrest.core.layout.fitting import fit_groups, staying
from rimecrest.core.layout.flow import column_widths, flow
from rimecrest.core.layout.seen import (
    Outcome,
    SeenButton,
    SeenGroup,
    SeenItem,
    SeenRow,
    SeenTab,
    SeenToolbar,
)
from rimecrest.core.layout.widths import (
    BAR_GAP,
    BAR_MARGIN,
    CELL_HEIGHT,
    COLUMN_GAP,
    GROUP_GAP,
    GROUP_SIDE,
    HEAD_ROOM,
    MORE,
    PAGE_MARGIN,
    SEPARATOR,
    TITLE_MOST,
    bar_length,
    cell_width,
    text_width,
)
from rimecrest.core.remembered import Remembered

_BOLD = 1.07
"""How much wider a bold word is."""
FOLDED = 36
"""Pixels of a folded group beside its name."""


_FOLDING: Remembered[list[SeenGroup]] = Remembered(1_000)
"""Tab and width → the groups that fold."""


def unseen_at(outcome: Outcome, width: int) -> Iterator[tuple[SeenRow, list[SeenButton]]]:
    """Each bar and group with those of its items that show only when something is opened.

    Args:
        width: pixels of the window.
    """
    for line in _lines(outcome.toolbars):
        lost = _lost_of(line, width)
        for bar in line:
            here = [item for item in bar.buttons() if item.id in lost]
            if here:
                yield bar, here
    for tab in outcome.tabs:
        for group in _FOLDING.of((tab,), (width,), partial(_folding, tab, width)):
            yield group, list(group.buttons())


def _lines(bars: Sequence[SeenToolbar]) -> list[list[SeenToolbar]]:
    """The lying bars, those that share a line together."""
    lines: list[list[SeenToolbar]] = []
    for bar in bars:
        if bar.edge not in ("top", "bottom"):
            continue
        shares = lines and bar.row is not None and lines[-1][-1].row == bar.row
        if shares and lines[-1][-1].edge == bar.edge:
            lines[-1].append(bar)
        else:
            lines.append([bar])
    return lines


def _length(item: SeenItem) -> int:
    if isinstance(item, SeenButton):
        return bar_length(item.label, item.face, item.width, bool(item.picture)) + BAR_GAP
    return SEPARATOR + BAR_GAP


def _lost_of(line: Sequence[SeenToolbar], width: int) -> set[str]:
    """What does not fit on a line: each bar has what it needs but the last, which has what is left."""
    room, lost = width, set[str]()
    for bar in line:
        lengths = [_length(item) for item in bar.items]
        ranks = [item.collapse if isinstance(item, SeenButton) else 0 for item in bar.items]
        left = staying(lengths, ranks, room - 2 * BAR_MARGIN, MORE)
        lost |= {item.id for index, item in enumerate(bar.items) if index not in left}
        room = max(0, room - sum(lengths) - 2 * BAR_MARGIN)
    return lost


def _folding(tab: SeenTab, width: int) -> list[SeenGroup]:
    """The groups of a tab that fold into a button."""
    gaps = GROUP_GAP * max(len(tab.groups) - 1, 0)
    room = width - 2 * PAGE_MARGIN - 2 - gaps
    ranks = [
        [
            item.collapse if isinstance(item, SeenButton) and item.face == "both" and item.picture else None
            for item in group.items
        ]
        for group in tab.groups
    ]
    measured = [_Measured(group) for group in tab.groups]
    folded = [each.head + FOLDED for each in measured]
    _, folds = fit_groups(ranks, lambda n, bare: measured[n].width(bare), folded, room)
    return [tab.groups[index] for index in sorted(folds)]


def _head(group: SeenGroup) -> float:
    return min(text_width(group.title) * _BOLD, TITLE_MOST)


class _Measured:
    """A group, measured once: how wide it is, is asked for with ever fewer words."""

    def __init__(self, group: SeenGroup) -> None:
        self._cells = flow([item.width if isinstance(item, SeenButton) else 0 for item in group.items])
        self._wide = [(_cell(item, False), _cell(item, True)) for item in group.items]
        self.head = round(_head(group))

    def width(self, bare: frozenset[int]) -> int:
        """Pixels, where the items at some places show no words."""
        widths = [pair[place in bare] for place, pair in enumerate(self._wide)]
        columns = column_widths(self._cells, widths, COLUMN_GAP)
        inner = sum(columns) + COLUMN_GAP * max(len(columns) - 1, 0)
        return max(inner, self.head + HEAD_ROOM, CELL_HEIGHT) + 2 * GROUP_SIDE


def _cell(item: SeenItem, bare: bool) -> int:
    if not isinstance(item, SeenButton):
        return SEPARATOR
    picture = item.face != "words" and bool(item.picture)
    if bare or (picture and item.face == "picture"):
        return CELL_HEIGHT * (1 if bare else item.width)
    return cell_width(item.label, item.width, picture)
