"""Undo of a text document: one stack of entries that are ours.

The text editor's own undo keys are never reached (the dispatcher takes them), and its idea of what belongs
together is not used: each entry is exactly one edit block of the document, typing is folded by word, and a
macro's run is one entry that takes back exactly itself.

Why blocks: Qt joins neighbouring insertions into one step when they are not in blocks, so that undoing a
macro would take the writing before it along. Every change goes through `change`, which keeps a block of its
own or, within a word or a run, goes on with the last one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QTextCursor, QTextDocument


@dataclass
class Entry:
    """One thing that undo takes back. `fold` names what it may grow by: the word being typed."""

    label: str
    fold: str = ""


class TextUndo(QObject):
    """The undo stack of one text document."""

    changed = pyqtSignal()

    def __init__(self, document: QTextDocument, position: Callable[[], int] = lambda: 0) -> None:
        """`position` tells where the writer's cursor is: undo brings it back there."""
        super().__init__(document)
        self._document = document
        self._position = position
        self._document.setUndoRedoEnabled(True)
        self._done: list[Entry] = []
        self._undone: list[Entry] = []
        self._run: Entry | None = None
        self._run_changed = False

    def forget(self) -> None:
        """Begin anew, for another document's text."""
        self._document.clearUndoRedoStacks()
        self._done.clear()
        self._undone.clear()
        self.changed.emit()

    @property
    def undo_label(self) -> str:
        return self._done[-1].label if self._done else ""

    @property
    def redo_label(self) -> str:
        return self._undone[-1].label if self._undone else ""

    @contextmanager
    def change(self, label: str, fold: str = "") -> Iterator[None]:
        """Around everything that changes the document.

        Args:
            label: what undo calls it.
            fold: when the last entry has the same, this change joins it.
        """
        last = self._done[-1] if self._done else None
        if self._run is not None:
            joins = self._run_changed
        else:
            joins = bool(fold and last and last.fold == fold and not self._undone)
        before = self._document.availableUndoSteps()
        cursor = QTextCursor(self._document)
        cursor.setPosition(self._position())
        if joins:
            cursor.joinPreviousEditBlock()
        else:
            cursor.beginEditBlock()
        try:
            yield
        finally:
            cursor.endEditBlock()
            if not joins and self._document.availableUndoSteps() != before:
                if self._run is not None:
                    self._run_changed = True
                else:
                    self._done.append(Entry(label, fold))
                self._undone.clear()
            self.changed.emit()

    def name_last(self, fold: str) -> None:
        """What a next change has to call itself to join the last entry; empty: nothing joins it."""
        if self._done and self._run is None:
            self._done[-1].fold = fold

    def begin_run(self, label: str) -> None:
        """From here to `end_run` or `take_back_run`, all changes are one entry."""
        self._run = Entry(label)
        self._run_changed = False

    def end_run(self) -> None:
        if self._run is not None and self._run_changed:
            self._done.append(self._run)
        self._run = None
        self.changed.emit()

    def take_back_run(self) -> None:
        """Undo what the run did, and forget that it was there."""
        if self._run is not None and self._run_changed:
            self._document.undo()
            self._document.clearUndoRedoStacks(QTextDocument.Stacks.RedoStack)
        self._run = None
        self.changed.emit()

    @property
    def running(self) -> bool:
        return self._run is not None

    def undo(self, cursor: QTextCursor) -> str:
        """Take the last entry back; `cursor` is set to where it happened. Returns its label, or nothing."""
        if not self._done or self._run is not None:
            return ""
        entry = self._done.pop()
        self._document.undo(cursor)
        entry.fold = ""
        self._undone.append(entry)
        self.changed.emit()
        return entry.label

    def redo(self, cursor: QTextCursor) -> str:
        if not self._undone or self._run is not None:
            return ""
        entry = self._undone.pop()
        self._document.redo(cursor)
        self._done.append(entry)
        self.changed.emit()
        return entry.label
