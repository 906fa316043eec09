"""Full garbage collections wait while a macro runs, and go on after it, however it ends."""

from __future__ import annotations

import gc

from PyQt6.QtCore import Qt
from rimecrest.embed.collecting import NEVER

from tests.embed.conftest import Letters

LONG = "repeat 500 times\n  do embolden on=yes\nend"


def held() -> bool:
    return gc.get_threshold()[2] == NEVER


def test_they_wait_while_a_macro_runs_and_go_on_after_it(letters: Letters) -> None:
    usual = gc.get_threshold()
    letters.run(LONG, wait=False)
    assert held()
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    assert gc.get_threshold() == usual


def test_they_go_on_where_it_was_stopped(letters: Letters) -> None:
    letters.run(LONG, wait=False)
    assert held()
    letters.press(Qt.Key.Key_Escape)
    assert letters.window.dispatcher.run is None
    assert not held()


def test_they_go_on_where_it_failed(letters: Letters) -> None:
    assert "Nowhere" in letters.run('do go-to-heading name="Nowhere"')
    assert not held()


def test_they_go_on_where_the_window_was_closed_in_the_middle(letters: Letters) -> None:
    letters.run(LONG, wait=False)
    assert held()
    letters.window.document.saved()
    letters.window.close()
    assert not held()
