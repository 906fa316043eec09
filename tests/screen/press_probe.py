"""A real window of an application that tells what each key press would do, or did, instead of doing it.

usage: press_probe.py STATE APP      (a process of its own, driven by its standard input)

A line on the input names the context to be put into; `ready` answers it. F12, which nothing has, ends a
press and prints one line of what came of it: `runs LAYER|KEYS|CONTEXT`, `access LABEL`, `menu`, `begins` (a
sequence), `changed` (what has the focus, or who has it) or `nothing`.
"""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QEvent, QObject, QSocketNotifier, QTimer
from PyQt6.QtGui import QClipboard, QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QLineEdit,
    QMenu,
    QPlainTextEdit,
    QTextEdit,
    QWidget,
)

from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import format_sequence
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.release.stack import StackState
from rimecrest.kit.window import AppWindow
from rimecrest.shell.key_codes import chord_of
from rimecrest.shell.start import make_qt_application
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.panel_controls import PanelField

WORDS = "one two three\nfour five six\nseven eight nine"


def say(words: str) -> None:
    print(words, flush=True)


class Probe(AppWindow):
    """A window that says which access key was pressed, instead of pressing it."""

    came = ""

    def access(self, letter: str) -> bool:
        for widget in self.frame.buttons():
            if isinstance(widget, ItemButton) and widget.item.access.upper() == letter:
                self.came = f"access {widget.item.label}"
                return True
        return False

    def note(self, binding: Binding) -> None:
        self.came = f"runs {binding.layer}|{format_sequence(binding.sequence)}|{binding.context}"


class Places:
    """How to come into each context of an application, always in the same way."""

    def __init__(self, window: Probe) -> None:
        self.window = window

    def do(self, verb: str, **args: str) -> None:
        self.window.dispatcher.perform_or_raise(f"{self.window.catalogue.app}:{verb}", args)

    def go(self, context: str) -> None:
        document: Any = self.window.documents.all[0]
        document.widget.setFocus()
        getattr(self, f"_{self.window.catalogue.app}")(context)
        if context == FIELD:
            field = self.window.findChildren(PanelField)[0]
            field.setText("Brinholt")
            field.setCursorPosition(4)
            field.setFocus()

    def _letters(self, context: str) -> None:
        document: Any = self.window.document
        self.do("select-all")
        document.text.clear()
        document.write("\n".join([WORDS] * 30))
        if context == "note":
            self.do("insert-note")
            document.write(WORDS.replace("\n", " "))
        elif context == "table":
            self.do("insert-table", rows="3", columns="3")
            document.write("cell words")
        self._middle(3 if context in ("note", "table") else 600)

    def _grid(self, context: str) -> None:
        document: Any = self.window.document
        document.abandon()
        document.widget.note.hide()
        self.do("go-to-cell", name="C5")
        if context in ("writing", "sum"):
            self.do("start-writing")
            document.widget.field.setText("=A1+B2" if context == "sum" else "words here")
            document.widget.field.setCursorPosition(3)
        elif context == "note":
            self.do("write-note")
            note = document.widget.note
            note.setPlainText("\n".join([WORDS] * 9))
            cursor = note.textCursor()
            cursor.setPosition(200)
            note.setTextCursor(cursor)

    def _post(self, context: str) -> None:
        if context in ("composing", "address", "writing"):
            if len(self.window.documents.all) < 2:
                self.do("new")
            message: Any = self.window.documents.all[1]
            self.window.documents.show(message)
            self.do("set-subject", to="Late again")
            self.do("set-to", to="nora@vessry.example")
            message.focus({"composing": "subject", "address": "to", "writing": "text"}[context])
            if context == "writing":
                self.do("select-all")
                message.write("\n".join([WORDS] * 30))
                self._middle(600)
            else:
                self.window.focusWidget().setSelection(2, 2)
            return
        mailbox: Any = self.window.documents.all[0]
        self.window.documents.show(mailbox)
        mailbox.table.setFocus()
        mailbox.choose([mailbox.model.keys[2]])
        if context == "reading":
            self.do("go-to-text")
            reader: Any = self.window.focusWidget()
            reader.setPlainText("\n".join([WORDS] * 60))
            reader.verticalScrollBar().setValue(reader.verticalScrollBar().maximum() // 2)

    def _middle(self, by: int) -> None:
        document: Any = self.window.document
        cursor = document.cursor()
        cursor.movePosition(cursor.MoveOperation.Left, cursor.MoveMode.MoveAnchor, by)
        document.put(cursor)


def state_of(widget: QWidget | None) -> tuple[object, ...]:
    """What a key can change of the widget in focus: which it is, its text, its place."""
    if isinstance(widget, QLineEdit):
        copied = QApplication.clipboard().text()
        return id(widget), widget.text(), widget.cursorPosition(), widget.selectedText(), copied
    if isinstance(widget, QTextEdit | QPlainTextEdit):
        cursor, bar = widget.textCursor(), widget.verticalScrollBar()
        return id(widget), widget.toPlainText(), cursor.position(), cursor.anchor(), bar and bar.value()
    if isinstance(widget, QAbstractItemView):
        chosen = widget.selectionModel()
        rows = [(i.row(), i.column()) for i in chosen.selectedIndexes()] if chosen else []
        at = widget.currentIndex()
        return id(widget), at.row(), at.column(), tuple(sorted(rows)), ""
    return id(widget), ""


class End(QObject):
    """Tells what came of a press when F12 follows it, whatever has the keys by then."""

    def __init__(self, window: Probe, places: Places) -> None:
        super().__init__()
        self._window = window
        self._places = places
        self._before: tuple[object, ...] = ()
        self._told = 0

    def begin(self, context: str) -> None:
        """Go to a context, and take note of what is there."""
        if not self._window.isActiveWindow():  # a menu has closed, and the window is not told yet
            QTimer.singleShot(10, lambda: self.begin(context))
            return
        self._window.keys.give_up()
        self._places.go(context)
        for kept in (QClipboard.Mode.Clipboard, QClipboard.Mode.Selection):
            QApplication.clipboard().setText("kept", kept)
        QApplication.processEvents()
        self._window.came = ""
        self._before = state_of(QApplication.focusWidget())
        say(f"ready {' '.join(sorted(self._window.keys.live()))}")

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        if event is None or event.type() != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        chord = chord_of(event)
        if chord is None or chord.key != "F12":
            return False
        if event.timestamp() != self._told:
            self._told = event.timestamp()
            say(self._what_came())
        return True

    def _what_came(self) -> str:
        if (menu := QApplication.activePopupWidget()) is not None:
            menu.close()
            return "menu" if isinstance(menu, QMenu) else "popup"
        if self._window.keys.waits:
            return "begins"
        if self._window.came:
            return self._window.came
        return "changed" if state_of(QApplication.focusWidget()) != self._before else "nothing"


def main(state_file: str, app: str) -> None:
    qt = make_qt_application(app)
    if app == "letters":
        from rimecrest_standins.letters.document import LetterDocument as Document
        from rimecrest_standins.letters.letters import declarations
    elif app == "grid":
        from rimecrest_standins.grid.document import GridDocument as Document  # type: ignore[assignment]
        from rimecrest_standins.grid.grid import declarations
    else:
        from rimecrest_standins.post.mailbox import MailboxDocument as Document  # type: ignore[assignment]
        from rimecrest_standins.post.post import declarations
    window = Probe(declarations, Document, None)
    window.stack.use(StackState.model_validate_json(Path(state_file).read_text(encoding="utf-8")))
    window.frame.press_access = window.access  # type: ignore[method-assign]
    window.keys.resolved.disconnect()
    window.keys.resolved.connect(window.note)
    window.show()
    end = End(window, Places(window))
    qt.installEventFilter(end)
    notifier = QSocketNotifier(sys.stdin.fileno(), QSocketNotifier.Type.Read, window)
    notifier.activated.connect(lambda _socket: end.begin(sys.stdin.readline().strip()))
    window.activateWindow()
    say("here")
    qt.exec()


if __name__ == "__main__":
    main(*sys.argv[1:])
