"""A running application, reached over the link from another process."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from typer.testing import CliRunner

from rimecrest.cli.command_line import app as command_line
from rimecrest.core.errors import RimecrestError
from rimecrest.link.addresses import listening
from rimecrest.link.application import LinkedApplication
from rimecrest.link.line import Line, LinkRefused


def wait_until_it_listens(process: subprocess.Popen[bytes]) -> None:
    while process.poll() is None:
        for path in listening("letters"):
            try:
                with Line(path) as line:
                    line.ask("hello")
                    return
            except LinkRefused:
                pass
    raise AssertionError("Letters ended before it listened")


@pytest.fixture
def letters_process() -> Iterator[subprocess.Popen[bytes]]:
    surroundings = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    process = subprocess.Popen([sys.executable, "-m", "rimecrest", "app", "letters"], env=surroundings)
    try:
        wait_until_it_listens(process)
        yield process
    finally:
        process.kill()
        process.wait()


def steps(folder: Path, body: str) -> str:
    path = folder / "macro.steps"
    path.write_text(f'macro "Greeting"\nfor letters\n\n{body}\n')
    return str(path)


def test_a_running_one_is_read_and_worked_in(letters_process: subprocess.Popen[bytes]) -> None:
    with LinkedApplication.running("letters") as application:
        assert application.catalogue.title == "Letters"
        assert "writing" in application.live()
        application.perform_or_raise("letters:insert-table", {"rows": "2"})
        assert "table" in application.live()
        with pytest.raises(RimecrestError, match="no command"):
            application.perform_or_raise("letters:none", {})
        well, sentence = application.run_text('macro "G"\nfor letters\n\nwrite "Good day"\nsay "Written."\n')
        assert (well, sentence) == (True, "Written.")
        assert "Good day" in application.read("letter.text")


def test_a_macro_file_is_run_where_its_application_runs(
    letters_process: subprocess.Popen[bytes], tmp_path: Path
) -> None:
    runner = CliRunner()
    done = runner.invoke(command_line, ["macro", "run", steps(tmp_path, 'write "Good day"')])
    assert (done.exit_code, done.stdout) == (0, "“Greeting” is done.\n")
    failed = runner.invoke(command_line, ["macro", "run", steps(tmp_path, "do delete-table")])
    assert failed.exit_code == 1
    with LinkedApplication.running("letters") as application:
        assert application.read("letter.text").strip() == "Good day"


def test_a_macro_with_a_fault_is_not_begun(letters_process: subprocess.Popen[bytes], tmp_path: Path) -> None:
    wrong = CliRunner().invoke(command_line, ["macro", "run", steps(tmp_path, 'write "x"\ndo unheard-of')])
    assert wrong.exit_code != 0
    with LinkedApplication.running("letters") as application:
        assert application.read("letter.text") == ""


def test_nothing_runs_so_nothing_is_reached() -> None:
    with pytest.raises(RimecrestError, match="No “letters” is running. Start it: rimecrest app letters"):
        LinkedApplication.running("letters")


def test_an_application_that_ends_meanwhile_is_told(letters_process: subprocess.Popen[bytes]) -> None:
    with LinkedApplication.running("letters") as application:
        letters_process.kill()
        letters_process.wait()
        with pytest.raises(RimecrestError):
            application.run_text('macro "G"\nfor letters\n\nwrite "Good day"\n')
