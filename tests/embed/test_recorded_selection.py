"""A recording ends where the person ended: moving to an end of the selection collapses it there."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt

from tests.embed.conftest import Letters
from tests.embed.test_recorder import Tape, replay

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
