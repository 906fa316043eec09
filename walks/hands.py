"""Hands that work in the studio by real events, and count gestures.

A gesture is a click, a drag, or a chord; a run of typed letters is one, together with the Enter behind it.
"""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu, QWidget
from tests.studio.conftest import NONE, Studio

from rimecrest.core.layout.seen import Outcome

ENTER = Qt.Key.Key_Return


class Hands:
    """One pair of hands."""

    def __init__(self, studio: Studio) -> None:
        self.studio = studio
        self.gestures = 0

    @property
    def seen(self) -> Outcome:
        return self.studio.session.outcome()

    # Gestures

    def press(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        """A chord."""
        self.gestures += 1
        self._key(key, held)

    def _key(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        menu = self._menu()
        QTest.keyClick(menu if menu is not None else self._focus(), key, held)
        QApplication.processEvents()

    def type(self, text: str, enter: bool = True) -> None:
        """Type some letters, and Enter behind them."""
        self.gestures += 1
        menu = self._menu()
        for character in text:
            QTest.keyClick(menu if menu is not None else self._focus(), character)
        QApplication.processEvents()
        if enter:
            self._key(ENTER)

    def write_over(self, text: str) -> None:
        """Type in place of what stands in the field that is open: it is selected there already."""
        self.gestures += 1
        QTest.keyClick(self._focus(), Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        for character in text:
            QTest.keyClick(self._focus(), character)
        self._key(ENTER)

    def click(self, point: QPoint, held: Qt.KeyboardModifier = NONE) -> None:
        """A click on the stage."""
        self.gestures += 1
        self.studio.click(point, held)

    def click_name(self, identity: str) -> None:
        """A click on the name or handle of a surface."""
        box = self.studio.place.overlay.box_of(identity)
        assert box is not None
        self.click(box.center())

    def centre(self, identity: str) -> QPoint:
        """The middle of an item on the stage."""
        box = self.studio.place.stage.frame.rect_of(identity)
        assert box is not None
        return box.center()

    def click_item(self, identity: str, held: Qt.KeyboardModifier = NONE) -> None:
        self.click(self.centre(identity), held)

    def right_click(self, point: QPoint) -> None:
        self.gestures += 1
        overlay = self.studio.place.overlay
        event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, point, overlay.mapToGlobal(point))
        QApplication.sendEvent(overlay, event)

    def drag(self, start: QPoint, end: QPoint) -> None:
        self.gestures += 1
        self.studio.drag(start, end)

    def push(self, name: str) -> None:
        """A click on a widget of the studio."""
        self.gestures += 1
        self.studio.push(name)

    def choose(self, begins: str) -> None:
        """A click on a row of the open list."""
        self.gestures += 1
        menu = self._menu()
        assert menu is not None
        row = next(action for action in menu.actions() if action.text().startswith(begins))
        QTest.mouseClick(menu, Qt.MouseButton.LeftButton, pos=menu.actionGeometry(row).center())
        QApplication.processEvents()

    def row_typed(self, words: str) -> None:
        """Letters typed in the open list until a row is at the fore, and Enter."""
        self.gestures += 1
        menu = self._menu()
        assert menu is not None
        for character in words:
            QTest.keyClick(menu, character)
        QTest.keyClick(menu, ENTER)
        QApplication.processEvents()

    def paste(self, text: str) -> None:
        """What was copied elsewhere before is pasted."""
        QApplication.clipboard().setText(text)
        self.press(Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)

    # What they see

    def _menu(self) -> QMenu | None:
        QApplication.processEvents()
        popup = QApplication.activePopupWidget()
        return popup if isinstance(popup, QMenu) else None

    def _focus(self) -> QWidget:
        focused = QApplication.focusWidget()
        return self.studio.place.overlay if focused is None else focused

    def row(self, surface: str) -> list[str]:
        row = self.seen.row(surface)
        assert row is not None
        return [item.id for item in row.items]

    def titled(self, title: str) -> str:
        """The identity of a surface by its name."""
        things = [*self.seen.tabs, *self.seen.rows()]
        return next(thing.id for thing in reversed(things) if thing.title == title)
