"""The free grid of a panel: where its things stand, snapping, lining up, equal gaps.

A place is (column, row, columns, rows), counted from the panel's upper left corner in cells of `CELL` pixels.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.layout.seen import ControlKind, SeenButton, SeenControl, SeenItem, SeenPanel

CELL = 8
"""Pixels of a cell, across and down."""
MARGIN = 8
"""Pixels of a panel beside and above its grid."""
SNAP = 1
"""Cells within which an edge takes the line of another thing's edge."""

Side = Literal["left", "right", "top", "bottom"]
Axis = Literal["across", "down"]


class Cells(Struct, frozen=True):
    """A place on the grid."""

    column: int
    row: int
    columns: int
    rows: int

    @property
    def right(self) -> int:
        """The first column behind it."""
        return self.column + self.columns

    @property
    def bottom(self) -> int:
        """The first row below it."""
        return self.row + self.rows

    def meets(self, other: Cells) -> bool:
        """Whether two places share a cell."""
        across = self.column < other.right and other.column < self.right
        return across and self.row < other.bottom and other.row < self.bottom

    def as_stored(self) -> list[int]:
        return [self.column, self.row, self.columns, self.rows]


def columns_of(panel: SeenPanel) -> int:
    """How many columns there are across a panel that stands at the left or right."""
    return max((panel.width - 2 * MARGIN) // CELL, 4)


def _rows_of(item: SeenItem) -> int:
    """How many rows a thing needs of which nobody has said where it stands."""
    if isinstance(item, SeenButton):
        return 4
    return _rows_of_control(item.kind) if isinstance(item, SeenControl) else 1


def _rows_of_control(kind: ControlKind) -> int:
    match kind:
        case "text" | "tick":
            return 3
        case "field" | "choice":
            return 6
        case "list":
            return 14


def places(panel: SeenPanel) -> dict[str, Cells]:
    """Identity → place of everything on a panel.

    What has none stands below the rest, in rows as a column has them: what is beside another shares its row.
    """
    found = {item.id: Cells(*item.at) for item in panel.items if item.at is not None}
    below = max((cells.bottom for cells in found.values()), default=0)
    rows: list[list[SeenItem]] = []
    for item in (item for item in panel.items if item.at is None):
        if item.beside and rows:
            rows[-1].append(item)
        else:
            rows.append([item])
    for row in rows:
        wide = max((columns_of(panel) - len(row) + 1) // len(row), 1)
        tall = max(map(_rows_of, row))
        for number, item in enumerate(row):
            size = _rows_of(item)
            found[item.id] = Cells(number * (wide + 1), below + tall - size, wide, size)
        below += tall + 1
    return {item.id: found[item.id] for item in panel.items}


def inside(cells: Cells, columns: int) -> Cells:
    """The place as near as it can be without leaving the panel at the left, the right or the top."""
    wide = min(cells.columns, columns)
    return replace(
        cells, column=max(0, min(cells.column, columns - wide)), row=max(0, cells.row), columns=wide
    )


class Snapped(Struct, frozen=True):
    """A place that snapped, with the lines that it snapped to: columns and rows."""

    cells: Cells
    columns: tuple[int, ...] = ()
    rows: tuple[int, ...] = ()


def snapped(moved: Cells, others: Iterable[Cells]) -> Snapped:
    """A place whose edges take the lines of other things' edges where they are near; else as it is.

    A gap as large as that between the two nearest things in the same column counts as a line as well.
    """
    others = list(others)
    columns = {edge for cells in others for edge in (cells.column, cells.right)}
    rows = {edge for cells in others for edge in (cells.row, cells.bottom)} | _equal_gap(moved, others)
    dx, at_column = _nearest((moved.column, moved.right), columns)
    dy, at_row = _nearest((moved.row, moved.bottom), rows)
    return Snapped(
        replace(moved, column=moved.column + dx, row=moved.row + dy),
        () if at_column is None else (at_column,),
        () if at_row is None else (at_row,),
    )


def _nearest(edges: Sequence[int], lines: Iterable[int]) -> tuple[int, int | None]:
    """How far to go to the line that is nearest to one of the edges, and the line; none that is near: 0."""
    ways = ((line - edge, line) for edge in edges for line in lines)
    by, line = min(ways, key=lambda way: (abs(way[0]), way), default=(SNAP + 1, 0))
    return (by, line) if abs(by) <= SNAP else (0, None)


def _equal_gap(moved: Cells, others: list[Cells]) -> set[int]:
    """The row below the lowest thing above, behind a gap like the one over that thing."""
    above = sorted(
        (c for c in others if c.bottom <= moved.row and c.column < moved.right and moved.column < c.right),
        key=lambda cells: cells.bottom,
    )
    if len(above) < 2:
        return set()
    return {above[-1].bottom + above[-1].row - above[-2].bottom}


def lined_up(chosen: Mapping[str, Cells], side: Side) -> dict[str, Cells]:
    """The things with one edge on one line: that of the one which stands farthest out on that side."""
    cells = chosen.values()
    match side:
        case "left":
            line = min(c.column for c in cells)
            return {name: replace(c, column=line) for name, c in chosen.items()}
        case "right":
            line = max(c.right for c in cells)
            return {name: replace(c, column=line - c.columns) for name, c in chosen.items()}
        case "top":
            line = min(c.row for c in cells)
            return {name: replace(c, row=line) for name, c in chosen.items()}
    line = max(c.bottom for c in cells)
    return {name: replace(c, row=line - c.rows) for name, c in chosen.items()}


def spread(chosen: Mapping[str, Cells], axis: Axis) -> dict[str, Cells]:
    """The things with equal gaps between the first and the last, which stay.

    Cells are whole: gaps differ by at most one, the larger ones first. Where there is no room they touch.
    """
    across = axis == "across"
    order = sorted(chosen, key=lambda name: _start(chosen[name], across))
    if len(order) < 3:
        return dict(chosen)
    sizes = [chosen[name].columns if across else chosen[name].rows for name in order]
    begin = _start(chosen[order[0]], across)
    end = _start(chosen[order[-1]], across) + sizes[-1]
    room = max(0, end - begin - sum(sizes))
    gap, more = divmod(room, len(order) - 1)
    made, at = {}, begin
    for index, (name, size) in enumerate(zip(order, sizes, strict=True)):
        made[name] = replace(chosen[name], column=at) if across else replace(chosen[name], row=at)
        at += size + gap + (1 if index < more else 0)
    return made


def _start(cells: Cells, across: bool) -> int:
    return cells.column if across else cells.row
