"""Keys and clicks at random over the four programs: each answers all the time, and nothing goes wrong.

`make soak` draws them by ever other seeds, many more at once; a silence of over a second is a fault there.
"""

from __future__ import annotations

import contextlib
import os
import random
import shutil
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from rimecrest.core.errors import RimecrestError
from rimecrest.demo.desk import Desk
from rimecrest.link.launch import own_command
from rimecrest.link.line import Line
from tests.hostile.seeds import SEED, SOAKING

pytestmark = [
    pytest.mark.long, pytest.mark.screen, pytest.mark.xdist_group("screen"), pytest.mark.timeout(3_600),
]  # fmt: skip
GESTURES = int(os.environ.get("GESTURES", "250"))
LONGEST_SILENCE = 1.0 if SOAKING else 60.0
"""Seconds; where tests run beside others, only a program that does not answer at all is at fault."""
PLAIN = ("a", "7", "equal", "period", "space", "Tab", "Return", "Escape", "BackSpace", "Delete", "Menu",
         "Up", "Down", "Left", "Right", "Home", "End", "Prior", "Next")  # fmt: skip
HELD = ("", "", "", "shift+", "ctrl+", "ctrl+shift+", "alt+")
LETTERS = "abcdefghijklmnopqrstuvwxyz0123456789"
LEAVES = {"alt+Tab", "alt+Escape", "alt+space", "alt+shift+Tab"}
"""What the window manager of the virtual screen takes: the keys would go elsewhere."""
TEXTS = ("=SUM(A1:A9)", "word ", "{here.value}", "漢字", "<b>&", "12.5", '"')


class Program:
    """One program at the desk, started again whenever a key closes it."""

    def __init__(self, desk: Desk, app: str, arguments: list[str], folder: Path) -> None:
        self.app, self._desk, self._arguments, self._folder = app, desk, arguments, folder
        self.log = folder / "log"
        self.process: subprocess.Popen[bytes] | None = None
        self._line: Line | None = None

    def line(self) -> Line:
        """A line to the program, which runs."""
        if self.process is not None and self.process.poll() is not None:
            assert self.process.returncode == 0, (self.process.returncode, self.log.read_text()[-3_000:])
            self.close()
        if self._line is None:
            with self.log.open("ab") as log:
                environment = {**self._desk.environment, "HOME": str(self._folder)}
                self.process = subprocess.Popen(
                    own_command(*self._arguments), env=environment, stderr=log, cwd=self._folder
                )
            self._line = self._desk.line_to(self.app, self.process)
            self._desk.activate(self.process)
        return self._line

    def close(self) -> None:
        if self._line is not None:
            self._line.close()
        if self.process is not None:
            self.process.kill()
            self.process.wait()
        self._line = self.process = None


def gesture(desk: Desk, dice: random.Random) -> str:
    """Do something at random. Returns what."""
    x, y = dice.randrange(1_280), dice.randrange(830)
    kind = dice.random()
    if kind < 0.6:
        key = dice.choice((*PLAIN, *LETTERS, *(f"F{number}" for number in range(1, 13))))
        chord = dice.choice(HELD) + key
        if chord not in LEAVES:
            desk.press(chord)
        return chord
    if kind < 0.85:
        button = dice.choice((1, 1, 1, 3))
        desk.click(x, y, button)
        return f"button {button} at {x}, {y}"
    if kind < 0.95:
        text = dice.choice(TEXTS)
        desk.type(text)
        return f"type {text}"
    to = dice.randrange(1_280), dice.randrange(830)
    desk.drag((x, y), to)
    return f"drag from {x}, {y} to {to}"


@pytest.fixture
def program(
    desk: Desk, demo_folder: Path, tmp_path: Path, request: pytest.FixtureRequest
) -> Iterator[Program]:
    app = request.param
    arguments = ["app", app]
    if app == "studio":
        shutil.copytree(demo_folder / "vessry", tmp_path / "vessry")
        arguments = ["studio", str(tmp_path / "vessry")]
    made = Program(desk, app, arguments, tmp_path)
    yield made
    made.close()


@pytest.mark.parametrize("program", ["letters", "grid", "post", "studio"], indirect=True)
def test_whatever_is_pressed_and_clicked_it_answers(desk: Desk, program: Program) -> None:
    dice = random.Random(f"{SEED} {program.app}")
    done: list[str] = []
    for _ in range(GESTURES):
        program.line()
        with contextlib.suppress(RimecrestError):  # a window that goes while it is meant
            done.append(gesture(desk, dice))
        since = time.monotonic()
        line = program.line()
        try:
            line.ask("hello")
        except Exception as error:
            assert program.process is not None
            try:
                program.process.wait(30)
            except subprocess.TimeoutExpired:
                raise AssertionError(f"seed {SEED}: no answer ({error}) after {done[-8:]}") from None
        else:
            silence = time.monotonic() - since
            assert silence < LONGEST_SILENCE, f"seed {SEED}: silent for {silence:.1f} s after {done[-8:]}"
        told = program.log.read_text(errors="replace")
        assert "Traceback" not in told, f"seed {SEED}: after {done[-8:]}:\n{told[-3_000:]}"
    print(f"seed {SEED}: {len(done)} gestures in {program.app}")
