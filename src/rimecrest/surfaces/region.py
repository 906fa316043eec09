"""A part of the window that assistive technology meets as a named group: a bar, a group of a tab, a menu."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QPaintEvent
from PyQt6.QtWidgets import QGroupBox, QWidget


class Region(QGroupBox):
    """A group box for its role alone: whoever makes one draws it, and places what is in it."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)

    def minimumSizeHint(self) -> QSize:
        return QSize(0, 0)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        """Nothing: neither frame nor title."""
