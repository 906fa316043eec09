"""Identities: checked wherever one is read, given once in a workspace's life, followed when renamed."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from pydantic import ValidationError

from rimecrest.core.bundle.bundle import read_bundle
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Button, Item, Separator, StepsButton
from rimecrest.core.catalogue.surfaces import Group, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import (
    AppId,
    CommandId,
    FileName,
    LayerId,
    MacroId,
    SeatId,
    ThingId,
    fresh,
    slug,
)
from rimecrest.core.layout.layout import Change, Insertion, KeyBinding, Layout, Move
from rimecrest.core.layout.renames import followed
from rimecrest.core.model import dump_record
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import Release, build_package, read_package, zipped
from rimecrest.core.release.stack_sources import draft_stack, released_stack
from rimecrest.core.workspace.edits import PutItems, TakeOff, apply
from rimecrest.core.workspace.file_edits import CarryMacro, PutMacro
from rimecrest.core.workspace.folder import open_workspace
from rimecrest.core.workspace.fresh import distinct, fresh_macro, fresh_thing
from rimecrest.core.workspace.habits import Habits, UseCount
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.samples import CATALOGUE

N = ("department.north", "notes")
CLOSE = "department.north:close"
BAR = "department.north:north"

EVIL = ["../../../e", "", ".", "..", "a/b", "/etc/passwd", "a\0b", "a\nb", "-x", "a" * 101, "a b", "x:y"]


@pytest.mark.parametrize("kind", [AppId, LayerId, MacroId, ThingId, SeatId])
@pytest.mark.parametrize("text", EVIL)
def test_what_leads_elsewhere_is_no_identity(kind: type[str], text: str) -> None:
    with pytest.raises(RimecrestError, match="cannot be the") as caught:
        kind(text)
    assert caught.value.way_out


@pytest.mark.parametrize(
    ("kind", "text"),
    [
        (AppId, "letters"),
        (LayerId, "department.freight"),
        (MacroId, "sailing-notice"),
        (MacroId, "übersicht_2"),
        (ThingId, "sep-1"),
        (CommandId, "letters:insert-date"),
        (FileName, "late reply.eml"),
        (SeatId, "0af3"),
    ],
)
def test_an_identity_is_its_text(kind: type[str], text: str) -> None:
    assert kind(text) == text
    assert kind(kind(text)) is not None


@pytest.mark.parametrize("name", ["../x", ".lock", "a/b", "", "x\0", "..\\x"])
def test_a_file_name_is_one_visible_part_of_a_path(name: str) -> None:
    with pytest.raises(RimecrestError, match="cannot be the name of a file"):
        FileName(name)


@given(st.text(max_size=120), st.sampled_from([LayerId, MacroId, ThingId, FileName]))
def test_an_identity_never_leaves_its_folder(text: str, kind: type[str]) -> None:
    try:
        name = kind(text)
    except RimecrestError:
        return
    path = (Path("/base") / name).resolve()
    assert path.parent == Path("/base")
    assert not path.name.startswith(".")


def test_stored_records_refuse_what_is_no_identity(folder: Path) -> None:
    path = folder / "layouts/department.north/notes.json"
    data = json.loads(path.read_text())
    data["toolbars"][0]["items"][0]["id"] = "../../x"
    path.write_text(json.dumps(data))
    opened = open_workspace(folder)
    assert "cannot be the identity" in opened.broken["layouts/department.north/notes.json"]
    with pytest.raises(ValidationError, match="cannot be the id of a layer"):
        Layout(app="notes", layer="../x")


def test_a_macro_file_whose_name_is_no_identity_is_told_and_the_rest_opens(folder: Path) -> None:
    shutil.copy(folder / "macros/organisation/greeting.steps", folder / "macros/organisation/my macro.steps")
    opened = open_workspace(folder)
    assert "“my macro” cannot be the identity" in opened.broken["macros/organisation/my macro.steps"]
    assert ("organisation", "greeting") in opened.macros


@pytest.mark.parametrize(
    "path", ["macros/.steps", "macros/../x.steps", "companions/.hidden", "macros/a b.steps"]
)
def test_a_bundle_with_a_name_that_is_none_is_refused(path: str) -> None:
    import hashlib

    content = b'macro "X"\nfor notes\n'
    release = Release(number=0, files={path: hashlib.sha256(content).hexdigest()})
    data = zipped({path: content, "release.json": dump_record(release, "release").encode()})
    with pytest.raises(RimecrestError):
        read_bundle(data, "it")


# Slugs


@pytest.mark.parametrize(
    ("words", "made"),
    [
        ("Übersicht", "ubersicht"),
        ("Sailing notice!", "sailing-notice"),
        ("Отчёт", "otchet"),
        ("日本", "ri-ben"),
        ("¿?", "macro"),
        ("", "macro"),
        ("☃ — ☃", "macro"),
    ],
)
def test_words_in_any_script_make_an_identity(words: str, made: str) -> None:
    assert slug(words, "macro") == made


@given(st.text(max_size=200))
def test_any_words_make_one_that_is_good(words: str) -> None:
    assert MacroId(slug(words, "macro"))


def test_a_taken_one_gets_the_first_free_number() -> None:
    assert fresh("a", {"a", "a-2"}) == "a-3"
    assert fresh("b", {"a"}) == "b"


# Given once


def test_a_deleted_macros_identity_is_never_given_again() -> None:
    workspace = make_workspace()
    for _ in range(3):
        identity = fresh_macro(workspace, "New recording")
        workspace, _ = apply(workspace, PutMacro("organisation", identity, 'macro "New recording"\n'))
        workspace, _ = apply(workspace, PutMacro("organisation", identity, None))
    assert workspace.settings.retired.macros == ("new-recording", "new-recording-2", "new-recording-3")
    assert fresh_macro(workspace, "New recording") == "new-recording-4"


def test_undo_gives_an_identity_back_and_redo_retires_it_again() -> None:
    before = make_workspace()
    after, inverse = apply(before, PutMacro("organisation", "greeting", None))
    assert after.settings.retired.macros == ("greeting",)
    back, again = apply(after, inverse)
    assert back == before
    assert apply(back, again)[0] == after


def test_a_macro_is_unique_over_all_shelves_and_a_copy_gets_a_new_identity() -> None:
    workspace = make_workspace()
    assert fresh_macro(workspace, "Closing") == "closing-2"
    copied, _ = apply(workspace, CarryMacro("department.north", "closing", "organisation", copy=True))
    assert ("organisation", "closing-2") in copied.macros
    assert copied.settings.retired.macros == ()


def test_moving_a_macro_between_shelves_keeps_its_identity() -> None:
    moved, _ = apply(make_workspace(), CarryMacro("department.north", "closing", "organisation"))
    assert ("organisation", "closing") in moved.macros
    assert moved.settings.retired.macros == ()


def test_an_items_identity_is_never_given_again_in_its_layout() -> None:
    workspace, _ = apply(make_workspace(), TakeOff(*N, (CLOSE,)))
    assert workspace.settings.retired.things == {"department.north/notes": ("close",)}
    assert fresh_thing(workspace, *N, "Close") == "close-2"
    assert fresh_thing(workspace, "department.south", "notes", "Close") == "close"
    [copy] = distinct(workspace, *N, [Button(id="close", run="notes:save")])
    assert copy.id == "close-2"


def test_copies_made_in_one_edit_have_different_identities() -> None:
    twice = [Button(id="close", run="notes:save"), Separator(id="close", separator=True)]
    assert [item.id for item in distinct(make_workspace(), *N, twice)] == ["close-2", "close-3"]


def test_what_was_cut_comes_back_as_itself_once_and_then_as_a_copy() -> None:
    workspace = make_workspace()
    [close] = [item for item in workspace.layout(*N).all_items() if item.id == "close"]
    workspace, _ = apply(workspace, TakeOff(*N, (CLOSE,)))
    first = distinct(workspace, *N, [close], cut=True)
    workspace, _ = apply(workspace, PutItems(*N, BAR, None, tuple(first)))
    assert [item.id for item in first] == ["close"]
    assert workspace.settings.retired.things == {}
    assert [item.id for item in distinct(workspace, *N, [close], cut=True)] == ["close-2"]
    assert [item.id for item in distinct(workspace, *N, [close])] == ["close-2"]


def test_things_move_within_a_layout_without_being_retired() -> None:
    from rimecrest.core.workspace.edits import MoveItems

    workspace, _ = apply(make_workspace(), MoveItems(*N, (CLOSE,), "app:main", None))
    assert workspace.settings.retired.things == {}


# Whatever an item is travels whole

FACED = {
    "label": st.none() | st.text(max_size=5),
    "tip": st.none() | st.text(max_size=5),
    "picture": st.none() | st.just("set:ferry"),
    "face": st.sampled_from([None, "picture", "words", "both"]),
    "width": st.sampled_from([1, 2]),
    "collapse": st.integers(-3, 3),
    "access": st.none() | st.just("N"),
}
ARGS = st.dictionaries(st.just("on"), st.sampled_from(["yes", "no"]))
ITEMS: st.SearchStrategy[Item] = st.one_of(
    st.builds(Button, id=st.just("x"), run=st.sampled_from(["notes:bold", "macro:closing", ""]), args=ARGS,
              later=st.just({"unknown": 1}), **FACED),
    st.builds(StepsButton, id=st.just("x"), steps=st.just('macro "Own"\nfor notes\n\nstop\n'), **FACED),
    st.builds(Separator, id=st.just("x"), separator=st.just(True)),
)  # fmt: skip


def with_item(item: Item, surface: str) -> Workspace:
    return PutItems(*N, surface, None, (item,)).on(make_workspace())


@given(ITEMS, st.sampled_from([BAR, "app:group-a", "app:menu-text"]))
def test_what_is_seen_of_an_item_is_stored_whole(item: Item, surface: str) -> None:
    workspace = with_item(item, surface)
    seen = workspace.outcome(("organisation", "department.north"), "notes").item("department.north:x")
    assert seen is not None
    assert seen.stored == item


@given(ITEMS)
def test_an_item_goes_whole_through_a_package_and_a_draft(item: Item) -> None:
    workspace = with_item(item, BAR)
    stack = ("organisation", "department.north")
    package = read_package(build_package(workspace, 1, {}, {}), "it")
    for state in (
        draft_stack(workspace, stack, "notes"),
        released_stack(package, Assignment(release=1, stack=stack), "notes"),
    ):
        again = type(state).model_validate(json.loads(json.dumps(state.to_data())))
        assert item in again.layouts[-1].all_items()


def test_changes_from_above_are_part_of_what_is_stored() -> None:
    workspace = make_workspace()
    layout = workspace.layout(*N).model_copy(
        update={"change": (Change(of="app:item-save", set={"label": "Keep", "width": 2}),)}
    )
    seen = workspace.with_layout(layout).outcome(("department.north",), "notes").item("app:item-save")
    assert seen is not None
    assert seen.stored == Button(id="item-save", run="notes:save", label="Keep", width=2)


# Renamed in a later version of the application


RENAMED = Catalogue.model_validate(
    {
        **CATALOGUE.model_dump(by_alias=True),
        "commands": [
            {**command.model_dump(by_alias=True), "id": "notes:divider", "was": ["notes:rule"]}
            if command.id == "notes:rule"
            else command.model_dump(by_alias=True)
            for command in CATALOGUE.commands
        ],
        "toolbars": [
            Toolbar(
                id="usual",
                was=("main",),
                title="Main",
                items=(Button(id="item-keep", was=("item-save",), run="notes:save"),),
            ).to_data()
        ],
        "tabs": [
            Tab(
                id="first",
                was=("tab-one",),
                title="One",
                groups=(Group(id="a", was=("group-a",), title="A"),),
            ).to_data()
        ],
        "keys": [],
    }
)


def stored() -> Layout:
    return Layout(
        app="notes",
        layer="department.north",
        toolbars=(Toolbar(id="t", title="T", after="app:main", items=(Button(id="r", run="notes:rule"),)),),
        tabs=(Tab(id="u", title="U", after="app:tab-one"),),
        insert=(
            Insertion(into="app:main", after="app:item-save", items=(Button(id="i", run="notes:rule"),)),
        ),
        change=(Change(of="app:item-save", set={"run": "notes:rule"}),),
        move=(Move(of="app:item-save", into="app:group-a", after=None),),
        hide=("app:tab-one",),
        keys=(KeyBinding(keys="F9", run="notes:rule"),),
    )


def test_a_stored_layout_follows_what_the_application_renamed() -> None:
    layout = followed(stored(), RENAMED)
    assert {item.run for item in layout.all_items() if isinstance(item, Button)} == {"notes:divider"}
    assert layout.toolbars[0].after == "app:usual"
    assert layout.tabs[0].after == "app:first"
    assert (layout.insert[0].into, layout.insert[0].after) == ("app:usual", "app:item-keep")
    assert layout.change[0] == Change(of="app:item-keep", set={"run": "notes:divider"})
    assert (layout.move[0].of, layout.move[0].into) == ("app:item-keep", "app:a")
    assert layout.hide == ("app:first",)
    assert layout.keys[0].run == "notes:divider"
    assert followed(layout, RENAMED) is layout
    assert followed(stored(), CATALOGUE) == stored()


def test_layouts_macros_and_counts_on_the_disk_follow_a_renamed_command(folder: Path) -> None:
    (folder / "catalogues/notes.json").write_text(dump_record(RENAMED, "catalogue"))
    (folder / "use.csv").write_text("application,target,uses,basis\nnotes,notes:rule,40,counted\n")
    macro = folder / "macros/organisation/line.steps"
    macro.write_text('macro "Line"\nfor notes\n\ndo rule\n')
    workspace = open_workspace(folder)
    line = workspace.outcome(("department.north",), "notes").button("department.north:line")
    assert line is not None
    assert (line.run, line.exists) == ("notes:divider", True)
    assert workspace.habits.uses("notes", "notes:divider") == 40
    from rimecrest.core.check.run import check

    assert not [f for f in check(workspace).findings if f.kind in ("gone", "faulty")]
    assert "notes:rule" in (folder / "layouts/department.north/notes.json").read_text()


def test_counts_under_both_names_are_added() -> None:
    counts = {("notes", name): UseCount("notes", name, 10) for name in ("notes:rule", "notes:divider")}
    made = Habits(counts).followed({"notes": {"notes:rule": "notes:divider"}})
    assert made.uses("notes", "notes:divider") == 20


def test_a_release_made_for_an_older_version_follows_on_the_seat() -> None:
    workspace = make_workspace([stored()])
    package = read_package(build_package(workspace, 1, {}, {}), "it")
    state = released_stack(package, Assignment(release=1, stack=("department.north",)), "notes")
    outcome = state.followed(RENAMED).outcome(RENAMED)
    button = outcome.button("department.north:r")
    assert button is not None
    assert button.exists
    assert outcome.lost == ()


def test_a_workspace_of_another_catalogue_is_not_touched() -> None:
    workspace = make_workspace()
    assert replace(workspace).layouts == workspace.layouts
