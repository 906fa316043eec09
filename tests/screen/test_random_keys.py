"""Keys at random in an application whose print dialog is open again and again: it answers all the time."""

from __future__ import annotations

import random
import subprocess
from pathlib import Path

import pytest

from rimecrest.demo.desk import Desk, wait_for

pytestmark = [pytest.mark.long, pytest.mark.screen, pytest.mark.xdist_group("screen")]
KEYS = (
    *("a", "1", "equal", "Tab", "shift+Tab", "Return", "space", "Up", "Down", "Left", "Right", "Delete"),
    *("F2", "ctrl+a", "ctrl+c", "ctrl+v", "ctrl+z", "ctrl+End", "alt+Down", "Page_Down", "BackSpace"),
)
"""None that leaves the application; what a dialog of the toolkit takes is among them."""


def shown(desk: Desk, title: str) -> bool:
    search = ["xdotool", "search", "--onlyvisible", "--name", f"^{title}"]
    return bool(subprocess.run(search, env=desk.environment, capture_output=True, check=False).stdout.strip())


@pytest.mark.parametrize("seed", [3, 11])
def test_grid_answers_whatever_is_pressed_around_its_print_dialog(
    desk: Desk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, seed: int
) -> None:
    monkeypatch.setitem(desk.environment, "HOME", str(tmp_path))
    monkeypatch.chdir(tmp_path)
    process = desk.start("app", "grid")
    line = desk.line_to("grid", process)
    desk.activate(process)
    dice = random.Random(seed)
    for _ in range(12):
        desk.press("ctrl+p")
        wait_for("the print dialog", lambda: shown(desk, "Print"))
        desk.press(*(dice.choice(KEYS) for _ in range(15)))
        # An answer comes from the window's own loop: one that hangs gives none, and the line says so.
        assert line.ask("hello")["app"] == "grid"
        desk.press("Escape", "Escape")
        assert line.ask("hello")["app"] == "grid"
    assert process.poll() is None
    wait_for("an answer of the sheet", lambda: line.ask("read", name="sheets"))
