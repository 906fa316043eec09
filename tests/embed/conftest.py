"""A Letters window without a screen, and what tests do in it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.letters import declarations
from rimecrest.core.layout import Layout
from rimecrest.core.release import ShelvedMacro, StackState
from rimecrest.embed.window import AppWindow


class Letters:
    """A window with short words for what a colleague does in it."""

    def __init__(self, qtbot: QtBot) -> None:
        self.qtbot = qtbot
        self.window = AppWindow(declarations, LetterDocument, None)
        qtbot.addWidget(self.window, before_close_func=lambda _: self.forget())
        self.window.show()
        self.document.widget.setFocus()

    def forget(self) -> None:
        for paper in self.window.papers.all:
            paper.saved()

    @property
    def document(self) -> LetterDocument:
        document = self.window.document
        assert isinstance(document, LetterDocument)
        return document

    @property
    def text(self) -> str:
        return self.document.widget.toPlainText()

    @property
    def html(self) -> str:
        return self.document.widget.toHtml()

    @property
    def said(self) -> str:
        return self.window.frame.status.text()

    def type(self, text: str) -> None:
        for character in text:
            QTest.keyClick(self.window.windowHandle(), character)
        QApplication.processEvents()

    def press(self, key: Qt.Key, *held: Qt.KeyboardModifier) -> None:
        modifiers = Qt.KeyboardModifier.NoModifier
        for each in held:
            modifiers |= each
        QTest.keyClick(self.window.windowHandle(), key, modifiers)
        QApplication.processEvents()

    def do(self, verb: str, **args: str) -> bool:
        return self.window.dispatcher.perform(f"letters:{verb}", args)

    def use(self, layout: dict[str, Any] | None = None, **macros: str) -> None:
        """Take over a layout of one layer, with macros by id."""
        data = {"app": "letters", "layer": "organisation", **(layout or {})}
        shelved = {
            name.replace("_", "-"): ShelvedMacro(layer="organisation", text=text)
            for name, text in macros.items()
        }
        self.window.use(StackState(app="letters", layouts=(Layout.model_validate(data),), macros=shelved))

    def run(self, body: str, head: str = "", wait: bool = True) -> str:
        """Run a macro to its end and return what it said."""
        self.use({}, test=f'macro "Test"\nfor letters\n{head}{body}\n')
        if not wait:
            self.window.dispatcher.perform("macro:test")
            return ""
        with self.qtbot.waitSignal(self.window.runner.ended, timeout=5000) as ended:
            assert self.window.dispatcher.perform("macro:test")
        return str(ended.args[1])

    def choose(self, start: int, end: int) -> None:
        cursor = self.document.cursor()
        cursor.setPosition(start)
        cursor.setPosition(end, cursor.MoveMode.KeepAnchor)
        self.document.put(cursor)


CTRL = Qt.KeyboardModifier.ControlModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def letters(qtbot: QtBot) -> Iterator[Letters]:
    yield Letters(qtbot)
    QApplication.clipboard().clear()
