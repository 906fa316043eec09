"""The way between two places of a sheet, and what Grid says in its lines."""

from __future__ import annotations

import pytest

from rimecrest_standins.grid.place import Place, way_on_sheet
from rimecrest_standins.grid.words import filter_words, total_words

LAST = (199, 19)


def block(row: int, column: int, top: int, left: int, bottom: int, right: int) -> Place:
    return Place("Week", row, column, top, left, bottom, right)


CELL, BLOCK = Place.on("Week", 2, 1), block(2, 1, 2, 1, 4, 3)


@pytest.mark.parametrize(
    ("before", "after", "way"),
    [
        (CELL, CELL, []),
        (CELL, Place.on("Week", 4, 0), [("move-by", {"down": "2", "right": "-1"})]),
        # The cursor stays, and what was chosen is let go.
        (BLOCK, CELL, [("move-by", {})]),
        (CELL, BLOCK, [("select-block", {"down": "2", "right": "2"})]),
        # The cursor may stand at any corner.
        (Place.on("Week", 4, 3), block(4, 3, 2, 1, 4, 3), [("select-block", {"down": "-2", "right": "-2"})]),
        (CELL, block(2, 1, 2, 0, 2, LAST[1]), [("select-row", {})]),
        (CELL, block(2, 1, 2, 0, 5, LAST[1]), [("select-rows", {"down": "3"})]),
        (CELL, block(2, 1, 0, 1, LAST[0], 1), [("select-column", {})]),
    ],
)
def test_the_way_is_told_in_commands(before: Place, after: Place, way: list[object]) -> None:
    assert way_on_sheet(before, after, after.row - before.row, LAST) == way


def test_rows_that_are_out_of_sight_are_not_counted() -> None:
    assert way_on_sheet(CELL, Place.on("Week", 9, 1), 1, LAST) == [("move-by", {"down": "1"})]


def test_a_column_without_a_heading_is_called_by_its_letters() -> None:
    assert filter_words("Vessel", 1, "Ovessa", 3) == "Only Vessel = “Ovessa”: 3 rows hidden"
    assert filter_words("", 1, "Ovessa", 1) == "Only column B = “Ovessa”: 1 row hidden"


def test_the_total_says_of_how_many_numbers_it_is() -> None:
    assert total_words([1.5, 2.0]) == "Sum 3.5 · 2 numbers"
    assert total_words([]) == ""
