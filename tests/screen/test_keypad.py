"""The keypad's keys are keys of their own, by real key codes; without NumLock they move."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from rimecrest.demo.desk import Desk
from rimecrest.shell.keyboard_here import keyboard_here

PROBE = Path(__file__).with_name("chord_probe.py")
ONE_ON_TOP, ONE_ON_KEYPAD, PLUS_ON_KEYPAD, ENTER_ON_KEYPAD = "10", "87", "86", "104"
"""Key codes as X11 has them: evdev's, with 8 added (linux/input-event-codes.h)."""


def test_a_key_of_the_keypad_is_not_the_one_of_the_top_row(desk: Desk) -> None:
    probe = subprocess.Popen(
        [sys.executable, str(PROBE)], env=desk.environment, stdout=subprocess.PIPE, text=True
    )
    assert probe.stdout is not None
    try:
        assert probe.stdout.readline().strip() == "here"
        desk.activate_pid(probe.pid)
        keys = (ONE_ON_TOP, ONE_ON_KEYPAD, PLUS_ON_KEYPAD, ENTER_ON_KEYPAD)
        desk._do("key", "Num_Lock", *(f"ctrl+{code}" for code in keys), "Num_Lock", "ctrl+87", "Escape")
        said = [line.strip() for line in probe.stdout]
        assert said == ["Ctrl+1", "Ctrl+KP_1", "Ctrl+KP_Add", "Ctrl+KP_Enter", "Ctrl+End", "Escape"]
    finally:
        probe.kill()
        probe.wait()


def test_the_keyboard_that_the_server_is_set_to_is_known(desk: Desk) -> None:
    for code in ("de", "be"):
        subprocess.run(["setxkbmap", code], env=desk.environment, check=True)
        ask = "from rimecrest.shell.keyboard_here import keyboard_here; print(keyboard_here())"
        said = subprocess.run(
            [sys.executable, "-c", ask], env=desk.environment, check=True, capture_output=True, text=True
        )
        assert said.stdout.strip() == code


def test_without_a_server_the_keyboard_is_not_known(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("DISPLAY", raising=False)
    assert keyboard_here() == ""
