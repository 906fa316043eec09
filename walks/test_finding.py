"""The jobs of whoever looks for something by a word, each by mouse and by keys alone."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QListWidget
from tests.studio.conftest import CTRL, NONE, SHIFT

from rimecrest.core.workspace.edits import SetFields, TakeOff
from rimecrest.studio.shared.candidates import Candidates
from walks.hands import Hands

AtMost = Callable[[int], None]
BAR = "department.freight:freight"
TABLE = "department.freight:table"


def _is_exactly_there(hands: Hands) -> None:
    row = hands.seen.row(BAR)
    assert row is not None
    at = hands.row(BAR).index(TABLE)
    assert row.items[at + 1].run == "letters:find-previous"  # type: ignore[union-attr]


def test_command_on_no_bar_put_there_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(4)
    hands.push("finder")
    hands.type("find the previous", enter=False)
    finder = hands.studio.desk.finder
    shown = hands.studio.find("found")
    assert isinstance(shown, Candidates)
    entry = next(match for match in shown.entries if match.kind == "command")
    assert "on no bar yet" in entry.hint
    # Drawn from the list to its place: the desktop's own drag, of which the stage sees this.
    hands.gestures += 1
    data = finder.travels(entry)
    assert data is not None
    spot: QPoint = hands.studio.slot(after=TABLE).caret.center()
    overlay, held, copy = hands.studio.place.overlay, Qt.MouseButton.LeftButton, Qt.DropAction.CopyAction
    QApplication.sendEvent(overlay, QDragEnterEvent(spot, copy, data, held, NONE))
    QApplication.sendEvent(overlay, QDropEvent(QPointF(spot), copy, data, held, NONE))
    _is_exactly_there(hands)


def test_command_on_no_bar_put_there_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(4)
    hands.studio.place.overlay.caret.put(hands.studio.slot(after=TABLE))
    hands.studio.place.overlay.setFocus()
    hands.press(Qt.Key.Key_F3)
    hands.type("find the previous", enter=False)
    hands.press(Qt.Key.Key_Return, SHIFT)
    _is_exactly_there(hands)


def _bar_was_changed(hands: Hands) -> None:
    """Yesterday's bar was called differently; today an item is taken off it. Not counted."""
    session = hands.studio.session
    today = session.history.clock()
    session.history.clock = lambda: today - 86_400
    session.do(SetFields("department.freight", "letters", TABLE, {"label": "Lanes"}))
    session.history.clock = lambda: today
    session.do(TakeOff("department.freight", "letters", ("department.freight:numbered",)))
    session.do(SetFields("department.freight", "letters", TABLE, {"label": "Rows"}))


def _is_yesterdays(hands: Hands) -> None:
    assert "department.freight:numbered" in hands.row(BAR)
    item = hands.seen.item(TABLE)
    assert item is not None
    assert item.label == "Lanes"  # type: ignore[union-attr]


def test_yesterdays_version_of_a_bar_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(5)
    _bar_was_changed(hands)
    box = hands.studio.place.overlay.box_of(BAR)
    assert box is not None
    hands.right_click(box.center())
    hands.choose("As it was on")
    points = hands.studio.find("history-points")
    assert isinstance(points, QListWidget)
    row = next(row for row in map(points.item, range(points.count())) if row.text().startswith("yesterday"))
    hands.gestures += 1
    middle = points.visualItemRect(row).center()
    QTest.mouseClick(points.viewport(), Qt.MouseButton.LeftButton, NONE, middle)
    hands.push("history-back")
    _is_yesterdays(hands)


def test_yesterdays_version_of_a_bar_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(5)
    _bar_was_changed(hands)
    hands.studio.place.overlay.caret.put(hands.studio.slot(after=TABLE))
    hands.studio.place.overlay.setFocus()
    hands.press(Qt.Key.Key_Up, CTRL)
    hands.press(Qt.Key.Key_F8)
    hands.type("yesterday")
    _is_yesterdays(hands)


def _is_told(hands: Hands) -> None:
    shown = hands.studio.find("found")
    assert isinstance(shown, Candidates)
    assert "Letters has no command like that" in shown.caption
    assert len(shown.entries) > 1  # the nearest, and a macro of that name
    assert shown.isVisible()


def test_command_that_does_not_exist_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(2)
    hands.push("finder")
    hands.type("translate", enter=False)
    _is_told(hands)


def test_command_that_does_not_exist_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(2)
    hands.press(Qt.Key.Key_F3)
    hands.type("translate", enter=False)
    _is_told(hands)
