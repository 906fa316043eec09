"""Large files are read and written behind a window with progress; *Cancel* leaves everything as it was."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox, QProgressDialog, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.errors import RimecrestError
from rimecrest.kit.documents.file_commands import in_a_file
from rimecrest.shell.progress_window import behind_window
from tests.programs import Grid, Letters

ROWS = 2_500


def cancelled(do: Callable[[], object]) -> QProgressDialog:
    """Do something, and press *Cancel* once the work behind the window has begun. Returns the window."""
    seen: list[QProgressDialog] = []

    def look() -> None:
        window = QApplication.activeModalWidget()
        if isinstance(window, QProgressDialog) and any(t.name == "work" for t in threading.enumerate()):
            looking.stop()
            seen.append(window)
            assert window.isVisible()
            QTest.mouseClick(window.findChild(QPushButton), Qt.MouseButton.LeftButton)

    looking = QTimer()
    looking.timeout.connect(look)
    looking.start(1)
    with pytest.raises(RimecrestError, match="you cancelled"):
        do()
    assert len(seen) == 1
    return seen[0]


def ended() -> bool:
    return not any(thread.name == "work" for thread in threading.enumerate())


@pytest.fixture
def sailings(grid: Grid, tmp_path: Path) -> Path:
    """A large workbook, and a small one that is open."""
    lines = "".join(f"Sailing {at},{at},{at % 7},Berth {at % 5}\n" for at in range(ROWS))
    (tmp_path / "sailings.csv").write_text(lines)
    grid.document.open_path(tmp_path / "sailings.csv")
    grid.document.save_to(tmp_path / "sailings.ods")
    (tmp_path / "small.csv").write_text("one,two\n")
    grid.document.open_path(tmp_path / "small.csv")
    return tmp_path


def test_cancel_half_way_through_opening_keeps_what_is_open(grid: Grid, sailings: Path) -> None:
    cancelled(lambda: grid.document.open_path(sailings / "sailings.ods"))
    assert grid.document.path == sailings / "small.csv"
    assert grid.rows() == [["one", "two"]]
    grid.qtbot.waitUntil(ended)  # nothing goes on in the background


def test_cancel_half_way_through_saving_leaves_the_file_and_the_changes(grid: Grid, sailings: Path) -> None:
    path = sailings / "sailings.ods"
    before = path.read_bytes()
    grid.document.open_path(path)
    grid.fill("Later")
    cancelled(lambda: grid.document.save_to(path))
    assert path.read_bytes() == before
    assert sorted(each.name for each in sailings.iterdir()) == ["sailings.csv", "sailings.ods", "small.csv"]
    assert grid.document.modified()
    grid.qtbot.waitUntil(ended)
    grid.document.save_to(path)
    assert path.read_bytes() != before
    assert not grid.document.modified()


def test_what_is_read_to_its_end_is_there_whole(grid: Grid, sailings: Path) -> None:
    grid.document.open_path(sailings / "sailings.ods")
    assert len(grid.rows()) == ROWS
    assert grid.rows()[-1][0] == f"Sailing {ROWS - 1}"


def test_a_large_letter_can_be_given_up_too(letters: Letters, tmp_path: Path) -> None:
    letters.type("As it was")
    (tmp_path / "long.html").write_text("<p>Berth five is open.</p>\n" * 50_000)
    cancelled(lambda: in_a_file(letters.document).open_path(tmp_path / "long.html"))
    assert letters.text == "As it was"


def test_a_save_that_fails_on_closing_is_told_and_the_window_stays(
    letters: Letters, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "here" / "note.html"
    letters.type("Fenders")
    letters.document.save_to(path)
    letters.type(" out")
    path.unlink()
    path.parent.rmdir()
    path.parent.write_text("")  # a file stands where the folder was

    def save(box: QMessageBox) -> int:
        next(button for button in box.buttons() if button.text() == "Save").click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", save)
    letters.window.close()
    assert letters.window.isVisible()
    assert "cannot be written" in letters.said


def test_work_without_an_end_stops_where_it_tells_next(letters: Letters) -> None:
    def endless(tell: Callable[[float | None], object]) -> None:
        while True:
            tell(None)

    def opened() -> None:
        in_a_file(letters.document).read_long(Path(__file__), endless, large=0)

    cancelled(opened)
    letters.qtbot.waitUntil(ended)


def test_what_cannot_be_taken_back_has_no_cancel_and_stays_until_it_is_done(qtbot: QtBot) -> None:
    parent = QWidget()
    qtbot.addWidget(parent)
    parent.show()
    pressed, shown = threading.Event(), []

    def press() -> None:
        window = QApplication.activeModalWidget()
        if isinstance(window, QProgressDialog) and any(t.name == "work" for t in threading.enumerate()):
            pressing.stop()
            QTest.keyClick(window, Qt.Key.Key_Escape)
            buttons = [each for each in window.findChildren(QPushButton) if each.isVisible()]
            shown.append((window.isVisible(), buttons))
            pressed.set()

    pressing = QTimer()
    pressing.timeout.connect(press)
    pressing.start(1)
    assert behind_window(parent, "Writing …", lambda _tell: pressed.wait(30), may_cancel=False)
    assert shown == [(True, [])]
