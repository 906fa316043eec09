"""A macro that asks for a range: pointed at with mouse and keys, across sheets, while the question waits."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QPushButton

from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.sentences import sentence
from rimecrest.kit.macros.range_question import RangeQuestion
from tests.programs import CTRL, SHIFT, Grid, Letters

ASKS = 'ask headings "Which rows are headings?" range\n'
BODY = f'write "before"\ndo confirm\n{ASKS}do go-to-cell name="A9"\nwrite "{{headings}}"\ndo confirm'
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def asked(grid: Grid) -> Grid:
    """A workbook of two sheets in which a macro waits for a range, on the first one."""
    grid.fill("a b\nc d")
    grid.do("add-sheet", name="Week 2")
    grid.fill("e f\ng h")
    grid.do("go-to-sheet", name="Sheet 1")
    grid.go("C1")
    grid.run(BODY, wait=False)
    grid.qtbot.waitUntil(lambda: question(grid) is not None)
    return grid


def question(grid: Grid) -> RangeQuestion | None:
    return grid.window.asker.pointing


def over(grid: Grid) -> None:
    grid.qtbot.waitUntil(lambda: grid.window.dispatcher.run is None)


def now(grid: Grid) -> str:
    label = grid.window.findChild(QLabel, "range-now")
    assert label is not None
    return label.text()


def click_cell(grid: Grid, row: int, column: int, *held: Qt.KeyboardModifier) -> None:
    cells = grid.document.widget.cells
    at = cells.visualRect(cells.model().index(row, column)).center()
    modifiers = Qt.KeyboardModifier.NoModifier
    for each in held:
        modifiers |= each
    # Through the window, as a mouse does it: a document that is dead to the mouse would not get it.
    QTest.mouseClick(grid.window.windowHandle(), LEFT, modifiers, cells.viewport().mapTo(grid.window, at))
    QApplication.processEvents()


def test_a_range_is_pointed_at_with_the_mouse(asked: Grid) -> None:
    click_cell(asked, 0, 0)
    click_cell(asked, 1, 1, SHIFT)
    asked.qtbot.waitUntil(lambda: now(asked) == "'Sheet 1'.A1:B2")
    button = asked.window.findChild(QPushButton, "range-go-on")
    assert button is not None
    QTest.mouseClick(button, LEFT)
    over(asked)
    assert asked.written("A9") == "'Sheet 1'.A1:B2"
    assert question(asked) is None
    assert asked.window.asker.pointing is None


def test_a_range_is_pointed_at_with_keys_on_another_sheet(asked: Grid) -> None:
    asked.do("go-to-sheet", name="Week 2")
    asked.go("A1")
    asked.press(Qt.Key.Key_Down)
    asked.press(Qt.Key.Key_Right, SHIFT)
    asked.press(Qt.Key.Key_Return)
    over(asked)
    assert asked.read("here.sheet") == "Week 2"
    assert asked.written("A9") == "'Week 2'.A2:B2"


def test_a_click_on_a_sheets_tab_goes_there_while_it_waits(asked: Grid) -> None:
    tabs = asked.document.widget.sheets.names
    QApplication.processEvents()
    QTest.mouseClick(tabs, LEFT, pos=tabs.tabRect(1).center())
    assert asked.read("here.sheet") == "Week 2"
    asked.qtbot.waitUntil(lambda: now(asked).startswith("'Week 2'."))


def test_nothing_can_be_changed_while_it_waits(asked: Grid) -> None:
    before = asked.rows("Sheet 1")
    click_cell(asked, 0, 0)
    for key, held in (
        (Qt.Key.Key_Delete, []),
        (Qt.Key.Key_X, []),
        (Qt.Key.Key_Z, [CTRL]),
        (Qt.Key.Key_B, [CTRL]),
    ):
        asked.press(key, *held)
    assert asked.rows("Sheet 1") == before
    assert question(asked) is not None
    assert not asked.do("embolden", on="yes")


@pytest.mark.parametrize("way", ["key", "button", "stop"])
def test_cancel_takes_everything_back(asked: Grid, way: str) -> None:
    assert asked.written("C1") == "before"
    asked.do("go-to-sheet", name="Week 2")
    if way == "key":
        asked.press(Qt.Key.Key_Escape)
    elif way == "button":
        cancel = asked.window.findChild(QPushButton, "range-cancel")
        assert cancel is not None
        QTest.mouseClick(cancel, LEFT)
    else:
        asked.window.dispatcher.stop_run()
    over(asked)
    assert (asked.read("here.sheet"), asked.read("here.cell")) == ("Sheet 1", "C1")
    assert asked.written("C1") == ""
    click_cell(asked, 1, 1)
    assert asked.read("here.cell") == "B2"


def test_what_was_pointed_at_can_be_gone_to_from_any_sheet(grid: Grid) -> None:
    grid.do("add-sheet", name="Week 2")
    grid.do("go-to-cell", name="'Sheet 1'.B2:C3")
    assert (grid.read("here.sheet"), grid.read("chosen.block")) == ("Sheet 1", "B2:C3")
    assert not grid.do("go-to-cell", name="None.B2")
    assert "There is no sheet “None”" in grid.said


def test_the_language_knows_a_range(grid: Grid, letters: Letters) -> None:
    text = f'macro "M"\nfor grid\n\n{ASKS}'
    macro, faults = parse_macro(text)
    assert not faults
    assert format_macro(macro) == text
    assert sentence(macro.steps[0], None) == "Ask ⟨headings⟩ “Which rows are headings?” by pointing at it"
    assert not check_macro(macro, grid.window.catalogue)
    found = check_macro(parse_macro(text.replace("grid", "letters"))[0], letters.window.catalogue)
    assert "Nothing can be pointed at in Letters" in str(found[0])
    form = parse_macro(f'macro "M"\nfor grid\n\nform "F"\n  {ASKS}end\n')[0]
    assert any("asked for by itself" in str(fault) for fault in check_macro(form, grid.window.catalogue))


def test_a_window_that_is_closed_meanwhile_takes_the_macro_back_first(asked: Grid) -> None:
    asked.forget()
    assert asked.window.close()
    assert asked.written("C1") == ""


def test_two_ranges_are_pointed_at_one_after_the_other_and_the_mouse_is_alive_after_it(grid: Grid) -> None:
    grid.fill("a b\nc d")
    asks = 'ask one "First?" range\nask other "Second?" range\n'
    grid.run(f'{asks}do go-to-cell name="A9"\nwrite "{{one}} {{other}}"\ndo confirm', wait=False)
    grid.qtbot.waitUntil(lambda: question(grid) is not None)
    click_cell(grid, 0, 0)
    grid.press(Qt.Key.Key_Return)
    grid.qtbot.waitUntil(lambda: question(grid) is not None)
    click_cell(grid, 1, 1)
    grid.press(Qt.Key.Key_Return)
    over(grid)
    assert grid.written("A9") == "'Sheet 1'.A1:A1 'Sheet 1'.B2:B2"
    click_cell(grid, 2, 2)
    assert grid.read("here.cell") == "C3"
