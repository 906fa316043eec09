"""Suggesting and arranging keys: laws of the cost, reasons that match the numbers, the best choice of all."""

from __future__ import annotations

import itertools
import re
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays
from msgspec.structs import replace

from rimecrest.core.check.kinds import Weight
from rimecrest.core.check.run import check
from rimecrest.core.effort.constants import DEFAULTS, Constants, constants_of
from rimecrest.core.effort.strokes import stroke
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.bed_state import BedView
from rimecrest.core.explain.given_key import holders_of
from rimecrest.core.keys.chords import Chord, extends, parse_chord, parse_sequence
from rimecrest.core.keys.keyboards.geometry import Hand
from rimecrest.core.keys.keyboards.national import known_keyboards
from rimecrest.core.keys.traits import Traits
from rimecrest.core.suggest.arrange import Beside, arrange, assign
from rimecrest.core.suggest.free_keys import Choice, free_keys, remembered, suggest
from rimecrest.core.workspace.edits import Bind, apply
from rimecrest.core.workspace.habits import Habits, UseCount
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.core.test_conflicts import key, north, org
from tests.core.test_key_rules import DESK, SHEETS, sheets
from tests.samples import CATALOGUE, SETTINGS

NOTHING = Beside(np.array([], int), np.array([], int), np.array([]))
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


def seconds(chord: str, board: str = "gb", constants: Constants = DEFAULTS) -> float:
    found = stroke(parse_chord(chord), board, constants)
    assert found is not None
    return found.seconds


def test_farther_keys_and_more_modifiers_take_longer() -> None:
    assert seconds("J") < seconds("U") < seconds("8")
    assert seconds("J") < seconds("Ctrl+J") < seconds("Ctrl+Shift+J") < seconds("Ctrl+Alt+Shift+J")
    assert seconds("J") == pytest.approx(DEFAULTS.press)


def test_fitts_law_is_as_published() -> None:
    """T = a + b·log2(D/W + 1): U lies √(0.25² + 1²) key widths from J."""
    far = (0.25**2 + 1) ** 0.5
    assert seconds("U") == pytest.approx(0.153 + 0.204 * np.log2(far + 1))


def test_the_hand_that_holds_the_modifiers_does_not_reach_unless_it_can_span() -> None:
    near = stroke(parse_chord("Ctrl+Q"), "gb", DEFAULTS)
    other = stroke(parse_chord("Ctrl+P"), "gb", DEFAULTS)
    assert near is not None
    assert other is not None
    assert other.hand is Hand.RIGHT
    assert not other.one_hand
    assert near.modifiers >= other.modifiers
    assert stroke(parse_chord("Alt+Super+Shift+Q"), "gb", DEFAULTS) is not None


def test_a_key_that_a_keyboard_lacks_has_no_stroke() -> None:
    assert stroke(parse_chord("Ctrl+["), "de", DEFAULTS) is None
    assert stroke(parse_chord("Ctrl+Ä"), "de", DEFAULTS) is not None


@settings(max_examples=60)
@given(
    st.sampled_from(known_keyboards()), st.sampled_from(LETTERS), st.sampled_from(["", "Ctrl+", "Alt+Shift+"])
)
def test_every_letter_can_be_pressed_on_every_keyboard(board: str, letter: str, held: str) -> None:
    found = stroke(parse_chord(held + letter), board, DEFAULTS)
    assert found is not None
    assert 0.15 < found.seconds < 3


def test_constants_can_be_set_by_name_and_only_those_that_exist() -> None:
    assert constants_of({"press": 0.2}).press == 0.2
    with pytest.raises(RimecrestError, match="the constant “pres”, which does not exist"):
        constants_of({"pres": 0.2})
    with pytest.raises(RimecrestError, match="cannot be -1"):
        constants_of({"held": -1})
    wrong = make_workspace(settings=SETTINGS.model_copy(update={"constants": {"pres": 0.2}}))
    said = [f.sentence for f in check(wrong).findings if f.kind == "unknown"]
    assert said[0].startswith("workspace.json sets the constant “pres”, which does not exist. There are: bit")
    assert suggest(wrong, "notes", "department.north", "Quick note")[0].keys == "Ctrl+Q"
    slow = SETTINGS.model_copy(update={"constants": {"held": 9.0}})
    plain = suggest(make_workspace(), "notes", "department.north", "Quick note")[0]
    behind = suggest(make_workspace(settings=slow), "notes", "department.north", "Quick note")[0]
    assert plain.keys == "Ctrl+Q"
    assert parse_sequence(behind.keys)[0].mods == ()


# Suggest

WORDS = st.sampled_from(["Quick note", "Line back", "Close the booking", "Ölfass", "7 days", "", "Über uns"])
BOUND = st.lists(
    st.builds(
        lambda letter, begin: key(f"{begin}{letter}", id=f"{begin}{letter}"),
        st.sampled_from(LETTERS), st.sampled_from(["Ctrl+", "Ctrl+J, ", "Ctrl+Shift+", "Alt+Shift+"]),
    ),
    max_size=30,
    unique_by=lambda bound: bound.keys,
)  # fmt: skip


@settings(max_examples=40)
@given(WORDS, BOUND)
def test_what_is_suggested_is_free_cheapest_first_and_blocks_nothing(words: str, keys: list[Any]) -> None:
    workspace = make_workspace([org(keys=tuple(keys))], people=DESK)
    found = suggest(workspace, "notes", "department.north", words)
    costs = [(one.memory <= 0, round(one.seconds, 9)) for one in found]
    assert costs == sorted(costs)
    before = {f.key for f in check(workspace).findings}
    for one in found:
        assert one.seconds == pytest.approx(one.reach + one.modifiers + one.slips - one.memory)
        for other in (*keys, *CATALOGUE.keys):
            a, b = parse_sequence(one.keys), parse_sequence(other.keys)
            assert not extends(a, b)
            assert not extends(b, a)
    if found:
        taken, _ = apply(workspace, Bind("department.north", "notes", key(found[0].keys, "notes:rule")))
        new = [f for f in check(taken).findings if f.key not in before]
        assert not [f for f in new if f.weight is not Weight.TELLS]


def test_the_same_question_has_the_same_answer() -> None:
    one = suggest(make_workspace(people=DESK), "notes", "department.north", "Quick note")
    assert one == suggest(make_workspace(people=DESK), "notes", "department.north", "Quick note")


def test_a_key_that_some_seat_cannot_press_is_not_offered() -> None:
    offered = suggest(make_workspace(people=DESK), "notes", "department.north", "L", count=1000)
    texts = {one.keys for one in offered}
    assert "Ctrl+Alt+L" not in texts
    assert "Ctrl+Shift+U" not in texts
    assert not any("[" in text for text in texts)
    remote = suggest(make_workspace(people=DESK), "notes", "department.south", "C", count=1000)
    assert "Ctrl+Alt+C" not in {one.keys for one in remote}


def test_reasons_say_what_the_numbers_say() -> None:
    habits = Habits(
        {("notes", target): UseCount("notes", target, 2000) for target in ("notes:bold", "notes:rule")}
    )
    workspace = replace(make_workspace(people=DESK), habits=habits)
    found = suggest(workspace, "notes", "department.north", "Line of the quay", "notes:rule", count=400)
    by_keys = {one.keys: one for one in found}
    for one in found:
        said = " · ".join(one.reasons)
        last = parse_sequence(one.keys)[-1]
        assert ("first letter of Line" in said) == (last.key == "L")
        assert ("first letter of quay" in said) == (last.key == "Q")
        assert ("no word to remember it by" in said) == (one.memory == 0)
        assert "of the" not in said.replace("first letter of the", "?")
        if (slips := re.search(r"about (\d+) slips? a month", said)) is not None:
            assert int(slips.group(1)) >= 1
            assert one.slips > 0
        if "under the" in said:
            assert one.reach < 0.5 + 0.5 * (len(parse_sequence(one.keys)) - 1)
    assert "beside Wipe" in " ".join(reason for one in found for reason in one.reasons)
    assert by_keys["Ctrl+Q"].memory == pytest.approx(DEFAULTS.other_letter)


def test_the_key_that_it_has_elsewhere_is_worth_most() -> None:
    workspace = replace(
        make_workspace([sheets("organisation", keys=(key("Ctrl+L", "sheets:size"),))]),
        catalogues={"notes": CATALOGUE, "sheets": SHEETS},
    )
    first = suggest(workspace, "notes", "organisation", "Size", "notes:size")[0]
    assert first.keys == "Ctrl+L"
    assert "the same key in Sheets" in first.reasons


def test_small_words_are_not_what_a_key_is_remembered_by() -> None:
    assert remembered("Close the booking") == ["Close", "booking"]
    assert remembered("At") == ["At"]
    assert remembered("") == []


def test_two_that_want_the_only_free_key_are_told_that_there_is_one() -> None:
    cost = np.zeros((2, 1))
    with pytest.raises(RimecrestError, match="1 free key cannot serve 2 things"):
        assign(cost, np.ones(2), np.zeros(2), NOTHING)


def test_when_every_key_is_taken_nothing_is_suggested() -> None:
    workspace = make_workspace([])
    every = suggest(workspace, "notes", "department.north", "X", count=10_000)
    full = tuple(key(one.keys, "notes:rule", "anywhere", id=str(n)) for n, one in enumerate(every[:-1]))
    nearly = make_workspace([org(keys=full)])
    assert free_keys(nearly, "notes", "department.north", "X", 5) == [every[-1].keys]
    both = make_workspace([org(keys=(*full, key(every[-1].keys, "notes:rule", "anywhere", id="last")))])
    assert free_keys(both, "notes", "department.north", "X", 5) == []


# Arrange


@settings(max_examples=60)
@given(arrays(float, st.tuples(st.integers(1, 4), st.integers(4, 6)), elements=st.floats(0, 100, width=16)))
def test_an_assignment_is_the_best_of_all_there_are(cost: Any) -> None:
    rows, columns = cost.shape
    _, total = assign(cost, np.ones(rows), np.zeros(rows), NOTHING)
    best = min(
        sum(cost[row, column] for row, column in enumerate(chosen))
        for chosen in itertools.permutations(range(columns), rows)
    )
    assert total == pytest.approx(best, abs=1e-6)


def test_a_dangerous_one_is_moved_away_from_a_much_used_one() -> None:
    # Two things, three keys in a row; alone the cheapest are the neighbours 0 and 1.
    cost = np.array([[0.0, 1.0, 9.0], [9.0, 0.0, 1.0]])
    uses, dangers = np.array([1000.0, 1.0]), np.array([0.0, 30.0])
    beside = Beside(np.array([0, 1, 1, 2]), np.array([1, 0, 2, 1]), np.full(4, 0.01))
    chosen, total = assign(cost, uses, dangers, beside)
    assert list(chosen) == [0, 2]
    assert total == pytest.approx(1.0)
    assert list(assign(cost, uses, np.zeros(2), beside)[0]) == [0, 1]


def office(people: tuple[Seat, ...] = DESK) -> Workspace:
    habits = Habits(
        {
            ("notes", target): UseCount("notes", target, uses)
            for target, uses in (("notes:rule", 900), ("notes:align", 20), ("notes:wipe", 60))
        }
    )
    keys = (
        key("Ctrl+Shift+5", "notes:rule"),
        key("Ctrl+J, F", "notes:align"),
        key("F9", "notes:wipe"),
        key("F7", None),
        key("F6", "notes:bold", on={"de": None}),
    )
    return replace(make_workspace([north(keys=keys)], people=people), habits=habits)


def test_an_arrangement_gains_keeps_pins_and_never_costs_more() -> None:
    found = arrange(office(), "notes", "department.north")
    moves = {move.name: move for move in found.moves}
    assert found.cost <= found.cost_now
    assert found.cost <= found.cost_in_order + 1e-9
    assert moves["Line across"].moves
    assert not moves["Bold"].moves
    assert moves["Bold"].pinned
    pinned = arrange(office(), "notes", "department.north", [moves["Line across"].identity])
    assert {m.name: m.after for m in pinned.moves}["Line across"] == "Ctrl+Shift+5"
    after, _ = apply(office(), found.edit("department.north", "notes"))
    keys = {bound.run: bound.keys for bound in after.layout("department.north", "notes").keys if bound.run}
    assert keys["notes:rule"] == moves["Line across"].after
    assert len(set(keys.values())) == len(keys)
    again = arrange(after, "notes", "department.north")
    assert not any(move.moves for move in again.moves)
    assert found == arrange(office(), "notes", "department.north")


def test_an_arrangement_blocks_nothing() -> None:
    workspace = office()
    found = arrange(workspace, "notes", "department.north")
    after, _ = apply(workspace, found.edit("department.north", "notes"))
    assert not [f for f in check(after).findings if f.weight is Weight.BLOCKS]


def test_there_is_nothing_to_arrange_without_keys() -> None:
    with pytest.raises(RimecrestError, match="no keys here to arrange"):
        arrange(make_workspace([]), "notes", "department.north")


# The bed


def bed(workspace: Workspace, board: str = "gb", context: str = "writing") -> BedView:
    outcome = workspace.outcome(workspace.stack_up_to("department.north"), "notes", Traits(board))
    seats = [seat.traits for seat in workspace.people if "north" in seat.departments]
    return BedView(workspace, check(workspace), "notes", "department.north", outcome, context, seats, board)


def test_the_bed_says_what_a_key_does_who_says_so_and_what_is_wrong() -> None:
    view = bed(make_workspace([north(keys=(key("Ctrl+P", "notes:bold", "anywhere"),))], people=DESK))
    caps = view.caps(["Ctrl"])
    assert (caps["AD10"].words, caps["AD10"].layer) == ("Bold", "department.north")
    assert caps["AD10"].weight is Weight.ASKS
    assert (caps["AC02"].words, caps["AC02"].layer) == ("Save", "built-in")
    assert caps["AC07"].opens == 1
    assert caps["AD11"].missing == ("Belgian", "German")
    assert view.caps(["Ctrl", "Alt"])["AC09"].taken == "Xfce"
    assert caps["AC01"].free
    assert not caps["LCTL"].keys


def test_what_is_behind_an_opener_and_what_is_said_of_it() -> None:
    view = bed(make_workspace(people=DESK))
    opener = parse_sequence("Ctrl+J")
    assert view.openers()[0] == opener
    assert view.caps((), opener)["AD04"].words == "Line across"
    said = [line.sentence for line in view.lines("Ctrl+J, R")]
    assert said[:2] == ["No desktop here takes it.", "All 3 keyboards can type it."]
    assert "Line across has it (built in, when writing)." in said
    assert view.lines("Ctrl+J")[2].sentence == "It opens 2 sequences."
    assert "It is free here." in [line.sentence for line in view.lines("Ctrl+K")]
    assert view.lines("Ctrl+S, A")[2].sentence == "Ctrl+S is Save already."
    assert view.lines("A")[2].sentence == "Alone it types text where one writes."


def test_what_is_settled_by_a_variant_is_not_told_again() -> None:
    bound = key("Ctrl+J, [", on={"de": "Ctrl+J, K"})
    view = bed(make_workspace([north(keys=(bound,))], people=DESK))
    assert view.caps((), parse_sequence("Ctrl+J"))["AD11"].missing == ("Belgian",)
    settled = key("Ctrl+J, [", on={"de": "Ctrl+J, K", "be": None})
    view = bed(make_workspace([north(keys=(settled,))], people=DESK))
    assert view.caps((), parse_sequence("Ctrl+J"))["AD11"].missing == ()
    assert view.lines("Ctrl+J, [")[1].sentence.startswith("Every keyboard has it, has another key")


def test_a_german_bed_has_german_caps() -> None:
    view = bed(make_workspace(people=DESK), "de")
    assert view.caps(["Ctrl"])["AC11"].keys == "Ctrl+Ä"
    assert view.key_of("Ctrl+Z") == "AD06"
    assert view.cap("AD06", ("Ctrl",)).legend == "Z"


def test_a_choice_without_anybody_is_for_a_british_keyboard() -> None:
    choice = Choice(make_workspace(people=()), "notes", "organisation")
    assert choice.boards == (("gb", 1.0),)
    assert Chord(("Ctrl",), "Q") in {sequence[0] for sequence in choice.bank.sequences}


def test_a_dangerous_target_costs_more_beside_what_is_pressed_often() -> None:
    """What is pressed beside it may hit it: keys with neighbours are dearer for it than for others."""
    keys = tuple(key(f"Ctrl+J, {letter}", id=letter) for letter in "WERTYASDFGHJKL")
    workspace = make_workspace([org(keys=keys)], people=DESK)

    def slips(run: str) -> dict[str, float]:
        found = suggest(workspace, "notes", "department.north", "Quick", run=run, count=1000)
        return {one.keys: one.slips for one in found if one.keys.startswith("Ctrl+J, ")}

    plain, wipe = slips("notes:rule"), slips("notes:wipe")
    beside = [text for text in plain if plain[text] > 0 and text in wipe]
    assert beside
    assert all(wipe[text] > 2 * plain[text] for text in beside)
    apart = [text for text in plain if plain[text] == 0 and text in wipe]
    assert all(wipe[text] == 0 for text in apart)


def test_what_is_moved_away_from_somebody_else_does_not_slip_onto_itself() -> None:
    """Its own uses must not keep a perilous, much used row from the free key beside its own."""
    cost = np.array([[1000.0, 0.0, 1.0], [0.0, 1000.0, 1000.0]])
    beside = Beside(np.array([0, 1, 1, 2]), np.array([1, 0, 2, 1]), np.full(4, 0.1))
    chosen, total = assign(cost, np.array([100.0, 5.0]), np.array([10.0, 0.0]), beside)
    assert list(chosen) == [2, 0]
    assert total == 1.0


def test_who_has_a_key_is_told_with_those_that_begin_it() -> None:
    workspace = make_workspace()
    names = [holder.name for holder in holders_of(workspace, "notes", "department.north", "Ctrl+J")]
    assert sorted(names) == ["Greeting", "Line across", "Wipe"]
    assert [o.name for o in holders_of(workspace, "notes", "department.north", "ctrl+s")] == ["Save"]
    assert holders_of(workspace, "notes", "department.north", "F11") == []
