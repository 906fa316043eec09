"""Where the cursor stands in a workbook, and the way from one place to another in commands."""

from __future__ import annotations

from msgspec import Struct

from rimecrest.kit.documents.document import Move


class Place(Struct, frozen=True):
    """The cursor's sheet and cell, and the block that is chosen, edges included; rows and columns from 0.

    While something is being written: `at` is the cursor in it, in characters, `reach` how many are chosen
    from there (below 0: before it); -1 and 0 else.
    """

    sheet: str
    row: int
    column: int
    top: int
    left: int
    bottom: int
    right: int
    at: int = -1
    reach: int = 0

    @staticmethod
    def on(sheet: str, row: int, column: int) -> Place:
        return Place(sheet, row, column, row, column, row, column)

    @property
    def is_block(self) -> bool:
        return (self.top, self.left) != (self.bottom, self.right)


def way_on_sheet(before: Place, after: Place, steps_down: int, last: tuple[int, int]) -> list[Move]:
    """The commands that lead from one place to another of the same sheet, relative to where it began.

    Args:
        steps_down: from one row to the other, among the rows that are seen.
        last: the last row and column that are shown: one that reaches them is of whole columns or rows.
    """
    found: list[Move] = []
    # The cursor may stand at any corner of a block; the block goes on from there.
    down = after.bottom - after.top if after.row == after.top else after.top - after.bottom
    right = after.right - after.left if after.column == after.left else after.left - after.right
    if (after.row, after.column) != (before.row, before.column) or (before.is_block and not after.is_block):
        found.append(("move-by", _steps(steps_down, after.column - before.column)))
    if after.is_block:
        if (after.left, after.right) == (0, last[1]):
            found.append(("select-row", {}) if after.top == after.bottom else
                         ("select-rows", {"down": str(down)}))  # fmt: skip
        elif (after.top, after.bottom) == (0, last[0]) and after.left == after.right:
            found.append(("select-column", {}))
        else:
            found.append(("select-block", _steps(down, right)))
    return found


def _steps(down: int, right: int) -> dict[str, str]:
    return {name: str(count) for name, count in (("down", down), ("right", right)) if count}
