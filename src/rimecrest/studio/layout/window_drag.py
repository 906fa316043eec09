"""Dragging items and surfaces from one window of the studio to another, and taking up what is dropped."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QMimeData, QObject, QPoint, Qt
from PyQt6.QtGui import QDrag, QDropEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.shell.there import there
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.clipboard import MIME


class WindowDrag(QObject):
    """The drags of one stage that leave its window, and those that come into it."""

    def __init__(
        self, over: QWidget, caret: Caret, data_of: Callable[[Sequence[str]], QMimeData | None]
    ) -> None:
        """`over` is where things are dropped; `data_of` tells things as they travel."""
        super().__init__(over)
        self._over = over
        self._caret = caret
        self._data_of = data_of

    def leaves(self, at: QPoint, things: Sequence[str]) -> bool:
        """Whether what is dragged has left the window and went on as the desktop's own drag, which has ended.

        Args:
            at: where the mouse is on the screen.
        """
        if not things or there(self._over.window()).geometry().contains(at):
            return False
        data = self._data_of(things)
        if data is None:
            return False
        drag = QDrag(self._over)
        drag.setMimeData(data)
        drag.exec(Qt.DropAction.CopyAction)
        return True

    def comes(self, event: QDropEvent) -> bool:
        """Whether what is over the stage can be dropped here; the caret shows where."""
        data = event.mimeData()
        if data is None or not data.hasFormat(MIME):
            event.ignore()
            return False
        slot = self._caret.nearest(event.position().toPoint())
        if slot is not None:
            self._caret.put(slot)
        event.setDropAction(Qt.DropAction.CopyAction)
        event.accept()
        return True
