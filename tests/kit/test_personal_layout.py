"""What a colleague arranges in their own window: docked, floated, kept in the profile, back as it came."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.layout.layout import parse_layout
from rimecrest.core.layout.seen import SeenToolbar
from rimecrest.core.release.profile import Profile
from rimecrest.kit.window import AppWindow
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from tests.programs import Letters

MAIN = "app:main"


def edge(window: AppWindow) -> tuple[str, tuple[int, int] | None]:
    row = window.outcome.row(MAIN)
    assert isinstance(row, SeenToolbar)
    return row.edge, row.at


def open_menu(window: AppWindow) -> QMenu:
    """Right-click on the bar, off its items."""
    box = dict(window.frame.bar_rects())[MAIN]
    point = QPoint(box.center().x(), box.bottom() - 4)
    bar = window.frame.childAt(point)
    assert isinstance(bar, QWidget)
    inside = bar.mapFrom(window.frame, point)
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, inside, bar.mapToGlobal(inside))
    QApplication.sendEvent(bar, event)
    return next(menu for menu in window.findChildren(QMenu, "bar-menu") if menu.isVisible())


def take(menu: QMenu, words: str) -> None:
    next(action for action in menu.actions() if action.text() == words).trigger()
    menu.close()
    QApplication.processEvents()


def test_a_bar_is_docked_floated_and_put_back_with_a_right_click(letters: Letters) -> None:
    window = letters.window
    letters.type("Dear ")
    take(open_menu(window), "At the right")
    assert edge(window) == ("right", None)
    take(open_menu(window), "As it came")
    assert edge(window)[0] == "left"
    take(open_menu(window), "Floating")
    assert edge(window)[0] == "float"
    assert letters.text == "Dear "


def test_a_floating_bar_is_dragged_by_its_name_and_docks_near_an_edge(letters: Letters) -> None:
    window = letters.window
    window.bars.dock(MAIN, "float", (60, 40))
    sheet = window.frame.findChild(QWidget, "floating app:main")
    assert sheet is not None
    start = QPoint(40, 8)
    QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(sheet, start + QPoint(90, 70))
    QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=start)
    assert edge(window) == ("float", (150, 110))
    sheet = window.frame.findChildren(QWidget, "floating app:main")[-1]
    far = window.frame.centre_rect().width()
    QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(sheet, start + QPoint(far - 160, 0))
    QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=start)
    assert edge(window)[0] in ("right", "float")


def test_it_is_a_layout_in_the_profile_and_lies_over_the_next_release(qtbot: QtBot, tmp_path: Path) -> None:
    profile = Profile(tmp_path)
    window = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(window)
    window.bars.dock(MAIN, "bottom")
    path = tmp_path / "personal" / "letters.json"
    kept = parse_layout(path.read_text(), "here")
    assert (kept.layer, [change.of for change in kept.change]) == ("personal", [MAIN])
    window.close()
    again = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(again)
    assert edge(again)[0] == "bottom"
    again.take_over(profile.stack("letters"))
    assert edge(again)[0] == "bottom"
    again.close()


def test_a_personal_layout_that_cannot_be_read_is_moved_aside(qtbot: QtBot, tmp_path: Path) -> None:
    folder = tmp_path / "personal"
    folder.mkdir()
    (folder / "letters.json").write_text("{")
    window = AppWindow(declarations, LetterDocument, Profile(tmp_path))
    qtbot.addWidget(window)
    assert edge(window)[0] == "left"
    assert (folder / "letters.json.broken").read_text() == "{"
    window.close()
    (folder / "letters.json").write_text("[")
    window = AppWindow(declarations, LetterDocument, Profile(tmp_path))
    qtbot.addWidget(window)
    assert (folder / "letters.json.broken").read_text() == "{"
    assert (folder / "letters.json.broken-2").read_text() == "["
    window.close()


@pytest.mark.parametrize("policy", ["open", "fixed"])
def test_a_fixed_layout_keeps_what_it_holds_where_it_is_and_lets_the_rest_be_moved(
    letters: Letters, policy: str
) -> None:
    bar = {"id": "notices", "title": "Notices", "items": [{"id": "x", "run": "letters:save"}]}
    letters.use({"policy": policy, "toolbars": [bar]})
    letters.window.bars.dock(MAIN, "top")
    assert edge(letters.window)[0] == "top"
    layer = letters.window.stack.state.layouts[0].layer
    letters.window.bars.dock(f"{layer}:notices", "bottom")
    row = next(row for row in letters.window.outcome.toolbars if row.id == f"{layer}:notices")
    assert (row.edge == "bottom") is (policy == "open")
    assert ("is fixed by" in letters.said) is (policy == "fixed")


def test_a_saved_position_on_a_screen_that_is_gone_is_within_the_window(letters: Letters) -> None:
    letters.window.bars.dock(MAIN, "float", (9000, 7000))
    head = dict(letters.window.frame.floating_heads())[MAIN]
    assert letters.window.frame.centre_rect().contains(head.center())


def test_a_panel_is_floated_and_docked_by_its_colleague_and_stays_so(letters: Letters) -> None:
    held = {"id": "lanes", "title": "Lanes", "items": [{"id": "vessel", "field": "Vessel"}]}
    letters.use({"panels": [held]})
    name = "organisation:lanes"
    letters.window.bars.dock(name, "float", (30, 20))
    QApplication.processEvents()
    frame = letters.window.frame
    view = frame.panels.view(name)
    assert view is not None
    ground = frame.centre_rect()
    assert view.pos() - ground.topLeft() == QPoint(30, 20)
    end = QPoint(ground.left() + 8, ground.center().y())
    start = view.head().center()
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(view, start + QPoint(10, 10))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=view.mapFromParent(end))
    QApplication.processEvents()
    row = letters.window.outcome.row(name)
    assert getattr(row, "edge", "") == "left"
    letters.use({"panels": [held]})
    assert getattr(letters.window.outcome.row(name), "edge", "") == "left"
    letters.window.bars.reset(name)
    assert getattr(letters.window.outcome.row(name), "edge", "") == "right"
