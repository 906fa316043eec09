"""Taking a widget out of the window for good."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget


def drop(widget: QWidget) -> None:
    """Out of sight and out of its parent at once; gone when the event loop comes round."""
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()
