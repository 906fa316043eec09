"""The caret among slots, without any window; and that every word of the look can be read."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtGui import QColor

from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import DARK, LIGHT, Scheme
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.shared.edit_target import EditTarget, TargetHistory, first_target, seat_for
from rimecrest.surfaces.insertion_points import InsertionPoint


def slots(**surfaces: str) -> list[InsertionPoint]:
    """Slots of upright carets, ten pixels apart, one row a surface; `*` is the place of a new group."""
    made = []
    for row, (surface, items) in enumerate(surfaces.items()):
        after: str | None = None
        for column, item in enumerate(["", *items.split()]):
            box = QRect(column * 10, row * 100, 2, 30)
            if item == "*":
                made.append(InsertionPoint(surface, after, box, new_group=True))
                continue
            after = f"{surface}.{item}" if item else None
            made.append(InsertionPoint(surface, after, box))
    return made


@pytest.fixture
def caret() -> Caret:
    made = Caret()
    made.use(slots(a="1 2 3", b="1", c=""))
    return made


def test_it_begins_nowhere_and_the_first_step_puts_it_at_the_first_slot(caret: Caret) -> None:
    assert caret.slot() is None
    caret.step(1)
    assert caret.at == ("a", None, False, False)


def test_steps_go_over_the_ends_of_surfaces_and_stop_at_the_last(caret: Caret) -> None:
    for _ in range(20):
        caret.step(1)
    assert caret.at == ("c", None, False, False)
    for _ in range(20):
        caret.step(-1)
    assert caret.at == ("a", None, False, False)


def test_it_selects_to_an_end_of_its_surface_and_no_further(caret: Caret) -> None:
    caret.put(caret.slots[1])
    caret.to_end(True, selecting=True)
    assert (caret.selected, caret.at) == (["a.2", "a.3"], ("a", "a.3", False, False))
    caret.put(caret.slots[2])
    caret.to_end(False, selecting=True)
    assert (caret.selected, caret.at) == (["a.1", "a.2"], ("a", None, False, False))
    caret.to_end(False, selecting=True)
    assert caret.selected == ["a.1", "a.2"]


def test_the_items_before_and_behind(caret: Caret) -> None:
    caret.put(caret.slots[1])
    assert (caret.before(), caret.behind()) == ("a.1", "a.2")
    caret.put(caret.slots[3])
    assert (caret.before(), caret.behind()) == ("a.3", None)
    caret.put(caret.slots[-1])
    assert (caret.before(), caret.behind()) == (None, None)


def test_selecting_takes_items_up_and_lets_them_go_again(caret: Caret) -> None:
    caret.put(caret.slots[0])
    caret.step(1, selecting=True)
    caret.step(1, selecting=True)
    assert caret.selected == ["a.1", "a.2"]
    caret.step(-1, selecting=True)
    assert caret.selected == ["a.1"]
    caret.step(1)
    assert caret.selected == []


def test_selecting_backwards_keeps_the_order_and_stays_on_its_surface(caret: Caret) -> None:
    caret.put(caret.slots[3])
    for _ in range(6):
        caret.step(-1, selecting=True)
    assert caret.selected == ["a.1", "a.2", "a.3"]
    assert caret.at == ("a", None, False, False)


def test_on_a_panel_each_press_selects_one_more_past_the_gaps_in_rows(caret: Caret) -> None:
    caret.use([gap for slot in slots(a="1 2 3") for gap in (replace(slot, beside=True), slot)])
    caret.put(caret.slots[-1])
    for selected in (["a.3"], ["a.2", "a.3"], ["a.1", "a.2", "a.3"]):
        caret.step(-1, selecting=True)
        assert caret.selected == selected
    for selected in (["a.2", "a.3"], ["a.3"], []):
        caret.step(1, selecting=True)
        assert caret.selected == selected


def test_what_is_chosen_is_the_selection_or_the_item_before(caret: Caret) -> None:
    caret.put(caret.slots[2])
    assert caret.chosen() == ["a.2"]
    caret.select("a", "a.1")
    caret.select("a", "a.3", more=True)
    assert caret.chosen() == ["a.1", "a.3"]
    caret.select("a", "a.1", more=True)
    assert caret.chosen() == ["a.3"]


def test_jumping_and_ends(caret: Caret) -> None:
    caret.put(caret.slots[1])
    caret.to_end(last=True)
    assert caret.before() == "a.3"
    caret.jump(1)
    assert caret.at == ("b", None, False, False)
    caret.jump(-1)
    caret.jump(-1)
    assert caret.at == ("c", None, False, False)


def test_places_for_new_groups_have_no_item(caret: Caret) -> None:
    caret.use(slots(tab="*", a="1"))
    caret.put(caret.slots[1])
    assert caret.slots[1].new_group
    assert caret.chosen() == []
    caret.step(1, selecting=True)
    assert caret.selected == []


def test_the_nearest_slot_and_its_distance(caret: Caret) -> None:
    assert caret.nearest(QPoint(21, 15)) == caret.slots[2]
    assert caret.nearest(QPoint(21, 160)) is not None
    assert caret.nearest(QPoint(500, 500), within=6) is None
    assert Caret().nearest(QPoint(0, 0)) is None


@given(st.lists(st.integers(-3, 3), max_size=8), st.integers(0, 4), st.integers(0, 4))
def test_whatever_is_drawn_next_the_caret_is_on_a_slot_that_exists(
    steps: list[int], before: int, after: int
) -> None:
    caret = Caret()
    caret.use(slots(a=" ".join(map(str, range(before))), b="1"))
    for step in steps:
        caret.step(step, selecting=step % 2 == 0)
    caret.use(slots(a=" ".join(map(str, range(after)))))
    assert caret.at is None or caret.slot() is not None
    assert set(caret.selected) <= {slot.after for slot in caret.slots}


# The aim


def test_a_workspace_opens_at_the_layer_that_places_most(workspace: Workspace) -> None:
    aim = first_target(workspace)
    assert (aim.layer, aim.app, aim.width) == ("department.north", "notes", 1024)
    assert aim.seat == "North 1"


def test_a_seat_with_as_little_else_as_possible_shows_a_layer(workspace: Workspace) -> None:
    assert seat_for(workspace, "department.south") == "South 1"
    assert seat_for(workspace, "department.west") == ""


def test_a_layer_that_the_seat_does_not_have_is_drawn_above_everyones(workspace: Workspace) -> None:
    aim = EditTarget("department.south", "notes", "North 1", 1024)
    assert aim.stack(workspace) == ("organisation", "department.south")


def test_aims_go_back_and_forth_and_a_new_one_forgets_the_rest() -> None:
    history = TargetHistory()
    aims = [EditTarget(name, "notes", "", 1024) for name in "abc"]
    for aim in aims:
        history.visit(aim)
    assert history.step(-1)
    assert history.step(-1)
    assert not history.step(-1)
    assert history.now == aims[0]
    history.visit(aims[2])
    assert not history.step(1)


# The look


def luminance(color: QColor) -> float:
    """Relative luminance as WCAG 2.2 defines it."""

    def linear(part: float) -> float:
        return part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4

    red, green, blue = (linear(part) for part in (color.redF(), color.greenF(), color.blueF()))
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(scheme: Scheme, one: str, other: str) -> float:
    light, dark = sorted((luminance(scheme.color(one)), luminance(scheme.color(other))), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("scheme", [LIGHT, DARK], ids=lambda scheme: scheme.name)
@pytest.mark.parametrize("ground", ["paper", "sheet", "hover", "spine"])
@pytest.mark.parametrize("words", ["ink", "ink2", "crest", "asks", "blocks"])
def test_every_word_stands_out_from_its_ground(scheme: Scheme, ground: str, words: str) -> None:
    assert contrast(scheme, words, ground) >= 4.5


@pytest.mark.parametrize("scheme", [LIGHT, DARK], ids=lambda scheme: scheme.name)
@pytest.mark.parametrize("fill", ["crest", "asks", "blocks", "tells"])
def test_signs_stand_out_from_their_marks_and_outlines_from_the_sheet(scheme: Scheme, fill: str) -> None:
    assert contrast(scheme, "on_crest", fill) >= 4.5
    assert contrast(scheme, "faint", "sheet") >= 3
    assert contrast(scheme, fill, "sheet") >= 3


def test_where_its_surface_is_gone_there_is_no_caret(caret: Caret) -> None:
    caret.put(caret.slots[-1])
    caret.use(slots(a="1 2 3", b="1"))
    assert caret.slot() is None
    assert caret.before() is None
    assert caret.chosen() == []
