"""In a file dialog nothing is deleted, renamed, moved or made, whatever is pressed in it."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QFileDialog, QMenu, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.shell.file_dialogs import ask_folder, ask_open, ask_save
from tests.hostile.seeds import SEED

VARIANTS = 40
"""Of each dialog."""
PRESSES = 8
KEYS = (Qt.Key.Key_Delete, Qt.Key.Key_Delete, Qt.Key.Key_F2, Qt.Key.Key_X, Qt.Key.Key_V, Qt.Key.Key_Backspace,
        Qt.Key.Key_N, Qt.Key.Key_D, Qt.Key.Key_Home, Qt.Key.Key_End)  # fmt: skip
HELD = (
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)
NAMES = ("empty", "file.txt", ".hidden", "two words", "Brinholt", "-rf", "copy~")
SOURCE = Path(__file__).parents[2] / "src"


def grow(folder: Path, dice: random.Random, depth: int = 2) -> None:
    """Files and folders at random, at least one of either."""
    (folder / "first.txt").write_text("kept")
    (folder / "first").mkdir()
    for name in dice.sample(NAMES, 3):
        if depth and dice.random() < 0.6:
            (folder / name).mkdir()
            grow(folder / name, dice, depth - 1)
        else:
            (folder / name).write_text("kept")


def everything(folder: Path) -> dict[str, str]:
    return {
        path.relative_to(folder).as_posix(): path.read_text() if path.is_file() else ""
        for path in folder.rglob("*")
    }


def agree() -> None:
    """Say yes to what the dialog asks, and close the menus it opens."""
    if isinstance(menu := QApplication.activePopupWidget(), QMenu):
        menu.close()
    if isinstance(box := QApplication.activeModalWidget(), QMessageBox):
        agreed = box.button(QMessageBox.StandardButton.Yes) or box.buttons()[0]
        QTest.mouseClick(agreed, Qt.MouseButton.LeftButton)


class Hands:
    """What presses, in the dialog that is open, what the dice say; it agrees to every question."""

    def __init__(self, window: QWidget, dice: random.Random) -> None:
        self._steps = self._presses(dice)
        # A timer does not run while what it did has opened a question: another one answers.
        self._timers = [QTimer(window), QTimer(window)]
        for timer, act in zip(self._timers, (self._step, agree), strict=True):
            timer.timeout.connect(act)
            timer.start(5)

    def rest(self) -> None:
        for timer in self._timers:
            timer.stop()

    def _step(self) -> None:
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QFileDialog) and next(self._steps, None) is None:
            dialog.reject()

    def _presses(self, dice: random.Random) -> Iterator[str]:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, QFileDialog)
        view = dialog.findChild(QAbstractItemView, "listView")
        assert view is not None
        dialog.setDirectory(str(Path.cwd()))  # one asks where it was last
        while not view.model().rowCount(view.rootIndex()):
            yield "waits until the folder is listed"
        for _ in range(PRESSES):
            rows = view.model().rowCount(view.rootIndex())
            view.setCurrentIndex(view.model().index(dice.randrange(rows or 1), 0, view.rootIndex()))
            if dice.random() < 0.2:
                commands = [action for action in dialog.actions() + view.actions() if action.isEnabled()]
                commands += [
                    a for menu in dialog.findChildren(QMenu) for a in menu.actions() if a.isEnabled()
                ]
                if commands:
                    dice.choice(commands).trigger()
            else:
                QTest.keyClick(view, dice.choice(KEYS), dice.choice(HELD))
            yield "pressed"


@pytest.mark.parametrize("ask", [ask_open, ask_save, lambda parent, title, begin: ask_folder(parent, title)])
def test_nothing_is_deleted_or_renamed_in_a_file_dialog(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, ask: Callable[[QWidget, str, str], str]
) -> None:
    dice = random.Random(SEED)
    window = QWidget()
    qtbot.addWidget(window)
    for variant in range(VARIANTS):
        folder = tmp_path / str(variant)
        folder.mkdir()
        grow(folder, dice)
        monkeypatch.chdir(folder)
        before = everything(tmp_path)
        hands = Hands(window, dice)
        ask(window, "Choose", str(folder))
        hands.rest()
        assert everything(tmp_path) == before, f"seed {SEED}, variant {variant}"


def test_every_file_dialog_is_one_of_these() -> None:
    found = [path for path in SOURCE.rglob("*.py") if "QFileDialog" in path.read_text("utf-8")]
    assert found == [SOURCE / "rimecrest" / "shell" / "file_dialogs.py"]
