"""Showing a document while a macro works in it: now and then, and not after every step.

Drawing what thousands of steps change takes longer than the steps, and the window answers to nothing
meanwhile.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QWidget

Picture = TypeVar("Picture")
EVERY = 250
"""Milliseconds between two glimpses."""


class Glimpses(QObject):
    """Holds the drawing of a widget while it is on, and lets it be drawn now and then."""

    def __init__(self, widget: QWidget) -> None:
        super().__init__(widget)
        self._widget = widget
        self._next = QTimer(self)
        self._next.setInterval(EVERY)
        self._next.timeout.connect(self._show)

    def turn(self, on: bool) -> None:
        """Begin, or end: what is there now is drawn at the end."""
        if on == self._next.isActive():
            return
        self._widget.setUpdatesEnabled(not on)
        if on:
            self._next.start()
        else:
            self._next.stop()

    def drawn(self, take: Callable[[], Picture]) -> Picture:
        """What is taken of the widget while it can be drawn: a picture of what is held would be empty."""
        held = not self._widget.updatesEnabled()
        self._widget.setUpdatesEnabled(True)
        try:
            return take()
        finally:
            self._widget.setUpdatesEnabled(not held)

    def _show(self) -> None:
        self.drawn(self._widget.repaint)
