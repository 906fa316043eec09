"""Taking a widget out of the window for good.

Qt goes on with a widget after its event: one that is deleted meanwhile, because the press that it gets ends
a field elsewhere, ends the program. So each lives until the event is over.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QScrollArea, QWidget


def drop(widget: QWidget) -> None:
    """Out of sight and out of its parent at once; gone when the event loop comes round."""
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()


def show_page(area: QScrollArea, page: QWidget) -> None:
    """Show another page in a scroll area; its own way deletes the old one at once."""
    if (old := area.takeWidget()) is not None:
        drop(old)
    area.setWidget(page)
