"""Who wins a key: each rule with an example, and laws that hold for any set of bindings."""

from __future__ import annotations

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.bindings import Binding, rule, standing, strength, working
from rimecrest.core.keys.chords import extends, parse_sequence
from rimecrest.core.keys.contexts import Context, Contexts
from rimecrest.core.keys.trie import KeyTrie, Step

CONTEXTS = Contexts(
    (
        Context(id="anywhere", name="Anywhere", within=None),
        Context(id="writing", name="When writing"),
        Context(id="cell", name="In a cell", within="writing", rank=1),
        Context(id="aside", name="In an aside", within="writing", rank=2),
    )
)


def bound(
    keys: str, run: str | None, context: str = "anywhere", level: int = 0, fixed: bool = False
) -> Binding:
    name = f"{level}:{context}:{keys}:{run}"
    return Binding(name, f"layer{level}", level, context, parse_sequence(keys), run, fixed=fixed)


def winner(*bindings: Binding, live: tuple[str, ...] = ("aside", "cell")) -> str | None:
    table = standing(bindings, CONTEXTS.live(live), CONTEXTS)
    found = table.get(parse_sequence("Ctrl+J"))
    return found.run if found else None


def test_the_higher_layer_wins() -> None:
    assert winner(bound("Ctrl+J", "low"), bound("Ctrl+J", "high", level=2)) == "high"


def test_the_narrower_context_wins_over_the_higher_layer() -> None:
    assert winner(bound("Ctrl+J", "wide", level=3), bound("Ctrl+J", "narrow", "writing")) == "narrow"


def test_of_two_contexts_live_at_once_the_declared_rank_decides() -> None:
    assert winner(bound("Ctrl+J", "cell", "cell", level=3), bound("Ctrl+J", "aside", "aside")) == "aside"


def test_a_fixed_layout_goes_before_everything() -> None:
    assert (
        winner(bound("Ctrl+J", "fixed", level=1, fixed=True), bound("Ctrl+J", "own", "aside", 3)) == "fixed"
    )


def test_a_context_that_is_not_live_takes_no_part() -> None:
    assert winner(bound("Ctrl+J", "wide"), bound("Ctrl+J", "narrow", "cell"), live=("writing",)) == "wide"


def test_nobody_wins_a_full_tie_and_what_lies_beneath_does_not_come_through() -> None:
    low, one, other = (
        bound("Ctrl+J", "low"),
        bound("Ctrl+J", "one", level=1),
        bound("Ctrl+J", "other", level=1),
    )
    ruling = rule([low, one, other], CONTEXTS)
    assert ruling.winners == ()
    assert ruling.displaced[low.id] in (one, other)


def test_two_bindings_of_one_target_are_no_tie() -> None:
    assert (
        winner(bound("Ctrl+J", "same"), Binding("x", "l", 0, "anywhere", parse_sequence("Ctrl+J"), "same"))
        == "same"
    )


def test_a_winner_displaces_what_it_begins_and_what_begins_it() -> None:
    short, long = bound("Ctrl+J", "short", level=1), bound("Ctrl+J, O", "long")
    assert rule([short, long], CONTEXTS).displaced == {long.id: short}
    short, long = bound("Ctrl+J", "short"), bound("Ctrl+J, O", "long", level=1)
    assert rule([short, long], CONTEXTS).displaced == {short.id: long}


def test_a_key_taken_away_runs_nothing_but_holds_its_place() -> None:
    assert winner(bound("Ctrl+J", "low"), bound("Ctrl+J", None, level=1)) is None
    assert working([bound("Ctrl+J", "low"), bound("Ctrl+J", None, level=1)], CONTEXTS) == []


def test_working_keys_are_those_that_win_where_they_are_bound() -> None:
    wide, narrow = bound("Ctrl+J", "wide"), bound("Ctrl+J", "narrow", "cell")
    beaten = bound("Ctrl+K", "beaten")
    better = bound("Ctrl+K", "better", level=1)
    assert {b.run for b in working([wide, narrow, beaten, better], CONTEXTS)} == {"wide", "narrow", "better"}


def test_contexts_in_a_circle_are_refused_with_a_sentence() -> None:
    with pytest.raises(RimecrestError, match="contain one another"):
        Contexts((Context(id="a", name="A", within="b"), Context(id="b", name="B", within="a")))
    with pytest.raises(RimecrestError, match="does not exist"):
        Contexts((Context(id="a", name="A", within="nowhere"),))


bindings = st.builds(
    bound,
    st.sampled_from(["Ctrl+J", "Ctrl+J, O", "Ctrl+J, O, P", "Ctrl+K", "F5"]),
    st.sampled_from(["a", "b", None]),
    st.sampled_from(["anywhere", "writing", "cell", "aside"]),
    st.integers(0, 3),
    st.booleans(),
)


@given(st.lists(bindings, max_size=9), st.randoms())
def test_the_order_in_which_bindings_are_given_does_not_matter(
    given_bindings: list[Binding], chance: random.Random
) -> None:
    unique = list({b.id: b for b in given_bindings}.values())
    shuffled = list(unique)
    chance.shuffle(shuffled)
    assert {(b.sequence, b.target) for b in rule(unique, CONTEXTS).winners} == {
        (b.sequence, b.target) for b in rule(shuffled, CONTEXTS).winners
    }


@given(st.lists(bindings, max_size=9))
def test_winners_never_begin_one_another_and_losers_lose_to_stronger_ones(
    given_bindings: list[Binding],
) -> None:
    ruling = rule({b.id: b for b in given_bindings}.values(), CONTEXTS)
    for one in ruling.winners:
        for other in ruling.winners:
            assert one is other or not extends(one.sequence, other.sequence)
    by_id = {b.id: b for b in given_bindings}
    for loser, by in ruling.displaced.items():
        assert strength(by, CONTEXTS) > strength(by_id[loser], CONTEXTS)


@given(st.lists(bindings, max_size=9))
def test_the_trie_runs_exactly_what_stands(given_bindings: list[Binding]) -> None:
    table = standing({b.id: b for b in given_bindings}.values(), CONTEXTS.live(["aside"]), CONTEXTS)
    trie = KeyTrie(table)
    for sequence, binding in table.items():
        assert trie.step(sequence) == (Step.RUNS, binding)
        for length in range(1, len(sequence)):
            assert trie.step(sequence[:length])[0] is Step.BEGINS
    assert trie.step(parse_sequence("Ctrl+Q"))[0] is Step.NOTHING


def test_the_trie_tells_what_can_follow_in_order() -> None:
    table = {parse_sequence(keys): bound(keys, keys) for keys in ("Ctrl+J, P", "Ctrl+J, A", "Ctrl+J, B, C")}
    following = KeyTrie(table).following(parse_sequence("Ctrl+J"))
    assert [chord.key for chord, _ in following] == ["A", "B", "P"]
    assert following[1][1] is None
