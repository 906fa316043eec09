"""Any widget as a document: for a window that has no text cursor, only something that it shows and changes.

It needs to say no more than its state, as a value, and how to show another. Undo, macros as one step, the
recorder and the rest work on that.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from msgspec import Struct
from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QWidget

from rimecrest.kit.documents.document import Document, Documents, Move
from rimecrest.kit.documents.undo import PatchUndo


class Swap(Struct, frozen=True):
    """One state in place of another."""

    document: WidgetDocument
    before: Any
    after: Any

    def back(self) -> None:
        self.document.show_state(self.before)

    def forth(self) -> None:
        self.document.show_state(self.after)


class CursorlessDocument(Document):
    """A document without a text cursor: nothing is written, gone to, or chosen by typing."""

    def write(self, text: str) -> None:
        """Nothing: keys that are no hotkeys are the widget's own."""

    def place(self) -> Any:
        return None

    def go(self, place: Any) -> None:
        """Nowhere to go."""

    def has_selection(self, _place: Any) -> bool:
        return False

    def moves(self, _before: Any, _after: Any) -> Sequence[Move] | None:
        return ()

    def offset(self) -> int:
        return 0

    def replaces(self) -> bool:
        return False

    def spot(self) -> QRect:
        return self.widget.rect()


class WidgetDocument(CursorlessDocument):
    """A document that is a widget with a state."""

    def __init__(self, documents: Documents, widget: QWidget) -> None:
        super().__init__(documents)
        self.widget = widget
        self.undo: PatchUndo = PatchUndo(self, self.place, self.go)

    @abstractmethod
    def state(self) -> Any:
        """What it shows, as a value that does not change any more: a number, a text, a tuple."""

    @abstractmethod
    def show_state(self, state: Any) -> None:
        """Show that."""

    @contextmanager
    def change(self, label: str, fold: str = "") -> Iterator[None]:
        before = self.state()
        with self.undo.change(label, fold):
            yield
            if self.state() != before:
                self.undo.record(Swap(self, before, self.state()))

    def innermost(self) -> tuple[str, ...]:
        return ("anywhere",)

    def name(self) -> str:
        return self.noun.capitalize()
