"""Undo: one stack per document of entries that are ours.

What is common to all documents stands in `UndoStack`: entries with a label, folding, runs of macros, and the
group of a run that touched several documents. How a change is recorded and taken back is the document's kind:

- `TextUndo` for formatted text: each entry is at most one edit block of the text document. Qt joins
  neighbouring insertions into one step when they are not in blocks, so that undoing a macro would take the
  writing before it along. What the document has beside its text it records as patches.
- `PatchUndo` for everything that records its changes as patches that go back and forth.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any, Protocol

from msgspec import Struct, field
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QTextCharFormat, QTextCursor, QTextDocument

from rimecrest.shell.abstract import AbstractQObject

Group = list["UndoStack"]
"""The stacks that one run of a macro changed."""


class Entry(Struct):
    """One thing that undo takes back. `fold` names what it may grow by: the word being typed."""

    label: str
    fold: str = ""
    group: Group | None = None
    patches: list[Patch] = field(default_factory=list)
    place: Any = None
    before: Any = None
    """Of a run of a macro: where the cursor was and what was selected when it began."""
    wrote: bool = False
    """Of a text document: there is an edit block of it."""


class UndoStack(QObject, metaclass=AbstractQObject):
    """The undo stack of one document."""

    changed = pyqtSignal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._done: list[Entry] = []
        self._undone: list[Entry] = []
        self._run: Entry | None = None
        self._run_changed = False
        self.version = 0
        """Grows with every change, those that join another included."""

    # What there is

    @property
    def undo_label(self) -> str:
        return self._done[-1].label if self._done else ""

    @property
    def redo_label(self) -> str:
        return self._undone[-1].label if self._undone else ""

    @property
    def depth(self) -> int:
        """How many entries can be undone."""
        return len(self._done)

    @property
    def last(self) -> Entry | None:
        return self._done[-1] if self._done else None

    @property
    def next(self) -> Entry | None:
        """What redo would do."""
        return self._undone[-1] if self._undone else None

    @property
    def running(self) -> bool:
        return self._run is not None

    def forget(self) -> None:
        """Begin anew, for another document's content."""
        self._done.clear()
        self._undone.clear()
        self.changed.emit()

    def name_last(self, fold: str) -> None:
        """What a next change has to call itself to join the last entry; empty: nothing joins it."""
        if self._done and self._run is None:
            self._done[-1].fold = fold

    # Changing

    def _joins(self, fold: str) -> bool:
        if self._run is not None:
            return self._run_changed
        last = self.last
        return bool(fold and last and last.fold == fold and not self._undone)

    def _keep(self, entry: Entry) -> None:
        """A change that does not join is another entry, or the first one of the run."""
        if self._run is not None:
            self._run_changed = True
        else:
            self._done.append(entry)
        self._undone.clear()

    # Runs

    def begin_run(self, label: str) -> None:
        """From here to `end_run` or `take_back_run`, all changes are one entry."""
        self._run = Entry(label)
        self._run_changed = False

    def end_run(self, group: Group | None = None) -> bool:
        """Keep what the run did. `group` gets this stack when the run changed it, and is then returned to."""
        run, self._run = self._run, None
        kept = run is not None and self._run_changed
        if run is not None and kept:
            self._done.append(run)
            if group is not None:
                group.append(self)
                run.group = group
        self.changed.emit()
        return kept

    def take_back_run(self) -> None:
        """Undo what the run did, and forget that it was there."""
        run, self._run = self._run, None
        if run is not None and self._run_changed:
            self._take_back(run)
            self._forget_undone()
        self.changed.emit()

    # Undo and redo

    def undo(self) -> str:
        """Take the last entry back. Returns its label, or nothing."""
        if not self._done or self._run is not None:
            return ""
        entry = self._done.pop()
        self._take_back(entry)
        entry.fold = ""
        self._undone.append(entry)
        self.changed.emit()
        return entry.label

    def redo(self) -> str:
        if not self._undone or self._run is not None:
            return ""
        entry = self._undone.pop()
        self._do_again(entry)
        self._done.append(entry)
        self.changed.emit()
        return entry.label

    @abstractmethod
    def _take_back(self, entry: Entry) -> None: ...

    @abstractmethod
    def _do_again(self, entry: Entry) -> None: ...

    def _forget_undone(self) -> None:
        self._undone.clear()


class Writer(Protocol):
    """Where a text is written: its cursor, and the look that what is written next will have."""

    def textCursor(self) -> QTextCursor: ...
    def setTextCursor(self, cursor: QTextCursor) -> None: ...
    def ensureCursorVisible(self) -> None: ...
    def currentCharFormat(self) -> QTextCharFormat: ...
    def setCurrentCharFormat(self, look: QTextCharFormat) -> None: ...


class TextUndo(UndoStack):
    """The undo stack of one text document. Cursor and look of the `writer` come back with what is undone."""

    def __init__(self, document: QTextDocument, writer: Writer) -> None:
        super().__init__(document)
        self._document = document
        self._writer = writer
        self._open: list[Patch] | None = None
        self._document.setUndoRedoEnabled(True)

    def forget(self) -> None:
        self._document.clearUndoRedoStacks()
        super().forget()

    def record(self, patch: Patch) -> None:
        """The document tells what it changed beside its text, within a change."""
        assert self._open is not None, "a change outside of change()"
        self._open.append(patch)

    @contextmanager
    def change(self, label: str, fold: str = "") -> Iterator[None]:
        """Around everything that changes the document.

        Args:
            label: what undo calls it.
            fold: when the last entry has the same, this change joins it.
        """
        if self._open is not None:  # part of a change that is under way
            yield
            return
        joins = self._joins(fold)
        steps, revision = self._document.availableUndoSteps(), self._document.revision()
        look = self._writer.currentCharFormat()
        cursor, patches = self._cursor(), list[Patch]()
        into = self._run if self._run is not None else self.last
        if joins and into is not None and into.wrote:
            cursor.joinPreviousEditBlock()
        else:
            cursor.beginEditBlock()
        self._open = patches
        try:
            yield
        finally:
            self._open = None
            cursor.endEditBlock()
            wrote = self._document.availableUndoSteps() != steps
            if self._document.revision() != revision or patches:
                self.version += 1
            if not joins and (wrote or patches):
                self._keep(Entry(label, fold))
            entry = self._run if self._run is not None else self.last
            if entry is not None:
                entry.wrote |= wrote
                entry.patches += patches
                before = entry.place[0] if entry.place else look
                entry.place = (before, self._writer.currentCharFormat())
            self.changed.emit()

    def take_back_last(self) -> None:
        """Undo the change that was just made, and forget that it was there; within a run, the run does."""
        if self._run is None and self._done:
            self._take_back(self._done.pop())
            self._forget_undone()
            self.changed.emit()

    def _cursor(self) -> QTextCursor:
        cursor = QTextCursor(self._document)
        cursor.setPosition(self._writer.textCursor().position())
        return cursor

    def _take_back(self, entry: Entry) -> None:
        for patch in reversed(entry.patches):
            patch.back()
        if entry.wrote:
            cursor = self._cursor()
            self._document.undo(cursor)
            self._show(cursor, entry, 0)

    def _do_again(self, entry: Entry) -> None:
        for patch in entry.patches:
            patch.forth()
        if entry.wrote:
            cursor = self._cursor()
            self._document.redo(cursor)
            self._show(cursor, entry, 1)

    def _show(self, cursor: QTextCursor, entry: Entry, which: int) -> None:
        self._writer.setTextCursor(cursor)
        self._writer.ensureCursorVisible()
        if entry.place and not cursor.hasSelection():
            self._writer.setCurrentCharFormat(entry.place[which])

    def _forget_undone(self) -> None:
        super()._forget_undone()
        self._document.clearUndoRedoStacks(QTextDocument.Stacks.RedoStack)


class Patch(Protocol):
    """One recorded change of a document's data."""

    def back(self) -> None: ...
    def forth(self) -> None: ...


class PatchUndo(UndoStack):
    """The undo stack of a document that records its changes as patches.

    A change that fails in the middle is taken back at once: an entry is whole or not there.
    """

    def __init__(self, parent: QObject, place: Callable[[], Any], go: Callable[[Any], None]) -> None:
        """`place` tells where the cursor is, `go` puts it back there."""
        super().__init__(parent)
        self._place = place
        self._go = go
        self._open: list[Patch] | None = None
        self.saved_at: Entry | None = None
        """The last entry when the document was saved: there, it is not modified."""

    def forget(self) -> None:
        self.saved_at = None
        super().forget()

    @property
    def modified(self) -> bool:
        # A patch that `shows_only` changes what is seen, and nothing that is saved.
        return self._run_changed or any(
            not all(getattr(patch, "shows_only", False) for patch in entry.patches)
            for entry in self._since_saved()
        )

    def _since_saved(self) -> list[Entry]:
        """The entries between the document as it was saved and as it is; all of them if that is not known."""
        if self.saved_at is None:
            return self._done
        if self.saved_at in self._done:
            return self._done[self._done.index(self.saved_at) + 1 :]
        if self.saved_at in self._undone:
            return self._undone[self._undone.index(self.saved_at) :]
        return [*self._done, *self._undone] or [self.saved_at]

    def record(self, patch: Patch) -> None:
        """The document's data tells what it changed. Outside a change nothing may be changed."""
        assert self._open is not None, "a change outside of change()"
        self._open.append(patch)

    @contextmanager
    def change(self, label: str, fold: str = "") -> Iterator[None]:
        """Around everything that changes the document's data; see `TextUndo.change`."""
        if self._open is not None:  # part of a change that is under way
            yield
            return
        patches: list[Patch] = []
        place = self._place()
        self._open = patches
        try:
            yield
        except BaseException:
            for patch in reversed(patches):
                patch.back()
            patches.clear()
            raise
        finally:
            self._open = None
            if patches:
                self.version += 1
                self._file(Entry(label, fold, patches=patches, place=place))
            self.changed.emit()

    def _file(self, entry: Entry) -> None:
        joined = self._run if self._run is not None else self.last if self._joins(entry.fold) else None
        if joined is None:
            self._keep(entry)
            return
        if not joined.patches:
            joined.place = entry.place
        joined.patches += entry.patches
        self._run_changed = self._run is not None
        self._undone.clear()

    def end_run(self, group: Group | None = None) -> bool:
        kept = super().end_run(group)
        self._run_changed = False
        return kept

    def take_back_run(self) -> None:
        super().take_back_run()
        self._run_changed = False

    def _take_back(self, entry: Entry) -> None:
        for patch in reversed(entry.patches):
            patch.back()
        self._go(entry.place)

    def _do_again(self, entry: Entry) -> None:
        for patch in entry.patches:
            patch.forth()
        self._go(entry.place)
