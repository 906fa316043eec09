"""An item as a button of a panel: Tab reaches it, and it has events besides its click."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenButton
from rimecrest.surfaces.button import RADIUS, ItemButton
from rimecrest.surfaces.happenings import Happenings
from rimecrest.surfaces.painting import Painting


class PanelButton(ItemButton):
    """A button among the fields of a panel. Tab goes to it, a click with the mouse leaves the keys.

    Signals:
        happened(event): one of `core.catalogue.items.Event` that it listens to; its click is `clicked`.
        left: Escape; the document wants the keys again.
    """

    happened = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, item: SeenButton, painting: Painting, parent: QWidget) -> None:
        super().__init__(item, painting, False, parent)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._events = frozenset(doing.event for doing in item.doings)
        happenings = Happenings(self, [self], self._events)
        happenings.happened.connect(self.happened)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if "double" not in self._events:
            # Two quick clicks are two clicks.
            super().mouseDoubleClickEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        keys = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
        if event is not None and event.key() in keys and not event.isAutoRepeat():
            self._press()
        elif event is not None and event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def _press(self) -> None:
        """As a click does; what runs nothing then and something when clicked twice, does that."""
        if "double" in self._events and not (self.item.run or self.item.steps):
            self.happened.emit("double")
        else:
            self.click()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self.hasFocus():
            painter = QPainter(self)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(self._painting.scheme.color("crest"), 1.5))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), RADIUS, RADIUS)
