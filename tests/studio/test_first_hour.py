"""The first hour: what is begun shows that it works, and the first button is seen."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QCheckBox, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.people import Seat
from rimecrest.link import applications
from rimecrest.shell.theme import LIGHT
from rimecrest.studio.program import open_demo
from rimecrest.studio.start_screen import StartScreen, begin_workspace
from rimecrest.studio.window import StudioWindow
from rimecrest_standins.post.first_mail import FIRST_MAIL
from rimecrest_standins.post.maildir import INBOX, Maildir
from tests.studio.conftest import Studio


@pytest.fixture
def start(qtbot: QtBot) -> StartScreen:
    made = StartScreen(LIGHT)
    qtbot.addWidget(made)
    made.resize(1280, 800)
    made.show()
    return made


def said(start: StartScreen) -> str:
    label = start.findChild(QWidget, "start-trouble")
    assert label is not None
    return label.text()


def test_the_demo_says_that_it_is_being_made_and_takes_no_second_click(start: StartScreen) -> None:
    wanted: list[bool] = []
    start.demo_wanted.connect(lambda: wanted.append(True))
    demo = start.findChild(QWidget, "start-demo")
    for _ in range(2):
        QTest.mouseClick(demo, Qt.MouseButton.LeftButton)
    assert wanted == [True]
    assert "opens in a moment" in said(start)
    start.say("The disk is full.")
    assert said(start) == "The disk is full."
    QTest.mouseClick(demo, Qt.MouseButton.LeftButton)
    assert len(wanted) == 2


def test_without_the_demos_libraries_neither_it_nor_its_applications_are_offered(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert [point.name for point in applications.installed_applications()] == ["grid", "letters", "post"]
    monkeypatch.setattr(applications, "NEEDED", "not_installed")
    assert applications.installed_applications() == []
    with pytest.raises(RimecrestError, match="pip install 'rimecrest\\[demo\\]'"):
        applications.find_application("letters")
    start = StartScreen(LIGHT)
    qtbot.addWidget(start)
    assert start.findChild(QWidget, "start-demo") is None
    assert start.findChild(QWidget, "start-open") is not None
    assert start.findChildren(QCheckBox) == []


def test_new_mailboxes_beside_the_demo_begin_with_its_mail(
    qtbot: QtBot, demo_folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv(FIRST_MAIL, "")
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    shutil.copytree(demo_folder, tmp_path / "rimecrest" / "demo")
    window = StudioWindow()
    qtbot.addWidget(window)
    open_demo(window)
    assert window.session is not None
    mailbox = Maildir(tmp_path / "seat" / "post")
    assert len(mailbox.keys(INBOX)) == 10
    assert mailbox.unread(INBOX) == 4
    window.close()


@pytest.mark.parametrize("size", [(1000, 640), (1280, 800), (1920, 1080)])
def test_the_start_screen_stands_in_the_middle_of_its_window(
    start: StartScreen, size: tuple[int, int]
) -> None:
    start.resize(*size)
    QApplication.processEvents()
    parts = [start.findChild(QWidget, name) for name in ("start-demo", "start-name", "begin")]
    for part in parts:
        corner = part.mapTo(start, part.rect().topLeft())
        assert 0 <= corner.x() < size[0] / 2 + 200
        assert size[1] / 12 < corner.y() < size[1] * 0.9


@pytest.mark.parametrize("app", ["letters", "grid"])
def test_the_first_button_of_a_new_office_is_seen(qtbot: QtBot, tmp_path: Path, app: str) -> None:
    folder = begin_workspace(tmp_path / "office", "Office", [app], (Seat(seat="Desk 1", name="Ailis"),))
    studio = Studio(qtbot, folder)
    studio.type("print")
    studio.press(Qt.Key.Key_Return)
    (put,) = [item for _, item in studio.session.outcome().buttons() if item.layer == "organisation"]
    frame = studio.place.stage.frame
    assert frame.button(put.id) is not None
    assert put.id not in [item.id for item in frame.unseen()]
    studio.session.close()


def test_the_shelf_stays_where_one_has_scrolled_to(studio: Studio) -> None:
    studio.window.resize(1000, 640)
    studio.desk.go("Macros")
    QApplication.processEvents()
    macros = studio.desk.places["Macros"]
    bar = macros.shelves.verticalScrollBar()
    bar.setValue(bar.maximum())
    assert bar.value() > 0
    scrolled = bar.value()
    macros.open(("department.care", "lost-property"))
    QApplication.processEvents()
    assert bar.value() == scrolled
    macros.session.undo()


def test_showing_the_text_makes_the_window_no_wider(studio: Studio) -> None:
    studio.window.resize(1000, 640)
    studio.desk.go("Macros")
    studio.push("show-text")
    QApplication.processEvents()
    assert studio.window.width() == 1000
    assert studio.desk.places["Macros"].text.isVisible()


def test_asking_in_the_steps_has_a_key_that_quits_nothing_elsewhere(studio: Studio) -> None:
    from rimecrest.studio.macros.steps import REWORKS

    assert "Ctrl+Q" not in [keys for _, _, keys in REWORKS]
