"""In a file dialog nothing is deleted or renamed, whatever is pressed in it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QFileDialog, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.shell.file_dialogs import ask_folder, ask_open, ask_save

KEYS = (Qt.Key.Key_Delete, Qt.Key.Key_F2, Qt.Key.Key_X, Qt.Key.Key_Delete)
SOURCE = Path(__file__).parents[2] / "src" / "rimecrest"


def everything(folder: Path) -> list[str]:
    return sorted(path.relative_to(folder).as_posix() for path in folder.rglob("*"))


def pressed() -> None:
    """What deletes or renames in lists: pressed on each thing that the dialog lists."""
    dialog = QApplication.activeModalWidget()
    assert isinstance(dialog, QFileDialog)
    for view in dialog.findChildren(QAbstractItemView, "listView"):
        for row in range(view.model().rowCount(view.rootIndex())):
            view.setCurrentIndex(view.model().index(row, 0, view.rootIndex()))
            for key in KEYS:
                QTest.keyClick(view, key)
    dialog.reject()


def agreed() -> None:
    """Says yes to whatever the dialog asks."""
    box = QApplication.activeModalWidget()
    if isinstance(box, QMessageBox):
        QTest.mouseClick(box.button(QMessageBox.StandardButton.Yes), Qt.MouseButton.LeftButton)


@pytest.mark.parametrize("ask", [ask_open, ask_save, lambda parent, title, begin: ask_folder(parent, title)])
def test_nothing_is_deleted_or_renamed_in_a_file_dialog(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, ask: Callable[[QWidget, str, str], str]
) -> None:
    for name in ("full/inside.txt", "full/more/inside.txt", "empty", "file.txt"):
        path = tmp_path / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text("kept") if path.suffix else path.mkdir()
    monkeypatch.chdir(tmp_path)
    window = QWidget()
    qtbot.addWidget(window)
    before = everything(tmp_path)
    answers = QTimer(window)
    answers.timeout.connect(agreed)
    answers.start(20)
    QTimer.singleShot(200, pressed)
    ask(window, "Choose", str(tmp_path))
    assert everything(tmp_path) == before


def test_every_file_dialog_is_one_of_these() -> None:
    found = [path for path in SOURCE.rglob("*.py") if "QFileDialog" in path.read_text("utf-8")]
    assert found == [SOURCE / "shell" / "file_dialogs.py"]
