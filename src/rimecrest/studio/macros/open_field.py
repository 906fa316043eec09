"""The one field that is open over a macro's words, and what it belongs to.

A field belongs to a step (or to the name or purpose) of one macro, not to whatever macro is shown when Enter
is pressed. It ends when that leaves the view: what was typed is kept where it belongs, or given up when the
step is another one meanwhile.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from rimecrest.studio.macros.presenter import FieldTarget
from rimecrest.studio.shared.sentence_widgets import InlineField


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
