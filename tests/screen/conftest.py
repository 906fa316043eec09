"""A virtual screen with a window manager; real processes, real keys and clicks."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from Xlib import X
from Xlib.display import Display

from rimecrest.demo.desk import Desk


@pytest.fixture
def desk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Desk]:
    monkeypatch.delenv("QT_QPA_PLATFORM", raising=False)
    with Desk(runtime=tmp_path / "run") as made:
        _no_repeat(made.environment["DISPLAY"])
        yield made


def _no_repeat(name: str) -> None:
    """A busy machine must not make two key presses of one that was held a little too long."""
    server = Display(name)
    server.change_keyboard_control(auto_repeat_mode=X.AutoRepeatModeOff)
    server.sync()
    server.close()
