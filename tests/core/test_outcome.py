"""What a colleague sees when layers are laid over one another."""

from __future__ import annotations

from typing import Any

import pytest

from rimecrest.core.catalogue.items import Button, Item
from rimecrest.core.catalogue.surfaces import Group, Tab, Toolbar
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.compare import compare, whats_new
from rimecrest.core.layout.faces import Face, Targets
from rimecrest.core.layout.layout import Change, Insertion, KeyBinding, Layout, Move, PlacedInTab
from rimecrest.core.layout.order import AnchoredOrder
from rimecrest.core.layout.outcome import outcome
from rimecrest.core.layout.seen import Outcome
from tests.samples import CATALOGUE

TARGETS = Targets(CATALOGUE, {"greeting": Face("Greeting", "Writes a greeting", "set:hand")})


def layer(name: str = "organisation", **fields: Any) -> Layout:
    return Layout.model_validate({"app": "notes", "layer": name, **fields})


def see(*layouts: Layout, keyboard: str = "") -> Outcome:
    return outcome(CATALOGUE, layouts, TARGETS, Traits(keyboard))


def row(seen: Outcome, surface: str) -> list[str]:
    return next([item.id for item in row.items] for row in seen.rows() if row.id == surface)


def put(name: str, run: str = "notes:wipe") -> Item:
    return Button(id=name, run=run)


def test_without_layers_the_application_is_as_it_comes() -> None:
    seen = see()
    assert row(seen, "app:main") == ["app:item-save", "app:rule-1", "app:item-bold"]
    assert [tab.title for tab in seen.tabs] == ["One", "Two"]
    assert all(binding.level == 0 for binding in seen.bindings)
    assert seen.lost == ()


def test_an_item_stands_after_its_neighbour_whatever_its_index() -> None:
    seen = see(layer(insert=(Insertion(into="app:main", after="app:item-save", items=(put("mine"),)),)))
    assert row(seen, "app:main") == ["app:item-save", "organisation:mine", "app:rule-1", "app:item-bold"]


def test_without_an_anchor_it_stands_first() -> None:
    seen = see(layer(insert=(Insertion(into="app:main", items=(put("mine"),)),)))
    assert row(seen, "app:main")[0] == "organisation:mine"


def test_several_after_one_neighbour_stand_in_layer_order_then_file_order() -> None:
    seen = see(
        layer(insert=(Insertion(into="app:main", after="app:item-save", items=(put("a"), put("b"))),)),
        layer(
            "department.north", insert=(Insertion(into="app:main", after="app:item-save", items=(put("c"),)),)
        ),
    )
    assert row(seen, "app:main")[:4] == [
        "app:item-save",
        "organisation:a",
        "organisation:b",
        "department.north:c",
    ]


def test_a_higher_layer_can_stand_between_two_of_a_lower_one() -> None:
    seen = see(
        layer(insert=(Insertion(into="app:main", after="app:item-save", items=(put("a"), put("b"))),)),
        layer(
            "department.north",
            insert=(Insertion(into="app:main", after="organisation:a", items=(put("c"),)),),
        ),
    )
    assert row(seen, "app:main")[1:4] == ["organisation:a", "department.north:c", "organisation:b"]


def test_a_lost_anchor_puts_the_thing_at_the_end_and_says_so() -> None:
    seen = see(layer(insert=(Insertion(into="app:main", after="app:item-gone", items=(put("mine"),)),)))
    assert row(seen, "app:main")[-1] == "organisation:mine"
    assert "app:item-gone, which is gone" in seen.lost[0]


def test_hidden_things_remain_anchors() -> None:
    seen = see(
        layer(
            hide=("app:item-save",),
            insert=(Insertion(into="app:main", after="app:item-save", items=(put("mine"),)),),
        )
    )
    assert row(seen, "app:main") == ["organisation:mine", "app:rule-1", "app:item-bold"]
    assert seen.hidden == {"app:item-save": "organisation"}
    assert seen.lost == ()


def test_what_stood_after_a_moved_item_stays_where_it_was() -> None:
    seen = see(
        layer(insert=(Insertion(into="app:main", after="app:item-save", items=(put("mine"),)),)),
        layer("department.north", move=(Move(of="app:item-save", into="app:main", after="app:item-bold"),)),
    )
    assert row(seen, "app:main") == ["organisation:mine", "app:rule-1", "app:item-bold", "app:item-save"]


def test_an_item_moves_to_another_surface_and_keeps_its_identity() -> None:
    seen = see(layer(move=(Move(of="app:item-align", into="app:main", after=None),)))
    assert row(seen, "app:main")[0] == "app:item-align"
    assert "app:item-align" not in row(seen, "app:group-a")
    assert seen.item("app:item-align").changed_by == ("organisation",)


def test_two_that_follow_each_other_do_not_chase_in_a_circle() -> None:
    moves = (
        Move(of="app:item-save", into="app:main", after="app:item-bold"),
        Move(of="app:item-bold", into="app:main", after="app:item-save"),
    )
    assert sorted(row(see(layer(move=moves)), "app:main")) == ["app:item-bold", "app:item-save", "app:rule-1"]


def test_a_change_overrides_some_fields_and_says_who_did() -> None:
    seen = see(layer(change=(Change(of="app:item-save", set={"label": "Keep", "face": "both"}),)))
    item = seen.item("app:item-save")
    assert (item.label, item.face, item.tip) == ("Keep", "both", "Save it")
    assert item.changed_by == ("organisation",)


def test_another_target_brings_its_own_words() -> None:
    seen = see(layer(change=(Change(of="app:item-save", set={"run": "notes:print"}),)))
    assert seen.item("app:item-save").label == "Print"


def test_titles_and_edges_of_surfaces_can_be_changed() -> None:
    seen = see(
        layer(
            change=(
                Change(of="app:main", set={"title": "Mine", "edge": "right"}),
                Change(of="app:tab-one", set={"title": "First"}),
            )
        )
    )
    assert (seen.toolbars[0].title, seen.toolbars[0].edge) == ("Mine", "right")
    assert seen.tabs[0].title == "First"


def test_new_tabs_groups_and_bars_stand_after_their_anchors() -> None:
    seen = see(
        layer(
            tabs=(Tab(id="new", title="New", after="app:tab-one"),),
            groups=(
                PlacedInTab(id="g", title="G", into="app:tab-one", after="app:group-a", items=(put("x"),)),
            ),
            toolbars=(Toolbar(id="bar", title="Bar", edge="top"),),
        )
    )
    assert [tab.id for tab in seen.tabs] == ["app:tab-one", "organisation:new", "app:tab-two"]
    assert [group.id for group in seen.tabs[0].groups] == ["app:group-a", "organisation:g", "app:group-b"]
    assert seen.toolbars[0].id == "organisation:bar"


def test_a_group_for_a_tab_that_is_gone_is_told() -> None:
    seen = see(layer(groups=(PlacedInTab(id="g", title="G", into="app:tab-none", items=(put("x"),)),)))
    assert "has no tab" in seen.lost[0]


def test_hidden_tabs_groups_and_bars_do_not_show() -> None:
    seen = see(layer(hide=("app:tab-two", "app:group-a", "app:main")))
    assert [tab.id for tab in seen.tabs] == ["app:tab-one"]
    assert [group.id for group in seen.tabs[0].groups] == ["app:group-b"]
    assert seen.toolbars == ()


def test_a_target_that_does_not_exist_shows_as_such() -> None:
    seen = see(layer(insert=(Insertion(into="app:main", items=(put("x", "macro:nothing"),)),)))
    assert not seen.item("organisation:x").exists


def test_a_variant_counts_on_its_keyboard_only() -> None:
    key = KeyBinding(keys="Ctrl+J, Q", run="notes:wipe", on={"de": "Ctrl+J, W", "no": None})
    keys = {
        board: [b.sequence for b in see(layer(keys=(key,)), keyboard=board).bindings if b.level]
        for board in ("gb", "de", "no")
    }
    assert len(keys["gb"]) == len(keys["de"]) == 1
    assert keys["gb"] != keys["de"]
    assert keys["no"] == []


def test_an_accepted_spelling_is_stored_in_its_one_form() -> None:
    key = KeyBinding.model_validate(
        {"keys": "shift+ctrl+k", "in": "writing", "run": "notes:bold", "on": {"de": "f9"}}
    )
    assert key.keys == "Ctrl+Shift+K"
    assert key.on == {"de": "F9"}
    with pytest.raises(ValueError, match="is no key"):
        KeyBinding(keys="Ctrl+Nix", run="notes:bold")


def test_a_comparison_tells_new_gone_moved_renamed_and_keys() -> None:
    before = see(
        layer(
            insert=(
                Insertion(
                    into="app:main",
                    items=(put("x"), put("z")),
                ),
            )
        )
    )
    after = see(
        layer(
            insert=(Insertion(into="app:main", items=(put("x"), put("y", "notes:save"))),),
            move=(Move(of="app:item-align", into="app:main", after=None),),
            change=(Change(of="app:item-print", set={"label": "Paper"}),),
            keys=(KeyBinding(keys="F9", run="notes:wipe"),),
        )
    )
    found = {difference.kind: difference.sentence for difference in compare(before, after, TARGETS)}
    assert set(found) == {"new", "gone", "moved", "changed", "key"}
    assert found["new"] == "“Save” is on the bar Main."
    assert found["changed"] == "“Print” is called “Paper” now."
    assert found["key"] == "F9 is for “Wipe” now."


def test_equal_outcomes_have_no_difference_and_no_news() -> None:
    assert compare(see(), see(), TARGETS) == []
    assert whats_new([]) == ""


def test_a_long_list_of_news_is_shortened_with_a_count() -> None:
    items = tuple(put(f"x{number}") for number in range(6))
    news = compare(see(), see(layer(insert=(Insertion(into="app:main", items=items),))), TARGETS)
    assert whats_new(news).endswith("And 3 more changes.")


def test_a_thousand_things_chained_one_after_the_other_keep_their_order() -> None:
    order: AnchoredOrder[str] = AnchoredOrder()
    order.append("0", "0")
    for number in range(1, 3000):
        order.put(str(number), str(number), str(number - 1))
    assert list(order) == [str(number) for number in range(3000)]


def test_groups_keep_their_items_in_order() -> None:
    tab = Tab(id="t", title="T", groups=(Group(id="g", title="G", items=(put("a"), put("b"))),))
    assert row(see(layer(tabs=(tab,))), "organisation:g") == ["organisation:a", "organisation:b"]


def test_of_two_things_with_one_identity_the_first_shows_and_the_other_is_told() -> None:
    twin = put("x")
    seen = see(layer(insert=(Insertion(into="app:main", items=(twin,)),
                             Insertion(into="app:main", after="organisation:x", items=(twin,)))))  # fmt: skip
    assert row(seen, "app:main").count("organisation:x") == 1
    assert [
        sentence for sentence in seen.lost if "another thing has its identity, organisation:x" in sentence
    ]
