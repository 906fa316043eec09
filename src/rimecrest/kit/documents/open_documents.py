"""The documents that are open in one window: which one is worked in, and runs that touch several.

A run of a macro is one undo across all of them: taken back on failure in each; undone later in each, or not
at all when one of them has been edited since.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QInputMethodEvent
from PyQt6.QtWidgets import QStackedWidget, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.documents.document import OWN_MENU, Document, Documents
from rimecrest.kit.documents.file_document import FileDocument, in_a_file
from rimecrest.kit.documents.undo import Entry, Group
from rimecrest.kit.macros.library import KeptMacros
from rimecrest.kit.macros.sounds import Sounds


class OpenDocuments(QObject):
    """The open documents of one window.

    Signals:
        shown: another document is worked in.
        changed: something about the current document changed: its title, its undo.
        macros_wanted: the list of macros is to open.
        menu_wanted: the right-click menu is to open at the cursor.
        finder_wanted: the finder of commands is to open.
        record_wanted: a recording is to begin, or to end.
        typed(text), composing(event), wants(verb, settings): what the current document tells.
    """

    shown = pyqtSignal()
    changed = pyqtSignal()
    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)
    wants = pyqtSignal(str, dict)
    macros_wanted = pyqtSignal()
    menu_wanted = pyqtSignal()
    finder_wanted = pyqtSignal()
    record_wanted = pyqtSignal()

    def __init__(self, make: Callable[[Documents], Document], folder: Path | None = None) -> None:
        """`make` makes the first document, `folder` is the profile of the seat."""
        super().__init__()
        self._make = make
        self.all: list[Document] = []
        self.widget = QStackedWidget()
        self.lent: Path | None = None
        """Folder of the files that macros brought along: opened as copies that lie nowhere yet."""
        self.folder = folder
        """The profile of the seat; None: there is none."""
        self.reads: Callable[[str], Any] = lambda _reading: None
        """Reads of the document that is worked in; the window says how."""
        self._run = ""
        self.sounds = Sounds()
        """Whether macros are heard; the window has that of its seat."""
        self._views: list[tuple[Document, Any]] = []
        """What was seen in each document when the run began."""
        self._begun: list[Document] = []
        """Documents that the present run opened."""
        self._stood: list[Document] = []
        """Those that were open when the last run began."""
        self._before: Document | None = None
        self.current = self._add()

    def _add(self, document: Document | None = None) -> Document:
        document = self._make(self) if document is None else document
        document.typed.connect(self.typed)
        document.composing.connect(self.composing)
        document.wants.connect(self.wants)
        document.undo.changed.connect(self.changed)
        self.all.append(document)
        for part in (document.widget, *document.widget.findChildren(QWidget)):
            # The window's own menu opens there: no part of a document has one of the toolkit's.
            if not part.property(OWN_MENU):
                part.setContextMenuPolicy(Qt.ContextMenuPolicy.NoContextMenu)
        self.widget.addWidget(document.widget)
        if self._run:
            document.undo.begin_run(self._run)
            self._begun.append(document)
        return document

    def _another(self) -> Document:
        """What is begun or opened beside what is there, seen by nobody yet."""
        return self.current.another() or self._make(self)

    def show(self, document: Document) -> None:
        """Work in that document."""
        if document is self.current:
            return
        self.current.settle()
        self.current = document
        self.widget.setCurrentWidget(document.widget)
        document.widget.setFocus()
        self.shown.emit()
        self.changed.emit()

    def begin(self) -> Document:
        """A new, empty document; an untouched one is taken as it is."""
        if not self._run and self.current.pristine():
            return self.current
        document = self._add(self._another())
        self.show(document)
        return document

    def open(self, path: Path) -> FileDocument:
        """Open a file, or go to it where it is open. Raises RimecrestError; all stays as it was."""
        for known in self.all:
            if isinstance(known, FileDocument) and known.path is not None:
                if known.path.absolute() == path.absolute():
                    self.show(known)
                    return known
        fits = not self._run and self.current.pristine()
        document = in_a_file(self.current if fits else self._add(self._another()))
        try:
            document.open_path(path)
        except RimecrestError:
            if not fits:
                self._remove(document)
            raise
        if self.lent is not None and path.is_relative_to(self.lent):
            document.made_from(path)
        self.show(document)
        self.changed.emit()
        return document

    @contextmanager
    def looked_into(self, path: Path) -> Iterator[FileDocument]:
        """A file as a document that nobody sees; it is gone at the end.

        Raises:
            RimecrestError: it cannot be opened.
        """
        document = in_a_file(self._another())
        try:
            document.open_path(path)
            yield document
        finally:
            document.widget.deleteLater()

    def close(self, document: Document) -> bool:
        """Close a document, after asking about unsaved changes. The last one leaves an empty one.

        Raises:
            RimecrestError: it stays open as long as the window.
        """
        if document.stays:
            raise RimecrestError(
                tr("The {noun} stays open.", noun=document.noun), tr("Quit closes the whole window.")
            )
        if not document.may_close():
            return False
        if len(self.all) == 1:
            self._add()
        self._remove(document)
        return True

    def fresh(self) -> Document:
        """Drop every document, unsaved or not, and begin with an empty one: a scratch copy is to be used."""
        old = list(self.all)
        document = self._add()
        self.show(document)
        for each in old:
            self._remove(each)
        return document

    def try_on(self, file: str) -> None:
        """Close every document, and open an empty one, or a copy of `file` if it is not empty."""
        self.fresh()
        if file:
            self.open(Path(file)).path = None

    def _remove(self, document: Document) -> None:
        self.all.remove(document)
        if document in self._begun:
            self._begun.remove(document)
        if document is self.current:
            self.show(self.all[-1])
        self.widget.removeWidget(document.widget)
        document.widget.deleteLater()
        self.changed.emit()

    def may_close(self) -> bool:
        """Ask about the unsaved changes of each. False: one is to stay."""
        for document in list(self.all):
            if document.modified():
                self.show(document)
            if not document.may_close():
                return False
        return True

    def step(self, by: int) -> None:
        """The next document of the row, round and round."""
        self.show(self.all[(self.all.index(self.current) + by) % len(self.all)])

    def kept_macros(self) -> KeptMacros:
        """Return the macros stored in the current document."""
        if not isinstance(self.current, FileDocument):
            return KeptMacros()
        return KeptMacros(self.current.macros, frozenset(self.current.macros_put))

    # Runs

    @property
    def running(self) -> bool:
        """Whether a macro runs."""
        return bool(self._run)

    def tells(self, reading: str) -> Any:
        """The value of a reading of the document that is worked in; nothing where there is no such one."""
        try:
            return self.reads(reading)
        except RimecrestError:
            return None

    def begin_run(self, label: str) -> None:
        """From here on everything is the run's. What was half entered before is kept, and is not."""
        self._run, self._begun, self._before = label, [], self.current
        self._stood = list(self.all)
        for document in self.all:
            document.run_begins()
            document.undo.begin_run(label)
        self._views = [(document, document.view()) for document in self.all]

    def is_open(self, document: Document) -> bool:
        return document in self.all

    def was_open(self, document: Document) -> bool:
        """Whether a document was open already when the last run began."""
        return document in self._stood

    def end_run(self) -> None:
        """Keep what the run did, as one entry in every document that it changed."""
        places = {document: place for document, (place, _) in self._views}
        self._views = []
        group: Group = []
        for document in self.all:
            document.settle()
        self._run, self._begun = "", []
        for document in self.all:
            if document.undo.end_run(group) and document.undo.last is not None:
                document.undo.last.before = places.get(document)
        self.changed.emit()

    def take_back_run(self) -> None:
        """Everything as it was before the run: texts, documents, and which one was worked in."""
        if not self._run:
            return
        self._run = ""
        for document in self.all:
            document.abandon()
        for document in list(self._begun):
            self._remove(document)
        if self._before is not None and self._before in self.all:
            self.show(self._before)
        for document in self.all:
            document.undo.take_back_run()
        for document, view in self._views:
            if document in self.all:
                document.go_back(view)
        self._views = []
        self.changed.emit()

    def find_command(self) -> None:
        """Open the window's finder."""
        self.finder_wanted.emit()

    def show_macros(self) -> None:
        """Ask for the window's list of macros."""
        self.macros_wanted.emit()

    def show_menu(self) -> None:
        """Ask for the right-click menu of the place where the cursor is."""
        self.menu_wanted.emit()

    def record(self) -> None:
        """Ask for a recording to begin, or to end."""
        self.record_wanted.emit()

    # Undo

    def undo(self) -> None:
        """Undo in the current document, and with a macro in every one that it changed.

        After a macro the selection is as it was before it.

        Raises:
            RimecrestError: there is nothing to undo, or another document of the macro was edited since.
        """
        self._turn("undo", self.current.undo.last)

    def redo(self) -> None:
        self._turn("redo", self.current.undo.next)

    def _turn(self, word: str, entry: Entry | None) -> None:
        stack = self.current.undo
        if entry is None or stack.running:
            raise RimecrestError(tr("There is nothing to {word}.", word=word))
        group = entry.group
        open_now = {document.undo: document for document in self.all}
        others = [other for other in group or () if other is not stack and other in open_now]
        for other in others:
            other_entry = other.last if word == "undo" else other.next
            if other_entry is None or other_entry.group is not group:
                name = open_now[other].name()
                raise RimecrestError(
                    tr(
                        "“{label}” also changed “{name}”, which has been edited since.",
                        label=entry.label,
                        name=name,
                    ),
                    tr("{word} what was done there first.", word=word.capitalize()),
                )
        for each in (stack, *others):
            if word == "redo":
                each.redo()
                continue
            each.undo()
            if each.next is not None and each.next.before is not None:
                open_now[each].go(each.next.before)
