"""A whole job in each place with the keyboard alone."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QMessageBox, QWidget

from rimecrest.core.workspace.edits import TakeOff, Unbind
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.rollout.folder import FolderRepository
from tests.studio.conftest import CTRL, Studio

ENTER = Qt.Key.Key_Return
TAB = Qt.Key.Key_Tab


def focused() -> QWidget:
    widget = QApplication.focusWidget()
    assert widget is not None
    return widget


def tab_to(studio: Studio, name: str) -> None:
    for _ in range(60):
        if focused().objectName() == name:
            return
        studio.press(TAB)
    raise AssertionError(f"Tab does not reach {name}")


def test_a_macro_is_made_and_mended(studio: Studio) -> None:
    studio.press(Qt.Key.Key_1, CTRL)
    tab_to(studio, "macro-new")
    studio.press(Qt.Key.Key_Space)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Quay greeting")
    studio.press(ENTER)
    assert focused().objectName() == "steps"
    studio.type("write")
    studio.press(ENTER)
    assert focused().objectName() == "word-field"
    studio.type("Good day")
    studio.press(ENTER)
    assert focused().objectName() == "steps"
    studio.type("bold")
    studio.press(ENTER)
    # Its setting opens as a list; Escape leaves it as it is.
    QTest.keyClick(QApplication.activePopupWidget(), Qt.Key.Key_Escape)
    key = studio.desk.places["Macros"].now
    written = read_workspace(studio.folder).macros[key]
    assert written.name == "Quay greeting"
    assert written.text.endswith('write "Good day"\ndo embolden\n')
    studio.press(Qt.Key.Key_Z, CTRL)
    studio.press(Qt.Key.Key_Z, CTRL)
    assert read_workspace(studio.folder).macros[key].text.endswith('write ""\n')


def test_a_key_is_given_and_taken_off(studio: Studio) -> None:
    studio.press(Qt.Key.Key_3, CTRL)
    keys = studio.desk.places["Keys"]
    start = keys.bed.current
    assert start
    studio.press(Qt.Key.Key_Right)
    assert keys.bed.current != start
    before = keys.presenter.key
    while keys.bed.caps[keys.bed.current].state.words:
        studio.press(Qt.Key.Key_Right)
    given = keys.presenter.key
    studio.type("capit")
    assert focused().objectName() == "give-key"
    studio.press(ENTER)
    assert studio.said.startswith(f"{given} runs ")
    assert any(key.keys == given for key in studio.saved().keys)
    studio.press(Qt.Key.Key_Delete)
    assert not any(key.keys == given for key in studio.saved().keys)
    assert before


def test_news_are_written_and_a_release_goes_out(studio: Studio) -> None:
    studio.session.do(TakeOff("department.quay", "letters", ("department.quay:weekly-timetable",)))
    studio.session.do(Unbind("department.quay", "letters", "key:writing:Ctrl+Alt+C"))
    studio.session.do(Unbind("organisation", "grid", "key:cell:Ctrl+J, ["))
    studio.press(Qt.Key.Key_4, CTRL)
    rollout = studio.desk.places["Roll-out"]
    assert focused() is rollout.news
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("A new timetable comes.")
    studio.press(ENTER)
    # Enter in the field sends nothing out: the button does, and asks.
    assert studio.window.findChild(QMessageBox, "confirm-release") is None
    tab_to(studio, "release")
    studio.press(Qt.Key.Key_Space)
    box = studio.window.findChild(QMessageBox, "confirm-release")
    QTest.keyClick(box, Qt.Key.Key_Escape)
    studio.window.activateWindow()
    studio.qtbot.waitUntil(lambda: QApplication.focusWidget() is not None)
    channel = FolderRepository(studio.folder.parent / "channel")
    assert channel.newest() == 7
    tab_to(studio, "release")
    studio.press(Qt.Key.Key_Space)
    box = studio.window.findChildren(QMessageBox, "confirm-release")[-1]
    answer = next(button for button in box.buttons() if button.objectName() == "confirm-go")
    QTest.keyClick(answer, Qt.Key.Key_Space)
    studio.qtbot.waitUntil(lambda: channel.newest() == 8)


def test_a_seat_is_looked_at(studio: Studio) -> None:
    studio.press(Qt.Key.Key_4, CTRL)
    tab_to(studio, "seat-map")
    assert focused().currentIndex().data() == "Berth 1"
    studio.press(Qt.Key.Key_Right)
    assert focused().currentIndex().data() == "Berth 2"
    studio.press(Qt.Key.Key_Space)
    sheet = studio.find("seat-sheet")
    texts = " ".join(label.text() for label in sheet.findChildren(QLabel))
    assert "Berth 2" in texts
