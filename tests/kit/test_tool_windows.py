"""Bars and panels in windows of their own: where they stand, who has the keys, how they go and come back."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit, QMenu, QWidget

from rimecrest.core.layout.seen import SeenPanel, SeenToolbar
from rimecrest.surfaces.tool_windows import ToolWindow
from tests.programs import Letters

MAIN = "app:main"
LANES = "organisation:lanes"
HELD = {
    "id": "lanes",
    "title": "Lanes",
    "edge": "window",
    "at": [70, 50],
    "items": [{"id": "vessel", "field": "Vessel"}, {"id": "date", "run": "letters:insert-date"}],
}


def own(letters: Letters, thing: str) -> ToolWindow:
    """The window that it has for itself."""
    QApplication.processEvents()
    window = next(w for w in windows() if w.objectName() == f"window {thing}")
    assert window.isVisible()
    assert window.isWindow()
    return window


def windows() -> list[ToolWindow]:
    return [w for w in QApplication.topLevelWidgets() if isinstance(w, ToolWindow) and w.isVisible()]


def corner(letters: Letters) -> QPoint:
    """The document's upper left corner on the screen."""
    frame = letters.window.frame
    return frame.mapToGlobal(frame.centre_rect().topLeft())


def place(letters: Letters, thing: str) -> tuple[str, tuple[int, int] | None]:
    row = letters.window.outcome.row(thing)
    assert isinstance(row, SeenToolbar | SeenPanel)
    return row.edge, row.at


@pytest.fixture
def bar(letters: Letters) -> ToolWindow:
    """The main bar of Letters in a window of its own."""
    letters.window.move(300, 200)
    letters.window.bars.dock(MAIN, "window", (60, 40))
    return own(letters, MAIN)


@pytest.fixture
def panel(letters: Letters) -> ToolWindow:
    letters.window.move(300, 200)
    letters.use({"panels": [HELD]})
    return own(letters, LANES)


def drag(window: ToolWindow, by: QPoint) -> None:
    """Drag it by its head."""
    view = window.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly)[-1]
    start = QPoint(40, 8)
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(view, start + by)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start)
    QApplication.processEvents()


def test_a_bar_stands_beside_its_window_and_its_buttons_work(letters: Letters, bar: ToolWindow) -> None:
    assert bar.pos() == corner(letters) + QPoint(60, 40)
    assert bar.windowTitle() == "Main"
    assert bar.windowFlags() & Qt.WindowType.WindowDoesNotAcceptFocus
    letters.type("Dear ")
    undo = letters.window.frame.button("app:bar-undo")
    assert isinstance(undo, QWidget)
    assert undo.window() is bar
    box = letters.window.frame.rect_of("app:bar-undo")
    assert box is not None
    assert letters.window.frame.mapToGlobal(box.center()) == undo.mapToGlobal(undo.rect().center())
    QTest.mouseClick(undo, Qt.MouseButton.LeftButton)
    assert letters.text == ""


def test_it_moves_with_the_window_hides_with_it_and_stays_on_a_screen(
    letters: Letters, bar: ToolWindow
) -> None:
    letters.window.move(310, 230)
    QApplication.processEvents()
    assert bar.pos() == corner(letters) + QPoint(60, 40)
    letters.window.hide()
    assert not windows()
    letters.window.show()
    assert own(letters, MAIN) is bar
    letters.window.bars.dock(MAIN, "window", (9000, -7000))
    screen = bar.screen()
    assert screen is not None
    assert screen.availableGeometry().contains(own(letters, MAIN).frameGeometry())


def test_dragged_it_is_where_it_was_let_go_and_near_an_edge_it_docks(
    letters: Letters, bar: ToolWindow
) -> None:
    drag(bar, QPoint(-150, 30))
    assert place(letters, MAIN) == ("window", (-90, 70))
    assert own(letters, MAIN).pos() == corner(letters) + QPoint(-90, 70)
    letters.window.bars.dock(MAIN, "window", (60, 40))
    # The pointer is let go thirty pixels from the document's left edge, inside it.
    drag(own(letters, MAIN), QPoint(-70, 60))
    assert place(letters, MAIN) == ("left", None)
    assert not windows()
    assert letters.window.frame.button("app:bar-undo") is not None


def test_its_menu_and_those_of_its_items_are_those_of_the_window(letters: Letters, bar: ToolWindow) -> None:
    head = bar.findChild(QWidget, f"floating {MAIN}")
    assert head is not None
    at = QPoint(30, 8)
    QApplication.sendEvent(head, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, head.mapToGlobal(at)))
    menu = next(menu for menu in letters.window.findChildren(QMenu, "bar-menu") if menu.isVisible())
    next(action for action in menu.actions() if action.text() == "As it came").trigger()
    menu.close()
    assert place(letters, MAIN)[0] == "left"
    letters.window.bars.dock(MAIN, "window", (60, 40))
    asked: list[object] = []
    letters.window.frame.asked.connect(lambda item, _point: asked.append(item.id))
    undo = letters.window.frame.button("app:bar-undo")
    assert isinstance(undo, QWidget)
    at = undo.rect().center()
    QApplication.sendEvent(undo, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, undo.mapToGlobal(at)))
    assert asked == ["app:bar-undo"]
    for open_menu in letters.window.findChildren(QMenu):
        open_menu.close()


def test_what_is_written_in_a_panel_of_its_own_window_stays_and_is_read(
    letters: Letters, panel: ToolWindow
) -> None:
    field = panel.findChild(QLineEdit)
    assert field is not None
    assert not panel.windowFlags() & Qt.WindowType.WindowDoesNotAcceptFocus
    field.setFocus()
    QTest.keyClicks(field, "Selma")
    letters.use({"panels": [HELD, {"id": "other", "title": "Other"}]})
    assert letters.window.frame.panels.values() == {"organisation:vessel": "Selma"}
    assert own(letters, LANES) is panel


def test_keys_are_resolved_in_it_as_in_the_window(letters: Letters, panel: ToolWindow) -> None:
    letters.use({"panels": [HELD], "keys": [{"keys": "F7", "in": "field", "run": "letters:insert-date"}]})
    panel = own(letters, LANES)
    field = panel.findChild(QLineEdit)
    assert field is not None
    panel.activateWindow()
    field.setFocus()
    QApplication.processEvents()
    handle = panel.windowHandle()
    assert handle is not None
    QTest.keyClick(handle, Qt.Key.Key_F7)
    assert letters.text


def test_closed_by_the_desktop_a_panel_is_shut_and_its_button_brings_it_back(
    letters: Letters, panel: ToolWindow
) -> None:
    panel.close()
    QApplication.processEvents()
    assert not windows()
    assert LANES in letters.window.frame.panels.shut
    letters.window.frame.turn_panel(LANES)
    assert own(letters, LANES).pos() == corner(letters) + QPoint(70, 50)
