"""What an application has to bring: a document that the rest of `embed` can work with.

A `Document` has commands, undo and readings. Whether it lies in a file is another matter: see
`file_document`.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping, Sequence
from contextlib import AbstractContextManager
from pathlib import Path
from typing import Any, Protocol

from PyQt6.QtCore import QObject, QRect, pyqtSignal
from PyQt6.QtGui import QImage, QInputMethodEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QScrollBar, QWidget

from rimecrest.core.catalogue.applies import DocumentKind
from rimecrest.kit.documents.undo import UndoStack
from rimecrest.kit.macros.sounds import Sounds
from rimecrest.shell.abstract import AbstractQObject

OWN_MENU = "own-menu"
"""Property of a part of a document that has a menu of its own."""


Move = tuple[str, Mapping[str, str]]
"""A command's verb with its settings."""


class Documents(Protocol):
    """What a document's commands may ask of the window that it is open in.

    Methods that open or undo raise RimecrestError; all stays as it was.
    """

    all: list[Document]
    current: Document
    sounds: Sounds
    lent: Path | None
    """The folder of what macros bring along; None: there is nothing."""
    folder: Path | None
    """The profile of the seat; None: there is none."""

    @property
    def running(self) -> bool:
        """Whether a macro runs."""
        ...

    def tells(self, reading: str) -> Any:
        """The value of a reading of the document that is worked in; nothing where there is no such one."""
        ...

    def begin(self) -> Document:
        """A new, empty document; an untouched one is taken as it is."""
        ...

    def open(self, path: Path) -> Document:
        """Open a file, or go to it where it is open."""
        ...

    def show(self, document: Document) -> None:
        """Work in that document."""
        ...

    def close(self, document: Document) -> bool:
        """Close a document, after asking about unsaved changes. Returns whether it was closed."""
        ...

    def step(self, by: int) -> None:
        """The next document of the row, round and round."""
        ...

    def show_macros(self) -> None:
        """Open the window's list of macros."""
        ...

    def find_command(self) -> None:
        """Open the window's finder."""
        ...

    def show_menu(self) -> None:
        """Open the right-click menu of the place where the cursor is."""
        ...

    def record(self) -> None:
        """Ask for a recording to begin, or to end."""
        ...

    def undo(self) -> None: ...
    def redo(self) -> None: ...


class Document(QObject, metaclass=AbstractQObject):
    """One document of an application.

    Signals:
        typed(text): typed where the cursor is; the dispatcher writes it.
        composing(event): each event of an input method.
        wants(verb, settings): a gesture of the mouse that is a command.
    """

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)
    wants = pyqtSignal(str, dict)

    noun = "document"
    stays = False
    """Whether it cannot be closed by itself: it is what the window is for."""
    inherits_look = False
    """Whether what is written over something looks as that did."""

    def __init__(self, documents: Documents) -> None:
        """`documents` are those of the window that it is open in."""
        super().__init__()
        self.documents = documents
        self.widget: QWidget
        """Where the document is shown; it has the focus."""
        self.undo: UndoStack
        self.sought = ""
        """The words that were sought last."""

    # What each application says

    @abstractmethod
    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        """Around a command that edits: one entry of undo, or a part of the run's."""

    @abstractmethod
    def innermost(self) -> tuple[str, ...]:
        """The narrowest contexts of the place that was last active."""

    @abstractmethod
    def write(self, text: str) -> None:
        """Write at the cursor, as if typed."""

    @abstractmethod
    def name(self) -> str:
        """What it is called, without a mark."""

    @abstractmethod
    def place(self) -> Any:
        """Where the cursor is and what is chosen, as a value to compare."""

    @abstractmethod
    def go(self, place: Any) -> None:
        """Put the cursor back to a place."""

    @abstractmethod
    def has_selection(self, place: Any) -> bool:
        """Whether text is selected at a place: what deletes takes that, and not what was written before."""

    @abstractmethod
    def moves(self, before: Any, after: Any) -> Sequence[Move] | None:
        """The commands that lead from one place to another, by meaning; None when there are none."""

    @abstractmethod
    def offset(self) -> int:
        """How many characters stand before the cursor in what is being written."""

    def agree_to_overwrite(self) -> None:
        """Whoever sits here has been asked, and lets the next save write over whatever lies there now."""

    @abstractmethod
    def replaces(self) -> bool:
        """Whether what is written now takes the place of something."""

    @abstractmethod
    def spot(self) -> QRect:
        """Where the cursor is in `picture`, in pixels; what is not seen is scrolled to first."""

    def another(self) -> Document | None:
        """A document to begin or open something in, beside this one; None: one as the window's first."""
        return None

    def kind(self) -> DocumentKind:
        """What tells it from others: layouts may be for some documents only."""
        return DocumentKind()

    def make_live(self, context: str) -> None:
        """A command of this context is about to be done: finish what keeps it from being live."""

    def settle(self) -> None:
        """Finish what is half entered: a run has ended, or the document is saved."""

    def run_begins(self) -> None:
        """Finish what is half entered, so that what the macro writes there goes on from it."""
        self.settle()

    def abandon(self) -> None:
        """Drop what is half entered: a run is taken back."""

    def view(self) -> Any:
        """Where the cursor is, what is selected and what is seen, to come back to with `go_back`."""
        return self.place(), [bar.value() for bar in self._bars()]

    def go_back(self, view: Any) -> None:
        """Have the cursor, the selection and the scrolling as they were in a `view`."""
        place, values = view
        self.go(place)
        for bar, value in zip(self._bars(), values, strict=False):
            bar.setValue(value)

    def _bars(self) -> list[QScrollBar]:
        parts = [self.widget, *self.widget.findChildren(QAbstractScrollArea)]
        areas = dict.fromkeys(part for part in parts if isinstance(part, QAbstractScrollArea))
        bars = (bar for area in areas for bar in (area.verticalScrollBar(), area.horizontalScrollBar()))
        return [bar for bar in bars if bar is not None]

    # Closing

    def modified(self) -> bool:
        """Whether there is something that closing would lose."""
        return False

    def pristine(self) -> bool:
        """Never touched: another document may take its room."""
        return False

    def title(self) -> str:
        """Its name, with a star while there are unsaved changes."""
        return f"{self.name()} *" if self.modified() else self.name()

    def may_close(self) -> bool:
        """Ask about what closing would lose. False: stay with this document."""
        return True

    def picture(self) -> QImage:
        """The document's area as it looks now."""
        return self.widget.grab().toImage()
