"""A recording that a colleague begins in their own window: by key, by button, kept, given a key, deleted."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.layout.layout import Layout
from rimecrest.core.release.profile import Profile
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.kit.macros.macro_list import MacroList
from rimecrest.kit.personal.own_macros import OwnMacros
from rimecrest.kit.window import AppWindow
from rimecrest.shell.link_server import LinkServer
from tests.programs import Letters

ALT_SHIFT = (Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ShiftModifier)
CTRL = Qt.KeyboardModifier.ControlModifier


class OwnLetters(Letters):
    """Letters on a profile of its own, so that what is kept can be looked at and found again."""

    def __init__(self, qtbot: QtBot, folder: Path) -> None:
        self.folder = folder
        self.profile = Profile(folder)
        super().__init__(qtbot)
        self.window.close()
        self.window = self.begun()
        qtbot.addWidget(self.window, before_close_func=lambda _: self.forget())

    def begun(self) -> AppWindow:
        """A window of the same profile, as after a restart."""
        made = AppWindow(self.declarations, self.make, self.profile)
        made.show()
        made.document.widget.setFocus()
        return made


@pytest.fixture
def own(qtbot: QtBot, tmp_path: Path) -> OwnLetters:
    return OwnLetters(qtbot, tmp_path)


def shown(own: Letters, name: str) -> QWidget:
    found = own.window.findChild(QWidget, name)
    assert found is not None
    return found


def click(own: Letters, name: str) -> None:
    """A real click where the widget stands in the window."""
    widget = shown(own, name)
    where = widget.mapTo(own.window, widget.rect().center())
    QTest.mouseClick(own.window.windowHandle(), Qt.MouseButton.LeftButton, pos=QPoint(where))
    QApplication.processEvents()


def turn(own: Letters) -> None:
    """Begin a recording by its key, or end it."""
    on = own.window.recorder.on
    own.press(Qt.Key.Key_R, *ALT_SHIFT)
    own.qtbot.waitUntil(lambda: own.window.recorder.on is not on)


def recorded(own: Letters, text: str) -> None:
    """Something was written while it was recorded, and the line asks what becomes of it."""
    turn(own)
    own.type(text)
    turn(own)


def files(folder: Path) -> dict[str, str]:
    return {path.name: path.read_text() for path in (folder / "personal" / "macros" / "letters").glob("*")}


def test_a_key_begins_and_ends_it_and_it_lies_on_the_own_shelf(own: OwnLetters) -> None:
    turn(own)
    own.type("Dear all, ")
    own.press(Qt.Key.Key_B, CTRL)
    turn(own)
    line = own.window.recording.line
    assert line.isVisible()
    assert QApplication.focusWidget() is line.name
    own.type("Greeting")
    own.press(Qt.Key.Key_Return)
    assert not line.isVisible()
    assert own.said == "“Greeting” lies on your own shelf: Macros … has it."
    text = 'macro "Greeting"\nabout ""\nfor letters\n\nwrite "Dear all, "\ndo embolden on=yes\n'
    assert files(own.folder) == {"greeting.steps": text}
    own.window.dispatcher.perform("macro:greeting", {})
    own.qtbot.waitUntil(lambda: own.text == "Dear all, Dear all, ")


def test_the_button_of_the_tab_begins_it_and_the_mouse_finishes_it(own: OwnLetters) -> None:
    button = next(b for b in own.window.frame.buttons() if b.accessibleName().startswith("Record a macro"))
    where = button.mapTo(own.window, button.rect().center())
    QTest.mouseClick(own.window.windowHandle(), Qt.MouseButton.LeftButton, pos=where)
    own.qtbot.waitUntil(lambda: own.window.recorder.on)
    own.window.document.widget.setFocus()
    own.type("Yours, ")
    click(own, "record-stop")
    click(own, "recorded-keep")
    assert list(files(own.folder)) == ["new-recording.steps"]


def test_a_key_is_pressed_and_what_had_it_is_named(own: OwnLetters) -> None:
    recorded(own, "Yours, ")
    click(own, "recorded-key")
    own.press(Qt.Key.Key_B, CTRL)
    assert own.window.recording.line.taken.text() == "instead of Bold"
    click(own, "recorded-key")
    own.press(Qt.Key.Key_F9)
    assert own.window.recording.line.taken.text() == ""
    own.press(Qt.Key.Key_Return)
    assert own.said == "“New recording” lies on your own shelf; F9 runs it."
    assert own.document.widget.hasFocus()
    own.press(Qt.Key.Key_F9)
    own.qtbot.waitUntil(lambda: own.text == "Yours, Yours, ")


def test_a_key_that_the_application_has_runs_the_own_macro_instead(own: OwnLetters) -> None:
    recorded(own, "Yours, ")
    click(own, "recorded-key")
    own.press(Qt.Key.Key_B, CTRL)
    own.press(Qt.Key.Key_Return)
    own.press(Qt.Key.Key_B, CTRL)
    own.qtbot.waitUntil(lambda: own.text == "Yours, Yours, ")


def test_what_is_kept_is_there_after_a_restart(own: OwnLetters, qtbot: QtBot) -> None:
    recorded(own, "One")
    click(own, "recorded-key")
    own.press(Qt.Key.Key_F9)
    own.press(Qt.Key.Key_Return)
    own.forget()
    own.window.close()
    again = own.begun()
    qtbot.addWidget(again, before_close_func=lambda _: again.document.saved())
    own.window = again
    own.press(Qt.Key.Key_F9)
    own.qtbot.waitUntil(lambda: own.text == "One")


def test_thrown_away_is_gone_and_escape_throws_nothing_away(own: OwnLetters) -> None:
    recorded(own, "One")
    own.press(Qt.Key.Key_Escape)
    assert own.window.recording.line.isVisible()
    click(own, "recorded-drop")
    assert own.said == "Nothing is kept of the recording."
    assert files(own.folder) == {}
    turn(own)
    turn(own)
    assert not own.window.recording.line.isVisible()
    assert "Nothing is kept" in own.said


def test_keys_in_the_name_change_no_letter(own: OwnLetters) -> None:
    own.type("Letter")
    recorded(own, "!")
    own.press(Qt.Key.Key_A, CTRL)
    own.type("Mark")
    assert own.window.recording.line.name.text() == "Mark"
    assert own.text == "Letter!"
    assert own.document.widget.textCursor().hasSelection() is False


def test_another_recording_waits_until_the_last_one_is_kept_and_names_are_told_apart(own: OwnLetters) -> None:
    recorded(own, "One")
    own.press(Qt.Key.Key_R, *ALT_SHIFT)
    own.qtbot.waitUntil(lambda: "Keep the last recording first" in own.said)
    assert files(own.folder) == {}
    own.press(Qt.Key.Key_Return)
    recorded(own, "Two")
    assert own.window.recording.line.name.text() == "New recording 2"
    own.press(Qt.Key.Key_Return)
    assert set(files(own.folder)) == {"new-recording.steps", "new-recording-2.steps"}


@pytest.mark.parametrize(("answer", "kept"), [("Keep it", 1), ("Throw it away", 0)])
def test_closing_asks_what_becomes_of_a_recording_that_waits(own: OwnLetters, answer: str, kept: int) -> None:
    recorded(own, "One")
    own.document.saved()

    def press() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, QMessageBox), "nothing is kept or thrown away unasked"
        next(button for button in box.buttons() if button.text() == answer).click()

    QTimer.singleShot(0, press)
    assert own.window.close()
    assert len(files(own.folder)) == kept


def test_a_recording_that_the_studio_has_after_all_is_not_kept_twice(own: OwnLetters) -> None:
    recorded(own, "One")
    studio = LinkServer("studio", {"has.recorded": lambda recording: bool(recording)}, own.window)
    own.window.recording.studio = _Threaded(own.window.recording.studio)  # type: ignore[assignment]
    own.press(Qt.Key.Key_Return)
    studio.close()
    assert files(own.folder) == {}
    assert "the studio has it" in own.said


def test_what_is_recorded_in_a_window_whose_studio_is_gone_waits_for_the_next_one(own: OwnLetters) -> None:
    own.window.stack.draft = True
    turn(own)
    own.type("One")
    turn(own)
    left = list((Path(os.environ["XDG_DATA_HOME"]) / "rimecrest" / "recordings").glob("*.json"))
    assert len(left) == 1
    assert "when it opens next" in own.said


def opened(own: Letters) -> MacroList:
    own.window.dialogs.open_macros()
    return own.window.findChildren(MacroList)[-1]


def test_in_the_list_it_is_mine_and_can_have_a_key_or_go(own: OwnLetters) -> None:
    recorded(own, "One")
    own.press(Qt.Key.Key_Return)
    dialog = opened(own)
    assert dialog.list.item(0).text() == "New recording\nyours"
    QTest.mouseClick(shown(own, "own-key"), Qt.MouseButton.LeftButton)
    assert not dialog.isVisible()
    dialog.deleteLater()
    own.press(Qt.Key.Key_F8)
    assert own.said == "F8 runs it."
    QApplication.processEvents()
    assert own.window.stack.personal.layout.keys[0].keys == "F8"
    dialog = opened(own)
    assert dialog.list.item(0).text() == "New recording\nyours · F8"
    QTest.mouseClick(dialog.findChild(QWidget, "own-delete"), Qt.MouseButton.LeftButton)
    assert own.said == "“New recording” is deleted."
    assert files(own.folder) == {}
    assert own.window.stack.personal.layout.keys == ()


def test_shared_macros_are_not_the_colleagues_to_delete(own: OwnLetters) -> None:
    recorded(own, "One")
    own.press(Qt.Key.Key_Return)
    own.use({}, close='macro "Closing"\nfor letters\nwrite "x"\n')
    dialog = opened(own)
    assert [dialog.list.item(row).text() for row in range(2)] == [
        "Closing\neverybody’s",
        "New recording\nyours",
    ]
    assert not shown(own, "own-delete").isEnabled()
    QTest.keyClick(dialog.field, Qt.Key.Key_Down)
    assert shown(own, "own-delete").isEnabled()
    dialog.reject()


def test_where_keys_are_fixed_the_macro_is_kept_and_says_why_it_has_none(own: OwnLetters) -> None:
    keys = [{"keys": "F9", "in": "writing", "run": "letters:save"}]
    fixed = Layout.model_validate(
        {"app": "letters", "layer": "organisation", "policy": "fixed", "keys": keys}
    )
    own.window.stack.use(StackState(app="letters", layouts=(fixed,)))
    recorded(own, "One")
    click(own, "recorded-key")
    own.press(Qt.Key.Key_F9)
    own.press(Qt.Key.Key_Return)
    assert "F9 is fixed by" in own.said
    assert list(files(own.folder)) == ["new-recording.steps"]


def test_a_macro_that_cannot_be_written_is_asked_about_again(
    own: OwnLetters, monkeypatch: pytest.MonkeyPatch
) -> None:
    recorded(own, "One")

    def full(*_: Any) -> None:
        raise RimecrestError("The disk is full.")

    monkeypatch.setattr(Folder, "write", full)
    own.press(Qt.Key.Key_Return)
    assert own.said == "“New recording” cannot be kept: The disk is full."
    assert own.window.recording.line.isVisible()
    monkeypatch.undo()
    own.press(Qt.Key.Key_Return)
    assert list(files(own.folder)) == ["new-recording.steps"]


def test_what_is_no_macro_in_the_folder_is_left_out_and_left_alone(tmp_path: Path) -> None:
    folder = tmp_path / "personal" / "macros" / "letters"
    folder.mkdir(parents=True)
    (tmp_path / "secret").write_text("secret")
    (folder / "linked.steps").symlink_to(tmp_path / "secret")
    (folder / "broken.steps").write_bytes(b"\xff\xfe")
    (folder / "not an id.steps").write_text("x")
    (folder / "good.steps").write_text('macro "Good"\n')
    own = OwnMacros("letters", tmp_path)
    assert dict(own.texts) == {"good": 'macro "Good"\n'}
    assert len(list(folder.iterdir())) == 4


def test_an_own_macro_never_takes_the_id_of_a_shared_one(tmp_path: Path) -> None:
    own = OwnMacros("letters", tmp_path)
    state = StackState(app="letters", macros={"notice": ShelvedMacro(layer="organisation", text="")})
    assert own.add("Notice", 'macro "Notice"\n', state) == "notice-2"
    assert set(own.over(state).macros) == {"notice", "notice-2"}


def test_where_the_studio_is_open_it_has_what_was_recorded(own: OwnLetters) -> None:
    told: list[dict[str, Any]] = []

    def take(**sent: Any) -> bool:
        told.append(sent)
        return True

    studio = LinkServer("studio", {"take.recorded": take}, own.window)
    turn(own)
    own.type("One")
    with_answer = own.window.recording.studio  # asked while this very process answers: in a thread of its own
    own.window.recording.studio = _Threaded(with_answer)  # type: ignore[assignment]
    turn(own)
    own.qtbot.waitUntil(lambda: bool(told))
    studio.close()
    assert (told[0]["app"], told[0]["name"], told[0]["document"]) == (
        "letters",
        "New recording",
        "New letter",
    )
    assert told[0]["text"].endswith('write "One"\n')
    assert not own.window.recording.line.isVisible()
    assert own.said == "“New recording” is recorded; the studio has it now."
    assert files(own.folder) == {}


class _Threaded:
    """Asks the studio from another thread, while this one serves the link."""

    def __init__(self, door: Any) -> None:
        self._door = door

    def take_recorded(self, *told: str) -> bool:
        return self._asked(self._door.take_recorded, *told)

    def has_recorded(self, recording: str) -> bool:
        return self._asked(self._door.has_recorded, recording)

    def _asked(self, ask: Any, *told: str) -> bool:
        from concurrent.futures import ThreadPoolExecutor

        with ThreadPoolExecutor(1) as pool:
            asked = pool.submit(ask, *told)
            while not asked.done():
                QApplication.processEvents()
            return bool(asked.result())


@pytest.mark.parametrize(("answer", "keys"), [("Use it anyway", ["F9"]), ("Choose another key", [])])
def test_a_key_that_begins_others_asks_and_says_how_many(
    own: OwnLetters, monkeypatch: pytest.MonkeyPatch, answer: str, keys: list[str]
) -> None:
    sequences = [
        {"keys": "F9, T", "in": "writing", "run": "letters:save"},
        {"keys": "F9, O", "in": "writing", "run": "letters:slant"},
    ]
    own.use({"app": "letters", "layer": "organisation", "keys": sequences})
    asked = []

    def choose(box: QMessageBox) -> int:
        asked.append(box.text())
        next(button for button in box.buttons() if button.text() == answer).click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", choose)
    recorded(own, "Yours, ")
    click(own, "recorded-key")
    own.press(Qt.Key.Key_F9)
    own.press(Qt.Key.Key_Return)
    click(own, "recorded-keep")
    assert asked == ["2 hotkeys begin with F9."]
    assert [key.keys for key in own.window.stack.personal.layout.keys] == keys
