"""What the mouse and the focus do to a thing on a panel, told as the events that layouts know."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QMouseEvent
from PyQt6.QtWidgets import QWidget

REST = 500
"""Milliseconds that a pointer has to stay on something until it points at it."""

_OWN_FOCUS = (Qt.FocusReason.PopupFocusReason, Qt.FocusReason.ActiveWindowFocusReason)
"""Why the focus goes without anybody having left or entered: a list opens, another window is used."""


class Happenings(QObject):
    """Clicks, double clicks, the focus and a resting pointer of one thing on a panel.

    Signals:
        happened(event): one of `core.catalogue.items.Event`, told when the widget has done its own part.
    """

    happened = pyqtSignal(str)

    def __init__(self, thing: QWidget, parts: Iterable[QWidget], events: frozenset[str]) -> None:
        """
        Args:
            parts: what of the thing is clicked, and can have the focus.
            events: those that are told; no other ever is.
        """
        super().__init__(thing)
        self._thing = thing
        self._events = events
        self._queue: list[str] = []
        self._queued = QTimer(self)
        self._queued.setSingleShot(True)
        self._queued.timeout.connect(self._tell_queued)
        self._resting = QTimer(self)
        self._resting.setSingleShot(True)
        self._resting.setInterval(REST)
        self._resting.timeout.connect(lambda: self.happened.emit("point"))
        watched = [*parts] if events & {"click", "double", "enter", "leave"} else []
        if "point" in events and thing not in watched:
            watched.append(thing)
        for widget in watched:
            widget.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        match event:
            case QFocusEvent() if event.reason() not in _OWN_FOCUS:
                self._later("enter" if event.gotFocus() else "leave")
            case QMouseEvent() if event.button() == Qt.MouseButton.LeftButton:
                if event.type() == QEvent.Type.MouseButtonDblClick:
                    self._later("double")
                elif event.type() == QEvent.Type.MouseButtonRelease:
                    self._later("click")
            case QEvent() if watched is self._thing and "point" in self._events:
                if event.type() == QEvent.Type.Enter:
                    self._resting.start()
                elif event.type() == QEvent.Type.Leave:
                    self._resting.stop()
        return super().eventFilter(watched, event)

    def _later(self, event: str) -> None:
        if event in self._events:
            self._queue.append(event)
            self._queued.start()

    def _tell_queued(self) -> None:
        told, self._queue = self._queue, []
        for event in told:
            self.happened.emit(event)
