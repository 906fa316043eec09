"""The workspace on disk: reading, broken files, saving, the journal, the lock, other programs."""

from __future__ import annotations

import fcntl
import json
import os
import shutil
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest
from msgspec.structs import replace

from rimecrest.core.errors import BrokenFile, NewerFormat, RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.workspace import journal as journal_module
from rimecrest.core.workspace.edits import TakeOff, apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.folder import open_workspace, read_workspace
from rimecrest.core.workspace.journal import Journal
from rimecrest.core.workspace.keeper import ChangedMeanwhile, Keeper
from rimecrest.core.workspace.parts import PARTS, Part, changed_files
from rimecrest.core.workspace.people import (
    Seat,
    format_people,
    parse_pasted_people,
    parse_people,
    perhaps_one,
)
from rimecrest.core.workspace.workspace import Workspace
from tests.samples import PEOPLE

NORTH = "layouts/department.north/notes.json"
OFF = TakeOff("department.north", "notes", ("app:item-save",))


def test_a_folder_is_read_whole(folder: Path, workspace: Workspace) -> None:
    opened = open_workspace(folder)
    assert opened.broken == {}
    assert dict(opened.layouts) == dict(workspace.layouts)
    assert dict(opened.macros) == dict(workspace.macros)
    assert opened.people == workspace.people
    assert opened.catalogues == workspace.catalogues


def test_an_unknown_field_is_kept_and_written_back(folder: Path) -> None:
    path = folder / NORTH
    data = json.loads(path.read_text())
    data["later"] = {"a": 1}
    data["toolbars"][0]["items"][0]["glow"] = True
    path.write_text(json.dumps(data))
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, OFF)
    keeper.save("x", before, after)
    keeper.close()
    written = json.loads(path.read_text())
    assert written["later"] == {"a": 1}
    assert written["toolbars"][0]["items"][0]["glow"] is True


@pytest.mark.parametrize(
    ("content", "reason"),
    [
        ('{"format": "rimecrest.layout/1",\n "app": }', "line 2: this is not JSON"),
        ("[]", "it holds no layout"),
        ('{"format": "rimecrest.catalogue/1"}', "its format is “rimecrest.catalogue/1”"),
        ('{"format": "rimecrest.layout/1", "app": "notes"}', "layer: Field required"),
        ('{"format": "rimecrest.layout/1", "app": "other", "layer": "organisation"}', "but lies elsewhere"),
        (
            '{"format": "rimecrest.layout/1", "app": "notes", "layer": "department.north",'
            ' "keys": [{"keys": "Ctrl+Nix", "run": null}]}',
            "“Nix” in “Ctrl+Nix” is no key",
        ),
        ('{"format": "rimecrest.layout/9", "app": "notes"}', "reads up to rimecrest.layout/1"),
    ],
)
def test_a_broken_layout_names_file_and_reason_and_the_rest_opens(
    folder: Path, content: str, reason: str
) -> None:
    (folder / NORTH).write_text(content)
    opened = open_workspace(folder)
    assert reason in opened.broken[NORTH]
    assert ("organisation", "notes") in opened.layouts
    assert len(opened.macros) == 2


def test_a_file_that_is_not_text_or_nested_without_end_is_broken_not_a_crash(folder: Path) -> None:
    (folder / NORTH).write_bytes(b"\xff\xfe\x00")
    (folder / "layouts" / "organisation" / "notes.json").write_text("[" * 100_000)
    opened = open_workspace(folder)
    assert "not UTF-8" in opened.broken[NORTH]
    assert "nested too deeply" in opened.broken["layouts/organisation/notes.json"]


def test_a_missing_catalogue_is_told_and_the_layouts_stay(folder: Path) -> None:
    (folder / "catalogues" / "notes.json").unlink()
    opened = open_workspace(folder)
    assert opened.broken["catalogues/notes.json"] == "the file is missing"
    assert len(opened.layouts) == 2
    with pytest.raises(RimecrestError, match="no catalogue of “notes”") as caught:
        opened.outcome(("organisation",), "notes")
    assert "Start Notes once" in caught.value.way_out


def test_a_broken_or_newer_workspace_file_is_refused_with_the_way_out(folder: Path) -> None:
    (folder / "workspace.json").write_text("{ nonsense")
    with pytest.raises(BrokenFile, match="workspace.json, line 1"):
        open_workspace(folder)
    (folder / "workspace.json").write_text('{"format": "rimecrest.workspace/2", "name": "x"}')
    with pytest.raises(NewerFormat, match="Update Rimecrest"):
        open_workspace(folder)


def test_a_folder_that_is_none_and_one_without_workspace_say_so(tmp_path: Path) -> None:
    with pytest.raises(RimecrestError, match="There is no folder"):
        open_workspace(tmp_path / "none")
    with pytest.raises(RimecrestError, match="has no workspace.json"):
        open_workspace(tmp_path)


def test_people_are_read_with_their_departments_and_written_back() -> None:
    assert parse_people(format_people(PEOPLE)) == PEOPLE


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("name\nAilis\n", "line 1: the column “seat” is missing"),
        ("seat,name\n,Ailis\n", "line 2: this line has no seat"),
        ("seat,name\nA 1,Ailis\nA 1,Bram\n", "line 3: the seat “A 1” stands twice"),
    ],
)
def test_a_list_of_people_that_does_not_fit_names_the_line(text: str, says: str) -> None:
    with pytest.raises(BrokenFile, match=says):
        parse_people(text)


def test_an_edit_is_on_disk_at_once(folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, inverse = apply(before, OFF)
    keeper.save("take off", before, after)
    assert '"hide"' in (folder / NORTH).read_text()
    restored, _ = apply(after, inverse)
    keeper.save("undo", after, restored)
    assert '"hide"' not in (folder / NORTH).read_text()
    keeper.close()


def test_a_deleted_macro_leaves_the_disk(folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, PutMacro("department.north", "closing", None))
    keeper.save("delete", before, after)
    keeper.close()
    assert not (folder / "macros/department.north/closing.steps").exists()


def test_a_save_that_was_interrupted_is_finished_at_the_next_opening(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    class PowerCut(BaseException):
        pass

    def cut(self: Folder, name: str, content: bytes) -> None:
        raise PowerCut

    files: dict[str, bytes | None] = {
        NORTH: (folder / NORTH).read_bytes().replace(b"Rule", b"Ruler"),
        "macros/department.north/closing.steps": None,
    }
    monkeypatch.setattr(Folder, "write", cut)
    with pytest.raises(PowerCut):
        Journal(folder).save("both", files)
    monkeypatch.undo()
    assert "Ruler" not in (folder / NORTH).read_text()
    opened = open_workspace(folder)
    assert "Ruler" in (folder / NORTH).read_text()
    assert ("department.north", "closing") not in opened.macros
    assert Journal(folder).finish() == ""


def test_a_save_that_fails_half_way_leaves_all_as_it_was(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    old = (folder / NORTH).read_text()
    real = Folder.write

    def full(self: Folder, name: str, content: bytes) -> None:
        if name.endswith(".steps"):
            raise RimecrestError("The disk is full.")
        real(self, name, content)

    monkeypatch.setattr(Folder, "write", full)
    with pytest.raises(RimecrestError, match="The disk is full"):
        Journal(folder).save("both", {NORTH: b"{}", "macros/department.north/closing.steps": b"x"})
    monkeypatch.undo()
    assert (folder / NORTH).read_text() == old
    open_workspace(folder)
    assert (folder / NORTH).read_text() == old


def test_a_torn_last_line_of_the_journal_is_no_record(folder: Path) -> None:
    Journal(folder).save("x", {NORTH: (folder / NORTH).read_bytes()})
    with (folder / ".rimecrest" / "journal.jsonl").open("a") as file:
        file.write('{"label": "torn", "files": {"a')
    assert Journal(folder).finish() == ""


def test_the_journal_does_not_grow_without_end(folder: Path) -> None:
    text = (folder / NORTH).read_bytes()
    for _ in range(journal_module.LONGEST // 2 + 5):
        Journal(folder).save("x", {NORTH: text})
    Journal(folder).finish()
    lines = (folder / ".rimecrest" / "journal.jsonl").read_text().splitlines()
    assert len(lines) <= journal_module.LONGEST // 2 + 1


def test_a_folder_that_cannot_be_written_says_which_and_why(folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, PutMacro("department.south", "new", 'macro "New"\n'))
    (folder / "macros" / "department.south").write_text("a file where a folder belongs")
    with pytest.raises(RimecrestError, match=r"department.south/new.steps cannot be written") as caught:
        keeper.save("x", before, after)
    assert "what was there is still there" in caught.value.way_out
    keeper.close()


def test_a_folder_that_vanished_is_told(folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, OFF)
    folder.rename(folder.with_name("elsewhere"))
    with pytest.raises(RimecrestError, match="the folder is gone"):
        keeper.save("x", before, after)
    keeper.close()


def test_the_second_to_open_is_read_only_and_knows_who_has_it(folder: Path) -> None:
    first, second = Keeper(folder), Keeper(folder)
    workspace = first.open()
    second.open()
    assert not first.read_only
    assert second.read_only
    assert f"process {os.getpid()}" in second.held_by
    with pytest.raises(RimecrestError, match="open read-only"):
        second.save("x", workspace, workspace)
    first.close()
    third = Keeper(folder)
    third.open()
    assert not third.read_only
    third.close()


def test_the_lock_of_a_program_that_was_killed_is_free(folder: Path) -> None:
    code = (
        "import sys, time; from pathlib import Path; from rimecrest.core.workspace.keeper import Keeper;"
        "k = Keeper(Path(sys.argv[1])); k.open(); print('open', flush=True); time.sleep(60)"
    )
    holder = subprocess.Popen([sys.executable, "-c", code, str(folder)], stdout=subprocess.PIPE)
    assert holder.stdout is not None
    assert holder.stdout.readline() == b"open\n"
    waiting = Keeper(folder)
    waiting.open()
    assert waiting.read_only
    holder.kill()
    holder.wait()
    keeper = Keeper(folder)
    keeper.open()
    assert not keeper.read_only
    keeper.close()


def test_whose_the_lock_is_lies_beside_it_for_people_only(folder: Path) -> None:
    keeper = Keeper(folder)
    keeper.open()
    holder = folder / ".rimecrest" / "lock.holder"
    assert f"process {os.getpid()}" in holder.read_text()
    # The lock is the system's: without the name beside it, the second one still reads only.
    holder.unlink()
    second = Keeper(folder)
    second.open()
    assert second.read_only
    assert second.held_by == "another Rimecrest"
    keeper.close()


def _take_away(folder: Path) -> None:
    (folder / ".rimecrest" / "lock").unlink()


def _put_anew(folder: Path) -> None:
    fresh = folder / ".rimecrest" / "fresh"
    fresh.touch()
    fresh.replace(folder / ".rimecrest" / "lock")


def _tidy_all_away(folder: Path) -> None:
    shutil.rmtree(folder / ".rimecrest")


@pytest.mark.parametrize("meddle", [_take_away, _put_anew, _tidy_all_away])
def test_a_lock_that_is_tidied_away_still_keeps_a_second_studio_out(
    folder: Path, meddle: Callable[[Path], None]
) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, OFF)
    meddle(folder)
    second = Keeper(folder)
    second.open()
    assert second.read_only
    with pytest.raises(RimecrestError, match="open read-only"):
        second.save("take off", before, after)
    keeper.save("take off", before, after)
    assert read_workspace(folder).layouts == after.layouts
    third = Keeper(folder)
    third.open()
    assert third.held_by.endswith(f"process {os.getpid()}")
    for each in (second, third, keeper):
        each.close()
    again = Keeper(folder)
    again.open()
    assert not again.read_only
    again.close()


def test_nothing_is_written_once_somebody_else_has_the_lock(folder: Path) -> None:
    """As where the disk locks no folders, and a second program found the lock's file gone."""
    keeper = Keeper(folder)
    before = keeper.open()
    kept = (folder / NORTH).read_bytes()
    after, _ = apply(before, OFF)
    _put_anew(folder)
    with (folder / ".rimecrest" / "lock").open("r+") as theirs:
        fcntl.flock(theirs, fcntl.LOCK_EX)
        with pytest.raises(RimecrestError, match="another studio may be writing") as caught:
            keeper.save("take off", before, after)
        assert "your last step was not done" in caught.value.way_out
        assert (folder / NORTH).read_bytes() == kept
    keeper.close()


@pytest.mark.parametrize("part", PARTS, ids=lambda part: part.name)
def test_every_part_is_written_read_taken_away_and_put_back_alike(demo: Workspace, part: Part) -> None:
    workspace = replace(demo, pictures={"ferry.svg": b"<svg/>"}, companions={"plan.ods": b"\x00plan"})
    assert part.values(workspace), f"nothing to try {part.name} on"
    for key, value in part.values(workspace).items():
        path, content = part.path(key), part.write(value)
        assert part.key(path) == key
        assert part.write(part.read(content, path, key)) == content
        without = part.put(workspace, key, None)
        assert changed_files(workspace, without) == {path: None}
        assert changed_files(without, part.put(without, key, value)) == {path: content}
        if part.packed:
            assert part.packed_key(part.packed_path(key)) == key


def test_what_another_program_changed_is_noticed_and_what_we_wrote_is_not(folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, OFF)
    keeper.save("x", before, after)
    assert keeper.foreign_changes() == []
    (folder / "macros/organisation/greeting.steps").write_text('macro "Hello"\n')
    (folder / "macros/organisation/more.steps").write_text('macro "More"\n')
    assert keeper.foreign_changes() == [
        "macros/organisation/greeting.steps",
        "macros/organisation/more.steps",
    ]
    assert keeper.foreign_changes() == []
    keeper.close()


def test_what_another_program_wrote_is_never_written_over(folder: Path) -> None:
    keeper = Keeper(folder)
    before = keeper.open()
    after, _ = apply(before, OFF)
    theirs = (folder / NORTH).read_text().replace("Rule", "Ruler")
    (folder / NORTH).write_text(theirs)
    with pytest.raises(ChangedMeanwhile, match="changed layouts/department.north/notes.json meanwhile"):
        keeper.save("take off", before, after)
    assert (folder / NORTH).read_text() == theirs
    keeper.foreign_changes()
    fresh = read_workspace(folder)
    again, _ = apply(fresh, OFF)
    keeper.save("take off", fresh, again)
    assert "Ruler" in (folder / NORTH).read_text()
    assert "hide" in (folder / NORTH).read_text()
    keeper.close()


def test_a_name_that_is_nearly_right_is_suggested(folder: Path) -> None:
    workspace = read_workspace(folder)
    assert workspace.seat("ailis sundby").seat == "North 1"
    with pytest.raises(RimecrestError, match="Did you mean “North 1”"):
        workspace.seat("Nort 1")


def test_stacks_follow_the_order_of_the_workspace(workspace: Workspace) -> None:
    both = workspace.seat("Both 1")
    assert workspace.stack_of(both) == ("organisation", "department.north", "department.south")


def test_applications_stand_in_the_order_of_workspace_json(folder: Path) -> None:
    data = json.loads((folder / "catalogues/notes.json").read_text())
    (folder / "catalogues/accounts.json").write_text(json.dumps({**data, "app": "accounts", "commands": []}))
    main = json.loads((folder / "workspace.json").read_text())
    (folder / "workspace.json").write_text(json.dumps({**main, "applications": ["notes", "accounts"]}))
    assert list(open_workspace(folder).catalogues) == ["notes", "accounts"]


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("seat;name\nDesk 1;Tove\n", "its values are parted by semicolons"),
        ("\ufeffseat;name\nDesk 1;Tove\n", "its values are parted by semicolons"),
        ("seat\tname\nDesk 1\tTove\n", "its values are parted by tabs"),
    ],
)
def test_a_list_with_other_separators_is_told_the_true_reason(text: str, reason: str) -> None:
    with pytest.raises(BrokenFile, match=reason):
        parse_people(text)


def test_a_mark_of_the_byte_order_is_no_part_of_the_first_column() -> None:
    assert [seat.seat for seat in parse_people("\ufeffseat,name\nDesk 1,Tove\n")] == ["Desk 1"]


@pytest.mark.parametrize(
    "text",
    [
        "seat,name,departments\nDesk 1,Tove,front",
        "Desk 1,Tove,front",
        "Desk 1;Tove;front",
        "\ufeffSeat\tName\tDepartments\nDesk 1\tTove\tfront",
        "Desk 1\tTove\tfront\n\n",
    ],
)
def test_a_pasted_list_is_read_with_or_without_its_columns(text: str) -> None:
    [seat] = parse_pasted_people(text, "The list")
    assert (seat.seat, seat.name, seat.departments) == ("Desk 1", "Tove", ("front",))


@pytest.mark.parametrize(
    ("text", "departments"),
    [
        ("front quay", ("front", "quay")),
        ("back office, front", ("back-office", "front")),
        ("back office/front", ("back-office", "front")),
        (" ; ", ()),
    ],
)
def test_departments_have_several_words_where_something_else_parts_them(
    text: str, departments: tuple[str, ...]
) -> None:
    [seat] = parse_people(f'seat,name,departments\nDesk 1,Tove,"{text}"\n')
    assert seat.departments == departments


def test_two_departments_that_nobody_has_apart_may_be_one() -> None:
    def seats(*departments: str) -> tuple[Seat, ...]:
        return tuple(Seat(f"Desk {n}", "Tove", tuple(d.split())) for n, d in enumerate(departments))

    assert perhaps_one(seats("back office", "front", "front back office")) == "back office"
    assert perhaps_one(seats("back office", "office")) == ""
    assert perhaps_one(seats("front", "back")) == ""


def test_a_line_without_a_name_is_a_seat_of_nobody_known() -> None:
    assert [seat.name for seat in parse_people("seat,name\nDesk 1,\nDesk 2\n")] == ["", ""]
