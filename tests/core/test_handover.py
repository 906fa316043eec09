"""Handing macros over: all they need goes along, nothing half done arrives, strangers' macros do not run."""

from __future__ import annotations

import contextlib
import hashlib
import itertools
import stat
import zipfile
from io import BytesIO
from pathlib import Path

import pytest
from msgspec.structs import replace

from rimecrest.core.bundle.arriving import arrivals, take_in
from rimecrest.core.bundle.bundle import Bundle, build_bundle, read_bundle
from rimecrest.core.bundle.existing import Existing
from rimecrest.core.bundle.needs import needed
from rimecrest.core.catalogue.items import with_fields
from rimecrest.core.catalogue.surfaces import Panel, runs_of, steps_of
from rimecrest.core.check.run import check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.check import check_macro
from rimecrest.core.model import dump_record
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import Release, build_package, read_package, zipped
from rimecrest.core.release.stack_sources import draft_stack, released_stack
from rimecrest.core.signing import MakerKey, verified
from rimecrest.core.workspace.edits import PutPanel, apply
from rimecrest.core.workspace.file_edits import CarryMacro, PutCompanion, PutMacro, PutPicture, Vouch
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.origin import signed_by
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.faulty_files import Fault, Killed, failing
from tests.samples import makers_of

MAKER = MakerKey.fresh("Ailis Sundby")
OUTER = 'macro "Outer"\nfor notes\nwith "companions/form.txt"\n\nrun "inner"\ndo size to=12\n'
INNER = 'macro "Inner"\nfor notes\n\ndo bold on=yes\nwrite "x"\n'


def full() -> Workspace:
    workspace = make_workspace()
    for edit in (
        PutMacro("department.north", "outer", OUTER),
        PutMacro("organisation", "inner", INNER),
        PutCompanion("form.txt", b"\x00form"),
    ):
        workspace = edit.on(workspace)
    return workspace


def bundle(workspace: Workspace | None = None, maker: MakerKey = MAKER) -> Bundle:
    return read_bundle(build_bundle(workspace or full(), [("department.north", "outer")], maker), "it")


def test_what_a_macro_runs_and_brings_along_goes_with_it() -> None:
    found = bundle()
    assert sorted(found.macros) == ["inner", "outer"]
    assert found.companions == {"form.txt": b"\x00form"}
    assert (found.maker, found.signed) == ("Ailis Sundby", True)
    assert found.effects["outer"] == ("edits",)


def test_what_is_missing_is_said_before_anything_is_written() -> None:
    without = PutCompanion("form.txt", None).on(full())
    with pytest.raises(RimecrestError, match=r"companions/form\.txt is missing, which these macros need"):
        bundle(without)
    with pytest.raises(RimecrestError, match="“Outer” runs “inner”, which does not exist"):
        needed(PutMacro("organisation", "inner", None).on(full()), [("department.north", "outer")])


def test_equal_macros_make_equal_bundles() -> None:
    one, other = (build_bundle(full(), [("department.north", "outer")], MAKER) for _ in range(2))
    assert one == other


def test_a_bundle_that_was_changed_or_signed_by_another_is_told() -> None:
    content = build_bundle(full(), [("department.north", "outer")], MAKER)
    files = {
        name: zipfile.ZipFile(BytesIO(content)).read(name)
        for name in zipfile.ZipFile(BytesIO(content)).namelist()
    }

    def packed(changed: dict[str, bytes]) -> bytes:
        out = BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            for name, data in changed.items():
                archive.writestr(name, data)
        return out.getvalue()

    with pytest.raises(RimecrestError, match="was changed after the release was made"):
        read_bundle(packed({**files, "macros/inner.steps": b'macro "Bad"\n'}), "it")
    manifest = files["release.json"].replace(b"Ailis Sundby", b"Somebody Else")
    assert not read_bundle(packed({**files, "release.json": manifest}), "it").signed
    with pytest.raises(RimecrestError, match="is no bundle of macros: it holds layouts"):
        read_bundle(build_package(make_workspace(), 1, {}, {}), "it")
    assert not verified("zz", "00", b"")


def test_it_arrives_whole_and_goes_again_with_one_undo() -> None:
    empty = make_workspace()
    after, inverse = apply(empty, take_in(bundle(), empty, "department.south", {}))
    assert after.macros["department.south", "outer"].text == signed_by(MAKER, OUTER)
    assert after.companions["form.txt"] == b"\x00form"
    assert inverse.on(after) == empty


def test_commands_that_are_missing_here_are_told_with_the_nearest() -> None:
    workspace = PutMacro("organisation", "inner", INNER.replace("do bold on=yes", "do embold")).on(full())
    found = {arrival.id: arrival for arrival in arrivals(bundle(workspace), make_workspace(), "organisation")}
    assert [(m.command, m.nearest) for m in found["inner"].missing] == [("embold", "bold")]
    assert found["outer"].missing == ()
    assert found["outer"].may == ("edits",)


def test_the_same_macro_again_changes_nothing() -> None:
    workspace = full()
    edit = take_in(bundle(), workspace, "organisation", {})
    assert edit.on(workspace).macros["organisation", "inner"] == workspace.macros["organisation", "inner"]


@pytest.mark.parametrize(
    ("decision", "ids", "runs"),
    [
        (Existing.KEEP_BOTH, {"inner", "inner-2", "outer"}, "inner-2"),
        (Existing.REPLACE, {"inner", "outer"}, "inner"),
        (Existing.SKIP, {"inner", "outer"}, "inner"),
    ],
)
def test_a_name_that_is_taken_gets_a_decision(decision: Existing, ids: set[str], runs: str) -> None:
    other = PutMacro("organisation", "inner", INNER.replace('"x"', '"y"')).on(make_workspace())
    after = take_in(bundle(), other, "organisation", {"inner": decision}).on(other)
    assert {name for layer, name in after.macros if layer == "organisation"} - {"greeting"} == ids
    assert f'run "{runs}"' in after.macros["organisation", "outer"].text
    kept = after.macros["organisation", "inner"].text
    assert ('"x"' in kept) is (decision is Existing.REPLACE)
    names = [file.name for file in after.macros.values()]
    assert len(names) == len(set(names))


def test_a_companion_of_the_same_name_is_kept_beside() -> None:
    other = PutCompanion("form.txt", b"ours").on(make_workspace())
    after = take_in(bundle(), other, "organisation", {}).on(other)
    assert (after.companions["form.txt"], after.companions["form-2.txt"]) == (b"ours", b"\x00form")
    assert after.macros["organisation", "outer"].macro.companions == ("companions/form-2.txt",)


def test_macros_of_an_unknown_maker_do_not_run_until_somebody_vouches() -> None:
    empty = make_workspace()
    after = take_in(bundle(), empty, "organisation", {}).on(empty)
    why = "It was made by Ailis Sundby, whom your organisation does not vouch for."
    assert after.refused(("organisation", "outer")) == why
    assert after.refused(("organisation", "greeting")) == ""
    stack = draft_stack(after, ("organisation",), "notes")
    assert stack.macros["outer"].refused == why
    package = read_package(build_package(after, 1, {}, {}), "it")
    assert package.release.refused["organisation/outer"] == why
    seat = released_stack(package, Assignment(release=1, stack=("organisation",)), "notes")
    assert seat.macros["outer"].refused == why
    assert seat.macros["greeting"].refused == ""
    trusted = Vouch("Ailis Sundby", MAKER.public).on(after)
    assert trusted.refused(("organisation", "outer")) == ""
    unsigned = take_in(replace(bundle(), signed=False), empty, "organisation", {}).on(empty)
    unsigned = Vouch("Ailis Sundby", MAKER.public).on(unsigned)
    assert "nothing shows that it is theirs" in unsigned.refused(("organisation", "outer"))


def test_saved_and_read_again_it_is_the_same(tmp_path: Path, folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    edit = take_in(bundle(), before, "organisation", {})
    after, inverse = apply(before, edit)
    keeper.save(edit.label, before, after)
    assert read_workspace(folder) == after
    assert keeper.foreign_changes() == []
    keeper.save("undo", after, inverse.on(after))
    assert read_workspace(folder) == before
    assert not (folder / "companions/form.txt").exists()
    keeper.close()


def test_a_companion_outlives_a_power_cut_between_two_files(folder: Path) -> None:
    from rimecrest.core.workspace.folder import open_workspace
    from rimecrest.core.workspace.journal import Journal
    from rimecrest.core.workspace.parts import changed_files

    before = open_workspace(folder)
    after = take_in(bundle(), before, "organisation", {}).on(before)
    # The record is written, and then the power goes.
    Journal(folder).begin("x", changed_files(before, after))
    assert open_workspace(folder) == after


# Shelves


def test_a_macro_is_moved_or_copied_to_another_shelf_with_its_maker() -> None:
    empty = make_workspace()
    workspace = take_in(bundle(), empty, "department.north", {}).on(empty)
    moved = CarryMacro("department.north", "outer", "organisation").on(workspace)
    assert ("department.north", "outer") not in moved.macros
    assert moved.refused(("organisation", "outer"))
    copied = CarryMacro("department.north", "outer", "organisation", copy=True).on(workspace)
    assert ("department.north", "outer") in copied.macros
    assert ("organisation", "outer") not in copied.macros
    assert copied.refused(("organisation", "outer-2"))
    both = copied.with_macro("organisation", "outer", copied.macros["department.north", "outer"].text)
    with pytest.raises(RimecrestError, match="has a macro “Outer” already"):
        CarryMacro("department.north", "outer", "organisation").on(both)


def test_my_own_macros_lie_in_the_profile_and_never_in_a_release(tmp_path: Path, folder: Path) -> None:
    keeper = Keeper(folder, tmp_path / "own")
    before = keeper.open()
    after, _ = apply(before, CarryMacro("organisation", "greeting", MINE, copy=True))
    keeper.save("copy", before, after)
    assert (tmp_path / "own/greeting-2.steps").is_file()
    assert not (folder / "macros/mine").exists()
    assert keeper.read() == after
    assert not any("mine" in name for name in read_package(build_package(after, 1, {}, {}), "it").files)
    back, _ = apply(after, PutMacro(MINE, "greeting-2", None))
    keeper.save("delete", after, back)
    assert not (tmp_path / "own/greeting-2.steps").exists()
    keeper.close()
    assert MINE not in {layer for layer, _ in read_workspace(folder).macros}


def test_a_publishing_key_is_made_once_and_readable_by_its_owner_only(tmp_path: Path) -> None:
    path = tmp_path / "maker.pem"
    made = MakerKey.of_profile(path, "Ailis")
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    assert MakerKey.of_profile(path, "Ailis").public == made.public
    path.write_text("no key")
    with pytest.raises(RimecrestError, match="is no publishing key"):
        MakerKey.of_profile(path, "Ailis")


def test_a_publishing_key_is_at_no_moment_readable_by_others(tmp_path: Path) -> None:
    """Wherever it is cut off while it is made, every file that is there is the owner's alone."""
    for at in itertools.count():
        folder = tmp_path / str(at)
        with failing(folder, Fault.KILLED, at) as layer, contextlib.suppress(Killed):
            MakerKey.of_profile(folder / "maker.pem", "Ailis")
        rights = [stat.S_IMODE(path.stat().st_mode) for path in folder.rglob("*") if path.is_file()]
        assert set(rights) <= {0o600}, layer.trail
        if layer.done <= at:
            break
    assert rights == [0o600]
    assert at > 2


# Panels

ASKING = 'macro "Asking"\nfor notes\n\nask panel "lanes"\nwrite "{panel.lanes.vessel}"\n'
OWN_STEPS = 'macro "Own"\nfor notes\n\nrun "inner"\nwrite "{panel.vessel}"\n'
LANES = {
    "id": "lanes",
    "title": "Lanes",
    "picture": "own:lane.svg",
    "items": [
        {
            "id": "vessel",
            "field": "Vessel",
            "on": {"change": {"steps": OWN_STEPS}, "enter": {"run": "notes:save"}},
        },
        {"id": "form", "run": "notes:open", "args": {"path": "companions/form.txt"}, "label": "Form"},
    ],
}
NORTH = ("department.north", "notes")


def with_panel() -> Workspace:
    workspace = full()
    for edit in (
        PutMacro("department.north", "asking", ASKING),
        PutPicture("lane.svg", b"<svg/>"),
        PutPanel(*NORTH, Panel.model_validate(LANES)),
    ):
        workspace = edit.on(workspace)
    return workspace


def asking() -> Bundle:
    return read_bundle(build_bundle(with_panel(), [("department.north", "asking")], MAKER), "it")


def vouched() -> Workspace:
    return Vouch("Ailis Sundby", MAKER.public).on(make_workspace())


def test_a_macro_takes_the_panel_it_asks_along_with_all_that_this_needs() -> None:
    found = asking()
    assert sorted(found.macros) == ["asking", "inner"]
    assert found.panels == {("notes", "lanes"): Panel.model_validate(LANES)}
    assert found.companions == {"form.txt": b"\x00form"}
    assert found.pictures == {"lane.svg": b"<svg/>"}
    without = PutPanel(*NORTH, Panel.model_validate({**LANES, "id": "other", "items": []})).on(full())
    broken = PutMacro("department.north", "asking", ASKING).on(without)
    with pytest.raises(RimecrestError, match="“Asking” needs the panel “lanes”, which does not exist"):
        needed(broken, [("department.north", "asking")])


def theirs(panel: Panel) -> Panel:
    """The panel with the maker's key at its private steps."""
    vessel, form = panel.items
    on = {"change": {"steps": OWN_STEPS, "made_by": MAKER.public}, "enter": {"run": "notes:save"}}
    return panel.model_copy(update={"items": (with_fields(vessel, {"on": on}), form)})


def test_a_bundle_cannot_say_that_its_steps_are_somebody_elses() -> None:
    forged = with_fields(
        Panel.model_validate(LANES).items[0], {"on": {"change": {"steps": OWN_STEPS, "made_by": "ab"}}}
    )
    panel = Panel.model_validate(LANES).model_copy(update={"items": (forged,)})
    offered = PutPanel(*NORTH, panel).on(with_panel())
    bundle = read_bundle(build_bundle(offered, [("department.north", "asking")], MAKER), "it")
    after = take_in(bundle, vouched(), "organisation", {}).on(vouched())
    (arrived,) = after.layout("organisation", "notes").panels
    assert makers_of(arrived.items[0]) == {MAKER.public}
    # Nor may what has no steps yet say whose its steps would be.
    button = {"id": "go", "run": "notes:save", "made_by": "ab"}
    asked = Panel.model_validate({**LANES, "items": [LANES["items"][0], button]})
    content = build_bundle(PutPanel(*NORTH, asked).on(with_panel()), [("department.north", "asking")], MAKER)
    after = take_in(read_bundle(content, "it"), vouched(), "organisation", {}).on(vouched())
    (arrived,) = after.layout("organisation", "notes").panels
    assert makers_of(with_fields(arrived.items[1], {"steps": OWN_STEPS})) == set()


def test_a_panel_of_a_known_maker_arrives_as_it_was_and_goes_with_one_undo() -> None:
    empty = vouched()
    after, inverse = apply(empty, take_in(asking(), empty, "organisation", {}))
    (panel,) = after.layout("organisation", "notes").panels
    assert panel == theirs(Panel.model_validate(LANES))
    assert after.pictures["lane.svg"] == b"<svg/>"
    assert not check_macro(
        after.macros["organisation", "asking"].macro, after.told(("organisation",), "notes")
    )
    assert inverse.on(after) == empty
    again = take_in(asking(), after, "organisation", {}).on(after)
    assert again.layout("organisation", "notes") == after.layout("organisation", "notes")


def test_a_panel_that_is_here_already_does_not_come_a_second_time() -> None:
    mine = Panel.model_validate({**LANES, "after": "notes:elsewhere"})  # nobody signed its private steps
    other = ASKING.replace("lanes.vessel", "lanes.form")
    here = PutPanel(*NORTH, mine).on(PutPicture("lane.svg", b"<svg/>").on(full()))
    here = PutMacro("department.north", "asking", other).on(here)
    after = take_in(asking(), here, "department.north", {}).on(here)
    assert ("department.north", "asking-2") in after.macros
    assert after.layout(*NORTH).panels == (mine,)


def test_where_the_names_are_taken_panel_controls_and_readings_get_others() -> None:
    other = {"id": "lanes", "title": "Ours", "items": [{"id": "vessel", "text": "Ours"}]}
    here = PutPanel("organisation", "notes", Panel.model_validate(other)).on(vouched())
    here = PutMacro("organisation", "inner", INNER.replace('"x"', '"y"')).on(here)
    here = PutPicture("lane.svg", b"<svg>ours</svg>").on(here)
    after = take_in(asking(), here, "organisation", {}).on(here)
    panels = {panel.id: panel for panel in after.layout("organisation", "notes").panels}
    ours, theirs = panels["lanes"], panels["lanes-2"]
    assert ours == Panel.model_validate(other)
    assert (theirs.id, theirs.picture, theirs.items[0].id) == ("lanes-2", "own:lane-2.svg", "vessel-2")
    text = after.macros["organisation", "asking"].text
    assert 'ask panel "lanes-2"\nwrite "{panel.lanes-2.vessel-2}"' in text
    (steps,) = steps_of(theirs.items[0])
    assert 'run "inner-2"\nwrite "{panel.vessel-2}"' in steps
    found = check(after).findings
    assert not [finding for finding in found if finding.kind == "faulty"]


def test_nothing_on_a_strangers_panel_runs_by_itself_until_somebody_vouches() -> None:
    empty = make_workspace()
    after = take_in(asking(), empty, "organisation", {}).on(empty)
    (panel,) = after.layout("organisation", "notes").panels
    assert runs_of(panel) == runs_of(panel.items[0]) == []
    handlers = panel.items[0].on.values()
    assert {handler.made_by for handler in handlers} == {MAKER.public}
    own, saves = (handler.steps for handler in handlers)
    assert own == OWN_STEPS
    assert "do save" in saves
    unsigned = take_in(replace(asking(), signed=False), empty, "organisation", {}).on(empty)
    (panel,) = unsigned.layout("organisation", "notes").panels
    assert {handler.made_by for handler in panel.items[0].on.values()} == {"nobody"}


def test_a_bundle_whose_panel_lies_under_another_name_is_refused() -> None:
    bad = Release(number=0, files={"panels/notes/x.json": hashlib.sha256(PANEL_TEXT).hexdigest()})
    files = {"panels/notes/x.json": PANEL_TEXT, "release.json": dump_record(bad, "release").encode()}
    with pytest.raises(RimecrestError, match="it is the panel “lanes”"):
        read_bundle(zipped(files), "it")


PANEL_TEXT = dump_record(Panel.model_validate(LANES), "panel").encode()
