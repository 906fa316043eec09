"""What a program loads before its first window: no more than it shows there."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

import pytest

from rimecrest.cli.windows import program_asked_for

LIBRARIES = ("structlog", "rich", "numpy", "scipy", "jinja2", "qtawesome", "typer", "lxml", "picosvg", "odf")
"""None of them is needed for a first window of any program."""
APPLICATION = (*LIBRARIES, "lark", "sqlite3", "PIL", "fontTools", "cryptography", "resvg_py")
"""Nor these for a first window of an application without macros."""

LETTERS = """
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from rimecrest.kit.window import AppWindow
from rimecrest.shell.start import make_qt_application
qt = make_qt_application("Letters")
window = AppWindow(declarations, LetterDocument, None)
window.show()
window.grab()
"""
STUDIO = """
import sys
from pathlib import Path
from rimecrest.shell.start import make_qt_application
from rimecrest.studio.window import StudioWindow
qt = make_qt_application("Rimecrest")
window = StudioWindow()
window.open_folder(Path({folder!r}))
window.show()
window.grab()
"""
TELL = """
import os, sys
print(" ".join(sys.modules), flush=True)
os._exit(0)
"""


def loaded(program: str) -> set[str]:
    """The modules that are loaded when a program has shown its first window."""
    # As in a session of a desktop, which has a folder for sockets.
    with TemporaryDirectory() as runtime:
        environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "XDG_RUNTIME_DIR": runtime}
        ran = subprocess.run(
            [sys.executable, "-c", program + TELL],
            capture_output=True,
            text=True,
            check=True,
            env=environment,
        )
    return set(ran.stdout.splitlines()[-1].split())


def test_an_application_starts_without_what_its_first_window_does_not_need() -> None:
    modules = loaded(LETTERS)
    assert "rimecrest.kit.window" in modules
    assert modules.isdisjoint(APPLICATION)
    assert not {name for name in modules if name.startswith(("rimecrest.studio", "rimecrest.core.check"))}


def test_the_studio_starts_without_the_libraries_of_its_other_places(
    demo_folder: Path, tmp_path: Path
) -> None:
    shutil.copytree(demo_folder / "vessry", tmp_path / "vessry")
    program = STUDIO.format(folder=str(tmp_path / "vessry"))
    loaded(program)  # the first start of all keeps the pictures of the sets that it shows
    modules = loaded(program)
    assert "rimecrest.studio.layout.place" in modules
    assert modules.isdisjoint((*LIBRARIES, "fontTools", "urllib.request"))
    others = ("rimecrest.studio.macros.place", "rimecrest.studio.keys", "rimecrest.studio.rollout")
    assert not {name for name in modules if name.startswith(others)}


@pytest.mark.parametrize(
    ("words", "opens"),
    [
        (["studio"], True),
        (["studio", "folder"], True),
        (["studio", "--help"], False),
        (["studio", "one", "two"], False),
        (["app", "letters"], True),
        (["app", "letters", "--profile", "folder"], True),
        (["app", "letters", "--help"], False),
        (["app", "--help", "letters"], False),
        (["app", "-x"], False),
        (["app"], False),
        (["check", "folder"], False),
        ([], False),
    ],
)
def test_only_a_plain_wish_for_a_window_goes_past_the_reader_of_the_command_line(
    words: list[str], opens: bool
) -> None:
    assert (program_asked_for(words) is not None) is opens


def test_a_window_opens_without_what_reads_the_command_line(tmp_path: Path) -> None:
    program = """
import sys
from rimecrest.cli import main
sys.argv[1:] = ["app", "letters", "--describe", sys.argv[1]]
try:
    main()
finally:
    print(*sys.modules)
"""
    ran = subprocess.run(
        [sys.executable, "-c", program, str(tmp_path)],
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )
    modules = set(ran.stdout.split())
    assert "rimecrest_standins.letters.letters" in modules
    assert modules.isdisjoint(("typer", "rimecrest.cli.command_line"))
    assert (tmp_path / "letters.json").is_file()


def test_an_application_that_is_not_there_is_said_with_those_that_are() -> None:
    ran = subprocess.run(
        [sys.executable, "-m", "rimecrest", "app", "ledger"], capture_output=True, text=True, check=False
    )
    assert ran.returncode == 2
    assert ran.stderr.strip() == "There is no application “ledger”. There is: grid, letters, post."
