"""A program that is told to end does so from its first moment on."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from tests.hostile.seeds import SEED

PROGRAMS = (["app", "letters"], ["app", "grid"], ["app", "post"], ["studio"])


def wait(process: subprocess.Popen[bytes], seconds: float) -> None:
    """Wait for so long, or until the process ends."""
    with contextlib.suppress(subprocess.TimeoutExpired):
        process.wait(seconds)


def listens(runtime: Path) -> bool:
    """Whether a link is there; while it is made, its folder comes, and files of other names come and go."""
    with contextlib.suppress(FileNotFoundError):
        return any(name.endswith(".sock") for name in os.listdir(runtime / "rimecrest"))
    return False


def ended(program: list[str], runtime: Path, after: float) -> int:
    """Start a program, tell it to end so many seconds after its link is there, and return its status."""
    surroundings = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    process = subprocess.Popen([sys.executable, "-m", "rimecrest", *program], env=surroundings)
    try:
        while process.poll() is None and not listens(runtime):
            wait(process, 0.005)
        assert process.poll() is None
        wait(process, after)
        process.send_signal(signal.SIGTERM)
        return process.wait(20)
    finally:
        process.kill()
        process.wait()


@pytest.mark.parametrize("program", PROGRAMS, ids=lambda program: program[-1])
def test_it_ends_as_soon_as_its_link_is_there(program: list[str], own_runtime_folder: Path) -> None:
    assert ended(program, own_runtime_folder, 0) == 0


@pytest.mark.long
@pytest.mark.timeout(600)
def test_it_ends_at_any_moment(own_runtime_folder: Path) -> None:
    dice = random.Random(SEED)
    for number in range(100):
        after = dice.uniform(0, 0.5)
        assert ended(PROGRAMS[number % len(PROGRAMS)], own_runtime_folder, after) == 0, after
    print(f"seed {SEED}: 100 moments")
