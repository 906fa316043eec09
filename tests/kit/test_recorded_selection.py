"""A recording ends where the person ended: moving to an end of the selection collapses it there."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt

from tests.kit.test_recorder import Tape, replay
from tests.programs import SHIFT, Letters

WORDS = "First words here."


@pytest.mark.parametrize(
    ("key", "step", "ends"),
    [
        (Qt.Key.Key_Left, "do go-to-selection-start", "First Xwords here."),
        (Qt.Key.Key_Right, "do go-to-selection-end", "First wordsX here."),
    ],
)
@pytest.mark.parametrize("backwards", [False, True])
def test_going_to_an_end_of_the_selection_is_a_step(
    letters: Letters, key: Qt.Key, step: str, ends: str, backwards: bool
) -> None:
    letters.type(WORDS)
    letters.choose(*((11, 6) if backwards else (6, 11)))
    tape = Tape(letters)
    letters.press(key)
    letters.type("X")
    assert tape.steps == [step, 'write "X"']
    assert letters.text == ends
    macro = tape.stop()
    letters.do("undo")
    letters.choose(*((11, 6) if backwards else (6, 11)))
    replay(letters, macro)
    assert letters.text == ends


@pytest.mark.parametrize(
    ("key", "step", "ends"),
    [
        (Qt.Key.Key_End, "do go-to-selection-end", "Dear all\nWeightsX"),
        (Qt.Key.Key_Home, "do go-to-selection-start", "Dear all\nXWeights"),
    ],
)
def test_the_last_move_before_the_stop_is_a_step(letters: Letters, key: Qt.Key, step: str, ends: str) -> None:
    tape = Tape(letters)
    letters.type("Dear all")
    letters.press(Qt.Key.Key_Return)
    letters.type("Weights")
    letters.press(Qt.Key.Key_Home, SHIFT)
    letters.do("slant")
    letters.press(key)
    macro = tape.stop()
    assert macro.endswith(f"do slant on=yes\n{step}\n")
    letters.do("select-all")
    letters.do("delete")
    replay(letters, macro)
    letters.type("X")
    assert letters.text == ends
