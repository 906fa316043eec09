"""Tabs, groups and bars: put between others, moved, hidden, shown, removed, off by default."""

from __future__ import annotations

import pytest

from rimecrest.core.catalogue.items import Button, Submenu
from rimecrest.core.catalogue.surfaces import Group, Tab, Toolbar
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.outcome import outcome
from rimecrest.core.layout.placing import show
from rimecrest.core.layout.seen import BUILT_IN, Outcome, SeenMenu, SeenSubmenu
from rimecrest.core.workspace.edits import (
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
)
from rimecrest.core.workspace.exactly import exactly
from rimecrest.core.workspace.workspace import Workspace
from tests.samples import CATALOGUE

NORTH = "department.north"
HERE = (NORTH, "notes")


def lay(workspace: Workspace, *edits: Edit, layers: tuple[str, ...] = (NORTH,)) -> Outcome:
    for edit in edits:
        workspace = edit.on(workspace)
    return workspace.outcome(layers, "notes")


def tabs(seen: Outcome) -> list[str]:
    return [tab.id for tab in seen.tabs]


def groups(seen: Outcome, tab: str) -> list[str]:
    found = seen.tab(tab)
    assert found is not None
    return [group.id for group in found.groups]


def bars(seen: Outcome) -> list[str]:
    return [bar.id for bar in seen.toolbars]


def tab(name: str, after: str | None = None, **fields: object) -> PutTab:
    return PutTab(*HERE, Tab.model_validate({"id": name, "title": name, "after": after, **fields}))


def own(*names: str) -> list[str]:
    return [f"{NORTH}:{name}" for name in names]


def test_a_tab_stands_between_any_two_and_at_the_front(workspace: Workspace) -> None:
    before = tabs(lay(workspace))
    seen = lay(workspace, tab("a", "app:tab-one"), tab("b"), tab("c", "app:tab-one"))
    assert [name for name in tabs(seen) if name not in before] == own("b", "c", "a")
    assert tabs(seen)[0] == f"{NORTH}:b"
    assert tabs(seen)[tabs(seen).index("app:tab-one") + 1] == f"{NORTH}:c"


@pytest.mark.parametrize("thing", ["app:tab-two", f"{NORTH}:a", f"{NORTH}:b"])
@pytest.mark.parametrize("after", [None, "app:tab-one", "app:tab-two", f"{NORTH}:a", f"{NORTH}:b"])
def test_a_tab_moves_behind_any_other(workspace: Workspace, thing: str, after: str | None) -> None:
    put = (tab("a", "app:tab-one"), tab("b", f"{NORTH}:a"))
    before = tabs(lay(workspace, *put))
    for edit in put:
        workspace = edit.on(workspace)
    move = exactly(workspace, (NORTH,), "notes", MoveSurface(*HERE, thing, "", after), thing, after)
    seen = lay(workspace, move)
    expected = before
    if after != thing:
        expected = [name for name in before if name != thing]
        expected.insert(expected.index(after) + 1 if after else 0, thing)
    assert tabs(seen) == expected
    assert not seen.lost


def test_a_tab_stands_before_what_a_layer_beneath_hung_on_the_same_neighbour(workspace: Workspace) -> None:
    both = ("organisation", NORTH)
    put = tab("a", "app:tab-one")
    beneath = tabs(lay(workspace, put, layers=both))
    assert beneath.index(f"{NORTH}:a") > beneath.index("organisation:shared")
    meant = exactly(workspace, both, "notes", put, f"{NORTH}:a", "app:tab-one")
    order = tabs(lay(workspace, meant, layers=both))
    assert order[order.index("app:tab-one") + 1 :][:2] == [f"{NORTH}:a", "organisation:shared"]


def test_a_moved_tab_is_back_as_the_layer_beneath_has_it(workspace: Workspace) -> None:
    before = tabs(lay(workspace))
    moved = MoveSurface(*HERE, "app:tab-two", "", None)
    assert tabs(lay(workspace, moved))[0] == "app:tab-two"
    assert tabs(lay(workspace, moved, ShowAgain(*HERE, "app:tab-two"))) == before


def test_a_group_goes_into_another_tab_with_all_that_is_in_it(workspace: Workspace) -> None:
    seen = lay(workspace, MoveSurface(*HERE, "app:group-b", "app:tab-two", None))
    assert "app:group-b" not in groups(seen, "app:tab-one")
    assert groups(seen, "app:tab-two")[0] == "app:group-b"
    assert seen.tab_of("app:item-print") == "app:tab-two"


def test_an_own_group_moves_between_own_and_built_in_tabs(workspace: Workspace) -> None:
    group = Group(id="g", title="G", items=(Button(id="i", run="notes:bold"),))
    put = PutGroup(*HERE, "app:tab-one", "app:group-a", group)
    seen = lay(workspace, put)
    assert groups(seen, "app:tab-one")[:3] == ["app:group-a", f"{NORTH}:g", "app:group-b"]
    into_own = (put, tab("a"), MoveSurface(*HERE, f"{NORTH}:g", f"{NORTH}:a", None))
    assert groups(lay(workspace, *into_own), f"{NORTH}:a") == own("g")
    back = lay(workspace, *into_own, MoveSurface(*HERE, f"{NORTH}:g", "app:tab-two", None))
    assert groups(back, f"{NORTH}:a") == []
    assert groups(back, "app:tab-two") == own("g")
    assert back.tab_of(f"{NORTH}:i") == "app:tab-two"


def test_a_command_stands_between_two_items_of_a_built_in_group(workspace: Workspace) -> None:
    item = (Button(id="i", run="notes:bold"),)
    seen = lay(workspace, PutItems(*HERE, "app:group-a", "app:item-align", item))
    row = seen.row("app:group-a")
    assert row is not None
    names = [item.id for item in row.items]
    assert names[:3] == ["app:item-align", f"{NORTH}:i", "app:item-rule"]


def test_an_own_tab_goes_with_everything_and_what_hung_on_it_stays(workspace: Workspace) -> None:
    group = Group(id="g", title="G", items=(Button(id="i", run="notes:bold"),))
    put = (tab("a", "app:tab-one"), tab("b", f"{NORTH}:a"), PutGroup(*HERE, f"{NORTH}:a", None, group))
    seen = lay(workspace, *put, TakeOff(*HERE, (f"{NORTH}:a",)))
    assert f"{NORTH}:a" not in tabs(seen)
    assert seen.item(f"{NORTH}:i") is None
    assert tabs(seen)[tabs(seen).index("app:tab-one") + 1] == f"{NORTH}:b"
    assert not seen.lost


def test_an_own_group_goes_with_its_last_item(workspace: Workspace) -> None:
    two = (Button(id="i", run="notes:bold"), Button(id="j", run="notes:rule"))
    put = PutGroup(*HERE, "app:tab-one", None, Group(id="g", title="G", items=two))
    one_left = lay(workspace, put, TakeOff(*HERE, (f"{NORTH}:i",)))
    assert f"{NORTH}:g" in groups(one_left, "app:tab-one")
    none_left = lay(workspace, put, TakeOff(*HERE, (f"{NORTH}:i", f"{NORTH}:j")))
    assert f"{NORTH}:g" not in groups(none_left, "app:tab-one")
    moved = MoveItems(*HERE, (f"{NORTH}:i", f"{NORTH}:j"), "app:group-a", None)
    assert f"{NORTH}:g" not in groups(lay(workspace, put, moved), "app:tab-one")
    within = MoveItems(*HERE, (f"{NORTH}:j",), f"{NORTH}:g", None)
    assert f"{NORTH}:g" in groups(lay(workspace, put, within), "app:tab-one")


def test_what_is_hidden_is_listed_with_who_hides_it_and_comes_back(workspace: Workspace) -> None:
    things = ("app:tab-two", "app:group-b", "app:main", "app:item-align")
    low = TakeOff("organisation", "notes", things)
    both = ("organisation", NORTH)
    seen = lay(workspace, low, layers=both)
    told = {hidden.id: (hidden.by, hidden.kind, hidden.title, hidden.where) for hidden in seen.out_of_sight}
    assert told["app:tab-two"] == ("organisation", "tab", "Two", "")
    assert told["app:group-b"] == ("organisation", "group", "B", "One")
    assert told["app:main"] == ("organisation", "toolbar", "Main", "")
    assert told["app:item-align"][:2] == ("organisation", "item")
    assert told["app:item-align"][3] == "A"
    for thing in things:
        shown = lay(workspace, low, Show(*HERE, thing), layers=both)
        assert thing not in shown.hidden, thing
        assert thing in {
            *tabs(shown),
            *bars(shown),
            *(i.id for _, i in shown.items()),
            *groups(shown, "app:tab-one"),
        }
        assert not shown.lost
    mine = lay(workspace, TakeOff(*HERE, things), *(Show(*HERE, thing) for thing in things))
    assert mine.hidden == {}


def test_a_tab_that_is_off_by_default_is_turned_on_and_off(workspace: Workspace) -> None:
    off = Tab(id="tab-off", title="Off", shown=False)
    catalogue = CATALOGUE.model_copy(update={"tabs": (*CATALOGUE.tabs, off)})
    targets = Targets(catalogue, {})
    built_in = outcome(catalogue, (), targets)
    assert "app:tab-off" not in tabs(built_in)
    assert [(hidden.id, hidden.by) for hidden in built_in.out_of_sight] == [("app:tab-off", BUILT_IN)]
    on = show(Layout(app="notes", layer=NORTH), "app:tab-off")
    assert tabs(outcome(catalogue, (on,), targets))[-1] == "app:tab-off"
    seen = lay(workspace, tab("a", shown=False))
    assert f"{NORTH}:a" not in tabs(seen)
    assert [(hidden.id, hidden.by) for hidden in seen.out_of_sight] == [(f"{NORTH}:a", NORTH)]
    assert f"{NORTH}:a" in tabs(lay(workspace, tab("a", shown=False), Show(*HERE, f"{NORTH}:a")))


def test_bars_stand_at_edges_in_rows_and_move(workspace: Workspace) -> None:
    def bar(name: str, after: str | None, **fields: object) -> PutToolbar:
        data = {"id": name, "title": name, "after": after, **fields}
        return PutToolbar(*HERE, Toolbar.model_validate(data))

    put = (bar("a", None, edge="float", at=[20, 30]), bar("b", "app:main", edge="bottom", row=1))
    seen = lay(workspace, *put)
    assert bars(seen)[0] == f"{NORTH}:a"
    floating, low = seen.toolbars[0], next(b for b in seen.toolbars if b.id == f"{NORTH}:b")
    assert (floating.edge, floating.at) == ("float", (20, 30))
    assert (low.edge, low.row) == ("bottom", 1)
    moved = lay(workspace, *put, MoveSurface(*HERE, f"{NORTH}:b", "", None))
    assert bars(moved)[:2] == own("b", "a")
    docked = lay(workspace, SetFields(*HERE, "app:main", {"edge": "right", "row": 2}))
    assert (docked.toolbars[0].edge, docked.toolbars[0].row) == ("right", 2)


def test_surfaces_and_groups_have_pictures(workspace: Workspace) -> None:
    seen = lay(
        workspace,
        tab("a", picture="set:ferry"),
        SetFields(*HERE, "app:group-a", {"picture": "set:anchor"}),
        SetFields(*HERE, "app:main", {"picture": "set:weight"}),
    )
    found = seen.tab(f"{NORTH}:a")
    assert found is not None
    assert found.picture == "set:ferry"
    row, main = seen.row("app:group-a"), seen.row("app:main")
    assert row is not None
    assert main is not None
    assert (row.picture, main.picture) == ("set:anchor", "set:weight")


def test_a_group_that_loses_its_tab_is_told(workspace: Workspace) -> None:
    seen = lay(workspace, MoveSurface(*HERE, "app:group-b", "organisation:gone", None))
    assert seen.lost
    assert "cannot move" in seen.lost[-1]
    assert "app:group-b" in groups(seen, "app:tab-one")


# Submenus


MENU = "app:menu-text"


def menu_of(seen: Outcome, identity: str) -> SeenMenu:
    row = seen.row(identity)
    assert isinstance(row, SeenMenu)
    return row


def with_submenu(workspace: Workspace) -> Workspace:
    more = Submenu(id="more", submenu="More")
    after = PutItems(*HERE, MENU, None, (more,)).on(workspace)
    item = Button(id="inner", run="notes:bold", label="Inner")
    return PutItems(*HERE, f"{NORTH}:more", None, (item,)).on(after)


def seen_by(workspace: Workspace) -> Outcome:
    return workspace.outcome((NORTH,), "notes")


def test_a_submenu_is_an_item_of_its_menu_and_a_row_of_its_own(workspace: Workspace) -> None:
    seen = seen_by(with_submenu(workspace))
    line = seen.item(f"{NORTH}:more")
    assert isinstance(line, SeenSubmenu)
    assert [item.id for item in line.menu.items] == [f"{NORTH}:inner"]
    assert menu_of(seen, f"{NORTH}:more") == line.menu
    row = seen.row_of(f"{NORTH}:inner")
    assert row is not None
    assert row.id == f"{NORTH}:more"
    assert seen.lost == ()


def test_a_submenu_moves_with_all_that_is_in_it_and_is_taken_off_with_it(workspace: Workspace) -> None:
    laid = with_submenu(workspace)
    last = menu_of(seen_by(laid), MENU).items[-1].id
    moved = MoveItems(*HERE, (f"{NORTH}:more",), MENU, last).on(laid)
    seen = seen_by(moved)
    assert menu_of(seen, MENU).items[-1].id == f"{NORTH}:more"
    assert seen.item(f"{NORTH}:inner") is not None
    assert seen.lost == ()
    gone = seen_by(TakeOff(*HERE, (f"{NORTH}:more",)).on(moved))
    assert gone.item(f"{NORTH}:inner") is None
    assert gone.lost == ()


def test_submenus_in_submenus_and_items_between_them(workspace: Workspace) -> None:
    laid = with_submenu(workspace)
    deeper = Submenu(id="deeper", submenu="Deeper")
    laid = PutItems(*HERE, f"{NORTH}:more", f"{NORTH}:inner", (deeper,)).on(laid)
    laid = MoveItems(*HERE, (f"{NORTH}:inner",), f"{NORTH}:deeper", None).on(laid)
    seen = seen_by(laid)
    assert seen.lost == ()
    row = seen.row_of(f"{NORTH}:inner")
    assert row is not None
    assert row.id == f"{NORTH}:deeper"
    named = SetFields(*HERE, f"{NORTH}:deeper", {"submenu": "Deepest"}).on(laid)
    assert seen_by(named).title_of(f"{NORTH}:deeper") == "Deepest"


def test_a_submenu_stands_in_menus_only(workspace: Workspace) -> None:
    bar = Toolbar.model_validate({"id": "b", "title": "B", "items": [{"id": "more", "submenu": "More"}]})
    seen = seen_by(PutToolbar(*HERE, bar).on(workspace))
    assert seen.item(f"{NORTH}:more") is None
    assert "stands only in a menu" in seen.lost[0]
