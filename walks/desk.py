"""Hands that work in a window of an application as well, beside the studio, in one count of gestures."""

from __future__ import annotations

import os
from typing import Any

from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton, QWidget
from tests.programs import CTRL, Grid, Letters, Program

from rimecrest.core.release.stack_sources import draft_stack
from rimecrest.studio.shared.place import Recorded
from walks.hands import ENTER, Hands

LEFT = Qt.MouseButton.LeftButton
NONE = Qt.KeyboardModifier.NoModifier


class Door:
    """The way into the studio, which here is in the same process and cannot be waited for over the link."""

    def __init__(self, hands: Hands, app: str) -> None:
        self._hands = hands
        self._app = app

    def layers(self) -> list[tuple[str, str]]:
        return []

    def take_recorded(self, _recording: str, name: str, text: str, document: str) -> bool:
        recorded = Recorded(self._app, name, text, document, os.getpid())
        taken = self._hands.studio.desk.take_recorded(recorded)
        self._hands.studio.window.activateWindow()
        return taken

    def has_recorded(self, _recording: str) -> bool:
        return False


class Worker:
    """The hands in a window of an application. Their gestures are counted with those in the studio."""

    def __init__(self, hands: Hands, program: Program) -> None:
        self.hands = hands
        self.program = program
        program.window.recording.studio = Door(hands, program.app)  # type: ignore[assignment]

    @property
    def _handle(self) -> Any:
        return self.program.window.windowHandle()

    def _key(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        QTest.keyClick(self._handle, key, held)
        QApplication.processEvents()

    def press(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        """A chord."""
        self.hands.gestures += 1
        self._key(key, held)

    def behind(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        """A sequence behind the opener: two chords."""
        self.press(Qt.Key.Key_J, CTRL)
        self.press(key, held)

    def type(self, text: str, enter: bool = False) -> None:
        """Type some letters, and Enter behind them."""
        self.hands.gestures += 1
        for character in text:
            if character.isascii():
                QTest.keyClick(self._handle, character)
            else:
                # What a keyboard types beyond ASCII comes as text, whatever key it is on.
                for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
                    event = QKeyEvent(kind, ord(character), NONE, character)
                    QApplication.sendEvent(self._handle, event)
        QApplication.processEvents()
        if enter:
            self._key(ENTER)

    def click(self, widget: QWidget, at: QPoint | None = None, held: Qt.KeyboardModifier = NONE) -> None:
        """A click where a widget stands in the window."""
        self.hands.gestures += 1
        where = widget.mapTo(self.program.window, at or widget.rect().center())
        QTest.mouseClick(self._handle, LEFT, held, where)
        QApplication.processEvents()

    def push(self, begins: str) -> None:
        """A click on the button of that name, on a bar or in the tab that is at the fore."""
        buttons = self.program.window.frame.buttons()
        self.click(next(b for b in buttons if b.isVisible() and b.accessibleName().startswith(begins)))

    def bar(self, name: str) -> None:
        """A click on a button of the line that records, or finishes."""
        self.click(self.program.window.findChild(QPushButton, name))

    def tab(self, title: str) -> None:
        """A click on a tab."""
        frame = self.program.window.frame
        identity = next(tab.id for tab in self.program.window.outcome.tabs if tab.title == title)
        self.click(frame, dict(frame.tab_rects())[identity].center())

    def record(self) -> None:
        """The key that begins a recording, or ends it."""
        on = self.program.window.recorder.on
        self.press(Qt.Key.Key_R, Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.ShiftModifier)
        self.program.qtbot.waitUntil(lambda: self.program.window.recorder.on is not on)

    def draft(self, layer: str) -> None:
        """The window shows the studio's draft, as a colleague's does after a release. No gesture."""
        workspace = self.hands.studio.session.workspace
        self.program.window.stack.use(draft_stack(workspace, workspace.stack_up_to(layer), self.program.app))
        QApplication.processEvents()


def letters_at(hands: Hands, letters: Letters) -> Worker:
    """Letters beside the studio."""
    letters.window.activateWindow()
    letters.document.widget.setFocus()
    return Worker(hands, letters)


def grid_at(hands: Hands, grid: Grid) -> Worker:
    """Grid beside the studio."""
    grid.window.activateWindow()
    grid.document.widget.setFocus()
    return Worker(hands, grid)
