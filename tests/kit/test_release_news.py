"""News: from what a seat had to what it has now, of this application only, nothing lost or cut in a word."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QListWidget, QPushButton
from pytestqt.qtbot import QtBot

from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import build_package
from rimecrest.core.release.profile import Installed, Profile
from rimecrest.core.workspace.edits import Bind
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.kit.personal.news import NewsLine
from rimecrest.kit.window import AppWindow
from rimecrest.shell.theme import LIGHT
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations

FREIGHT, CARE = "department.freight", "department.care"


class Seat:
    """A profile into which releases are installed, and in which Letters is opened now and then."""

    def __init__(self, folder: Path, qtbot: QtBot) -> None:
        self.profile = Profile(folder)
        self._qtbot = qtbot

    def gets(self, workspace: Workspace, number: int, department: str = FREIGHT) -> None:
        before = self.profile.installed()
        self.profile.stage(number, build_package(workspace, number, {}, {}))
        self.profile.switch(
            Installed(
                release=number,
                assignment=Assignment(release=number, stack=("organisation", department)),
                before=before.release if before else 0,
            )
        )

    @contextmanager
    def at_work(self) -> Iterator[AppWindow]:
        """Letters, open for a while."""
        window = AppWindow(declarations, LetterDocument, self.profile)
        self._qtbot.addWidget(window)
        yield window
        window.close()

    def reads(self) -> str:
        """Open Letters, read what is new, and close it."""
        with self.at_work() as window:
            return window.news.text


@pytest.fixture
def seat(qtbot: QtBot, tmp_path: Path) -> Seat:
    return Seat(tmp_path / "seat", qtbot)


def with_key(workspace: Workspace, keys: str, run: str, layer: str = "organisation") -> Workspace:
    app = run.partition(":")[0]
    context = "cell" if app == "grid" else "writing"
    return Bind(layer, app, KeyBinding(keys=keys, in_context=context, run=run)).on(workspace)


def test_the_first_release_is_told_against_the_bare_application(seat: Seat, demo: Workspace) -> None:
    seat.gets(demo, 1)
    said = seat.reads()
    assert "Hazard note" in said
    assert "Notices" in said
    assert seat.reads() == ""


def test_a_release_that_was_skipped_is_told_with_the_next(seat: Seat, demo: Workspace) -> None:
    seat.gets(demo, 1)
    seat.reads()
    second = with_key(demo, "Ctrl+J, Q", "letters:insert-rule")
    seat.gets(second, 2)  # nobody opens Letters
    third = with_key(second, "Ctrl+J, 9", "letters:slant")
    seat.gets(third, 3)
    said = seat.reads()
    assert "Ctrl+J, Q is for" in said
    assert "Ctrl+J, 9 is for" in said


def test_news_that_is_still_on_the_screen_is_told_with_the_next(seat: Seat, demo: Workspace) -> None:
    seat.gets(demo, 1)
    seat.reads()
    second = with_key(demo, "Ctrl+J, Q", "letters:insert-rule")
    third = with_key(second, "Ctrl+J, 9", "letters:slant")
    with seat.at_work() as window:
        window.show()

        def told(workspace: Workspace, number: int) -> str:
            seat.gets(workspace, number)
            window.take_over(seat.profile.stack("letters"))
            return window.news.text

        assert told(second, 2).startswith("Ctrl+J, Q is for")
        both = told(third, 3)
        assert both.startswith("Ctrl+J, 9 is for")
        assert "Ctrl+J, Q is for" in both
        taken_back = told(demo, 4)
        assert "Ctrl+J, Q is no longer for" in taken_back
        assert "Ctrl+J, Q is for" not in taken_back
        got_it = window.news.findChild(QPushButton, "news-fine")
        QTest.mouseClick(got_it, Qt.MouseButton.LeftButton)
        again = told(second, 5)
        assert again.startswith("Ctrl+J, Q is for")
        assert "no longer" not in again


def test_who_opens_it_for_the_first_time_reads_all_releases(seat: Seat, demo: Workspace) -> None:
    seat.gets(demo, 1)
    seat.gets(with_key(demo, "Ctrl+J, Q", "letters:insert-rule"), 2)
    said = seat.reads()
    assert "Ctrl+J, Q is for" in said
    assert "Hazard note" in said


def test_what_comes_with_another_department_is_told(seat: Seat, demo: Workspace) -> None:
    seat.gets(demo, 1)
    seat.reads()
    seat.gets(demo, 2, CARE)
    assert "The bar Freight is gone" in seat.reads()


def test_nothing_of_another_application_is_told(seat: Seat, demo: Workspace) -> None:
    seat.gets(demo, 1)
    seat.reads()
    seat.gets(with_key(demo, "Ctrl+J, Q", "grid:sum"), 2)
    assert seat.reads() == ""


def test_nothing_is_cut_within_a_word_and_the_rest_opens(qtbot: QtBot) -> None:
    line = NewsLine(LIGHT)
    qtbot.addWidget(line)
    sentences = [f"Harbour dues number {at} is on the panel Quarter close." for at in range(1, 11)]
    line.show()
    line.resize(460, 32)
    line.tell(sentences)
    whole = " ".join(sentences)
    shown = line.shown.removesuffix(" …")
    assert whole.startswith(shown)
    assert whole[len(shown)] == " "
    assert line.more.text() == f"and {10 - shown.count('.')} more" or line.more.text() == "and 9 more"
    QTest.mouseClick(line.more, Qt.MouseButton.LeftButton)
    listed = line.window().findChild(QListWidget)
    assert [listed.item(at).text() for at in range(listed.count())] == sentences
    listed.window().close()
