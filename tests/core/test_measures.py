"""Where things stand, to the pixel and the cell: flow of a group, lengths, what stays, a panel's grid."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from rimecrest.core.layout.fitting import fit_groups, staying
from rimecrest.core.layout.flow import Cell, behind, column_widths, flow, next_free
from rimecrest.core.layout.panel_grid import Cells, columns_of, places, snapped
from rimecrest.core.layout.seen import SeenPanel
from rimecrest.core.layout.widths import bar_length, cell_room, cell_width, fits, text_width
from rimecrest.core.workspace.workspace import Workspace
from tests.core.test_approved import everything


def cells(*spans: int) -> list[tuple[int, int, int]]:
    return [(cell.column, cell.row, cell.span) for cell in flow(spans)]


def test_items_fill_two_rows_column_by_column() -> None:
    assert cells(1, 1, 1) == [(0, 0, 1), (0, 1, 1), (1, 0, 1)]
    assert cells(2, 1, 1, 1) == [(0, 0, 2), (0, 1, 1), (1, 1, 1), (2, 0, 1)]
    assert cells(1, 2, 2, 1) == [(0, 0, 1), (0, 1, 2), (1, 0, 2), (2, 1, 1)]
    assert cells() == []


def test_a_line_between_items_has_a_column_of_its_own() -> None:
    assert cells(1, 0, 1) == [(0, 0, 1), (1, 0, 0), (2, 0, 1)]
    assert cells(0, 1, 0, 0, 2) == [(0, 0, 0), (1, 0, 1), (2, 0, 0), (3, 0, 0), (4, 0, 2)]
    assert cells(2, 1, 0, 1) == [(0, 0, 2), (0, 1, 1), (2, 0, 0), (3, 0, 1)]


def test_the_next_free_place_is_the_first_going_down() -> None:
    assert next_free(set(), 0, 1) == (0, 0)
    assert next_free({(0, 0)}, 0, 1) == (0, 1)
    assert next_free({(0, 0), (0, 1)}, 0, 1) == (1, 0)
    assert next_free({(0, 0), (1, 1)}, 0, 2) == (1, 0)
    assert next_free({(1, 0), (0, 1)}, 0, 2) == (1, 1)
    assert next_free({(0, 0), (0, 1), (1, 0), (1, 1), (2, 0), (2, 1)}, 0, 1) == (3, 0)
    assert next_free(set(), 4, 2) == (4, 0)


def test_behind_the_last_item_is_where_one_more_would_stand() -> None:
    assert behind(flow([1])) == (0, 1)
    assert behind(flow([1, 1])) == (1, 0)
    assert behind(flow([2])) == (0, 1)
    assert behind(flow([1, 0])) == (2, 0)
    assert behind([]) == (0, 0)


def test_a_column_is_as_wide_as_its_widest_and_a_double_item_widens_the_second() -> None:
    assert column_widths(flow([1, 1, 1]), [30, 50, 20], 4) == [50, 20]
    assert column_widths([Cell(0, 0, 2), Cell(0, 1, 1), Cell(1, 1, 1)], [100, 30, 40], 4) == [30, 66]
    assert column_widths([Cell(0, 0, 2), Cell(0, 1, 1), Cell(1, 1, 1)], [60, 30, 40], 4) == [30, 40]
    assert column_widths([Cell(0, 0, 0), Cell(1, 0, 1)], [9, 20], 4) == [9, 20]
    assert column_widths([], [], 4) == []


WORD = round(text_width("Timetable"))


@pytest.mark.parametrize(
    ("face", "width", "picture", "pixels"),
    [
        ("picture", 1, True, 34),
        ("picture", 2, True, 68),
        ("picture", 1, False, WORD + 16),
        ("words", 1, True, WORD + 16),
        ("both", 1, True, WORD + 16 + 26),
        ("both", 1, False, WORD + 16),
        ("both", 2, True, 152),
        ("words", 2, False, 152),
    ],
)
def test_how_long_an_item_is_along_a_bar(face: str, width: int, picture: bool, pixels: int) -> None:
    assert bar_length("Timetable", face, width, picture) == pixels  # type: ignore[arg-type]


def test_a_short_word_is_a_square_and_a_long_double_one_has_room_for_both() -> None:
    assert bar_length("I", "words", 1, False) == 34
    long = "A timetable of the whole season"
    assert bar_length(long, "words", 2, False) == bar_length(long, "words", 1, False) + 34


def test_the_room_for_words_in_a_group() -> None:
    assert cell_room(1, False) == 148 - 18
    assert cell_room(1, True) == 148 - 18 - 23
    assert cell_room(2, True) == 2 * 148 + 4 - 18 - 23
    assert cell_width("Timetable", 1, True) == WORD + 18 + 23 + 1
    assert cell_width("W" * 100, 1, True) == 148 + 1
    assert fits("Timetable", 1, True)
    assert not fits("W" * 100, 2, False)
    assert text_width("ii", 24) == 4 * text_width("i")
    assert text_width("\U0001f6a2") == pytest.approx(0.66 * 12)


def test_what_stays_on_a_bar() -> None:
    assert staying([30, 30, 30], [0, 0, 0], 90, 20) == {0, 1, 2}
    assert staying([30, 30, 30], [0, 0, 0], 89, 20) == {0, 1}
    assert staying([30, 30, 30], [0, 0, 0], 80, 20) == {0, 1}
    assert staying([30, 30, 30], [0, 0, 0], 79, 20) == {0}
    assert staying([30, 30, 30], [0, 2, 1], 79, 20) == {1}
    assert staying([30], [0], 10, 20) == set()
    assert staying([], [], 0, 20) == set()


def widths(group: int, bare: frozenset[int]) -> int:
    return 100 - 30 * len(bare) + 10 * group


def test_words_go_before_groups_fold_and_the_lower_ranks_first() -> None:
    ranks = [[0, 1, None], [0]]
    assert fit_groups(ranks, widths, [40, 40], 210) == ([frozenset(), frozenset()], set())
    # The later of equals goes first.
    assert fit_groups(ranks, widths, [40, 40], 209) == ([frozenset(), frozenset({0})], set())
    assert fit_groups(ranks, widths, [40, 40], 179) == ([frozenset({0}), frozenset({0})], set())
    assert fit_groups(ranks, widths, [40, 40], 149) == ([frozenset({0, 1}), frozenset({0})], set())
    # The group whose last words are least folds first.
    assert fit_groups(ranks, widths, [40, 40], 119) == ([frozenset({0, 1}), frozenset({0})], {1})
    assert fit_groups(ranks, widths, [40, 40], 79) == ([frozenset({0, 1}), frozenset({0})], {1})
    assert fit_groups(ranks, widths, [39, 39], 78) == ([frozenset({0, 1}), frozenset({0})], {0, 1})
    # What would be wider folded stays.
    assert fit_groups([[None]], widths, [200], 10) == ([frozenset()], set())


def lanes() -> SeenPanel:
    workspace: Workspace = everything()
    return workspace.outcome(("organisation",), "notes").panels[0]


def test_things_without_a_place_stand_below_those_with_one() -> None:
    panel = lanes()
    assert columns_of(panel) == (300 - 16) // 8
    assert columns_of(replace(panel, width=40)) == 4
    standing = {name.split(":")[1]: place.as_stored() for name, place in places(panel).items()}
    assert standing == {
        "words": [0, 13, 35, 3],
        "field": [0, 17, 35, 6],
        "choice": [0, 24, 35, 6],
        "list": [0, 4, 12, 8],
        "tick": [0, 31, 35, 3],
        "untick": [0, 35, 35, 3],
        "line": [0, 12, 12, 1],
        "go": [0, 39, 35, 4],
        "own": [0, 44, 35, 4],
    }


def test_what_is_beside_another_shares_its_row_and_stands_on_its_foot() -> None:
    panel = lanes()
    items = [item for item in panel.items if item.id.split(":")[1] in ("field", "tick", "go")]
    two = replace(panel, items=(items[0], replace(items[1], beside=True), replace(items[2], beside=True)))
    assert [place.as_stored() for place in places(two).values()] == [
        [0, 0, 11, 6],
        [12, 3, 11, 3],
        [24, 2, 11, 4],
    ]
    first = replace(panel, items=(replace(items[1], beside=True),))
    assert [place.as_stored() for place in places(first).values()] == [[0, 0, 35, 3]]
    assert places(replace(panel, items=())) == {}


def test_an_edge_snaps_to_the_nearest_line_only() -> None:
    other = Cells(10, 10, 6, 4)
    assert snapped(Cells(11, 30, 3, 2), [other]).cells == Cells(10, 30, 3, 2)
    assert snapped(Cells(12, 30, 3, 2), [other]).cells == Cells(13, 30, 3, 2)
    assert snapped(Cells(30, 30, 3, 2), [other]).columns == ()
    assert snapped(Cells(30, 30, 3, 2), []).cells == Cells(30, 30, 3, 2)
    found = snapped(Cells(11, 15, 3, 2), [other])
    assert (found.cells, found.columns, found.rows) == (Cells(10, 14, 3, 2), (10,), (14,))


def test_an_equal_gap_is_a_line_only_in_the_same_column() -> None:
    above = [Cells(0, 0, 6, 4), Cells(0, 6, 6, 4)]
    assert snapped(Cells(0, 13, 6, 2), above).cells.row == 12
    assert snapped(Cells(20, 13, 6, 2), above).cells.row == 13
    assert snapped(Cells(6, 13, 6, 2), above).cells.row == 13
    assert snapped(Cells(0, 13, 6, 2), above[:1]).cells.row == 13
