"""What is half written in a cell or field is finished, not thrown away, when a macro runs."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt

from tests.programs import CTRL, Grid

MACRO = 'macro "Writes"\nfor grid\n\nwrite "macro"\n'


@pytest.mark.parametrize("half", ["ab", "=1+2"])
def test_a_macro_by_key_leaves_what_was_being_written_in_the_cell(grid: Grid, half: str) -> None:
    grid.use({"keys": [{"keys": "Ctrl+M", "run": "macro:writes"}]}, writes=MACRO)
    grid.go("B2")
    grid.type(half)
    grid.press(Qt.Key.Key_M, CTRL)
    grid.qtbot.waitUntil(lambda: grid.window.dispatcher.run is None)
    grid.document.settle()
    assert grid.written("B2") == half + "macro"


def test_showing_fewer_rows_is_no_unsaved_change(grid: Grid) -> None:
    grid.fill("Berth Vessel\n1 Ovessa\n2 Brinholt")
    grid.document.saved()
    grid.go("A2")
    assert grid.do("show-only")
    assert not grid.document.modified()
    assert grid.do("undo")
    assert grid.do("set-cell", to="3")
    assert grid.document.modified()
