"""The free grid of a panel: places, snapping, lining up, equal gaps."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.layout.panel_grid import (
    Cells,
    columns_of,
    inside,
    lined_up,
    places,
    snapped,
    spread,
)
from rimecrest.core.layout.seen import SeenPanel
from rimecrest.core.workspace.edits import PutPanel
from rimecrest.core.workspace.workspace import Workspace

NORTH = "department.north"


def seen(workspace: Workspace, *items: dict[str, Any], width: int = 240) -> SeenPanel:
    held = {"id": "lanes", "title": "Lanes", "width": width, "flow": "grid", "items": list(items)}
    after = PutPanel(NORTH, "notes", Panel.model_validate(held)).on(workspace)
    row = after.outcome((NORTH,), "notes").row(f"{NORTH}:lanes")
    assert isinstance(row, SeenPanel)
    return row


def named(panel: SeenPanel) -> dict[str, Cells]:
    return {name.rpartition(":")[2]: cells for name, cells in places(panel).items()}


def test_what_has_no_place_stands_below_the_rest_in_rows(workspace: Workspace) -> None:
    panel = seen(
        workspace,
        {"id": "a", "field": "A", "at": [2, 3, 10, 6]},
        {"id": "b", "field": "B"},
        {"id": "c", "run": "notes:bold", "beside": True},
        {"id": "d", "tick": "D"},
    )
    assert columns_of(panel) == 28
    found = named(panel)
    assert found["a"] == Cells(2, 3, 10, 6)
    assert (found["b"].row, found["b"].bottom, found["c"].bottom) == (9, 15, 15)
    assert found["b"].right < found["c"].column
    assert found["c"].right <= columns_of(panel)
    assert found["d"] == Cells(0, 16, 28, 3)


def test_nothing_leaves_the_panel() -> None:
    assert inside(Cells(-3, -1, 5, 2), 28) == Cells(0, 0, 5, 2)
    assert inside(Cells(26, 4, 5, 2), 28) == Cells(23, 4, 5, 2)
    assert inside(Cells(3, 4, 50, 2), 28) == Cells(0, 4, 28, 2)


def test_an_edge_that_is_near_takes_the_line_of_another_and_one_that_is_far_does_not() -> None:
    others = [Cells(4, 0, 10, 4)]
    found = snapped(Cells(5, 8, 6, 4), others)
    assert (found.cells, found.columns, found.rows) == (Cells(4, 8, 6, 4), (4,), ())
    found = snapped(Cells(9, 5, 6, 4), others)
    assert (found.cells, found.columns, found.rows) == (Cells(8, 4, 6, 4), (14,), (4,))
    far = Cells(20, 20, 2, 2)
    assert snapped(far, others).cells == far


def test_a_gap_like_the_one_above_is_a_line() -> None:
    above = [Cells(0, 0, 10, 4), Cells(0, 7, 10, 4)]
    assert snapped(Cells(0, 13, 10, 4), above).cells.row == 14
    assert snapped(Cells(0, 17, 10, 4), above).cells.row == 17


CHOSEN = {"a": Cells(0, 0, 4, 2), "b": Cells(7, 1, 6, 3), "c": Cells(20, 5, 2, 1)}


@pytest.mark.parametrize(
    ("side", "edges"),
    [("left", {0}), ("right", {22}), ("top", {0}), ("bottom", {6})],
)
def test_lined_up_one_edge_is_the_same_and_sizes_stay(side: Any, edges: set[int]) -> None:
    made = lined_up(CHOSEN, side)
    edge = {"left": "column", "right": "right", "top": "row", "bottom": "bottom"}[side]
    assert {getattr(cells, edge) for cells in made.values()} == edges
    for name, cells in made.items():
        assert (cells.columns, cells.rows) == (CHOSEN[name].columns, CHOSEN[name].rows)


Sizes = list[tuple[int, int]]
sizes = st.lists(st.tuples(st.integers(0, 40), st.integers(1, 8)), min_size=3, max_size=7)


@given(sizes)
def test_spread_makes_gaps_that_differ_by_one_at_most_and_keeps_the_ends(
    given_: list[tuple[int, int]],
) -> None:
    chosen = {str(number): Cells(at, 0, wide, 2) for number, (at, wide) in enumerate(given_)}
    made = sorted(spread(chosen, "across").values(), key=lambda cells: cells.column)
    before = sorted(chosen.values(), key=lambda cells: cells.column)
    assert made[0].column == before[0].column
    gaps = [after.column - one.right for one, after in pairwise(made)]
    assert min(gaps) >= 0
    assert max(gaps) - min(gaps) <= 1
    if before[-1].right - before[0].column >= sum(cells.columns for cells in before):
        assert made[-1].right == before[-1].right


def test_two_things_have_no_gaps_to_spread() -> None:
    two = {"a": Cells(0, 0, 4, 2), "b": Cells(9, 9, 1, 1)}
    assert spread(two, "across") == two
    assert spread(CHOSEN, "down")["b"].row == 2
