"""Grid as people work in it: borders, what differs, the filter's sign, zoom, the sheets' names by hand."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QContextMenuEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit, QMenu, QToolButton, QWidget

from rimecrest.shell.theme import LIGHT
from rimecrest_standins.grid.sheet_model import BORDERS
from tests.kit.test_recorder import Tape
from tests.programs import CTRL, SHIFT, Grid

LANES = "Vessel\tLane\nBrinholt\tN\nBrinholt\tN\nOvessa\tN\nQuessel\tS"


def names(grid: Grid) -> list[str]:
    return [sheet.name for sheet in grid.document.book.sheets]


def find(grid: Grid, name: str) -> QWidget:
    return next(w for w in grid.window.findChildren(QWidget, name) if w.isVisible())


def tab_at(grid: Grid, index: int) -> QPoint:
    QApplication.processEvents()
    return grid.document.widget.sheets.names.tabRect(index).center()


# Borders


def borders(grid: Grid, name: str) -> set[str]:
    grid.go(name)
    return set(grid.document.here.look.borders.split())


def choose(grid: Grid, first: str, down: int, right: int) -> None:
    grid.go(first)
    grid.do("select-block", down=str(down), right=str(right))


def test_borders_are_drawn_around_a_block_and_kept_in_the_file(grid: Grid, tmp_path: Path) -> None:
    choose(grid, "B2", 1, 1)
    grid.do("draw-borders", sides="around")
    around = {name: borders(grid, name) for name in ("B2", "C2", "B3", "C3")}
    assert around == {
        "B2": {"top", "left"},
        "C2": {"top", "right"},
        "B3": {"bottom", "left"},
        "C3": {"bottom", "right"},
    }
    grid.do("save-as", path=str(tmp_path / "lanes.ods"))
    grid.do("new")
    grid.do("open", path=str(tmp_path / "lanes.ods"))
    assert borders(grid, "C3") == {"bottom", "right"}
    grid.do("draw-borders", sides="none")
    assert borders(grid, "C3") == set()
    grid.do("undo")
    assert borders(grid, "C3") == {"bottom", "right"}


def test_a_border_is_seen(grid: Grid) -> None:
    grid.go("B2")
    cells = grid.document.widget.cells

    def dark() -> int:
        image = cells.viewport().grab().toImage()
        box = cells.visualRect(cells.model().index(1, 1))
        line = range(box.left() + 4, box.right() - 4)
        return sum(image.pixelColor(x, box.bottom()).lightness() < 120 for x in line)

    grid.go("E9")
    before = dark()
    grid.go("B2")
    grid.do("draw-borders", sides="below")
    grid.go("E9")
    assert before == 0
    assert dark() > 50
    assert cells.model().index(1, 1).data(BORDERS) == "bottom"


def test_the_headings_of_what_is_chosen_have_a_line(grid: Grid) -> None:
    grid.fill(LANES)
    cells = grid.document.widget.cells
    crest = QColor(LIGHT.crest)

    def lined() -> tuple[list[int], list[int]]:
        """The columns and the rows whose headings have the line, of the first five."""
        across, down = cells.horizontalHeader(), cells.verticalHeader()
        top = across.viewport().grab().toImage()
        left = down.viewport().grab().toImage()
        columns = [
            n for n in range(5) if top.pixelColor(across.sectionPosition(n) + 50, top.height() - 2) == crest
        ]
        rows = [
            n for n in range(5) if left.pixelColor(left.width() - 2, down.sectionPosition(n) + 10) == crest
        ]
        return columns, rows

    grid.go("B2")
    assert lined() == ([1], [1])
    grid.do("select-block", down="2", right="1")
    assert lined() == ([1, 2], [1, 2, 3])
    QTest.mouseClick(
        cells.horizontalHeader().viewport(),
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        QPoint(10, 10),
    )
    assert lined() == ([0], [0, 1, 2, 3, 4])


# Finding


def test_the_next_cell_that_differs_is_gone_to_on_a_key(grid: Grid) -> None:
    grid.fill(LANES)
    grid.go("A2")
    grid.press(Qt.Key.Key_J, CTRL)
    grid.press(Qt.Key.Key_X, SHIFT)
    assert grid.read("here.cell") == "A4"
    grid.go("A2")
    grid.do("find-different", text="Brinholt", column="a")
    assert grid.read("here.cell") == "A4"
    grid.go("A2")
    grid.do("find-different", column="Lane")
    assert grid.read("here.cell") == "B5"
    assert not grid.do("find-different", column="Lane")
    assert "nothing but “S”" in grid.said
    assert not grid.do("find-different", column="No such")
    assert "There is no column" in grid.said


def test_among_filtered_rows_only_those_that_are_seen_differ(grid: Grid) -> None:
    grid.fill(LANES)
    grid.go("B2")
    grid.do("show-only")
    grid.go("A2")
    grid.do("find-different")
    assert grid.read("here.cell") == "A4"
    assert not grid.do("find-different")


def test_what_was_found_stands_in_the_middle(grid: Grid) -> None:
    grid.fill("\n".join(f"row-{number}" for number in range(400)))
    grid.go("A1")
    grid.do("find", text="row-250")
    cells = grid.document.widget.cells
    middle = cells.viewport().rect().center().y()
    assert abs(cells.visualRect(cells.currentIndex()).center().y() - middle) < 40


def test_replacing_nothing_is_a_result(grid: Grid) -> None:
    grid.fill(LANES)
    assert grid.do("replace", text="ninety", by="x")
    assert grid.read("replaced") == 0
    assert "nothing is replaced" in grid.said
    grid.do("replace", text="Brinholt", by="B")
    assert grid.read("replaced") == 2


# The filter


def test_a_filter_says_what_it_hides_and_goes_with_a_click(grid: Grid) -> None:
    grid.fill(LANES)
    grid.go("A4")
    assert (grid.read("filtered"), grid.read("filter.value")) == ("no", "")
    grid.do("show-only")
    assert (grid.read("filtered"), grid.read("filter.value"), grid.read("filter.column")) == (
        "yes",
        "Ovessa",
        "Vessel",
    )
    assert find(grid, "filter-words").text() == "Only Vessel = “Ovessa”: 3 rows hidden"  # type: ignore[attr-defined]
    QTest.mouseClick(find(grid, "show-all-rows"), Qt.MouseButton.LeftButton)
    assert grid.read("filtered") == "no"
    assert not [w for w in grid.window.findChildren(QWidget, "filter-words") if w.isVisible()]


def test_one_command_turns_the_filter_on_and_off_and_is_recorded_as_what_it_reached(grid: Grid) -> None:
    grid.fill(LANES)
    grid.go("A4")
    grid.window.recorder.start("T")
    assert grid.do("turn-filter")
    assert (grid.read("filtered"), grid.read("filter.value")) == ("yes", "Ovessa")
    assert grid.do("turn-filter")
    assert grid.read("filtered") == "no"
    assert grid.window.recorder.stop().endswith("do show-only\ndo show-all-rows\n")


def test_one_macro_turns_a_filter_on_and_off(grid: Grid) -> None:
    grid.fill(LANES)
    toggle = "if filtered\n  do show-all-rows\nelse\n  do show-only\nend"
    grid.go("A4")
    for now in ("yes", "no", "yes"):
        grid.run(toggle)
        assert grid.read("filtered") == now


# Zoom


def test_the_sheet_is_shown_at_a_share(grid: Grid) -> None:
    grid.fill(LANES)
    grid.go("A1")
    grid.do("embolden", on="yes")
    cells = grid.document.widget.cells
    before = cells.columnWidth(0), cells.rowHeight(0)
    grid.do("zoom-to", to="200")
    assert (cells.columnWidth(0), cells.rowHeight(0)) == (2 * before[0], 2 * before[1])
    index = cells.model().index(0, 0)
    assert index.data(Qt.ItemDataRole.FontRole).pixelSize() == 26
    assert grid.read("zoom") == 200
    assert not grid.do("zoom-to", to="1000")
    for _ in range(20):
        grid.do("zoom-out")
    assert grid.read("zoom") == 60


def test_a_width_that_is_drawn_while_zoomed_is_that_of_the_whole_size(grid: Grid) -> None:
    grid.do("zoom-to", to="200")
    grid.do("set-width", to="150", column="A")
    cells = grid.document.widget.cells
    assert cells.columnWidth(0) == 300
    grid.do("zoom-to", to="100")
    assert cells.columnWidth(0) == 150


# The names of the sheets


def test_the_plus_adds_a_sheet_and_a_double_click_names_it(grid: Grid) -> None:
    QTest.mouseClick(find(grid, "new-sheet"), Qt.MouseButton.LeftButton)
    assert names(grid) == ["Sheet 1", "Sheet 2"]
    tabs = grid.document.widget.sheets.names
    QTest.mouseDClick(tabs, Qt.MouseButton.LeftButton, pos=tab_at(grid, 1))
    QTest.keyClicks(grid.window.windowHandle() and QApplication.focusWidget(), "Tuesday")
    grid.press(Qt.Key.Key_Return)
    assert names(grid) == ["Sheet 1", "Tuesday"]
    grid.type("x")
    assert grid.document.writing
    grid.press(Qt.Key.Key_Escape)
    grid.do("undo")
    assert names(grid) == ["Sheet 1", "Sheet 2"]


def test_a_sheet_is_named_by_keys_and_nothing_reaches_its_cells(grid: Grid) -> None:
    grid.fill("keep")
    grid.go("A1")
    grid.press(Qt.Key.Key_J, CTRL)
    grid.press(Qt.Key.Key_S, SHIFT)
    field = QApplication.focusWidget()
    assert field is not None
    assert field.objectName() == "sheet-name"
    for key in (Qt.Key.Key_Delete, Qt.Key.Key_M, Qt.Key.Key_Return):
        grid.press(key)
    assert names(grid) == ["m"]
    assert grid.written("A1") == "keep"
    grid.press(Qt.Key.Key_J, CTRL)
    grid.press(Qt.Key.Key_S, SHIFT)
    grid.press(Qt.Key.Key_X)
    grid.press(Qt.Key.Key_Escape)
    assert names(grid) == ["m"]


def test_selecting_all_in_a_sheets_name_stays_in_the_name(grid: Grid) -> None:
    grid.fill("keep")
    grid.go("A1")
    grid.document.widget.sheets.edit_name(0)
    grid.press(Qt.Key.Key_End)
    grid.press(Qt.Key.Key_A, CTRL)
    field = QApplication.focusWidget()
    assert isinstance(field, QLineEdit)
    assert field.selectedText() == "Sheet 1"
    assert grid.chosen == "A1:A1"


def test_naming_the_sheet_in_front_records_only_the_name(grid: Grid) -> None:
    tape = Tape(grid)
    tabs = grid.document.widget.sheets.names
    QTest.mouseClick(tabs, Qt.MouseButton.LeftButton, pos=tab_at(grid, 0))
    QTest.mouseDClick(tabs, Qt.MouseButton.LeftButton, pos=tab_at(grid, 0))
    QTest.keyClicks(QApplication.focusWidget(), "Berths")
    grid.press(Qt.Key.Key_Return)
    assert tape.steps == ['do name-sheet name="Berths"']


def test_a_name_that_is_taken_is_told(grid: Grid) -> None:
    grid.do("add-sheet")
    grid.document.widget.sheets.edit_name(1)
    QTest.keyClicks(QApplication.focusWidget(), "Sheet 1")
    grid.press(Qt.Key.Key_Return)
    assert names(grid) == ["Sheet 1", "Sheet 2"]
    assert "There is a sheet “Sheet 1” already" in grid.said


def test_a_tab_is_dragged_to_another_place(grid: Grid) -> None:
    for _ in range(2):
        grid.do("add-sheet")
    tabs = grid.document.widget.sheets.names
    left = Qt.MouseButton.LeftButton
    QTest.mousePress(tabs, left, pos=tab_at(grid, 0))
    QTest.mouseMove(tabs, tab_at(grid, 2))
    QTest.mouseRelease(tabs, left, pos=tab_at(grid, 2))
    assert names(grid) == ["Sheet 2", "Sheet 3", "Sheet 1"]
    assert grid.read("here.sheet") == "Sheet 1"


@pytest.mark.parametrize(
    ("words", "left"),
    [
        ("New sheet behind it", ["Sheet 1", "Sheet 3", "Sheet 2"]),
        ("Copy it", ["Sheet 1", "Sheet 1 1", "Sheet 2"]),
        ("Move to the right", ["Sheet 2", "Sheet 1"]),
        ("Delete it", ["Sheet 2"]),
    ],
)
def test_a_right_click_on_a_tab_offers_what_can_be_done_with_the_sheet(
    grid: Grid, words: str, left: list[str]
) -> None:
    grid.do("add-sheet")
    tabs = grid.document.widget.sheets.names
    QTest.mouseClick(tabs, Qt.MouseButton.RightButton, pos=tab_at(grid, 0))
    at = tab_at(grid, 0)
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, tabs.mapToGlobal(at))
    QApplication.sendEvent(tabs, event)
    menu = tabs.findChild(QMenu, "sheet-menu")
    assert menu is not None
    action = next(action for action in menu.actions() if action.text() == words)
    QTest.mouseClick(menu, Qt.MouseButton.LeftButton, pos=menu.actionGeometry(action).center())
    assert names(grid) == left


def test_what_cannot_be_done_with_a_sheet_is_dimmed(grid: Grid) -> None:
    tabs = grid.document.widget.sheets.names
    at = tab_at(grid, 0)
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, tabs.mapToGlobal(at))
    QApplication.sendEvent(tabs, event)
    menu = tabs.findChild(QMenu, "sheet-menu")
    assert menu is not None
    dimmed = {action.text() for action in menu.actions() if not action.isEnabled()}
    menu.close()
    assert {"Move to the left", "Move to the right", "Delete it"} <= dimmed
    assert isinstance(find(grid, "new-sheet"), QToolButton)
