"""What an application has to bring: a document that the rest of `embed` can work with.

`Document` has all that documents share: a file, unsaved changes, saving, closing. An application's document
says how it is shown, read, written and changed.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Protocol

from PyQt6.QtCore import QObject, QRect, pyqtSignal
from PyQt6.QtGui import QImage, QInputMethodEvent
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.embed.abstract import AbstractQObject
from rimecrest.embed.undo import UndoStack

LARGEST = 64 * 1024 * 1024
"""Bytes of a document that is opened at most."""


@dataclass(frozen=True)
class Reached:
    """What a command answers when it settled its arguments itself, by asking or by looking.

    The recorder keeps these instead of what was given. `verb`: another command that does the same with these
    arguments, whatever the clipboard holds then. `text`: it wrote this text, as typing would have. `lost`:
    what of it a macro cannot do again, as a sentence.
    """

    args: Mapping[str, str] = field(default_factory=dict)
    verb: str = ""
    text: str | None = None
    lost: str = ""

    @staticmethod
    def switch(reached: bool) -> Reached:
        """The state that a switch called `on` reached."""
        return Reached({"on": "yes" if reached else "no"})


Move = tuple[str, Mapping[str, str]]
"""A command's verb with its settings."""


class Documents(Protocol):
    """What a document's commands may ask of the window that it is open in.

    Methods that open or undo raise RimecrestError; all stays as it was.
    """

    all: list[Document]
    current: Document

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
    kinds = "All files (*)"
    ending = ""
    """Ending of the format that it is saved in."""

    def __init__(self, documents: Documents) -> None:
        """`documents` are those of the window that it is open in."""
        super().__init__()
        self.documents = documents
        self.path: Path | None = None
        self.macros: dict[str, str] = {}
        """The macros that are kept in this document: id → text."""
        self.macros_changed = False
        self.macros_put: set[str] = set()
        """Ids of those that were put here in this window; others came with the file."""
        self.widget: QWidget
        """Where the document is shown; it has the focus."""
        self.undo: UndoStack

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
    def modified(self) -> bool: ...

    @abstractmethod
    def read_from(self, path: Path) -> None:
        """Show what lies there. Raises RimecrestError; what was shown then stays."""

    @abstractmethod
    def write_to(self, path: Path, macros: bool = True) -> None:
        """Write a file, whole or not at all, and change nothing else. Raises RimecrestError.

        `macros`: whether the macros that are kept in the document go along.
        """

    @abstractmethod
    def saved(self) -> None:
        """The document was saved as it is now."""

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

    @abstractmethod
    def replaces(self) -> bool:
        """Whether what is written now takes the place of something."""

    @abstractmethod
    def spot(self) -> QRect:
        """Where the cursor is in `picture`, in pixels; what is not seen is scrolled to first."""

    def make_live(self, context: str) -> None:
        """A command of this context is about to be done: finish what keeps it from being live."""

    def settle(self) -> None:
        """Finish what is half entered: a run has ended, or the document is saved."""

    def abandon(self) -> None:
        """Drop what is half entered: a run is taken back."""

    # What they share

    @property
    def pristine(self) -> bool:
        """Never touched and without a file: another document may take its room."""
        return self.path is None and not self.modified() and not self.undo.depth

    def title(self) -> str:
        name = self.path.stem if self.path else f"New {self.noun}"
        return f"{name} *" if self.modified() else name

    def picture(self) -> QImage:
        """The document's area as it looks now."""
        return self.widget.grab().toImage()

    def open_path(self, path: Path) -> None:
        """Show another file in this document. Raises RimecrestError; what was shown then stays."""
        try:
            if path.is_dir():
                raise RimecrestError(f"{path} is a folder, not a {self.noun}.", "Choose a file in it.")
            if path.stat().st_size > LARGEST:
                raise RimecrestError(
                    f"{path} is too large for a {self.noun}.",
                    f"Choose a file under {LARGEST >> 20} MiB.",
                )
            kept, self.macros = self.macros, {}
            try:
                self.read_from(path)
            except BaseException:
                self.macros = kept
                raise
            self.macros_changed = False
            self.macros_put.clear()
        except UnicodeDecodeError:
            raise RimecrestError(f"{path} is not UTF-8 text.", f"Choose a {self.noun}.") from None
        except OSError as error:
            raise RimecrestError(
                f"{path} cannot be opened: {error.strerror}.",
                f"Choose another file; this {self.noun} is as it was.",
            ) from None
        self.path = path

    def with_ending(self, path: Path) -> Path:
        """The path with an ending: the format's own, unless somebody says otherwise."""
        return path if path.suffix else path.with_suffix(self.ending)

    def keeps_all(self, path: Path) -> bool:
        """Whether a file with this ending holds all that the document has."""
        return path.suffix.lower() == self.ending

    def save_to(self, path: Path) -> None:
        """Save there. Raises RimecrestError when it cannot be written."""
        self.settle()
        self.write_to(path)
        self.path = path
        self.macros_changed = False
        self.saved()
        self.undo.changed.emit()

    def put_macro(self, identity: str, text: str | None) -> None:
        """Keep a macro in this document, or (None) take it out."""
        if text is None:
            self.macros.pop(identity, None)
        else:
            self.macros[identity] = text
            self.macros_put.add(identity)
        self.macros_changed = True
        self.undo.changed.emit()

    def ask_where(self, title: str, ending: str = "", kinds: str = "") -> Path | None:
        """Ask where to put a file."""
        ending = ending or self.ending
        begin = str(self.path.with_suffix(ending) if self.path else f"{self.noun.capitalize()}{ending}")
        name, _ = QFileDialog.getSaveFileName(self.widget, title, begin, kinds or self.kinds)
        return Path(name) if name else None

    def save(self) -> None:
        """Save where it lies; ask for a place when it has none, or lies there in a lesser format."""
        if self.path is not None and self.keeps_all(self.path):
            self.save_to(self.path)
        elif (path := self.ask_where(f"Save the {self.noun}")) is not None:
            self.save_to(self.with_ending(path))

    def may_close(self) -> bool:
        """Ask about unsaved changes. False: stay with this document."""
        if not self.modified():
            return True
        box = QMessageBox(self.widget)
        box.setObjectName("unsaved")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(f"“{self.title().removesuffix(' *')}” has changes that are not saved.")
        box.setInformativeText("Save them first?")
        save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        leave = box.addButton("Discard", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.exec()
        if box.clickedButton() is save:
            self.save()
            return not self.modified()
        return box.clickedButton() is leave


def text_of(path: Path) -> str:
    """The text of a file. Raises OSError or UnicodeDecodeError, which `open_path` puts into words."""
    return path.read_text("utf-8")


def write_text(path: Path, text: str) -> None:
    write_atomically(path, text.encode())
