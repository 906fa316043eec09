"""The one field that is open over a macro's words, and what it belongs to.

A field belongs to a step (or to the name or purpose) of one macro, not to whatever macro is shown when Enter
is pressed. It ends when that leaves the view: what was typed is kept where it belongs, or given up when the
step is another one meanwhile.
"""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtWidgets import QWidget

from rimecrest.core.macro import Statement
from rimecrest.core.macro.step_tree import Path, step_at
from rimecrest.core.workspace import MacroFile, Workspace
from rimecrest.studio.macros.shelves import Key
from rimecrest.studio.shared.sentence_widgets import InlineField


@dataclass(frozen=True)
class FieldTarget:
    """What a field changes: a step of a macro, or, without a path, the macro's head."""

    macro: Key
    path: Path | None = None
    step: Statement | None = None

    def find(self, workspace: Workspace) -> MacroFile | None:
        """The macro, where the step is still the one that the field was opened for; else None."""
        file = workspace.macros.get(self.macro)
        if file is None or self.path is None:
            return file
        return file if step_at(file.macro, self.path) == self.step else None


class OpenField:
    """An editor of a word while it is open."""

    def __init__(self, widget: QWidget, target: FieldTarget) -> None:
        self.target = target
        self._widget: QWidget | None = widget
        widget.destroyed.connect(self._gone)

    def _gone(self) -> None:
        self._widget = None

    @property
    def text(self) -> str:
        """What is written in it now; empty for a list to choose from."""
        return self._widget.text() if isinstance(self._widget, InlineField) else ""

    @property
    def open(self) -> bool:
        return self._widget is not None and not self._widget.isHidden()

    def keep(self) -> None:
        """End it as Enter does; a list that is open ends without a choice."""
        widget, self._widget = self._widget, None
        if isinstance(widget, InlineField):
            widget.keep()
        elif widget is not None:
            widget.hide()

    def give_up(self) -> None:
        """End it as Escape does."""
        widget, self._widget = self._widget, None
        if isinstance(widget, InlineField):
            widget.give_up()
        elif widget is not None:
            widget.hide()
