"""The panel beside the bed: a sheet of fixed width that scrolls when it is longer than the window."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.shared.slim_bar import slim

WIDTH = 292
SIDE = 16
ROOM = WIDTH - 2 * SIDE - 16
"""Width that words have, with a scroll bar beside them."""


class Panel(QScrollArea):
    """Rows of widgets on a sheet."""

    def __init__(self, name: str, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.setObjectName(name)
        self.setFixedWidth(WIDTH)
        self.setWidgetResizable(True)
        slim(self, scheme)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._page = QWidget()
        self._rows = QVBoxLayout(self._page)
        self._rows.setContentsMargins(SIDE, 14, SIDE, 14)
        self._rows.setSpacing(7)
        self.setWidget(self._page)
        there(self.viewport()).setAutoFillBackground(False)
        self._page.setAutoFillBackground(False)

    def clear(self) -> None:
        """Take every row off."""
        while (item := self._rows.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()

    def close_up(self) -> None:
        """Everything is there: lay it out at once, so that nothing is seen half laid."""
        self._rows.addStretch(1)
        self._rows.activate()
        tall = max(self._page.sizeHint().height(), there(self.viewport()).height())
        self._page.resize(there(self.viewport()).width(), tall)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.viewport())
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(there(self.viewport()).rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        painter.end()
        super().paintEvent(event)
