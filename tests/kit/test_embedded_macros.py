"""Macros kept in a document: saved with it, left behind when it is sent, not run for strangers."""

from __future__ import annotations

from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from tests.programs import Grid, Letters, Program

MACRO = 'macro "Kept & <dear>"\nfor {app}\n\nwrite "x ü \\"</script>\\""\n'


@pytest.fixture(params=[Letters, Grid])
def program(request: pytest.FixtureRequest, qtbot: QtBot) -> Program:
    made: Program = request.param(qtbot)
    made.window.document.put_macro("kept", MACRO.format(app=made.app))
    return made


def path_of(program: Program, folder: Path, name: str) -> Path:
    return folder / f"{name}{program.window.document.ending}"


def test_it_is_saved_with_the_document_and_read_again(program: Program, tmp_path: Path) -> None:
    assert program.window.document.modified()
    path = path_of(program, tmp_path, "one")
    program.do("save-as", path=str(path))
    assert not program.window.document.modified()
    program.do("close")
    assert program.window.document.macros == {}
    program.do("open", path=str(path))
    assert program.window.document.macros == {"kept": MACRO.format(app=program.app)}


def test_a_document_saved_for_sending_leaves_it_behind_unless_asked(program: Program, tmp_path: Path) -> None:
    sent, along = path_of(program, tmp_path, "sent"), path_of(program, tmp_path, "along")
    program.do("save-for-sending", path=str(sent))
    program.do("save-for-sending", path=str(along), macros="go-along")
    assert program.window.document.path is None
    assert program.window.document.modified()
    for path, expected in ((sent, []), (along, ["kept"])):
        program.do("open", path=str(path))
        assert list(program.window.document.macros) == expected


def test_what_was_put_there_runs_and_what_came_with_a_file_does_not(program: Program, tmp_path: Path) -> None:
    with program.qtbot.waitSignal(program.window.dispatcher.run_ended):
        assert program.window.dispatcher.perform("macro:kept")
    path = path_of(program, tmp_path, "one")
    program.do("save-as", path=str(path))
    program.do("close")
    program.do("open", path=str(path))
    assert not program.window.dispatcher.perform("macro:kept")
    assert "came with this document, and nobody here vouches for it" in program.said


def test_a_block_that_cannot_be_read_is_passed_over(qtbot: QtBot, tmp_path: Path) -> None:
    letters = Letters(qtbot)
    path = tmp_path / "x.html"
    path.write_text('<html><head><script type="text/x-rimecrest-steps" id="a">%%%</script></head><p>Text</p>')
    letters.do("open", path=str(path))
    assert (letters.document.macros, letters.text) == ({}, "Text")


@pytest.mark.parametrize("name", ["../elsewhere", "", "a b"])
def test_a_macro_whose_id_is_none_is_passed_over_in_a_file(
    program: Program, tmp_path: Path, name: str
) -> None:
    program.window.document.put_macro(name, MACRO.format(app=program.app))
    path = path_of(program, tmp_path, "one")
    program.do("save-as", path=str(path))
    program.do("close")
    program.do("open", path=str(path))
    assert list(program.window.document.macros) == ["kept"]
