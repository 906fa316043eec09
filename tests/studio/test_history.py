"""What was before: kept on disk, undone after a crash, brought back whole or in part, thinned, forgotten."""

from __future__ import annotations

import itertools
import shutil
import sqlite3
from pathlib import Path

import pytest

from rimecrest.core.catalogue.items import Button
from rimecrest.core.workspace.edits import PutItems, SetFields, TakeOff
from rimecrest.core.workspace.file_edits import PutMacro, PutPicture
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.past import BringBack
from rimecrest.studio.shared.history import DAILY_AFTER, EDIT, HOURLY_AFTER, RELEASE, History
from rimecrest.studio.shared.session import Session

HERE = ("department.freight", "letters")
BAR = "department.freight:freight"
TABLE = "department.freight:table"
NOTE = ("department.freight", "hazard-note")


class Clock:
    def __init__(self) -> None:
        self.now = 1_790_000_000.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture
def session(demo_copy: Path, qtbot: object) -> Session:
    return Session(demo_copy)


def label(session: Session, words: str) -> None:
    assert session.do(SetFields(*HERE, TABLE, {"label": words}, f"call it {words}"))


def called(session: Session) -> str:
    return str(session.workspace.outcome(session.aim.stack(session.workspace), "letters").item(TABLE).label)  # type: ignore[union-attr]


# Undo after a crash


def test_after_a_crash_undo_and_redo_have_what_they_had(session: Session, demo_copy: Path) -> None:
    before = called(session)
    for words in ("One", "Two", "Three"):
        label(session, words)
    session.undo()
    # No close: the studio was killed. Its lock is gone with its process.
    session.keeper.close()
    again = Session(demo_copy)
    assert called(again) == "Two"
    again.redo()
    assert called(again) == "Three"
    for expected in ("Two", "One", before):
        again.undo()
        assert called(again) == expected
    assert again.undo_label == ""
    again.close()
    # Ended in good order, it begins with nothing to undo.
    third = Session(demo_copy)
    assert (third.undo_label, third.redo_label) == ("", "")
    third.close()


def test_a_second_crash_loses_nothing_of_the_first(session: Session, demo_copy: Path) -> None:
    before = called(session)
    label(session, "One")
    session.keeper.close()
    again = Session(demo_copy)
    label(again, "Two")
    again.keeper.close()
    third = Session(demo_copy)
    third.undo()
    third.undo()
    assert called(third) == before
    third.close()


def test_what_was_joined_is_one_step_after_a_crash_too(session: Session, demo_copy: Path) -> None:
    before = called(session)
    for words in ("A", "B", "C"):
        session.do(SetFields(*HERE, TABLE, {"label": words}, "drawn"), joined="one")
    session.keeper.close()
    again = Session(demo_copy)
    again.undo()
    assert called(again) == before
    assert again.undo_label == ""
    again.close()


def test_what_another_program_wrote_is_never_undone_over(session: Session, demo_copy: Path) -> None:
    label(session, "One")
    path = demo_copy / "layouts/department.freight/letters.json"
    path.write_text(path.read_text().replace('"One"', '"Theirs"'))
    session.look_again()
    session.keeper.close()
    again = Session(demo_copy)
    assert called(again) == "Theirs"
    assert again.undo_label == ""
    again.close()


# As it was


def test_the_workspace_is_as_it_was_at_any_point(session: Session) -> None:
    states = [session.workspace]
    for words in ("One", "Two"):
        label(session, words)
        states.append(session.workspace)
    session.do(PutMacro(*NOTE, None))
    session.do(PutPicture("dot.svg", b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>'))
    points = session.history.points()
    assert [point.label for point in points][-1] == "call it One"
    for point, state in zip(reversed(points), states[1:], strict=False):
        assert session.as_it_was(point.id).layouts == state.layouts
    assert NOTE in session.as_it_was(points[-1].id).macros
    assert not session.as_it_was(points[-1].id).pictures
    assert session.bring_everything_back(points[-1].id, "at noon")
    assert NOTE in session.workspace.macros
    assert called(session) == "One"
    session.undo()
    assert NOTE not in session.workspace.macros
    assert called(session) == "Two"
    assert "before going back to at noon" in [point.label for point in session.history.points()]
    session.close()


def test_points_of_one_file_are_those_that_changed_it(session: Session) -> None:
    label(session, "One")
    session.do(PutMacro(*NOTE, None))
    session.history.point("Release 4", RELEASE)
    path = "macros/department.freight/hazard-note.steps"
    assert [point.label for point in session.history.points([path])] == ["Release 4", "delete hazard-note"]
    session.close()


def test_one_bar_and_one_item_come_back_as_they_were(session: Session) -> None:
    then = session.workspace.layout(*HERE)
    label(session, "Lanes")
    session.do(TakeOff(*HERE, ("department.freight:numbered",)))
    session.do(PutItems(*HERE, BAR, None, (Button(id="bold", run="letters:embolden"),)))
    session.do(SetFields(*HERE, "app:bar-undo", {"label": "Back"}))
    bar = BringBack(then, "department.freight:numbered").on(session.workspace).layout(*HERE)
    row = next(row for row in bar.rows() if row.id == "freight")
    assert [item.id for item in row.items] == ["bold", *(i.id for i in then.toolbars[0].items)]
    assert next(i for i in row.items if i.id == "table").label == "Lanes"
    assert [item.id for item in bar.all_items()].count("numbered") == 1
    whole = BringBack(then, BAR).on(session.workspace).layout(*HERE)
    assert whole.toolbars == then.toolbars
    assert [change.of for change in whole.change] == [c.of for c in session.workspace.layout(*HERE).change]
    gone = BringBack(then, "department.freight:bold").on(session.workspace).layout(*HERE)
    assert "bold" not in [item.id for item in gone.toolbars[0].items]
    assert BringBack(then).on(session.workspace).layout(*HERE) == then
    session.close()


# What it costs


def test_history_is_smaller_than_twice_what_was_changed(session: Session, demo_copy: Path) -> None:
    changed = 0
    for number in range(150):
        label(session, f"Table {number}")
        changed += (demo_copy / "layouts/department.freight/letters.json").stat().st_size
    session.close()
    base = demo_copy / ".rimecrest/history.db"
    assert base.stat().st_size <= 2 * changed
    assert base.stat().st_size < changed


def test_what_is_old_is_thinned_to_hours_and_days_and_named_points_stay(tmp_path: Path) -> None:
    clock = Clock()
    history = History(tmp_path, clock)
    history.open()
    path = "layouts/a/letters.json"
    contents = [f"{{{number}}}".encode() for number in range(121)]
    for number in range(120):
        history.record(f"edit {number}", {path: (contents[number], contents[number + 1])})
        if number == 70:
            history.point("Release 1", RELEASE)
        clock.now += 600
    history.thin()
    assert len(history.points()) == 121
    clock.now += HOURLY_AFTER
    history.thin()
    hourly = history.points()
    assert 20 <= len(hourly) <= 24
    named = next(point for point in hourly if point.kind == RELEASE)
    assert history.changed_since(named.id) == {path: contents[71]}
    assert history.changed_since(hourly[-1].id - 1 - 10_000) == {path: contents[0]}
    clock.now += DAILY_AFTER
    history.thin()
    assert len(history.points()) <= 5
    assert history.changed_since(named.id) == {path: contents[71]}
    assert "the last: edit" in history.points()[0].label
    before = sqlite3.connect(tmp_path / ".rimecrest/history.db")
    assert before.execute("SELECT COUNT(*) FROM contents").fetchone()[0] <= 6
    before.close()
    history.close()


def test_what_was_done_and_undone_in_one_hour_leaves_nothing(tmp_path: Path) -> None:
    clock = Clock()
    history = History(tmp_path, clock)
    history.open()
    path = "layouts/a/letters.json"
    history.record("there", {path: (b"1", b"2")})
    history.record("and back", {path: (b"2", b"1")})
    clock.now += HOURLY_AFTER + 7200
    history.thin()
    (point,) = history.points()
    assert point.paths == ()
    assert history.changed_since(point.id - 1) == {}
    history.close()


def test_what_is_joined_after_an_undo_is_a_step_of_its_own(session: Session) -> None:
    before = called(session)
    label(session, "One")
    session.do(SetFields(*HERE, TABLE, {"label": "Two"}, "drawn"), joined="x")
    session.undo()
    assert called(session) == "One"
    session.do(SetFields(*HERE, TABLE, {"label": "Three"}, "drawn"), joined="x")
    session.undo()
    assert called(session) == "One"
    session.undo()
    assert called(session) == before
    session.close()


# Forgetting


def test_a_macro_is_forgotten_for_good(session: Session, demo_copy: Path) -> None:
    secret = "the-code-of-the-safe-is-4711"
    session.do(PutMacro("department.freight", "safe", f'macro "Safe"\nfor letters\n\nwrite "{secret}"\n'))
    label(session, "One")
    path = "macros/department.freight/safe.steps"
    assert session.forget(PutMacro("department.freight", "safe", None), {path: None})
    session.undo()
    session.undo()
    assert ("department.freight", "safe") not in session.workspace.macros
    session.close()
    for file in demo_copy.rglob("*"):
        if file.is_file():
            assert secret.encode() not in file.read_bytes(), file
    history = History(demo_copy)
    history.open()
    assert path not in [path for point in history.points() for path in point.paths]
    history.close()


def test_one_line_is_forgotten_and_the_rest_of_the_file_stays(tmp_path: Path) -> None:
    history = History(tmp_path)
    history.open()
    people = [b"name\nAnn\n", b"name\nAnn\nBen\n", b"name\nAnn\nBen\nCyd\n"]
    for before, after in itertools.pairwise(people):
        history.record("people", {"people.csv": (before, after)})
    first = history.points()[-1].id
    history.forget("people.csv", lambda content: content.replace(b"Ben\n", b""))
    assert history.changed_since(first) == {"people.csv": b"name\nAnn\n"}
    assert history.changed_since(first - 1) == {"people.csv": b"name\nAnn\n"}
    history.close()
    assert b"Ben" not in (tmp_path / ".rimecrest/history.db").read_bytes()


# Trouble


def test_what_cannot_be_read_is_set_aside_and_begins_anew(demo_copy: Path, qtbot: object) -> None:
    place = demo_copy / ".rimecrest"
    place.mkdir(exist_ok=True)
    (place / "history.db").write_bytes(b"SQLite format 3\0" + b"rubbish" * 500)
    session = Session(demo_copy)
    assert "cannot be read" in session.history.trouble
    assert (place / "history-unreadable-1.db").is_file()
    label(session, "One")
    assert [point.label for point in session.history.points()] == ["call it One"]
    session.close()


def test_a_link_in_its_place_is_not_followed(demo_copy: Path, tmp_path: Path, qtbot: object) -> None:
    other = tmp_path / "other.db"
    other.write_bytes(b"precious")
    (demo_copy / ".rimecrest").mkdir(exist_ok=True)
    (demo_copy / ".rimecrest" / "history.db").symlink_to(other)
    session = Session(demo_copy)
    label(session, "One")
    session.close()
    assert other.read_bytes() == b"precious"


def test_paths_that_are_no_part_are_never_written(demo_copy: Path, qtbot: object) -> None:
    session = Session(demo_copy)
    label(session, "One")
    session.history.record("hostile", {"../../x": (b"evil", b"x"), "workspace.jsonx": (b"a", b"b")}, EDIT)
    first = session.history.points()[-1].id
    assert set(session.history.changed_since(first - 1)) == {"layouts/department.freight/letters.json"}
    session.close()


def test_a_second_studio_keeps_no_history(session: Session, demo_copy: Path) -> None:
    second = Session(demo_copy)
    assert second.keeper.read_only
    assert second.history.points() == []
    assert second.history.trouble == "Whoever has this workspace open keeps what was."
    second.close()
    label(session, "One")
    session.close()


def test_a_copied_folder_opens_without_its_history(session: Session, demo_copy: Path, tmp_path: Path) -> None:
    label(session, "One")
    session.close()
    shutil.copytree(demo_copy, tmp_path / "copy", ignore=shutil.ignore_patterns(".rimecrest"))
    assert read_workspace(tmp_path / "copy").layouts == read_workspace(demo_copy).layouts
