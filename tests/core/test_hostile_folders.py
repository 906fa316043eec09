"""Workspaces that were torn in the middle of a save, or made by somebody who means harm."""

from __future__ import annotations

import json
import os
import shutil
import time
import zlib
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import BESIDE, LEFT_BEHIND, write_atomically
from rimecrest.core.workspace.edits import apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.folder import open_workspace, read_workspace
from rimecrest.core.workspace.journal import PLACE, Journal, UnfinishedElsewhere, framed, records_in
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.parts import changed_files, is_known

NASTY = 'macro "N"\nfor notes\nwrite "a\u2028b\u0085c\x0bd\x1ce"\n'
NORTH = "layouts/department.north/notes.json"


def journal(folder: Path) -> Path:
    return folder / PLACE


# The journal's frames


@given(
    st.lists(st.dictionaries(st.text(max_size=8), st.text(max_size=30), max_size=3), max_size=5), st.data()
)
def test_of_a_torn_journal_every_whole_record_is_read_and_nothing_else(
    records: list[dict[str, str]], data: st.DataObject
) -> None:
    lines = [framed(record) for record in records]
    whole = b"".join(lines)
    cut = data.draw(st.integers(0, len(whole)))
    read = [record for record, _ in records_in(whole[:cut])]
    ends = [len(b"".join(lines[: number + 1])) for number in range(len(lines))]
    assert read == records[: sum(end <= cut for end in ends)]


@given(st.binary(max_size=60))
def test_what_is_no_record_is_none(rubbish: bytes) -> None:
    begun = framed({"done": True})
    read = [record for record, _ in records_in(begun + rubbish)]
    assert read[0] == {"done": True}


def test_at_every_byte_at_which_a_save_is_cut_off_the_next_one_is_whole(folder: Path) -> None:
    """A record is torn anywhere; what is saved after that is read again whole."""
    before = read_workspace(folder)
    after, _ = apply(before, PutMacro("organisation", "nasty", NASTY))
    files = changed_files(before, after)
    torn = framed({"label": "torn", "files": {name: (text or b"").decode() for name, text in files.items()}})
    for cut in range(0, len(torn), 7):
        journal(folder).parent.mkdir(exist_ok=True)
        journal(folder).write_bytes(framed({"done": True}) + torn[:cut])
        kept = Journal(folder)
        assert kept.pending() == ("", {})
        kept.begin("next", files)
        assert Journal(folder).pending()[0] == "next"
        assert (
            open_workspace(folder).macros["organisation", "nasty"].text
            == after.macros["organisation", "nasty"].text
        )
        (folder / "macros" / "organisation" / "nasty.steps").unlink()


def test_separators_of_lines_in_a_text_tear_no_record(folder: Path) -> None:
    before = read_workspace(folder)
    after, _ = apply(before, PutMacro("organisation", "nasty", NASTY))
    Journal(folder).begin("nasty", changed_files(before, after))
    assert open_workspace(folder).macros["organisation", "nasty"] == after.macros["organisation", "nasty"]


def test_who_only_reads_sees_a_save_that_was_not_finished_as_it_will_be(folder: Path) -> None:
    before = read_workspace(folder)
    after, _ = apply(before, PutMacro("organisation", "new", 'macro "New"\n'))
    after, _ = apply(after, PutMacro("organisation", "greeting", None))
    Journal(folder).begin("half", changed_files(before, after))
    kept = sorted(path.name for path in folder.rglob("*.steps"))
    read = read_workspace(folder)
    assert dict(read.macros) == dict(after.macros)
    assert sorted(path.name for path in folder.rglob("*.steps")) == kept


def test_a_disk_that_is_full_in_the_middle_of_a_record_leaves_the_next_one_readable(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    kept = Journal(folder)
    kept.save("first", {NORTH: (folder / NORTH).read_bytes()})
    with journal(folder).open("ab") as file:
        file.write(framed({"label": "torn", "files": {}})[:9])
    kept.save("second", {NORTH: (folder / NORTH).read_bytes()})
    labels = [record.get("label") for record, _ in records_in(journal(folder).read_bytes())]
    assert labels == ["first", None, "second", None]


# What a received workspace may name


@pytest.mark.parametrize(
    "name",
    [
        "../../outside.txt",
        "/tmp/outside.txt",
        "macros/../../outside.steps",
        "macros/organisation/../../../outside.steps",
        "layouts/organisation/.json",
        "macros/organisation/.steps",
        "companions/../../outside",
        "companions/a\\b/c",
        ".rimecrest/lock",
        "outside.txt",
        "",
    ],
)
def test_a_journal_writes_and_deletes_only_files_of_a_workspace(folder: Path, name: str) -> None:
    assert not is_known(name)
    outside = [path for path in folder.parent.rglob("*") if path.is_file()]
    for content in ("written", None):
        record = {"label": "x", "files": {name: content, "macros/organisation/good.steps": 'macro "G"\n'}}
        journal(folder).parent.mkdir(exist_ok=True)
        journal(folder).write_bytes(framed(record))
        opened = open_workspace(folder)
        assert ("organisation", "good") not in opened.macros
        now = [path for path in folder.parent.rglob("*") if path.is_file()]
        assert {path for path in now if ".rimecrest" not in path.parts} == set(outside)


@pytest.mark.parametrize(
    "files", [None, 3, "x", ["a"], {"workspace.json": 4}, {"people.csv": {"base64": "?"}}]
)
def test_a_record_without_proper_files_does_nothing(folder: Path, files: object) -> None:
    before = read_workspace(folder)
    journal(folder).parent.mkdir(exist_ok=True)
    journal(folder).write_bytes(framed({"label": "x", "files": files}))
    assert open_workspace(folder).macros == before.macros


def test_a_record_whose_checksum_is_wrong_is_none(folder: Path) -> None:
    body = json.dumps({"label": "x", "files": {"people.csv": ""}}).encode()
    journal(folder).parent.mkdir(exist_ok=True)
    journal(folder).write_bytes(b"%d %08x %s\n" % (len(body), zlib.crc32(body) ^ 1, body))
    assert open_workspace(folder).people == read_workspace(folder).people
    assert open_workspace(folder).people


@pytest.mark.parametrize(
    "key",
    [("organisation", "../../../e"), ("../../../o", "e"), ("organisation", ""), ("", "e"), ("a/b", "e")],
)
def test_nothing_is_saved_under_what_is_no_identity(folder: Path, key: tuple[str, str]) -> None:
    keeper = Keeper(folder)
    opened = keeper.open()
    before = sorted(folder.parent.rglob("*"))
    with pytest.raises(RimecrestError, match="cannot be the place of a macro"):
        keeper.save("x", opened, opened.with_macro(*key, 'macro "E"\n'))
    keeper.close()
    assert sorted(folder.parent.rglob("*")) == before


def left_elsewhere(folder: Path) -> None:
    """An unfinished save that another computer has written, or somebody by hand."""
    files = {"companions/evil.txt": "evil", "macros/department.north/closing.steps": None}
    journal(folder).parent.mkdir(exist_ok=True)
    journal(folder).write_bytes(framed({"label": "greetings", "files": files, "by": "0" * 16}))


def test_what_another_computer_left_unfinished_is_completed_only_by_who_was_asked(folder: Path) -> None:
    left_elsewhere(folder)
    keeper = Keeper(folder)
    for _ in range(2):  # the lock is free again
        with pytest.raises(UnfinishedElsewhere, match="“greetings”, which writes companions/evil.txt and"):
            keeper.open()
    assert not (folder / "companions").exists()
    assert dict(keeper.open(complete=True).companions) == {"evil.txt": b"evil"}
    keeper.close()
    assert not (folder / "macros/department.north/closing.steps").exists()


def test_what_another_computer_left_unfinished_can_be_left_out(folder: Path) -> None:
    left_elsewhere(folder)
    before = (folder / "macros/department.north/closing.steps").read_bytes()
    assert dict(open_workspace(folder, complete=False).companions) == {}
    assert dict(open_workspace(folder).companions) == {}
    assert (folder / "macros/department.north/closing.steps").read_bytes() == before


def test_a_folder_that_is_put_in_place_of_an_open_one_is_not_written_into(folder: Path) -> None:
    keeper = Keeper(folder)
    opened = keeper.open()
    folder.rename(folder.with_name("away"))
    shutil.copytree(folder.with_name("away"), folder)
    here = sorted(path for path in folder.rglob("*") if path.is_file())
    with pytest.raises(RimecrestError, match="another folder was put in its place|so another studio may be"):
        keeper.save("new", opened, opened.with_macro("organisation", "new", 'macro "New"\n'))
    keeper.close()
    assert sorted(path for path in folder.rglob("*") if path.is_file()) == here


# Links, pipes, things that are no files


def test_links_are_not_followed_and_told(folder: Path, tmp_path: Path) -> None:
    secret = tmp_path / "secret"
    secret.write_text("secret")
    (folder / "companions").mkdir()
    (folder / "companions" / "plan.txt").symlink_to(secret)
    (folder / "macros" / "department.south").symlink_to(tmp_path)
    (tmp_path / "far.steps").write_text('macro "Far"\n')
    opened = open_workspace(folder)
    assert dict(opened.companions) == {}
    assert ("department.south", "far") not in opened.macros
    why = "it is reached through a link, and links are not followed"
    assert opened.broken["companions/plan.txt"] == why
    assert opened.broken["macros/department.south/far.steps"] == why


def test_a_pipe_among_the_companions_is_told_and_waited_for_by_nobody(folder: Path) -> None:
    (folder / "companions").mkdir()
    os.mkfifo(folder / "companions" / "pipe")
    assert open_workspace(folder).broken == {"companions/pipe": "it is no plain file"}


def test_what_is_no_plain_file_hangs_no_studio_and_is_not_written_over(folder: Path, tmp_path: Path) -> None:
    (folder / "companions").mkdir()
    os.mkfifo(folder / "companions" / "pipe")
    secret = tmp_path / "secret"
    secret.write_text("secret")
    (folder / "companions" / "plan.txt").symlink_to(secret)
    mine = tmp_path / "mine"
    mine.mkdir()
    os.mkfifo(mine / "waiting.steps")
    (mine / "good.steps").write_text('macro "Good"\n')
    keeper = Keeper(folder, mine=mine)
    opened = keeper.open()
    assert [key for key in opened.macros if key[0] == MINE] == [(MINE, "good")]
    assert set(opened.broken) == {"companions/pipe", "companions/plan.txt"}
    assert keeper.foreign_changes() == []
    secret.write_text("another secret")
    assert keeper.foreign_changes() == []
    after = opened.with_macro("organisation", "new", 'macro "New"\n')
    keeper.save("new", opened, after)
    with pytest.raises(RimecrestError, match="plan.txt cannot be used: it is reached through a link"):
        keeper.save("over", after, after.with_companion("plan.txt", b"mine"))
    keeper.close()
    assert secret.read_text() == "another secret"
    assert ("organisation", "new") in read_workspace(folder).macros


def test_what_a_killed_program_was_writing_is_tidied_when_its_time_is_over(folder: Path) -> None:
    long_ago = time.time() - 2 * LEFT_BEHIND
    left = [folder / place / f".abc{BESIDE}" for place in ("", "layouts/department.north", ".rimecrest")]
    (folder / ".rimecrest").mkdir()
    for path in left:
        path.write_text("half")
        os.utime(path, (long_ago, long_ago))
    fresh = folder / f".def{BESIDE}"
    fresh.write_text("somebody writes this now")
    notes = folder / ".notes"
    notes.write_text("mine")
    os.utime(notes, (long_ago, long_ago))
    keeper = Keeper(folder)
    opened = keeper.open()
    keeper.close()
    assert opened.broken == {}
    assert [path for path in left if path.exists()] == []
    assert fresh.exists()
    assert notes.exists()


def test_a_save_that_is_killed_leaves_a_name_that_is_tidied(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    class Killed(BaseException):
        """The process ends here: nothing after it is carried out."""

    def die(*_: object, **__: object) -> None:
        raise Killed

    monkeypatch.setattr(os, "replace", die)
    monkeypatch.setattr(os, "unlink", die)
    with pytest.raises(Killed):
        write_atomically(folder / "companions" / "plan.txt", b"half")
    monkeypatch.undo()
    (left,) = (folder / "companions").iterdir()
    os.utime(left, (0, 0))
    keeper = Keeper(folder)
    keeper.open()
    keeper.close()
    assert list((folder / "companions").iterdir()) == []


def test_a_lock_that_is_a_link_empties_nothing(folder: Path, tmp_path: Path) -> None:
    precious = tmp_path / "precious"
    precious.write_text("precious")
    (folder / ".rimecrest").mkdir()
    (folder / ".rimecrest" / "lock").symlink_to(precious)
    keeper = Keeper(folder)
    keeper.open()
    assert precious.read_text() == "precious"
    assert keeper.read_only
    assert "through a link" in keeper.held_by


def test_a_journal_that_is_a_link_is_not_written(folder: Path, tmp_path: Path) -> None:
    precious = tmp_path / "precious"
    precious.write_text("precious")
    (folder / ".rimecrest").mkdir()
    journal(folder).symlink_to(precious)
    assert open_workspace(folder).broken == {}
    with pytest.raises(RimecrestError, match="through a link"):
        Journal(folder).save("x", {NORTH: b"{}"})
    assert precious.read_text() == "precious"


# Opening never ends in a traceback


@pytest.mark.parametrize(
    ("name", "content", "says"),
    [
        (NORTH, '{"format": "rimecrest.layout/²"}', "its format is “rimecrest.layout/²”"),
        (
            NORTH,
            '{"format": "rimecrest.layout/1", "later": ' + "9" * 5000 + "}",
            "a number in it is too long",
        ),
        ("use.csv", "application,target,uses\nnotes,notes:bold,²\n", "“²” is no number of uses"),
        ("use.csv", f"application,target,uses\nnotes,notes:bold,{'9' * 5000}\n", "is no number of uses"),
        ("people.csv", 'seat,name\n1,"' + "x" * 140_000, "is a quote not closed?"),
        ("people.csv", '"' + "x" * 140_000, "is a quote not closed?"),
        ("own-keys.csv", 'seat,application,keys,run\na,notes,"' + "x" * 140_000, "is a quote not closed?"),
    ],
)
def test_what_cannot_be_read_is_named_and_the_rest_opens(
    folder: Path, name: str, content: str, says: str
) -> None:
    (folder / name).write_text(content)
    opened = open_workspace(folder)
    assert list(opened.broken) == [name]
    assert says in opened.broken[name]
    assert opened.macros


@pytest.mark.skipif(os.geteuid() == 0, reason="root reads every file")
def test_a_companion_without_rights_is_named(folder: Path) -> None:
    (folder / "companions").mkdir()
    (folder / "companions" / "plan.txt").write_text("x")
    (folder / "companions" / "plan.txt").chmod(0)
    assert "cannot be read" in open_workspace(folder).broken["companions/plan.txt"]
