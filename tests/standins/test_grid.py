"""Grid's commands do what their declarations say, by key and mouse where a colleague would."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit

from rimecrest.core.catalogue.items import Button
from rimecrest.core.keys.chords import extends, parse_sequence
from rimecrest.core.release.pictures import freeze
from rimecrest_standins.grid.book import Cell, letters_of
from tests.programs import CTRL, SHIFT, Grid, answer

LANES = """
Sailing Vessel Weight Limit
07:10 Brinholt 40 44
07:55 Ovessa 52 44
08:40 Quessel 31 36
09:20 Brinholt 47 44
"""


@pytest.fixture
def lanes(grid: Grid) -> Grid:
    grid.fill(LANES)
    return grid


def column(grid: Grid, at: int) -> list[str]:
    return [row[at] for row in grid.rows()]


# What is declared


def test_sixty_commands_and_more_each_with_a_purpose_and_a_picture_that_exists() -> None:
    commands = Grid.declarations.catalogue().commands
    assert len(commands) >= 60
    for command in commands:
        assert command.about, command.id
        if command.picture:
            assert freeze(command.picture.removeprefix("set:")), command.id


def test_items_run_commands_and_no_own_key_is_hidden_by_another() -> None:
    catalogue = Grid.declarations.catalogue()
    items = [item for row in catalogue.rows() for item in row.items]
    for item in (item for item in items if isinstance(item, Button)):
        assert catalogue.by_id[item.run].argument_faults(item.args) == []
    for one in catalogue.keys:
        for other in catalogue.keys:
            if one is not other and one.context == other.context:
                assert not extends(parse_sequence(one.keys), parse_sequence(other.keys)), (one, other)


# Writing


def test_typing_writes_in_the_cell_and_return_goes_down(grid: Grid) -> None:
    grid.type("12")
    assert grid.window.executor.live() >= {"writing"}
    grid.press(Qt.Key.Key_Return)
    grid.type("=A1*2")
    assert "sum" in grid.window.executor.live()
    grid.press(Qt.Key.Key_Return)
    assert grid.rows() == [["12"], ["24"]]
    assert grid.read("here.cell") == "A3"


def test_escape_leaves_the_cell_as_it_was(lanes: Grid) -> None:
    lanes.go("B2")
    lanes.type("no")
    lanes.press(Qt.Key.Key_Escape)
    assert lanes.shown("B2") == "Brinholt"


def test_the_cell_is_changed_in_place_with_the_keys_of_writing(lanes: Grid) -> None:
    lanes.go("B2")
    lanes.press(Qt.Key.Key_F2)
    lanes.press(Qt.Key.Key_Backspace)
    lanes.type("!")
    lanes.press(Qt.Key.Key_Home)
    lanes.press(Qt.Key.Key_Delete)
    lanes.press(Qt.Key.Key_Tab)
    assert lanes.shown("B2") == "rinhol!"
    assert lanes.read("here.cell") == "C2"


def test_a_click_elsewhere_or_a_button_keeps_what_was_written(lanes: Grid) -> None:
    lanes.go("B2")
    lanes.type("Havring")
    assert lanes.do("embolden", on="yes")
    assert lanes.shown("B2") == "Havring"
    assert lanes.read("chosen.bold") == "yes"


def test_text_with_tabs_and_lines_goes_into_the_cells_around(grid: Grid) -> None:
    grid.run('write "a\tb\\nc\td"')
    assert grid.rows() == [["a", "b"], ["c", "d"]]


def test_undo_takes_back_a_cell_a_command_and_what_is_still_being_written(lanes: Grid) -> None:
    lanes.go("A6")
    lanes.type("10:00")
    lanes.press(Qt.Key.Key_Z, CTRL)
    assert lanes.shown("A6") == ""
    lanes.do("delete-rows")
    lanes.go("A2")
    lanes.do("delete-rows")
    assert column(lanes, 1) == ["Vessel", "Ovessa", "Quessel", "Brinholt"]
    lanes.press(Qt.Key.Key_Z, CTRL)
    assert column(lanes, 1) == ["Vessel", "Brinholt", "Ovessa", "Quessel", "Brinholt"]
    lanes.press(Qt.Key.Key_Z, CTRL, SHIFT)
    assert column(lanes, 1) == ["Vessel", "Ovessa", "Quessel", "Brinholt"]


# Going and choosing


def test_the_arrows_move_and_with_shift_choose(lanes: Grid) -> None:
    lanes.go("A1")
    lanes.press(Qt.Key.Key_Down)
    lanes.press(Qt.Key.Key_Right)
    assert lanes.read("here.value") == "Brinholt"
    lanes.press(Qt.Key.Key_Down, SHIFT)
    lanes.press(Qt.Key.Key_Right, SHIFT)
    assert lanes.chosen == "B2:C3"
    assert lanes.read("chosen.sum") == 92


@pytest.mark.parametrize(
    ("start", "key", "end"),
    [
        ("A1", Qt.Key.Key_Down, "A5"),
        ("A3", Qt.Key.Key_Right, "D3"),
        ("D5", Qt.Key.Key_Up, "D1"),
        ("D5", Qt.Key.Key_Left, "A5"),
        ("A8", Qt.Key.Key_Up, "A5"),
    ],
)
def test_jumps_end_at_the_edge_of_what_is_filled(lanes: Grid, start: str, key: Qt.Key, end: str) -> None:
    lanes.go(start)
    lanes.press(key, CTRL)
    assert lanes.read("here.cell") == end


def test_a_jump_goes_over_gaps_and_stops_at_the_end(lanes: Grid) -> None:
    lanes.go("A9")
    lanes.do("set-cell", to="x")
    lanes.go("A5")
    lanes.do("jump-down")
    assert lanes.read("here.cell") == "A9"
    lanes.do("jump-down")
    assert lanes.read("here.cell") == "A9"


def test_going_by_name_heading_and_to_the_ends(lanes: Grid) -> None:
    lanes.go("A3")
    lanes.do("go-to-heading", name="weight")
    assert lanes.read("here.value") == 52
    assert lanes.read("here.heading") == "Weight"
    assert not lanes.do("go-to-heading", name="Length")
    assert "“Sailing”, “Vessel”, “Weight”, “Limit”" in lanes.said
    assert not lanes.do("go-to-cell", name="7B")
    lanes.do("go-to-end")
    assert lanes.read("here.cell") == "D5"
    lanes.do("go-below")
    assert (lanes.read("here.cell"), lanes.read("at-end")) == ("A6", "yes")
    lanes.do("go-to-start")
    lanes.do("select-data")
    assert lanes.chosen == "A1:D5"
    lanes.go("C3")
    lanes.do("select-filled")
    assert (lanes.chosen, lanes.read("chosen.sum")) == ("C2:C5", 170)


def test_the_sheet_ends_where_it_begins(grid: Grid) -> None:
    assert not grid.do("move-by", down="-1")
    assert "ends here" in grid.said


# Rows and columns


def test_rows_come_and_go_and_sums_follow_their_cells(lanes: Grid) -> None:
    lanes.go("C6")
    lanes.do("insert-sum")
    assert (lanes.written("C6"), lanes.shown("C6")) == ("=SUM(C2:C5)", "170")
    lanes.go("A3")
    lanes.do("add-rows", count="2")
    assert (lanes.written("C8"), lanes.shown("C8")) == ("=SUM(C2:C7)", "170")
    lanes.go("A2")
    lanes.do("add-columns-before")
    assert lanes.written("D8") == "=SUM(D2:D7)"
    lanes.go("D3")
    lanes.do("delete-rows")
    assert (lanes.written("D7"), lanes.shown("D7")) == ("=SUM(D2:D6)", "118")
    lanes.go("D1")
    lanes.do("delete-columns")
    assert lanes.rows()[1][:3] == ["", "07:10", "Brinholt"]
    for _ in range(4):
        lanes.do("undo")
    assert lanes.rows()[0] == ["Sailing", "Vessel", "Weight", "Limit"]
    assert lanes.shown("C6") == "170"


def test_a_sum_whose_cells_are_gone_says_so(lanes: Grid) -> None:
    lanes.go("E2")
    lanes.do("set-cell", to="=C2+1")
    lanes.go("C1")
    lanes.do("delete-columns")
    assert lanes.shown("D2") == "#REF!"


def test_rows_move_among_their_neighbours(lanes: Grid) -> None:
    lanes.go("A3")
    lanes.do("move-rows-up")
    assert column(lanes, 1) == ["Vessel", "Ovessa", "Brinholt", "Quessel", "Brinholt"]
    assert lanes.read("here.cell") == "A2"
    lanes.do("move-rows-down")
    lanes.do("move-rows-down")
    assert column(lanes, 1) == ["Vessel", "Brinholt", "Quessel", "Ovessa", "Brinholt"]


def test_a_width_is_dragged_with_the_mouse_and_undone(lanes: Grid) -> None:
    header = lanes.document.widget.cells.horizontalHeader()
    edge = QPoint(header.sectionPosition(1) - 1, 10)
    QTest.mousePress(header.viewport(), Qt.MouseButton.LeftButton, pos=edge)
    QTest.mouseMove(header.viewport(), edge + QPoint(60, 0))
    QTest.mouseRelease(header.viewport(), Qt.MouseButton.LeftButton, pos=edge + QPoint(60, 0))
    assert lanes.document.sheet.widths.get(0, 0) > 120
    lanes.do("undo")
    assert (lanes.document.sheet.widths, header.sectionSize(0)) == ({}, 104)
    lanes.do("fit-width")
    assert 40 <= header.sectionSize(0) < 104


# Looks


def test_looks_are_reached_and_cleared(lanes: Grid) -> None:
    lanes.go("B2:B3")
    for verb, name in (("embolden", "bold"), ("slant", "slanted"), ("underline", "underlined")):
        for on, expected in (("yes", "yes"), ("yes", "yes"), ("flip", "no"), ("flip", "yes")):
            lanes.do(verb, on=on)
            assert lanes.read(f"chosen.{name}") == expected
    lanes.do("colour-cells", to="#fff1a8")
    lanes.do("colour-words", to="#B3213B")
    lanes.do("align-cells", to="right")
    look = lanes.document.sheet.cell(2, 1).look
    assert (look.bold, look.ground, look.ink, look.side) == (True, "#FFF1A8", "#B3213B", "right")
    lanes.do("remove-formatting")
    assert not lanes.document.sheet.cell(2, 1).look.bold


@pytest.mark.parametrize(
    ("form", "shown"),
    [("whole", "1,234"), ("hundredths", "1,234.50"), ("percent", "123450 %"), ("text", "1234.5")],
)
def test_numbers_are_written_in_the_form_asked_for(grid: Grid, form: str, shown: str) -> None:
    grid.do("set-cell", to="1234.5")
    grid.do("number-format", form=form)
    assert grid.shown("A1") == shown


def test_a_whole_column_is_changed_only_as_far_as_it_is_filled(lanes: Grid) -> None:
    lanes.go("B1")
    lanes.do("select-column")
    lanes.do("embolden", on="yes")
    assert lanes.document.sheet.height == 5


# Order, narrow, totals


def test_rows_are_put_in_order_below_their_heading(lanes: Grid) -> None:
    lanes.go("C2")
    lanes.do("sort-descending")
    assert column(lanes, 2) == ["Weight", "52", "47", "40", "31"]
    lanes.do("sort-ascending")
    assert column(lanes, 1) == ["Vessel", "Quessel", "Brinholt", "Brinholt", "Ovessa"]
    lanes.do("undo")
    assert column(lanes, 2) == ["Weight", "52", "47", "40", "31"]


def test_a_total_stays_beneath_the_rows_that_are_put_in_order(lanes: Grid) -> None:
    lanes.go("C6")
    lanes.do("insert-sum")
    lanes.go("C2")
    lanes.do("sort-ascending")
    assert column(lanes, 2) == ["Weight", "31", "40", "47", "52", "170"]
    assert lanes.written("C6") == "=SUM(C2:C5)"


def test_narrowed_rows_are_out_of_sight_and_out_of_reach(lanes: Grid) -> None:
    lanes.go("B2")
    lanes.do("show-only")
    assert lanes.document.seen_rows() == [0, 1, 4]
    lanes.do("move-by", down="1")
    assert lanes.read("here.row") == 5
    lanes.go("C2:C5")
    assert lanes.read("chosen.sum") == 87
    lanes.do("embolden", on="yes")
    assert not lanes.document.sheet.cell(2, 2).look.bold
    assert not lanes.do("sort-ascending")
    lanes.do("show-all-rows")
    assert lanes.document.seen_rows() is None
    lanes.go("B2")
    assert not lanes.do("show-only", to="Havring")


def test_doubles_go_and_blocks_turn(grid: Grid) -> None:
    grid.fill("Vessel Quay\nBrinholt North\nBrinholt North\nQuessel Fish")
    grid.go("A2")
    grid.do("remove-repeated-rows")
    assert grid.rows() == [["Vessel", "Quay"], ["Brinholt", "North"], ["Quessel", "Fish"]]
    grid.do("swap-rows-columns")
    assert grid.rows()[:2] == [["Vessel", "Brinholt", "Quessel"], ["Quay", "North", "Fish"]]


def test_totals_stand_beneath_what_is_chosen(lanes: Grid) -> None:
    lanes.go("C2:D5")
    lanes.do("insert-average")
    assert (lanes.shown("C6"), lanes.shown("D6")) == ("42.5", "42")
    lanes.go("A9")
    assert not lanes.do("insert-sum")
    assert "no numbers above" in lanes.said


def test_filling_counting_on_and_values(grid: Grid) -> None:
    grid.fill("1 =A1*2\n3 x")
    grid.go("A1:A5")
    grid.do("count-on")
    assert column(grid, 0) == ["1", "3", "5", "7", "9"]
    grid.go("B1:B5")
    grid.do("fill-down")
    assert column(grid, 1) == ["2", "6", "10", "14", "18"]
    grid.do("formulas-to-values")
    assert grid.written("B5") == "18"
    grid.go("B5:D5")
    grid.do("fill-right")
    assert grid.rows()[4] == ["9", "18", "18", "18"]


# Copying


def test_cells_are_copied_with_look_and_sums_that_go_along(grid: Grid) -> None:
    grid.fill("2 =A1*10\n3 .")
    grid.go("B1")
    grid.do("embolden", on="yes")
    grid.press(Qt.Key.Key_C, CTRL)
    grid.go("B2")
    grid.press(Qt.Key.Key_V, CTRL)
    assert (grid.written("B2"), grid.shown("B2"), grid.read("chosen.bold")) == ("=A2*10", "30", "yes")
    grid.go("C1")
    grid.press(Qt.Key.Key_V, CTRL, SHIFT)
    assert grid.written("C1") == "20"
    assert QApplication.clipboard().text() == "20"


def test_what_another_program_copied_goes_into_rows_and_columns(grid: Grid) -> None:
    QApplication.clipboard().setText("a\t1\nb\t2")
    grid.go("B2")
    grid.press(Qt.Key.Key_V, CTRL)
    assert grid.rows()[1:] == [["", "a", "1"], ["", "b", "2"]]
    assert grid.chosen == "B2:C3"
    grid.press(Qt.Key.Key_X, CTRL)
    assert grid.rows() == []


# Sheets and notes


def test_sheets_have_names_and_sums_look_across(grid: Grid) -> None:
    grid.do("set-cell", to="5")
    grid.do("add-sheet", name="Week 3")
    grid.do("set-cell", to="='Sheet 1'.A1+1")
    assert grid.shown("A1") == "6"
    grid.do("go-to-sheet", name="Sheet 1")
    grid.do("name-sheet", name="Monday")
    assert grid.read("sheets") == ["Monday", "Week 3"]
    grid.do("next-sheet")
    assert (grid.written("A1"), grid.shown("A1")) == ("=Monday.A1+1", "6")
    assert not grid.do("add-sheet", name="monday")
    assert "“monday 1” is free" in grid.said
    grid.do("copy-sheet")
    grid.do("move-sheet", by="-2")
    assert grid.read("sheets") == ["Week 3 1", "Monday", "Week 3"]
    grid.do("delete-sheet")
    assert grid.read("sheets") == ["Monday", "Week 3"]
    grid.do("undo")
    assert grid.read("sheets") == ["Week 3 1", "Monday", "Week 3"]


def test_each_sheet_keeps_its_place_and_a_click_on_its_name_goes_there(grid: Grid) -> None:
    grid.do("add-sheet")
    grid.go("C4")
    names = grid.document.widget.sheets.names
    QApplication.processEvents()
    QTest.mouseClick(names, Qt.MouseButton.LeftButton, pos=names.tabRect(0).center())
    assert (grid.read("here.sheet"), grid.read("here.cell")) == ("Sheet 1", "A1")
    grid.do("go-to-sheet", name="Sheet 2")
    assert grid.read("here.cell") == "C4"


def test_filling_leaves_the_notes_of_the_filled_cells(grid: Grid) -> None:
    grid.fill("1\n2")
    for cell, words in (("A1", "first"), ("A2", "second")):
        grid.go(cell)
        grid.do("write-note")
        grid.type(words)
        grid.press(Qt.Key.Key_Escape)
    grid.go("A1:A2")
    grid.do("fill-down")
    grid.go("A2")
    assert (grid.written("A2"), grid.read("here.note")) == ("1", "second")


def test_a_note_is_written_beside_its_cell(grid: Grid) -> None:
    grid.go("B2")
    grid.do("write-note")
    assert "note" in grid.window.executor.live()
    grid.type("open")
    grid.press(Qt.Key.Key_Return)
    grid.type("deckk")
    grid.press(Qt.Key.Key_Backspace)
    grid.press(Qt.Key.Key_Escape)
    assert grid.read("here.note") == "open\ndeck"
    grid.go("A1")
    grid.do("next-note")
    assert grid.read("here.cell") == "B2"
    grid.do("delete-note")
    assert grid.read("here.note") == ""
    assert not grid.do("delete-note")


# Finding


def test_finding_and_replacing(lanes: Grid) -> None:
    lanes.do("find", text="brinholt")
    assert lanes.read("here.cell") == "B2"
    lanes.press(Qt.Key.Key_F4)
    assert lanes.read("here.cell") == "B5"
    lanes.press(Qt.Key.Key_F4, SHIFT)
    assert lanes.read("here.cell") == "B2"
    lanes.do("replace", text="Brinholt", by="Havring")
    assert column(lanes, 1) == ["Vessel", "Havring", "Ovessa", "Quessel", "Havring"]
    lanes.go("B2")
    lanes.do("replace", text="Havring", by="Quessel", where="chosen")
    assert column(lanes, 1) == ["Vessel", "Quessel", "Ovessa", "Quessel", "Havring"]
    assert not lanes.do("find", text="nowhere")


# Files


def test_a_workbook_comes_back_from_its_file_as_it_was(lanes: Grid, tmp_path: Path) -> None:
    lanes.go("A1")
    lanes.do("mark-heading")
    lanes.go("C6")
    lanes.do("insert-sum")
    lanes.do("number-format", form="hundredths")
    lanes.do("write-note")
    lanes.type("all day")
    lanes.do("keep-note")
    lanes.do("set-width", to="150", column="B")
    lanes.go("D6")
    lanes.do("set-cell", to="007")
    lanes.do("number-format", form="text")
    lanes.do("add-sheet", name="Summary of the week")
    lanes.do("set-cell", to="=AVERAGE('Sheet 1'.C2:C5)+1,\"")
    lanes.do("set-cell", to="=AVERAGE('Sheet 1'.C2:C5;2)")
    before = lanes.document.book.shape()
    rows = [sheet.rows for sheet in lanes.document.book.sheets]
    path = tmp_path / "Lanes.ods"
    lanes.do("save-as", path=str(path))
    assert not lanes.document.modified()
    lanes.do("close")
    lanes.do("open", path=str(path), sheet="Sheet 1")
    after = lanes.document.book
    assert [s.rows[: s.height] for s in after.sheets] == [r[: len(r)] for r in rows]
    assert [(n, w) for _, n, w, _ in after.shape()] == [(n, w) for _, n, w, _ in before]
    assert lanes.shown("C6") == "170.00"


def test_values_go_out_and_in_as_csv(lanes: Grid, tmp_path: Path) -> None:
    path = tmp_path / "lanes.csv"
    lanes.do("save-values", path=str(path))
    assert path.read_text().splitlines()[1] == "07:10,Brinholt,40,44"
    path.write_text("a;b\n1;2\n")
    lanes.do("open", path=f"file://{path}")
    assert lanes.rows() == [["a", "b"], ["1", "2"]]
    lanes.do("make-pdf", path=str(tmp_path / "lanes.pdf"))
    assert (tmp_path / "lanes.pdf").read_bytes().startswith(b"%PDF")


@pytest.mark.parametrize("content", [b"", b"PK\x03\x04 no zip", b"\x00\xff" * 50])
def test_a_file_that_is_no_spreadsheet_leaves_the_workbook(
    lanes: Grid, tmp_path: Path, content: bytes
) -> None:
    path = tmp_path / "x.ods"
    path.write_bytes(content)
    assert not lanes.do("open", path=str(path))
    assert "is no OpenDocument spreadsheet" in lanes.said
    assert lanes.rows()[0][0] == "Sailing"


def test_a_hundred_thousand_rows_are_seen_without_building_them(grid: Grid, tmp_path: Path) -> None:
    path = tmp_path / "long.csv"
    path.write_text("\n".join(",".join(str(n + c) for c in range(30)) for n in range(100_000)))
    grid.do("open", path=str(path))
    model = grid.document.widget.model
    assert (model.rowCount(), grid.document.sheet.breadth) == (100_200, 30)
    asked: list[int] = []
    kept = model.data
    model.data = lambda index, role=0: (asked.append(index.row()), kept(index, role))[1]  # type: ignore[method-assign]
    grid.do("go-to-end")
    QApplication.processEvents()
    assert grid.shown("AD100000") == "100028"
    # Only what is seen is asked for.
    assert len(set(asked)) < 200


def test_a_command_that_fails_in_the_middle_changes_nothing(grid: Grid) -> None:
    before = [dict(row) for row in grid.document.sheet.rows]
    book = grid.document.book

    def half() -> None:
        with grid.document.change("half"):
            book.put(grid.document.sheet, 3, 3, Cell("x"))
            book.set_shape(grid.document.sheet, name="Another")
            raise RuntimeError("in the middle")

    with pytest.raises(RuntimeError, match="in the middle"):
        half()
    assert [dict(row) for row in grid.document.sheet.rows] == before
    assert grid.read("sheets") == ["Sheet 1"]
    assert grid.document.undo.depth == 0


def test_a_macro_over_sheets_is_one_undo(lanes: Grid) -> None:
    loop = 'for each name in sheets\n  write "{name}"\n  do confirm-down\nend\n'
    said = lanes.run(f'do add-sheet name="Sum"\n{loop}say "done"')
    assert said == "done"
    assert lanes.rows("Sum") == [["Sheet 1"], ["Sum"]]
    lanes.do("undo")
    assert lanes.read("sheets") == ["Sheet 1"]
    lanes.do("redo")
    assert lanes.rows("Sum") == [["Sheet 1"], ["Sum"]]


def test_columns_have_letters() -> None:
    assert [letters_of(n) for n in (0, 25, 26, 51, 52, 701, 702)] == ["A", "Z", "AA", "AZ", "BA", "ZZ", "AAA"]


def click_cell(grid: Grid, row: int, column: int) -> None:
    cells = grid.document.widget.cells
    box = cells.visualRect(grid.document.widget.model.index(row, column))
    QTest.mouseClick(cells.viewport(), Qt.MouseButton.LeftButton, pos=box.center())


@pytest.mark.parametrize(
    ("key", "held", "block"),
    [
        (Qt.Key.Key_Home, Qt.KeyboardModifier.ControlModifier, (0, 0, 0, 2)),
        (Qt.Key.Key_Return, Qt.KeyboardModifier.NoModifier, (5, 3, 5, 5)),
        (Qt.Key.Key_Right, Qt.KeyboardModifier.NoModifier, (4, 4, 4, 6)),
    ],
)
def test_shift_with_arrows_chooses_from_where_a_command_put_the_cursor(
    grid: Grid, key: Qt.Key, held: Qt.KeyboardModifier, block: tuple[int, int, int, int]
) -> None:
    click_cell(grid, 4, 3)
    grid.press(key, held)
    for _ in range(2):
        grid.press(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    place = grid.document.place()
    assert (place.top, place.left, place.bottom, place.right) == block


def test_shift_goes_on_from_a_block_that_was_chosen_and_a_click_with_shift_reaches_to_it(grid: Grid) -> None:
    grid.go("B2")
    grid.do("select-block", down="1", right="1")
    grid.press(Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    place = grid.document.place()
    assert (place.top, place.left, place.bottom, place.right) == (1, 1, 3, 2)
    cells = grid.document.widget.cells
    box = cells.visualRect(grid.document.widget.model.index(0, 3))
    QTest.mouseClick(
        cells.viewport(), Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, box.center()
    )
    place = grid.document.place()
    assert (place.top, place.left, place.bottom, place.right) == (0, 1, 1, 3)


def test_a_field_that_shuts_gives_the_keys_to_the_cells_also_in_the_background(
    grid: Grid,
) -> None:
    grid.use({"panels": [{"id": "p", "title": "P", "items": [{"id": "f", "field": "Vessel"}]}]})
    other = QLineEdit()
    grid.qtbot.addWidget(other)
    grid.do("write-note")
    other.show()
    other.activateWindow()
    grid.qtbot.waitUntil(other.isActiveWindow)
    grid.do("keep-note")
    assert grid.window.focusWidget() is grid.document.widget.cells


def test_a_long_chain_is_drawn_when_it_is_worked_out_and_the_window_answers_meanwhile(
    grid: Grid, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("rimecrest_standins.grid.document.SLICE", 0.002)
    document = grid.document
    rows = [{0: Cell("1")}, *({0: Cell(f"=A{n}+1")} for n in range(1, 3_000))]
    with document.change("rows"):
        document.book.splice(document.sheet, 0, 0, rows)
    last = document._model.index(2_999, 0)
    assert document._model.data(last) == "…"
    turns: list[int] = []
    timer = QTimer()
    timer.timeout.connect(lambda: turns.append(1))
    timer.start(0)
    grid.window.show()
    document.go_to(2_999, 0)
    grid.qtbot.waitUntil(lambda: document._model.data(last) == "3000", timeout=30_000)
    assert len(turns) > 3


@pytest.mark.parametrize(
    ("button", "written"),
    [
        ("Write them as text", "'=cmd|x!A0,7"),
        ("Write them as they are", "=cmd|x!A0,7"),
        ("Do not save", None),
    ],
)
def test_what_other_programs_would_run_is_asked_about_once(
    grid: Grid, tmp_path: Path, button: str, written: str | None
) -> None:
    source, path = tmp_path / "in.csv", tmp_path / "out.csv"
    source.write_text("=cmd|x!A0,7\n")
    grid.do("open", path=str(source))
    assert grid.document.shown(0, 0) == "=cmd|x!A0"
    asked = answer(button)
    grid.do("save-values", path=str(path))
    assert asked == ["Other programs may run A1 as formulas."]
    assert (path.read_text().strip() if path.exists() else None) == written
    if written is not None:
        grid.do("save-values", path=str(path))
        assert path.read_text().strip() == written
