"""Steps that open a file: chosen, dropped, pasted, among what is open; its sheets by name; copied in."""

from __future__ import annotations

import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.check.run import check
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.shared.open_files import LookInside, open_files
from tests.studio.conftest import CTRL, Studio

WEEK = ("organisation", "open-the-plan")
TEXT = 'macro "Open the plan"\nfor grid\n\ndo open path="{}"\ndo bold on=yes\n'


@pytest.fixture
def place(studio: Studio, tmp_path: Path) -> MacrosPlace:
    studio.session.do(PutMacro(*WEEK, TEXT.format("")))
    studio.press(Qt.Key.Key_1, CTRL)
    studio.qtbot.waitUntil(lambda: studio.desk.places["Macros"].isVisible())
    studio.push("macro organisation/open-the-plan")
    found: MacrosPlace = studio.desk.places["Macros"]
    return found


@pytest.fixture
def own_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, demo_folder: Path) -> Path:
    """A workbook in what counts as somebody's home."""
    monkeypatch.setattr("rimecrest.core.macro.check._HOMES", (str(tmp_path / "home"),))
    path = tmp_path / "home" / "Quay plan.ods"
    path.parent.mkdir()
    shutil.copy(demo_folder / "vessry" / "companions" / "berth-plan.ods", path)
    return path


def saved(studio: Studio) -> str:
    return read_workspace(studio.folder).macros[WEEK].text


def click_word(studio: Studio, place: MacrosPlace, field: str) -> None:
    box = next(box for box in place.steps.fields(place.steps.row_of((0,))) if box.piece.field == field)
    QTest.mouseClick(place.steps.viewport(), Qt.MouseButton.LeftButton, pos=box.rect.center().toPoint())
    QApplication.processEvents()


def menu(studio: Studio) -> QMenu:
    return next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())


def listed(studio: Studio) -> list[str]:
    return [action.text() for action in menu(studio).actions() if action.text()]


def take(studio: Studio, words: str) -> None:
    """Go down to a row with the arrow keys, and take it with Enter."""
    wanted = next(action for action in menu(studio).actions() if action.text().startswith(words))
    opened = menu(studio)
    for _ in opened.actions():
        if opened.activeAction() is wanted:
            break
        QTest.keyClick(opened, Qt.Key.Key_Down)
    QTest.keyClick(opened, Qt.Key.Key_Return)
    QApplication.processEvents()


def test_a_pasted_path_is_cleaned_of_its_quotes(studio: Studio, place: MacrosPlace) -> None:
    click_word(studio, place, "setting path")
    take(studio, "Write or paste a path")
    QApplication.clipboard().setText(" '/srv/plans/Week plan.ods' ")
    studio.press(Qt.Key.Key_V, CTRL)
    studio.press(Qt.Key.Key_Return)
    assert 'do open path="/srv/plans/Week plan.ods"\n' in saved(studio)
    assert "The path was cleaned" in studio.said


def test_in_the_list_a_paste_is_the_path(studio: Studio, place: MacrosPlace) -> None:
    click_word(studio, place, "setting path")
    QApplication.clipboard().setText("file:///srv/plans/Week%20plan.ods")
    QTest.keyClick(menu(studio), Qt.Key.Key_V, CTRL)
    QApplication.processEvents()
    assert 'do open path="/srv/plans/Week plan.ods"\n' in saved(studio)


def test_letters_go_to_a_row_of_a_list_and_arrows_to_a_word_of_a_step(
    studio: Studio, place: MacrosPlace
) -> None:
    studio.press(Qt.Key.Key_Return)
    opened = menu(studio)
    assert opened.activeAction().text().startswith("Write or paste")
    QTest.keyClicks(opened, "berth-p")
    assert opened.activeAction().text().startswith("berth-plan.ods")
    QTest.keyClick(opened, Qt.Key.Key_Backspace)
    QTest.keyClicks(opened, "plan.ods, from companions")
    assert opened.activeAction().text() == "berth-plan.ods, from companions"
    QTest.keyClick(opened, Qt.Key.Key_Escape)
    steps = place.steps
    steps.setFocus()
    studio.press(Qt.Key.Key_Right)
    assert steps.word == 1
    studio.press(Qt.Key.Key_Right)
    assert steps.word == 1
    studio.press(Qt.Key.Key_Left)
    studio.press(Qt.Key.Key_Right)
    with studio.qtbot.waitSignal(steps.edit_wanted) as wanted:
        studio.press(Qt.Key.Key_Return)
    assert wanted.args[1] == "setting sheet"
    studio.press(Qt.Key.Key_Escape)
    steps.setFocus()
    studio.press(Qt.Key.Key_Down)
    assert steps.word is None


def test_a_companion_is_one_click(studio: Studio, place: MacrosPlace) -> None:
    click_word(studio, place, "setting path")
    take(studio, "berth-plan.ods, from companions")
    assert 'do open path="companions/berth-plan.ods"\n' in saved(studio)


def test_the_chooser_copies_what_no_colleague_can_reach(
    studio: Studio, place: MacrosPlace, own_file: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(own_file), ""))
    click_word(studio, place, "setting path")
    take(studio, "Choose a file")
    assert listed(studio)[0] == "Copy Quay plan.ods into companions, for all seats"
    take(studio, "Copy Quay plan.ods")
    # It is the very file that lies there already under another name.
    assert 'do open path="companions/berth-plan.ods"\n' in saved(studio)
    own_file.write_bytes(own_file.read_bytes() + b"\0")
    click_word(studio, place, "setting path")
    take(studio, "Choose a file")
    take(studio, "Copy Quay plan.ods")
    assert 'do open path="companions/quay-plan.ods"\n' in saved(studio)
    kept = read_workspace(studio.folder).companions
    assert kept["quay-plan.ods"] == own_file.read_bytes()
    studio.push("undo")
    assert "quay-plan.ods" not in read_workspace(studio.folder).companions
    assert 'path="companions/berth-plan.ods"' in saved(studio)


def test_what_stands_out_of_reach_is_copied_from_its_own_list_or_as_a_fix(
    studio: Studio, place: MacrosPlace, own_file: Path
) -> None:
    studio.session.do(PutMacro(*WEEK, TEXT.format(own_file)))
    workspace = studio.session.workspace
    finding = next(
        f for f in check(workspace).findings if f.kind == "out-of-reach" and f.where.endswith("plan")
    )
    mend = fixes(finding, workspace)[0]
    assert mend.label == "Copy Quay plan.ods into companions"
    assert 'path="companions/berth-plan.ods"' in mend.with_reason("").on(workspace).macros[WEEK].text
    click_word(studio, place, "setting path")
    assert listed(studio)[0] == "Copy Quay plan.ods into companions, for all seats"
    take(studio, "Copy Quay plan.ods")
    assert 'path="companions/berth-plan.ods"' in saved(studio)


def test_a_file_that_is_not_there_has_no_such_fix(studio: Studio, own_file: Path) -> None:
    studio.session.do(PutMacro(*WEEK, TEXT.format(own_file.with_name("none.ods"))))
    workspace = studio.session.workspace
    finding = next(
        f for f in check(workspace).findings if f.kind == "out-of-reach" and f.where.endswith("plan")
    )
    assert [fix.label for fix in fixes(finding, workspace)] == ["Turn that step off"]


def drop(target: QWidget, path: Path, at: QPoint) -> None:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    copy, left = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    none = Qt.KeyboardModifier.NoModifier
    entering = QDragEnterEvent(at, copy, data, left, none)
    QApplication.sendEvent(target, entering)
    assert entering.isAccepted()
    QApplication.sendEvent(target, QDropEvent(QPointF(at), copy, data, left, none))
    QApplication.processEvents()


@pytest.fixture
def shared_folder(monkeypatch: pytest.MonkeyPatch) -> None:
    """The files of the test lie under /tmp, which no colleague has: here it is a folder that all have."""
    monkeypatch.setattr("rimecrest.core.macro.check._HOMES", ("/home/",))


@pytest.mark.usefixtures("shared_folder")
def test_a_dropped_file_is_the_steps_own_or_a_step_of_its_own(
    studio: Studio, place: MacrosPlace, tmp_path: Path
) -> None:
    path = tmp_path / "Lanes.ods"
    path.write_bytes(b"x")
    steps = place.steps
    drop(steps.viewport(), path, steps.visualItemRect(steps.item(0)).center())
    assert f'do open path="{path}"\ndo bold' in saved(studio)
    other = tmp_path / "Other.ods"
    other.write_bytes(b"x")
    below = QPoint(60, steps.visualItemRect(steps.item(1)).bottom() - 3)
    drop(steps.viewport(), other, below)
    assert saved(studio).endswith(f'do bold on=yes\ndo open path="{other}"\n')


@pytest.fixture
def grid(tmp_path: Path, demo_folder: Path) -> Iterator[tuple[Line, Path]]:
    """A Grid that runs, with a workbook open in it."""
    path = tmp_path / "Open plan.ods"
    shutil.copy(demo_folder / "vessry" / "companions" / "berth-plan.ods", path)
    command = [
        sys.executable,
        "-m",
        "rimecrest",
        "app",
        "grid",
        "--profile",
        str(tmp_path / "profile"),
        str(path),
    ]
    with subprocess.Popen(command) as process:
        try:
            for _ in range(600):
                if listening("grid"):
                    break
                QTest.qWait(50)
            with Line(listening("grid")[0], timeout=20) as line:
                yield line, path
        finally:
            process.terminate()


@pytest.mark.usefixtures("shared_folder")
def test_the_documents_that_are_open_are_offered_with_their_sheets(
    studio: Studio, place: MacrosPlace, grid: tuple[Line, Path]
) -> None:
    line, path = grid
    assert open_files("grid") == [str(path)]
    before = line.ask("hello")["document"]
    click_word(studio, place, "setting path")
    take(studio, "Open plan.ods, open in Grid")
    assert f'do open path="{path}"\n' in saved(studio)
    click_word(studio, place, "setting sheet")
    assert listed(studio) == [*line.ask("read", name="sheets"), "Write it …"]
    take(studio, "Tuesday")
    assert f'do open path="{path}" sheet="Tuesday"\n' in saved(studio)
    assert line.ask("hello")["document"] == before


def test_a_file_is_looked_into_by_an_application_started_for_that(studio: Studio, place: MacrosPlace) -> None:
    studio.session.do(PutMacro(*WEEK, TEXT.format("companions/berth-plan.ods")))
    assert not listening("grid")
    click_word(studio, place, "setting sheet")
    assert studio.said == "Looking into berth-plan.ods …"
    studio.qtbot.waitUntil(lambda: bool(studio.window.findChildren(QMenu, "choices")), timeout=20_000)
    assert "Monday" in listed(studio)
    take(studio, "Monday")
    assert 'do open path="companions/berth-plan.ods" sheet="Monday"\n' in saved(studio)


def test_what_is_no_workbook_says_so_and_the_name_is_written(studio: Studio, place: MacrosPlace) -> None:
    broken = studio.folder / "companions" / "torn.ods"
    broken.write_bytes(b"no zip at all")
    studio.session.look_again()
    studio.session.do(PutMacro(*WEEK, TEXT.format("companions/torn.ods")))
    click_word(studio, place, "setting sheet")
    studio.qtbot.waitUntil(lambda: "Looking" not in studio.said, timeout=20_000)
    assert "torn.ods" in studio.said
    studio.type("Monday")
    studio.press(Qt.Key.Key_Return)
    assert 'path="companions/torn.ods" sheet="Monday"' in saved(studio)


def test_a_question_that_another_one_follows_is_forgotten(qtbot: QtBot, demo_folder: Path) -> None:
    owner = QWidget()
    qtbot.addWidget(owner)
    inside, told = LookInside(owner), []
    plan = demo_folder / "vessry" / "companions" / "berth-plan.ods"
    inside.ask("grid", plan, "sheets", lambda found: told.append(("first", found)), told.append)
    inside.ask("grid", plan, "headings", lambda found: told.append(("second", found)), told.append)
    qtbot.waitUntil(lambda: bool(told), timeout=20_000)
    QTest.qWait(100)
    assert [name for name, _ in told] == ["second"]
    inside.close()
