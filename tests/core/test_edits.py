"""Edits: the laws first, for any sequence of them; then what each of them does."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Group, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import Acceptance, KeyBinding, Layout, parse_layout
from rimecrest.core.layout.placing import own_items
from rimecrest.core.workspace.edits import (
    Accept,
    Bind,
    Edit,
    MoveItems,
    MoveSurface,
    PutGroup,
    PutItems,
    PutTab,
    PutToolbar,
    SetFields,
    Show,
    ShowAgain,
    TakeOff,
    Together,
    Unbind,
    apply,
)
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.parts import LAYOUTS
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace, write_workspace

LAYERS = st.sampled_from(["organisation", "department.north", "department.south"])
SURFACES = st.sampled_from(["app:main", "app:group-a", "department.north:north", "organisation:all"])
THINGS = st.sampled_from(
    [
        "app:item-save",
        "app:item-align",
        "app:rule-1",
        "department.north:close",
        "department.north:line",
        "organisation:greet",
        "organisation:new-1",
        "department.north:new-2",
        "app:tab-two",
        "app:group-b",
        "department.north:north",
    ]
)
NAMES = st.sampled_from(["new-1", "new-2", "new-3"])
KEYS = st.sampled_from(["F9", "Ctrl+J, Q", "Ctrl+K", "Ctrl+J, G"])


def edits() -> st.SearchStrategy[Edit]:
    app = st.just("notes")
    items = st.builds(lambda name: (Button(id=name, run="notes:bold"),), NAMES)
    fields = st.sampled_from([{"label": "Other"}, {"width": 2}, {"face": "both"}, {"title": "T"}])
    simple: list[st.SearchStrategy[Any]] = [
        st.builds(PutItems, LAYERS, app, SURFACES, st.none() | THINGS, items),
        st.builds(TakeOff, LAYERS, app, st.tuples(THINGS)),
        st.builds(ShowAgain, LAYERS, app, THINGS),
        st.builds(Show, LAYERS, app, THINGS),
        st.builds(MoveSurface, LAYERS, app, THINGS, st.just("app:tab-one"), st.none() | THINGS),
        st.builds(MoveItems, LAYERS, app, st.tuples(THINGS), SURFACES, st.none() | THINGS),
        st.builds(SetFields, LAYERS, app, THINGS, fields),
        st.builds(
            PutGroup,
            LAYERS,
            app,
            st.just("app:tab-one"),
            st.none(),
            st.builds(lambda n: Group(id=n, title=n), NAMES),
        ),
        st.builds(PutTab, LAYERS, app, st.builds(lambda n: Tab(id=n, title=n), NAMES)),
        st.builds(PutToolbar, LAYERS, app, st.builds(lambda n: Toolbar(id=n, title=n), NAMES)),
        st.builds(Bind, LAYERS, app, st.builds(lambda k: KeyBinding(keys=k, run="notes:bold"), KEYS)),
        st.builds(PutMacro, LAYERS, NAMES, st.none() | st.just('macro "New"\nfor notes\n')),
    ]
    return st.one_of(*simple)


@settings(max_examples=150)
@given(st.lists(edits(), max_size=6))
def test_an_edit_then_its_inverse_is_nothing(sequence: list[Edit]) -> None:
    workspace = make_workspace()
    inverses = []
    states = [workspace]
    for edit in sequence:
        workspace, inverse = apply(workspace, edit)
        inverses.append(inverse)
        states.append(workspace)
    for inverse, before in zip(reversed(inverses), reversed(states[:-1]), strict=True):
        workspace, _ = apply(workspace, inverse)
        assert (workspace.layouts, workspace.macros) == (before.layouts, before.macros)


@settings(max_examples=60)
@given(st.lists(edits(), min_size=1, max_size=5))
def test_every_layout_is_read_back_as_it_was_written(sequence: list[Edit]) -> None:
    workspace = make_workspace()
    for edit in sequence:
        workspace, _ = apply(workspace, edit)
    for layout in workspace.layouts.values():
        text = LAYOUTS.write(layout).decode()
        assert parse_layout(text, "it") == layout
        assert LAYOUTS.write(parse_layout(text, "it")).decode() == text


@settings(max_examples=15)
@given(st.lists(edits(), min_size=1, max_size=5))
def test_what_is_saved_is_what_is_opened(
    tmp_path_factory: pytest.TempPathFactory, sequence: list[Edit]
) -> None:
    folder = write_workspace(tmp_path_factory.mktemp("saved") / "sample")
    keeper = Keeper(folder)
    workspace = keeper.open()
    for edit in sequence:
        after, _ = apply(workspace, edit)
        keeper.save(edit.label, workspace, after)
        workspace = after
    opened = read_workspace(folder)
    keeper.close()
    assert (dict(opened.layouts), dict(opened.macros)) == (dict(workspace.layouts), dict(workspace.macros))


@settings(max_examples=100)
@given(st.lists(edits(), max_size=6))
def test_every_edited_workspace_can_be_drawn_and_no_item_shows_twice(sequence: list[Edit]) -> None:
    workspace = make_workspace()
    for edit in sequence:
        workspace, _ = apply(workspace, edit)
    seen = workspace.outcome(("organisation", "department.north"), "notes")
    places = [item.id for _, item in seen.items()]
    assert len(places) == len(set(places))


def after(workspace: Workspace, *sequence: Edit) -> Layout:
    for edit in sequence:
        workspace, _ = apply(workspace, edit)
    return workspace.layout("department.north", "notes")


N = ("department.north", "notes")


def test_on_its_own_bar_an_item_goes_into_the_bar(workspace: Workspace) -> None:
    button = Button(id="x", run="notes:save")
    edit = PutItems(*N, "department.north:north", "department.north:close", (button,))
    items = own_items(after(workspace, edit), "department.north:north")
    assert [item.id for item in items] == ["close", "x", "line"]


def test_on_anothers_bar_it_becomes_an_insertion_and_the_next_one_joins_it(workspace: Workspace) -> None:
    first = PutItems(*N, "app:main", "app:item-save", (Button(id="x", run="notes:save"),))
    second = PutItems(*N, "app:main", "department.north:x", (Button(id="y", run="notes:print"),))
    third = PutItems(*N, "app:main", "app:item-save", (Button(id="z", run="notes:print"),))
    layout = after(workspace, first, second, third)
    assert len(layout.insert) == 1
    assert [item.id for item in layout.insert[0].items] == ["z", "x", "y"]


def test_taking_off_what_is_ours_removes_it_and_what_is_not_hides_it(workspace: Workspace) -> None:
    layout = after(workspace, TakeOff(*N, ("department.north:close", "app:item-save")))
    assert [item.id for item in layout.all_items()] == ["line"]
    assert layout.hide == ("app:item-save",)


def test_what_hung_on_a_thing_taken_off_hangs_on_the_one_before(workspace: Workspace) -> None:
    hung = PutItems(*N, "app:main", "app:item-save", (Button(id="x", run="notes:save"),))
    moved = MoveItems(*N, ("app:item-bold",), "app:main", "department.north:x")
    layout = after(workspace, hung, moved, TakeOff(*N, ("department.north:x",)))
    assert layout.move[0].after == "app:item-save"


def test_another_value_for_one_thing_leaves_what_is_changed_of_the_others() -> None:
    workspace = make_workspace()
    things = ("app:item-save", "app:item-print", "app:item-rule")
    for thing in things:
        workspace, _ = apply(workspace, SetFields(*N, thing, {"label": thing}))
    workspace, _ = apply(workspace, SetFields(*N, things[0], {"tip": "Saves it"}))
    changes = {change.of: change.set for change in workspace.layout(*N).change}
    assert changes == {
        things[0]: {"label": things[0], "tip": "Saves it"},
        things[1]: {"label": things[1]},
        things[2]: {"label": things[2]},
    }
    workspace, _ = apply(workspace, ShowAgain(*N, things[1]))
    assert [change.of for change in workspace.layout(*N).change] == [things[0], things[2]]
    workspace, _ = apply(workspace, TakeOff(*N, (things[2],)))
    assert [change.of for change in workspace.layout(*N).change] == [things[0]]
    assert workspace.layout(*N).hide == (things[2],)


def test_as_the_layer_beneath_has_it_takes_every_override_back(workspace: Workspace) -> None:
    before = workspace.layout(*N)
    layout = after(
        workspace,
        SetFields(*N, "app:item-save", {"label": "Keep"}),
        MoveItems(*N, ("app:item-save",), "app:main", None),
        ShowAgain(*N, "app:item-save"),
        TakeOff(*N, ("app:item-save",)),
        ShowAgain(*N, "app:item-save"),
    )
    assert layout == before


def test_two_changes_of_one_item_are_one(workspace: Workspace) -> None:
    layout = after(
        workspace,
        SetFields(*N, "app:item-save", {"label": "Keep"}),
        SetFields(*N, "app:item-save", {"width": 2}),
    )
    assert [change.set for change in layout.change] == [{"label": "Keep", "width": 2}]


def test_our_own_item_is_changed_where_it_stands(workspace: Workspace) -> None:
    layout = after(workspace, SetFields(*N, "department.north:line", {"label": "Ruler"}))
    assert [item.label for item in layout.toolbars[0].items] == [None, "Ruler"]
    assert layout.change == ()


def test_our_own_item_moves_with_all_it_has(workspace: Workspace) -> None:
    layout = after(workspace, MoveItems(*N, ("department.north:line",), "app:main", "app:item-save"))
    assert layout.insert[0].items[0].label == "Rule"
    assert [item.id for item in layout.toolbars[0].items] == ["close"]


def test_keys_are_bound_replaced_and_taken_away(workspace: Workspace) -> None:
    key = KeyBinding(keys="F9", run="notes:bold")
    layout = after(workspace, Bind(*N, key), Bind(*N, key.model_copy(update={"run": "notes:save"})))
    assert [bound.run for bound in layout.keys] == ["notes:save"]
    assert after(workspace, Bind(*N, key), Unbind(*N, key.identity)).keys == ()
    with pytest.raises(RimecrestError, match="has no binding"):
        apply(workspace, Unbind(*N, "key:anywhere:F1"))


def test_several_edits_happen_together_or_not_at_all(workspace: Workspace) -> None:
    good = PutItems(*N, "app:main", None, (Button(id="x", run="notes:save"),))
    with pytest.raises(RimecrestError):
        apply(workspace, Together("both", (good, Unbind(*N, "key:none"))))
    assert workspace.layout(*N).insert == ()


def test_an_edit_may_span_a_macro_and_its_button_and_undoes_both(workspace: Workspace) -> None:
    both = Together(
        "delete", (PutMacro("department.north", "closing", None), TakeOff(*N, ("department.north:close",)))
    )
    changed, inverse = apply(workspace, both)
    assert ("department.north", "closing") not in changed.macros
    assert apply(changed, inverse)[0].macros == workspace.macros


def test_an_acceptance_is_kept_in_the_layer(workspace: Workspace) -> None:
    kept = Acceptance(kind="takes-over", owners=("a", "b"), targets="1", why="on purpose")
    assert after(workspace, Accept(*N, kept)).acceptances == (kept,)


def test_an_edit_that_changes_nothing_gives_the_very_same_workspace(workspace: Workspace) -> None:
    assert apply(workspace, ShowAgain(*N, "app:item-save"))[0] is workspace


def test_a_broken_file_is_never_written(folder: Path) -> None:
    (folder / "layouts" / "department.north" / "notes.json").write_text("{")
    workspace = read_workspace(folder)
    with pytest.raises(RimecrestError, match="cannot be changed"):
        apply(workspace, TakeOff(*N, ("app:item-save",)))
