"""A panel beside the document: texts, fields, choices, lists, tick boxes and buttons, one under the other."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFrame,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.layout import SeenButton, SeenControl, SeenPanel, SeenSeparator
from rimecrest.shell.theme import palette
from rimecrest.surfaces.button import ItemButton, Rule
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel_controls import Choices, ControlView
from rimecrest.surfaces.titles import draw_title

HEAD = 28
"""Pixels of a panel's head, where its name stands."""
MARGIN = 10
GAP = 6
LOW = 190
"""Pixels of a panel at the top or bottom edge."""

PanelItem = ItemButton | Rule | ControlView


class PanelView(QWidget):
    """One panel.

    Signals:
        triggered(identity): a button was pressed.
        happened(identity, event): something happened to a control, by hand.
        left: Escape in a field; the document wants the keys again.
    """

    triggered = pyqtSignal(str)
    happened = pyqtSignal(str, str)
    left = pyqtSignal()

    def __init__(
        self, panel: SeenPanel, painting: Painting, choices: Choices, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.panel = panel
        self._painting = painting
        self.setAccessibleName(panel.title)
        self.setPalette(palette(painting.scheme))
        self.widgets: list[PanelItem] = []
        self._inner = QWidget()
        self._rows = QVBoxLayout(self._inner)
        self._rows.setContentsMargins(MARGIN, 4, MARGIN, MARGIN)
        self._rows.setSpacing(GAP)
        for item in panel.items:
            widget = self._made(item, choices)
            self.widgets.append(widget)
            self._rows.addWidget(widget)
        self._rows.addStretch(1)
        self._scroll = QScrollArea(self)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        ground = self._scroll.palette()
        ground.setColor(ground.ColorRole.Window, painting.scheme.color(panel.background))
        self._scroll.setPalette(ground)
        self._scroll.setWidget(self._inner)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(1, HEAD, 1, 1)
        rows.addWidget(self._scroll)
        if panel.edge in ("left", "right"):
            self.setFixedWidth(panel.width)
        else:
            self.setFixedHeight(LOW)

    def _made(self, item: SeenButton | SeenSeparator | SeenControl, choices: Choices) -> PanelItem:
        if isinstance(item, SeenSeparator):
            return Rule(item, self._painting, False, self._inner)
        if isinstance(item, SeenButton):
            button = ItemButton(item, self._painting, False, self._inner)
            button.clicked.connect(lambda _=False, name=item.id: self.triggered.emit(name))
            return button
        control = ControlView(item, choices, self._inner)
        control.happened.connect(lambda event, name=item.id: self.happened.emit(name, event))
        control.left.connect(self.left)
        return control

    def sizeHint(self) -> QSize:
        inner = self._inner.sizeHint()
        return QSize(max(inner.width() + 2, self.panel.width), inner.height() + HEAD + 2)

    def controls(self) -> list[ControlView]:
        """Its texts, fields, choices, lists and tick boxes."""
        return [widget for widget in self.widgets if isinstance(widget, ControlView)]

    def values(self) -> dict[str, str]:
        """Identity → value of everything that has one."""
        return {view.item.id: view.value() for view in self.controls() if view.item.holds_value}

    def put_values(self, values: dict[str, str]) -> None:
        """Take over values, as far as their controls are still here."""
        for view in self.controls():
            if view.item.id in values:
                view.put(values[view.item.id])

    def refill(self) -> None:
        """Have its choices and lists show the entries that there are now."""
        for view in self.controls():
            view.refill()

    def head(self) -> QRect:
        """Where its name stands."""
        return QRect(0, 0, self.width(), HEAD)

    def settle(self) -> None:
        """Have everything in its place now."""
        for layout in (self.layout(), self._rows):
            if layout is not None:
                layout.activate()

    def insertion_points(self, frame: QWidget) -> list[InsertionPoint]:
        """The places between its items that are seen, with carets in the pixels of `frame`."""
        origin = self._inner.mapTo(frame, QPoint(0, 0))
        seen = QRect(self.mapTo(frame, QPoint(0, 0)), self.size())
        at, after = 2, None
        found = []
        for widget in [None, *self.widgets]:
            if widget is not None:
                at = widget.geometry().bottom() + 1 + GAP // 2
                after = widget.item.id
            line = QRect(MARGIN, at - 1, self.width() - 2 * MARGIN - 2, 2).translated(origin)
            if seen.contains(line.center()):
                found.append(InsertionPoint(self.panel.id, after, line, ground=seen))
        return found

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        scheme = self._painting.scheme
        painter.fillRect(self.rect(), scheme.color(self.panel.background))
        painter.setPen(scheme.color("line"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.setPen(scheme.color("ink"))
        draw_title(painter, QRectF(self.head()).adjusted(22, 2, -8, 0), self.panel.title, 13)
