"""The index of claims, the audience, and the chain of an item: what the rules and *Why?* stand on."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from rimecrest.core.catalogue.items import Button
from rimecrest.core.check.audience import Audience
from rimecrest.core.check.index import KeyIndex, beginnings
from rimecrest.core.check.run import check
from rimecrest.core.check.table import EstateView
from rimecrest.core.explain.standpoint import seat_standpoint
from rimecrest.core.explain.why import why, why_item
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import Change, Layout
from rimecrest.core.words import counted, listed
from rimecrest.core.workspace.habits import Habits, OwnKey
from tests.conftest import make_workspace
from tests.core.test_conflicts import bar, key, north, org, south
from tests.core.test_key_rules import DESK
from tests.samples import CATALOGUE, PEOPLE


def index_of(layout: Layout, traits: tuple[Traits, ...] = (Traits("gb"), Traits("de"))) -> KeyIndex:
    made = KeyIndex(EstateView(make_workspace(people=DESK)).aliases, traits, {"notes:bold": "bold"})
    made.add_own(CATALOGUE)
    made.add_layer(1, layout, layout.keys)
    return made


def test_a_binding_with_variants_has_a_claim_on_each_sequence() -> None:
    made = index_of(org(keys=(key("F9", on={"de": "F10"}),)))
    assert [claim.traits for claim in made.claims("F9")] == [frozenset({Traits("gb")})]
    assert [claim.traits for claim in made.claims("F10")] == [frozenset({Traits("de")})]
    assert made.first_text(made.claims("F9")[0]) == "F10"


def test_who_goes_without_has_no_claim() -> None:
    made = index_of(org(keys=(key("F9", on={"de": None, "gb": None}),)))
    assert "F9" not in made.buckets


def test_near_are_beginnings_extensions_and_the_same_stroke() -> None:
    made = index_of(org(keys=(key("Ctrl+J"), key("Ctrl+J, Q"), key("Ctrl+&"), key("Ctrl+1"))))
    assert set(made.near("Ctrl+J")) == {"Ctrl+J, R", "Ctrl+J, Q"}
    assert set(made.near("Ctrl+J, Q")) == {"Ctrl+J"}
    assert "Ctrl+1" in set(made.near("Ctrl+&"))
    assert "Ctrl+&" in set(made.near("Ctrl+1"))
    assert beginnings("Ctrl+J, A, B") == ("Ctrl+J", "Ctrl+J, A")


def test_a_change_touches_its_sequences_and_leaves_the_old_index_alone() -> None:
    before = org(keys=(key("F8"), key("F9", "macro:x")))
    made = index_of(before)
    after = before.model_copy(update={"keys": (before.keys[0], key("F10", "notes:rule"))})
    changed, texts = made.changed(1, before, after)
    assert texts == {"F9", "F10"}
    assert changed.claims("F9") == []
    assert changed.buckets["F8"] is made.buckets["F8"]
    assert [claim.run for claim in made.claims("F9")] == ["macro:x"]
    assert "F10" not in made.buckets
    assert "F10" in changed.special
    assert "F10" not in made.special


def test_a_longer_sequence_that_comes_is_near_in_the_new_index_alone() -> None:
    before = org(keys=(key("Ctrl+J"), key("Ctrl+J, Q")))
    made = index_of(before)
    old = set(made.near("Ctrl+J"))
    after = before.model_copy(update={"keys": (*before.keys, key("Ctrl+J, X"))})
    changed, _ = made.changed(1, before, after)
    assert set(changed.near("Ctrl+J")) == old | {"Ctrl+J, X"}
    assert set(made.near("Ctrl+J")) == old


def test_a_layout_that_is_gone_is_checked_no_more() -> None:
    above = north(keys=(key("F9", "notes:rule"), key("F9", "notes:gone-for-good", "anywhere")))
    both = make_workspace([org(keys=(key("F9"),)), above])
    found = check(both)
    alone = replace(
        both, layouts={key: layout for key, layout in both.layouts.items() if layout is not above}
    )
    again = check(alone, found)
    assert len(again.findings) < len(found.findings)
    assert again.findings == check(alone).findings
    assert check(both, again).findings == found.findings


def test_another_policy_concerns_every_key_of_the_layer() -> None:
    before = org(keys=(key("F8"), key("F9")))
    after = before.model_copy(update={"policy": "fixed"})
    changed, texts = index_of(before).changed(1, before, after)
    assert texts == {"F8", "F9"}
    assert all(claim.fixed for text in texts for claim in changed.claims(text))


def test_the_audience_knows_who_has_what_together() -> None:
    audience = Audience(make_workspace())
    both = frozenset(("department.north", "department.south"))
    assert audience.seats(both) == ("Both 1",)
    assert audience.seats(both, frozenset({Traits("gb")})) is None
    assert audience.keyboards_of("department.north") == {"de": 1, "gb": 1, "no": 1}
    assert audience.keyboards == {"gb": 2, "de": 1, "no": 1}
    assert set(audience.seats_of_any(both)) == {seat.seat for seat in PEOPLE}
    assert Audience(make_workspace(people=PEOPLE[:1])).meets("department.south") == frozenset()


def test_what_is_clear_on_every_seat_has_no_obstacle_on_any() -> None:
    profiles = tuple(sorted(seat.traits for seat in DESK))
    obstacles = Obstacles({}, profiles)
    from rimecrest.core.keys.chords import parse_sequence

    for text in ("Ctrl+J, Q", "Ctrl+[", "Ctrl+Alt+L", "Ctrl+Alt+C", "A", "F9", "Insert", "Ctrl+J, KP_5"):
        sequence = parse_sequence(text)
        each = [(traits, o) for traits in profiles for o in obstacles.of(sequence, traits, True)]
        assert obstacles.among(sequence, True) == each, text


def test_the_chain_of_an_item_says_who_put_changed_or_hid_it() -> None:
    layouts = [
        org(toolbars=bar(Button(id="x", run="macro:greeting", tip="t"))),
        north(change=(Change(of="organisation:x", set={"label": "Hello"}),), hide=("app:item-save",)),
        south(toolbars=bar(Button(id="gone", run="macro:nothing", tip="t"))),
    ]
    workspace = make_workspace(layouts)
    at = seat_standpoint(workspace, PEOPLE[0], "notes")
    said = [link.sentence for link in why_item(at, "organisation:x")]
    assert said[1:3] == ["“Hello” stands on Bar, put there by Everyone.", "Changed by North."]
    assert why_item(at, "app:item-save")[-1].sentence == "North has taken it off."
    assert why_item(at, "department.south:gone")[-1].sentence == "No layer of this seat puts it anywhere."
    both = seat_standpoint(workspace, PEOPLE[3], "notes")
    assert not why_item(both, "department.south:gone")[-1].ok


@pytest.mark.parametrize(
    ("seat", "keys", "name", "says"),
    [
        (DESK[1], "Ctrl+Alt+L", "desktop", "Xfce takes Ctrl+Alt+L first"),
        (DESK[1], "Ctrl+[", "keyboard", "No key of the German keyboard gives [ by itself."),
        (DESK[3], "Ctrl+Alt+C", "session", "sends AltGr as Ctrl+Alt, so Ctrl+Alt+C types ¢"),
        (DESK[3], "Ctrl+Alt+F1", "desktop", "changes to a text console"),
    ],
)
def test_what_takes_a_key_on_its_way_is_the_answer(seat: object, keys: str, name: str, says: str) -> None:
    workspace = make_workspace([org(keys=(key(keys),))], people=DESK)
    links = why(seat_standpoint(workspace, seat, "notes"), keys)  # type: ignore[arg-type]
    assert (links[-1].name, links[-1].ok) == (name, False)
    assert says in links[-1].sentence
    assert links[-1].way_out


def test_a_colleagues_own_key_goes_before() -> None:
    habits = Habits(own_keys=(OwnKey("A", "notes", "F9", "notes:rule", "writing"),))
    workspace = replace(make_workspace([org(keys=(key("F9"),))], people=DESK), habits=habits)
    last = why(seat_standpoint(workspace, DESK[0], "notes"), "F9")[-1]
    assert (last.name, last.ok) == ("personal", False)
    assert why(seat_standpoint(workspace, DESK[1], "notes"), "F9")[-1].name == "winner"


def test_lists_and_numbers_in_words() -> None:
    assert listed(["A"]) == "A"
    assert listed(["A", "B", "A"]) == "A and B"
    assert listed("ABCDE") == "A, B, C and 2 more"
    assert (counted(1, "seat"), counted(1200, "seat")) == ("1 seat", "1,200 seats")
