"""Windows of the stand-in applications without a screen, and what tests do in them."""

from __future__ import annotations

from collections.abc import Iterator
from email.message import EmailMessage
from email.parser import BytesParser
from email.policy import default
from typing import Any

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox
from pytestqt.qtbot import QtBot

from rimecrest.core.layout.layout import Layout
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.kit.declare import Declarations
from rimecrest.kit.documents.document import Document
from rimecrest.kit.documents.file_document import FileDocument
from rimecrest.kit.window import AppWindow
from rimecrest.shell.plain_text import plain_text
from rimecrest_standins.grid.book import parse_cell_name
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.grid import declarations as grid_declarations
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations as letters_declarations
from rimecrest_standins.post.mailbox import MailboxDocument
from rimecrest_standins.post.message import MessageDocument
from rimecrest_standins.post.own import keep_own, read_own
from rimecrest_standins.post.post import declarations as post_declarations


class Program:
    """A window with short words for what a colleague does in it."""

    app = ""
    declarations: Declarations
    make: type[Document]

    def __init__(self, qtbot: QtBot) -> None:
        self.qtbot = qtbot
        self.window = AppWindow(self.declarations, self.make, None)
        qtbot.addWidget(self.window, before_close_func=lambda _: self.forget())
        self.window.show()
        self.window.document.widget.setFocus()

    def forget(self) -> None:
        # What is still asked goes first: it would keep the keys from the window of the next test.
        while (asked := QApplication.activeModalWidget()) is not None and asked.close():
            pass
        self.window.recorder.throw_away()
        self.window.recording.line.hide()
        for document in self.window.documents.all:
            document.settle()
            if isinstance(document, FileDocument):
                document.macros_changed = False
                document.saved()

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
        return self.window.dispatcher.perform(f"{self.app}:{verb}", args)

    def read(self, name: str) -> Any:
        return self.window.executor.read(name)

    def use(self, layout: dict[str, Any] | None = None, **macros: str) -> None:
        """Take over a layout of one layer, with macros by id."""
        data = {"app": self.app, "layer": "organisation", **(layout or {})}
        shelved = {
            name.replace("_", "-"): ShelvedMacro(layer="organisation", text=text)
            for name, text in macros.items()
        }
        self.window.stack.use(
            StackState(app=self.app, layouts=(Layout.model_validate(data),), macros=shelved)
        )

    def run(self, body: str, head: str = "", wait: bool = True) -> str:
        """Run a macro to its end and return what it said."""
        self.use({}, test=f'macro "Test"\nfor {self.app}\n{head}{body}\n')
        if not wait:
            self.window.dispatcher.perform("macro:test")
            return ""
        with self.qtbot.waitSignal(self.window.dispatcher.run_ended, timeout=10_000) as ended:
            assert self.window.dispatcher.perform("macro:test"), self.said
        return str(ended.args[1])


class Letters(Program):
    """Letters, with a letter in it."""

    app = "letters"
    declarations = letters_declarations
    make = LetterDocument

    @property
    def document(self) -> LetterDocument:
        document = self.window.document
        assert isinstance(document, LetterDocument)
        return document

    @property
    def text(self) -> str:
        return plain_text(self.document.widget.document())

    @property
    def html(self) -> str:
        return self.document.widget.toHtml()

    def choose(self, start: int, end: int) -> None:
        cursor = self.document.cursor()
        cursor.setPosition(start)
        cursor.setPosition(end, cursor.MoveMode.KeepAnchor)
        self.document.put(cursor)


class Grid(Program):
    """Grid, with a workbook in it."""

    app = "grid"
    declarations = grid_declarations
    make = GridDocument

    @property
    def document(self) -> GridDocument:
        document = self.window.document
        assert isinstance(document, GridDocument)
        return document

    def fill(self, text: str, at: str = "A1") -> None:
        """Put values from a cell on: blanks between cells, lines between rows."""
        rows = [line.split() for line in text.strip().splitlines()]
        self.go(at)
        self.do("insert-values", text="\n".join("\t".join(row) for row in rows))
        self.go(at)

    def go(self, name: str) -> None:
        assert self.do("go-to-cell", name=name), self.said

    def rows(self, sheet: str = "") -> list[list[str]]:
        """What a sheet shows, row by row, up to the last filled one."""
        document = self.document
        shown = document.book.sheet(sheet) if sheet else document.sheet
        assert shown is not None
        now, document.sheet = document.sheet, shown
        found = [
            [document.shown(row, column) for column in range(shown.breadth)] for row in range(shown.height)
        ]
        document.sheet = now
        return found

    def written(self, name: str) -> str:
        found = parse_cell_name(name)
        assert found is not None
        return self.document.sheet.cell(*found).written

    def shown(self, name: str) -> str:
        found = parse_cell_name(name)
        assert found is not None
        return self.document.shown(*found)

    @property
    def chosen(self) -> str:
        return str(self.read("chosen.block"))


def answer(button: str) -> list[str]:
    """Click a button of the next question. Returns what was asked, when it was."""
    asked: list[str] = []

    def click() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, QMessageBox)
        asked.append(box.text())
        next(each for each in box.buttons() if each.text() == button).click()

    QTimer.singleShot(0, click)
    return asked


def parsed(content: bytes) -> EmailMessage:
    """A message as the standard library reads it, which has no part in how Post does."""
    message = BytesParser(policy=default).parsebytes(content)
    assert isinstance(message, EmailMessage)
    return message


class Post(Program):
    """Post, with the first messages in a mailbox of its own."""

    app = "post"
    declarations = post_declarations
    make = MailboxDocument

    @property
    def box(self) -> MailboxDocument:
        """The mailbox, whether it is worked in or not."""
        document = self.window.documents.all[0]
        assert isinstance(document, MailboxDocument)
        return document

    @property
    def message(self) -> MessageDocument:
        """The message that is written."""
        document = self.window.document
        assert isinstance(document, MessageDocument)
        return document

    @property
    def text(self) -> str:
        return plain_text(self.message.text)

    def listed(self) -> list[str]:
        """The subjects that are shown, from above."""
        return [self.box.title_of(key) for key in self.box.model.keys]

    def sent(self) -> list[EmailMessage]:
        """What lies in the outbox, the newest first."""
        store = self.box.mailbox
        return [parsed(store.content("Outbox", key)) for key in store.keys("Outbox")]

    def drafts(self) -> list[EmailMessage]:
        store = self.box.mailbox
        return [parsed(store.content("Drafts", key)) for key in store.keys("Drafts")]

    def choose(self, words: str) -> None:
        """Select words of the message that is written."""
        begin = self.text.index(words)
        cursor = self.message.cursor()
        cursor.setPosition(begin)
        cursor.setPosition(begin + len(words), cursor.MoveMode.KeepAnchor)
        self.message.put(cursor)

    def own_signature(self, html: str) -> None:
        """Have a signature, and let messages from now on begin with it."""
        keep_own(None, read_own(None).model_copy(update={"signature": html}))


CTRL = Qt.KeyboardModifier.ControlModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def letters(qtbot: QtBot) -> Iterator[Letters]:
    yield Letters(qtbot)
    QApplication.clipboard().clear()


@pytest.fixture
def grid(qtbot: QtBot) -> Iterator[Grid]:
    yield Grid(qtbot)
    QApplication.clipboard().clear()


@pytest.fixture
def post(qtbot: QtBot) -> Iterator[Post]:
    yield Post(qtbot)
    QApplication.clipboard().clear()
