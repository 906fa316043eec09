"""A name that is being typed goes where it belongs, whatever is clicked next; nothing crashes on the way."""

from __future__ import annotations

import json
import os
import shutil
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from rimecrest.studio.macros.place import MacrosPlace
from tests.studio.conftest import CTRL, Studio

TEXT = 'macro "New recording"\nfor letters\n\ndo insert-date\n'
LAYER = "department.freight"


def click(_studio: Studio, widget: QWidget) -> None:
    """Click into the middle of a widget."""
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=widget.rect().center())
    QApplication.processEvents()


def recorded(place: MacrosPlace, name: str) -> None:
    """A recording has come in, and its name is being typed over."""
    assert place.recording.take_recorded("New recording", TEXT, "letters")
    QApplication.processEvents()
    QTest.keyClicks(QApplication.focusWidget(), name)


@pytest.mark.parametrize("button", ["finish-put", "finish-try", "finish-later"])
def test_a_click_on_a_button_keeps_the_name_that_was_being_typed(
    studio: Studio, place: MacrosPlace, button: str
) -> None:
    recorded(place, "Sign off")
    click(studio, studio.find(button))
    names = [file.name for file in studio.session.workspace.macros.values()]
    assert "Sign off" in names
    assert "New recording" not in names
    assert place.recording.finish is None


def test_another_macro_that_is_clicked_keeps_its_own_name(studio: Studio, place: MacrosPlace) -> None:
    before = {key: file.name for key, file in studio.session.workspace.macros.items()}
    recorded(place, "Sign off")
    row = next(w for w in place.shelves.findChildren(QWidget) if w.accessibleName().startswith("Hazard note"))
    click(studio, row)
    after = {key: file.name for key, file in studio.session.workspace.macros.items()}
    assert {key: name for key, name in after.items() if key in before} == before
    assert "Sign off" in after.values()


def test_a_place_that_is_gone_to_leaves_the_name_with_the_recording(
    studio: Studio, place: MacrosPlace
) -> None:
    recorded(place, "Sign off")
    studio.press(Qt.Key.Key_2, CTRL)
    assert "Sign off" in [file.name for file in studio.session.workspace.macros.values()]


def ids(studio: Studio) -> set[str]:
    return {name for _, name in studio.session.workspace.macros}


def test_the_id_of_a_new_macro_follows_its_name_until_something_runs_it(
    studio: Studio, place: MacrosPlace
) -> None:
    click(studio, studio.find("macro-new"))
    QTest.keyClicks(QApplication.focusWidget(), "Tide table")
    studio.press(Qt.Key.Key_Return)
    assert "tide-table" in ids(studio)
    assert "new-macro" not in ids(studio)
    studio.press(Qt.Key.Key_Z, CTRL)
    assert "new-macro" in ids(studio)
    assert studio.find("macro-title").text() == "New macro"
    studio.press(Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert "tide-table" in ids(studio)
    studio.push("macro-title")
    QTest.keyClicks(QApplication.focusWidget(), "Tide tables")
    studio.press(Qt.Key.Key_Return)
    assert "tide-tables" in ids(studio)


def test_a_macro_that_a_button_runs_keeps_its_id(studio: Studio, place: MacrosPlace) -> None:
    place.open((LAYER, "hazard-note"))
    studio.push("macro-title")
    QTest.keyClicks(QApplication.focusWidget(), "Danger note")
    studio.press(Qt.Key.Key_Return)
    assert "hazard-note" in ids(studio)
    assert "danger-note" not in ids(studio)


def test_a_pasted_text_brings_its_name(studio: Studio, place: MacrosPlace) -> None:
    click(studio, studio.find("macro-new"))
    click(studio, studio.find("show-text"))
    place.text.setFocus()
    clipboard = QApplication.clipboard()
    clipboard.setText('macro "Combine all sheets"\nabout "One list."\nfor letters\n\ndo insert-date\n')
    studio.press(Qt.Key.Key_A, CTRL)
    studio.press(Qt.Key.Key_V, CTRL)
    place.text.flush()
    studio.press(Qt.Key.Key_2, CTRL)
    names = [file.name for file in studio.session.workspace.macros.values()]
    assert "Combine all sheets" in names
    assert "New macro" not in names


def test_a_recording_that_was_left_behind_is_taken_over_once(studio: Studio, place: MacrosPlace) -> None:
    folder = Path(os.environ["XDG_DATA_HOME"]) / "rimecrest" / "recordings"
    folder.mkdir(parents=True)
    left = {
        "format": "rimecrest.recording/1",
        "id": "ab" * 16,
        "app": "letters",
        "name": "Left",
        "text": TEXT,
    }
    (folder / f"{'ab' * 16}.json").write_text(json.dumps(left))
    other = shutil.copytree(
        studio.session.folder, folder.parent / "office", ignore=shutil.ignore_patterns(".*")
    )
    studio.window.open_folder(other)
    studio.qtbot.waitUntil(lambda: not list(folder.glob("*.json")))
    kept = [file.name for file in studio.window.session.workspace.macros.values()]
    assert kept.count("New recording") + kept.count("Left") == 1
