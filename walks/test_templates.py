"""The jobs of whoever begins from a template or puts a text block in, by mouse and by keys alone."""

from __future__ import annotations

import base64
from collections.abc import Callable

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from tests.programs import CTRL, Letters
from tests.studio.conftest import NONE

from rimecrest.kit.commands.command_finder import CommandFinder
from rimecrest.kit.documents.name_list import NameList
from rimecrest.kit.macros.questions import Question

NOTICE = "<p>[[Vessel: Ovessa, Brinholt]] berths at [[Berth = 2]].</p>"
BLOCK = "<p><b>Mind the gap.</b></p>"


class Colleague:
    """A colleague at Letters, who has a template and a block from a release; gestures are counted."""

    def __init__(self, letters: Letters) -> None:
        self.letters = letters
        self.gestures = 0
        layout = {
            "toolbars": [
                {
                    "id": "ours",
                    "title": "Ours",
                    "edge": "top",
                    "items": [{"id": "t", "run": "letters:new-from-template", "label": "From a template"}],
                }
            ],
            "keys": [
                {
                    "keys": "Ctrl+J, B",
                    "in": "writing",
                    "run": "letters:insert-block",
                    "args": {"name": "gap"},
                },
                {"keys": "Ctrl+J, Q", "run": "letters:new-from-template", "args": {"name": "berth"}},
            ],
        }
        letters.use(layout)
        files = {"berth.html": NOTICE, "gap.block.html": BLOCK}
        companions = {name: base64.b64encode(text.encode()).decode() for name, text in files.items()}
        letters.window.stack.use(letters.window.stack.state.model_copy(update={"companions": companions}))

    def press(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        self.gestures += 1
        self.letters.press(key, held)
        QApplication.processEvents()

    def form(self) -> Question:
        def forms() -> list[Question]:
            found = self.letters.window.findChildren(Question, "template-fields")
            return [one for one in found if one.isVisible()]

        self.letters.qtbot.waitUntil(lambda: bool(forms()))
        return forms()[0]

    def fill(self) -> None:
        """The vessel by its letter, Tab, the berth typed over, Enter: three gestures."""
        form = self.form()
        vessel, berth = form.fields
        vessel.setFocus()
        self.gestures += 1
        QTest.keyClick(vessel, "b")
        self.gestures += 1
        QTest.keyClick(vessel, Qt.Key.Key_Tab)
        berth.setFocus()
        self.gestures += 1
        QTest.keyClick(berth, Qt.Key.Key_A, CTRL)
        QTest.keyClick(berth, "7")
        QTest.keyClick(berth, Qt.Key.Key_Return)
        self.letters.qtbot.waitUntil(lambda: self.letters.text == "Brinholt berths at 7.")


@pytest.fixture
def colleague(letters: Letters) -> Colleague:
    return Colleague(letters)


@pytest.fixture
def within(colleague: Colleague, request: pytest.FixtureRequest) -> Callable[[int], None]:
    def hold(most: int) -> None:
        print(f"\n{request.node.name}: {colleague.gestures} of {most} gestures")
        assert colleague.gestures <= most

    return hold


def test_letter_from_a_template_on_a_button_by_mouse(
    colleague: Colleague, within: Callable[[int], None]
) -> None:
    button = colleague.letters.window.frame.button("organisation:t")
    assert button is not None
    colleague.gestures += 1
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    colleague.letters.qtbot.waitUntil(lambda: bool(colleague.letters.window.findChildren(NameList)))
    chooser = colleague.letters.window.findChildren(NameList)[-1]
    colleague.gestures += 1
    QTest.keyClick(chooser.field, Qt.Key.Key_Return)
    colleague.fill()
    within(9)


def test_letter_from_a_template_by_keys(colleague: Colleague, within: Callable[[int], None]) -> None:
    colleague.press(Qt.Key.Key_J, CTRL)
    colleague.press(Qt.Key.Key_Q)
    colleague.fill()
    within(9)


def test_text_block_by_key(colleague: Colleague, within: Callable[[int], None]) -> None:
    colleague.press(Qt.Key.Key_J, CTRL)
    colleague.press(Qt.Key.Key_B)
    assert colleague.letters.text == "Mind the gap."
    within(7)


def test_text_block_by_the_finder(colleague: Colleague, within: Callable[[int], None]) -> None:
    colleague.press(Qt.Key.Key_F3)
    window = colleague.letters.window
    colleague.letters.qtbot.waitUntil(lambda: bool(window.findChildren(CommandFinder)))
    finder = window.findChildren(CommandFinder)[-1]
    colleague.gestures += 1
    QTest.keyClicks(finder.field, "text block")
    QTest.keyClick(finder.field, Qt.Key.Key_Return)
    colleague.letters.qtbot.waitUntil(lambda: bool(window.findChildren(NameList)))
    chooser = window.findChildren(NameList)[-1]
    colleague.gestures += 1
    QTest.keyClick(chooser.field, Qt.Key.Key_Return)
    colleague.letters.qtbot.waitUntil(lambda: colleague.letters.text == "Mind the gap.")
    within(7)
