"""A file that another program has changed meanwhile is not saved over unasked."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog, QMessageBox

from tests.programs import Program, answer


@pytest.fixture(params=["letters", "grid"])
def program(request: pytest.FixtureRequest) -> Program:
    made = request.getfixturevalue(request.param)
    assert isinstance(made, Program)
    return made


def saved(program: Program, folder: Path) -> Path:
    path = folder / f"mine{program.window.document.ending}"
    program.do("save-as", path=str(path))
    return path


def by_another_program(path: Path) -> None:
    path.write_bytes(b"theirs")


def in_its_place(path: Path) -> None:
    """As programs save that write beside and rename; of the same size and time."""
    found = path.stat()
    beside = path.with_name("beside")
    beside.write_bytes(b"x" * found.st_size)
    os.utime(beside, ns=(found.st_atime_ns, found.st_mtime_ns))
    beside.replace(path)


@pytest.mark.parametrize("change", [by_another_program, in_its_place])
def test_it_is_asked_and_theirs_stays_unless_one_says_so(
    program: Program, tmp_path: Path, change: Callable[[Path], None]
) -> None:
    path = saved(program, tmp_path)
    change(path)
    theirs = path.read_bytes()
    asked = answer("Do not save")
    program.do("save")
    assert asked == ["Another program has changed “mine” since it was opened here."]
    assert path.read_bytes() == theirs
    answer("Save over it")
    program.do("save")
    assert path.read_bytes() != theirs
    program.do("save")  # ours again: nothing is asked


def test_another_name_keeps_both(program: Program, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = saved(program, tmp_path)
    by_another_program(path)
    other = tmp_path / f"other{path.suffix}"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_args: (str(other), ""))
    answer("Save under another name")
    program.do("save")
    assert path.read_bytes() == b"theirs"
    assert other.is_file()
    assert program.window.document.path == other


def test_a_macro_that_saves_asks_first(program: Program, tmp_path: Path) -> None:
    path = saved(program, tmp_path)
    by_another_program(path)
    program.run("do save", wait=False)
    asker = program.window.asker
    program.qtbot.waitUntil(lambda: program.window.findChild(QMessageBox) is None and asker.asking)
    asker.cancel()
    program.qtbot.waitUntil(lambda: program.window.dispatcher.run is None)
    assert path.read_bytes() == b"theirs"


def test_a_file_that_was_taken_away_is_written_again(program: Program, tmp_path: Path) -> None:
    path = saved(program, tmp_path)
    path.unlink()
    program.do("save")
    assert path.is_file()


def test_a_pdf_that_cannot_be_written_leaves_the_one_that_was_there(program: Program, tmp_path: Path) -> None:
    place = tmp_path / "a.pdf"
    place.mkdir()
    (place / "old").write_text("old")
    assert not program.window.dispatcher.perform(f"{program.app}:make-pdf", {"path": str(place)})
    assert "cannot be written" in program.said
    assert (place / "old").read_text() == "old"
    assert [path.name for path in tmp_path.iterdir()] == ["a.pdf"]
