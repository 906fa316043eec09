"""Taking a widget out of the window for good.

Qt uses a widget after it has delivered an event to it. If the widget is deleted in the meantime, for example
because the press moves the focus out of a field and the list is rebuilt, the program crashes. Deletion
therefore waits until the event is over.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QApplication, QScrollArea, QWidget


def drop(widget: QWidget) -> None:
    """Out of sight and out of its parent at once; gone when the event loop comes round."""
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()


def show_page(area: QScrollArea, page: QWidget) -> None:
    """Show another page in a scroll area. `setWidget` alone would delete the old page immediately."""
    if (old := area.widget()) is not None:
        focused = QApplication.focusWidget()
        if focused is not None and old.isAncestorOf(focused):
            focused.clearFocus()  # Qt would pass the focus on to some other widget of the window
        area.takeWidget()
        drop(old)
    area.setWidget(page)
