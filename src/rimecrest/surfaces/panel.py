"""A panel beside the document: texts, fields, choices, lists, tick boxes and buttons.

They flow in rows, or stand on a free grid (`core.layout.panel_grid`).
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QContextMenuEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.catalogue.surfaces import AFLOAT
from rimecrest.core.layout.panel_grid import CELL, Cells, places
from rimecrest.core.layout.panel_grid import MARGIN as GRID_MARGIN
from rimecrest.core.layout.seen import SeenButton, SeenControl, SeenPanel, SeenSeparator, SeenSubmenu
from rimecrest.shell.theme import palette
from rimecrest.surfaces.button import ItemButton, Rule
from rimecrest.surfaces.floating import FIRST_PLACE, HeadDrag, draw_head, held_within
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel_button import PanelButton
from rimecrest.surfaces.panel_controls import Choices, ControlView
from rimecrest.surfaces.titles import draw_title

HEAD = 28
"""Pixels of a panel's head, where its name stands."""
MARGIN = 10
GAP = 6
LOW = 190
"""Pixels of a panel at the top or bottom edge."""
LEAST, LEAST_HIGH = 120, 64
"""Pixels across and down that a panel has at least, however little room there is."""

PanelItem = ItemButton | Rule | ControlView


class PanelView(QWidget):
    """One panel, beside the document or floating over it.

    Signals:
        dropped(point): its head was dragged there while it floats, to a point of the screen.
        asked(point): its head was right-clicked, at a point of the screen.
        triggered(identity): a button was pressed.
        happened(identity, event): something happened to a control, by hand.
        left: Escape in a field; the document wants the keys again.
    """

    triggered = pyqtSignal(str)
    happened = pyqtSignal(str, str)
    left = pyqtSignal()
    dropped = pyqtSignal(QPoint)
    asked = pyqtSignal(QPoint)

    def __init__(
        self, panel: SeenPanel, painting: Painting, choices: Choices, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.panel = panel
        if panel.edge in AFLOAT:
            self._drag = HeadDrag(self, self.head, self.dropped.emit)
        self._painting = painting
        self.setAccessibleName(panel.title)
        self.setPalette(palette(painting.scheme))
        self.widgets: list[PanelItem] = []
        self._inner = QWidget()
        self._rows: QVBoxLayout | None = None
        self.widgets += (
            self._made(item, choices) for item in panel.items if not isinstance(item, SeenSubmenu)
        )
        if panel.flow == "grid":
            self._stand()
        else:
            self._flow()
        for one, other in pairwise(self.widgets):
            QWidget.setTabOrder(_last_in(one), _first_in(other))
        self._scroll = QScrollArea(self)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidgetResizable(True)
        if panel.flow != "grid":
            self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        ground = self._scroll.palette()
        ground.setColor(ground.ColorRole.Window, painting.scheme.color(panel.background))
        self._scroll.setPalette(ground)
        self._scroll.setWidget(self._inner)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(1, HEAD, 1, 1)
        rows.addWidget(self._scroll)
        # Where there is little room it gives way, down to what can still be read; the document has its place.
        if panel.edge in AFLOAT:
            pass
        elif panel.edge in ("left", "right"):
            self.setMinimumWidth(min(LEAST, panel.width))
            self.setMaximumWidth(panel.width)
            self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Ignored)
        else:
            self.setMinimumHeight(LEAST_HIGH)
            self.setMaximumHeight(LOW)
            self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def _made(self, item: SeenButton | SeenSeparator | SeenControl, choices: Choices) -> PanelItem:
        if isinstance(item, SeenSeparator):
            return Rule(item, self._painting, False, self._inner)
        if isinstance(item, SeenButton):
            button = PanelButton(item, self._painting, self._inner)
            button.clicked.connect(lambda _=False, name=item.id: self.triggered.emit(name))
            button.happened.connect(lambda event, name=item.id: self.happened.emit(name, event))
            button.left.connect(self.left)
            return button
        control = ControlView(item, choices, self._inner)
        control.happened.connect(lambda event, name=item.id: self.happened.emit(name, event))
        control.left.connect(self.left)
        return control

    def _flow(self) -> None:
        """One row under the other; what is beside the thing before it shares its row."""
        self._rows = QVBoxLayout(self._inner)
        self._rows.setContentsMargins(MARGIN, 4, MARGIN, MARGIN)
        self._rows.setSpacing(GAP)
        for row in self._in_rows():
            if len(row) == 1:
                self._rows.addWidget(row[0])
                continue
            line = QHBoxLayout()
            line.setSpacing(GAP)
            for widget in row:
                small = isinstance(widget, Rule) or (
                    isinstance(widget, PanelButton) and widget.item.face == "picture"
                )
                line.addWidget(widget, 0 if small else 1, Qt.AlignmentFlag.AlignBottom)
            self._rows.addLayout(line)
        for widget in self.widgets:
            if isinstance(widget, PanelButton) and widget.item.face != "picture":
                # Its words end in "…" where the panel has no room for them.
                widget.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
                widget.setMinimumWidth(0)
        self._rows.addStretch(1)

    def _in_rows(self) -> list[list[PanelItem]]:
        rows: list[list[PanelItem]] = []
        for widget in self.widgets:
            if widget.item.beside and rows:
                rows[-1].append(widget)
            else:
                rows.append([widget])
        return rows

    def _stand(self) -> None:
        """Everything where the grid has it."""
        found = places(self.panel)
        for widget in self.widgets:
            widget.setGeometry(self.box_of(found[widget.item.id]))
        bottom = max((cells.bottom for cells in found.values()), default=0)
        right = max((cells.right for cells in found.values()), default=0)
        self._inner.setMinimumSize(right * CELL + 2 * GRID_MARGIN, bottom * CELL + 2 * GRID_MARGIN)

    @staticmethod
    def box_of(cells: Cells) -> QRect:
        """The place of some cells, in the pixels of what scrolls."""
        corner = QPoint(GRID_MARGIN + cells.column * CELL, GRID_MARGIN + cells.row * CELL)
        return QRect(corner, QSize(cells.columns * CELL, cells.rows * CELL))

    def give_way(self, across: int, down: int) -> None:
        """Take at most so many pixels beside the document, or above and below it."""
        if self.panel.edge in AFLOAT:
            return
        if self.panel.edge in ("left", "right"):
            self.setMaximumWidth(max(LEAST, min(self.panel.width, across)))
        else:
            self.setMaximumHeight(max(LEAST_HIGH, min(LOW, down)))

    # Floating

    def float_in(self, ground: QRect) -> None:
        """Stand where the layout says, as far as that is within the ground."""
        wanted = QPoint(*self.panel.at) if self.panel.at is not None else FIRST_PLACE
        size = self.sizeHint().boundedTo(ground.size())
        self.setMinimumSize(0, 0)
        self.setMaximumSize(size)
        self.setGeometry(QRect(held_within(wanted, size, ground), size))
        self.raise_()

    def types(self) -> bool:
        """Whether there is something in it to type into, or to choose from with keys."""
        return any(control.item.holds_value for control in self.controls())

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is not None and self.head().contains(event.pos()):
            self.asked.emit(event.globalPos())
            event.accept()

    def seen(self, frame: QWidget) -> QRect:
        """The part in which its things are seen, in the pixels of `frame`; the rest is scrolled out."""
        return QRect(frame.mapFromGlobal(self.mapToGlobal(QPoint(0, HEAD))), self.size() - QSize(0, HEAD))

    def origin(self, frame: QWidget) -> QPoint:
        """Where the first cell begins, in the pixels of `frame`."""
        return self._inner.mapTo(frame, QPoint(GRID_MARGIN, GRID_MARGIN))

    def sizeHint(self) -> QSize:
        inner = self._inner.sizeHint().expandedTo(self._inner.minimumSize())
        tall = inner.height() + HEAD + 2
        return QSize(self.panel.width, LOW if self.panel.edge in ("top", "bottom") else tall)

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
        lines = self._grid_lines() if self._rows is None else self._row_lines()
        placed = [(after, beside, line.translated(origin)) for after, beside, line in lines]
        return [
            InsertionPoint(self.panel.id, after, line, beside=beside, ground=seen)
            for after, beside, line in placed
            if seen.contains(line.center())
        ]

    def _row_lines(self) -> Iterator[tuple[str | None, bool, QRect]]:
        """(thing, whether in its row, line) of every place where something can be put."""
        across = self.width() - 2 * MARGIN - 2
        yield None, False, QRect(MARGIN, 1, across, 2)
        for row in self._in_rows():
            top = min(widget.geometry().top() for widget in row)
            bottom = max(widget.geometry().bottom() for widget in row)
            for widget in row:
                right = min(widget.geometry().right() + 1 + GAP // 2, self.width() - 5)
                yield widget.item.id, True, QRect(right - 1, top, 2, bottom - top + 1)
            yield row[-1].item.id, False, QRect(MARGIN, bottom + GAP // 2, across, 2)

    def _grid_lines(self) -> Iterator[tuple[str | None, bool, QRect]]:
        yield None, False, QRect(GRID_MARGIN, 2, self.width() - 2 * GRID_MARGIN, 2)
        for widget in self.widgets:
            box = widget.geometry()
            yield widget.item.id, False, QRect(box.left(), box.bottom() + 1, box.width(), 2)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        scheme = self._painting.scheme
        painter.fillRect(self.rect(), scheme.color(self.panel.background))
        painter.setPen(scheme.color("line"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        draw_head(painter, self.head(), self.panel.edge, scheme)
        painter.setPen(scheme.color("ink"))
        draw_title(painter, QRectF(self.head()).adjusted(22, 2, -8, 0), self.panel.title, 13)


def _first_in(widget: QWidget) -> QWidget:
    """What Tab reaches first in a control; the widget itself where nothing in it does."""
    return next(_reached(widget), widget)


def _last_in(widget: QWidget) -> QWidget:
    return next(reversed(list(_reached(widget))), widget)


def _reached(widget: QWidget) -> Iterator[QWidget]:
    for inner in widget.findChildren(QWidget):
        if inner.focusPolicy() & Qt.FocusPolicy.TabFocus:
            yield inner
