"""What an application has to bring: a document that the rest of `embed` can work with."""

from __future__ import annotations

from contextlib import AbstractContextManager
from pathlib import Path
from typing import Protocol

from PyQt6.QtCore import pyqtBoundSignal
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QWidget


class UndoStack(Protocol):
    """The part of a document's undo that macros need."""

    changed: pyqtBoundSignal

    def begin_run(self, label: str) -> None: ...
    def end_run(self) -> None: ...
    def take_back_run(self) -> None: ...


class AppDocument(Protocol):
    """A document in a window."""

    @property
    def undo(self) -> UndoStack: ...

    @property
    def widget(self) -> QWidget:
        """Where the document is written in; it has the focus."""
        ...

    typed: pyqtBoundSignal
    """Text that was typed; the dispatcher writes it."""
    composing: pyqtBoundSignal
    """Each event of an input method."""

    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        """Around a command that edits: one entry of undo, or a part of the run's."""
        ...

    def innermost(self) -> tuple[str, ...]:
        """The narrowest contexts of the place that was last active."""
        ...

    def write(self, text: str) -> None:
        """Write at the cursor, as if typed."""
        ...

    def open_path(self, path: Path) -> None: ...

    def may_close(self) -> bool:
        """Ask about unsaved changes; False: stay open."""
        ...

    def title(self) -> str: ...

    def picture(self) -> QImage:
        """The document's area as it looks now."""
        ...
