"""A macro's run and the undo stack: what is said, what is refused, and that nothing is left half done."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt

from tests.programs import Grid, Letters

CTRL = Qt.KeyboardModifier.ControlModifier


def stopped(program: Letters | Grid) -> str:
    with program.qtbot.waitSignal(program.window.dispatcher.run_ended) as ended:
        program.window.dispatcher.stop_run()
    return str(ended.args[1])


def test_whoever_stops_a_run_reads_which_one(letters: Letters) -> None:
    letters.run("repeat 90000 times\nend", wait=False)
    assert stopped(letters) == "“Test” was stopped; nothing was changed."


def test_where_a_reading_has_no_entries_there_is_nothing_to_choose_from(letters: Letters) -> None:
    said = letters.run('write "kept?"\nask which "Which?" from headings')
    assert said.endswith("There is nothing to choose from: headings is empty here.")
    assert letters.text == ""


def test_what_cannot_be_taken_back_is_said_with_what_to_do(
    letters: Letters, monkeypatch: pytest.MonkeyPatch
) -> None:
    documents = letters.window.documents
    take_back = documents.take_back_run

    def broken() -> None:
        take_back()
        raise OSError("no")

    monkeypatch.setattr(documents, "take_back_run", broken)
    said = letters.run('write "x"\ndo go-to-place name="nowhere"')
    assert said.startswith("Step 2: The letter has no place “nowhere”.")
    assert "Something went wrong inside (OSError). Tell whoever looks after Rimecrest." in said
    assert said.endswith(" Look at the document before you save it.")


def test_nothing_is_undone_or_done_again_while_a_run_is_under_way(letters: Letters) -> None:
    undo = letters.document.undo
    letters.type("one ")
    letters.type("two")
    undo.undo()
    before = letters.text
    undo.begin_run("Test")
    assert (undo.undo(), undo.redo()) == ("", "")
    assert letters.text == before
    undo.end_run()
    assert undo.redo() != ""


def test_an_empty_stack_has_nothing_to_undo_or_do_again(letters: Letters) -> None:
    undo = letters.document.undo
    assert (undo.undo(), undo.redo(), undo.undo_label, undo.redo_label) == ("", "", "", "")


def test_what_is_done_again_has_the_cursor_where_it_was_done(letters: Letters) -> None:
    letters.run('write "Dear all"')
    assert letters.do("go-to-start")
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.text == ""
    letters.document.undo.redo()
    assert letters.text == "Dear all"
    assert letters.document.cursor().position() == len("Dear all")


def test_a_run_that_fails_in_a_workbook_leaves_its_cells_and_the_place_as_they_were(grid: Grid) -> None:
    grid.fill("1 2\n3 4")
    grid.go("B2")
    depth = grid.document.undo.depth
    said = grid.run(
        'do go-to-cell name="A1"\nwrite "9"\ndo go-to-cell name="C3"\ndo go-to-cell name="nowhere"'
    )
    assert said.startswith("Step 4")
    assert grid.rows() == [["1", "2"], ["3", "4"]]
    assert grid.chosen == "B2:B2"
    assert grid.document.undo.depth == depth


def test_a_run_that_fails_before_it_has_written_goes_back_as_well(grid: Grid) -> None:
    grid.fill("1 2\n3 4")
    grid.go("B2")
    assert grid.run('do go-to-cell name="C3"\ndo go-to-cell name="nowhere"').startswith("Step 2")
    assert grid.chosen == "B2:B2"


def test_a_shared_macro_writes_its_own_new_file_again_without_asking(
    letters: Letters, tmp_path: Path
) -> None:
    letters.type("Dear all")
    path = tmp_path / "letter.pdf"
    once = f'do make-pdf path="{path}"'
    assert letters.run(f"{once}\n{once}") == ""
    assert path.read_bytes().startswith(b"%PDF")


def test_a_run_goes_step_by_step_and_a_step_that_fails_ends_it(letters: Letters) -> None:
    window = letters.window
    letters.use(
        {}, test='macro "Test"\nfor letters\n\nwrite "one"\nwrite "two"\ndo go-to-place name="nowhere"\n'
    )
    run = window.dispatcher.begin_macro("test", step_by_step=True)
    stepped: list[int] = []
    held: list[int] = []
    ended: list[str] = []
    run.stepped.connect(stepped.append)
    run.held.connect(held.append)
    run.ended.connect(ended.append)
    for _ in range(3):
        run.go_on()
    assert held == [5, 6]
    assert stepped == [4, 5]
    assert ended == ["Step 3: The letter has no place “nowhere”. All was taken back. It has: none."]
    assert not run.well
    assert letters.text == ""
