"""The example of docs/your-own-application.md does what the page says."""

from __future__ import annotations

import importlib.util
import os
import re
import subprocess
import sys
from pathlib import Path
from types import ModuleType

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.catalogue import parse_catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.kit.window import AppWindow

ROOT = Path(__file__).parents[2]
EXAMPLE = ROOT / "examples" / "tally.py"
PAGE = (ROOT / "docs" / "your-own-application.md").read_text("utf-8")
MACRO = 'macro "A convoy"\nfor tally\n\nrepeat 3 times\n  do come-aboard by=2\nend\n'


@pytest.fixture(scope="module")
def tally() -> ModuleType:
    spec = importlib.util.spec_from_file_location("tally", EXAMPLE)
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    # Annotations are looked up where the module is known.
    sys.modules["tally"] = module
    spec.loader.exec_module(module)
    return module


def forget(window: AppWindow) -> None:
    """Leave no recording about which the window would ask when it closes."""
    window.recorder.throw_away()
    window.recording.line.hide()


@pytest.fixture
def window(qtbot: QtBot, tally: ModuleType) -> AppWindow:
    made = AppWindow(tally.tally, tally.TallyDocument, None)
    qtbot.addWidget(made, before_close_func=forget)
    layout = {
        "app": "tally",
        "layer": "organisation",
        "toolbars": [
            {"id": "ours", "title": "Ours", "edge": "top", "items": [{"id": "c", "run": "macro:convoy"}]}
        ],
        "keys": [{"keys": "Ctrl+J, C", "run": "macro:convoy"}],
    }
    shelved = ShelvedMacro(layer="organisation", text=MACRO)
    state = {"app": "tally", "layouts": [layout], "macros": {"convoy": shelved}}
    made.stack.use(StackState.model_validate(state))
    made.show()
    QApplication.processEvents()
    return made


def count(window: AppWindow) -> int:
    return int(window.executor.read("count"))


def press(window: AppWindow, key: Qt.Key, held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
    QTest.keyClick(window.windowHandle(), key, held)
    QApplication.processEvents()


def test_its_own_key_a_layouts_key_a_button_and_undo_work(qtbot: QtBot, window: AppWindow) -> None:
    ctrl = Qt.KeyboardModifier.ControlModifier
    press(window, Qt.Key.Key_J, ctrl)
    press(window, Qt.Key.Key_A)
    assert count(window) == 1
    press(window, Qt.Key.Key_J, ctrl)
    press(window, Qt.Key.Key_C)
    qtbot.waitUntil(lambda: count(window) == 7)
    qtbot.waitUntil(lambda: window.dispatcher.run is None)
    # The macro is one step of undo.
    press(window, Qt.Key.Key_Z, ctrl)
    assert count(window) == 1
    button = window.frame.button("organisation:c")
    assert button is not None
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: count(window) == 7)


def test_a_recording_writes_down_what_is_done(window: AppWindow) -> None:
    window.recording.turn()
    window.dispatcher.perform("tally:come-aboard", {"by": "4"})
    assert [str(step.command) for step in window.recorder.steps] == ["come-aboard"]  # type: ignore[union-attr]
    window.recording.turn()


def test_what_fails_in_the_middle_leaves_it_as_it_was(window: AppWindow) -> None:
    with pytest.raises(RimecrestError):
        window.dispatcher.perform_or_raise("tally:come-aboard", {"by": "500"})
    assert count(window) == 0


def test_it_is_short_and_the_page_shows_it_as_it_is() -> None:
    text = EXAMPLE.read_text("utf-8")
    assert len(text.splitlines()) <= 66
    shown = re.findall(r"```python\n(.*?)```", PAGE, re.DOTALL)
    assert shown
    for piece in shown:
        assert piece.strip() in text


@pytest.mark.long
def test_it_starts_by_itself_and_describes_itself(tmp_path: Path) -> None:
    command = [sys.executable, str(EXAMPLE), "--describe", str(tmp_path)]
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    subprocess.run(command, check=True, env=environment, timeout=60)
    catalogue = parse_catalogue((tmp_path / "tally.json").read_text("utf-8"), "tally.json")
    assert catalogue.by_id["tally:come-aboard"].argument("by").most == 100
    assert (tmp_path / "tally.png").is_file()
