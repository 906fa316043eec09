"""A name that is being typed goes where it belongs, whatever is clicked next; nothing crashes on the way."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from rimecrest.studio.macros.place import MacrosPlace
from tests.studio.conftest import CTRL, Studio

TEXT = 'macro "New recording"\nfor letters\n\ndo insert-date\n'
LAYER = "department.freight"


@pytest.fixture
def place(studio: Studio) -> MacrosPlace:
    studio.press(Qt.Key.Key_1, CTRL)
    studio.qtbot.waitUntil(lambda: studio.desk.places["Macros"].isVisible())
    found: MacrosPlace = studio.desk.places["Macros"]
    return found


def click(studio: Studio, widget: QWidget) -> None:
    """Click with the mouse where a widget is in the window."""
    where = widget.mapTo(studio.window, widget.rect().center())
    QTest.mouseClick(studio.window.windowHandle(), Qt.MouseButton.LeftButton, pos=where)
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
