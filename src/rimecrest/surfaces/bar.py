"""A toolbar along one edge of the window."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, pyqtSignal
from PyQt6.QtGui import QContextMenuEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.fitting import staying
from rimecrest.core.layout.seen import SeenButton, SeenSeparator, SeenToolbar
from rimecrest.core.layout.widths import BAR_CELL
from rimecrest.core.layout.widths import BAR_GAP as GAP
from rimecrest.core.layout.widths import BAR_MARGIN as MARGIN
from rimecrest.surfaces.button import ItemButton, MoreButton, Rule
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.menu import build_menu
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.region import Region
from rimecrest.surfaces.rest_sheet import Rest


class Bar(Region):
    """Shows the items of one toolbar, upright at the left and right edges, lying at the top and bottom."""

    triggered = pyqtSignal(str)
    asked = pyqtSignal(QPoint)
    """Right-clicked off its items, at a point of the screen."""

    def __init__(self, surface: SeenToolbar, painting: Painting, parent: QWidget | None = None) -> None:
        super().__init__(surface.title, parent)
        self.surface = surface
        self.upright = surface.edge in ("left", "right")
        self._painting = painting
        self.widgets: list[ItemButton | Rule] = []
        for item in surface.items:
            if isinstance(item, SeenSeparator):
                self.widgets.append(Rule(item, painting, not self.upright, self))
            elif isinstance(item, SeenButton):
                button = ItemButton(item, painting, False, self)
                button.clicked.connect(lambda _checked=False, name=item.id: self.triggered.emit(name))
                self.widgets.append(button)
        self._more = MoreButton(painting, self)
        self._more.clicked.connect(self._show_rest)
        self._more.hide()

    def sizeHint(self) -> QSize:
        across = max([BAR_CELL, *(self._across(widget.sizeHint()) for widget in self.widgets)])
        length = sum(self._along(widget.sizeHint()) + GAP for widget in self.widgets) + 2 * MARGIN
        thick = across + 2 * MARGIN
        return QSize(thick, length) if self.upright else QSize(length, thick)

    def _along(self, size: QSize) -> int:
        return size.height() if self.upright else size.width()

    def _across(self, size: QSize) -> int:
        return size.width() if self.upright else size.height()

    def resizeEvent(self, _event: QResizeEvent | None) -> None:
        self.arrange()

    def arrange(self) -> None:
        """Place the items; what does not fit goes under »."""
        lengths = [self._along(widget.sizeHint()) + GAP for widget in self.widgets]
        room = self._along(self.size()) - 2 * MARGIN
        ranks = [widget.rank for widget in self.widgets]
        left = staying(lengths, ranks, room, MoreButton.SIZE)
        at = MARGIN
        for index, widget in enumerate(self.widgets):
            widget.setVisible(index in left)
            if index not in left:
                continue
            size = widget.sizeHint()
            # One under the other they begin at one line, however long their words are.
            across = MARGIN if self.upright else (self.height() - size.height()) // 2
            where = QPoint(across, at) if self.upright else QPoint(at, across)
            widget.setGeometry(QRect(where, size))
            at += lengths[index]
        self._more.setVisible(len(left) < len(self.widgets))
        end = self._along(self.size()) - MoreButton.SIZE - 2
        middle = (self._across(self.size()) - MoreButton.SIZE) // 2
        corner = QPoint(middle, end) if self.upright else QPoint(end, middle)
        self._more.setGeometry(QRect(corner, QSize(MoreButton.SIZE, MoreButton.SIZE)))

    def unseen(self) -> list[SeenButton]:
        """What does not fit."""
        return [w.item for w in self.widgets if isinstance(w, ItemButton) and w.isHidden()]

    def spare(self) -> int:
        """Pixels along it that nothing takes; 0 where not even what it has fits."""
        taken = sum(self._along(widget.sizeHint()) + GAP for widget in self.widgets) + 2 * MARGIN
        return max(0, self._along(self.size()) - taken)

    def more_for(self, identity: str) -> QRect | None:
        """The place of », when this item is under it."""
        return self._more.geometry() if any(item.id == identity for item in self.unseen()) else None

    def rest(self, frame: QWidget) -> Rest | None:
        """What is behind »; None while everything fits."""
        items = tuple(w.item for w in self.widgets if w.isHidden())
        if not items or self._more.isHidden():
            return None
        box = self._more.geometry().translated(self.mapTo(frame, QPoint(0, 0)))
        rows = {item.id: self.surface.id for item in items}
        return Rest(self.surface.id, self.surface.title, box, items, rows)

    def _show_rest(self) -> None:
        menu = build_menu(self.unseen(), self._painting, self.triggered.emit, self)
        menu.popup(self._more.mapToGlobal(QPoint(0, MoreButton.SIZE)))

    def insertion_points(self, frame: QWidget) -> list[InsertionPoint]:
        """The places between the visible items, with carets in the pixels of `frame`."""
        origin = self.mapTo(frame, QPoint(0, 0))
        thick = self._across(self.size()) - 2 * MARGIN
        ground = QRect(origin, self.size())
        at, after = MARGIN, None
        found = []
        for widget in [None, *(widget for widget in self.widgets if not widget.isHidden())]:
            if widget is not None:
                box = widget.geometry()
                at = (box.bottom() if self.upright else box.right()) + 1 + GAP // 2
                after = widget.item.id
            line = QRect(MARGIN, at - 1, thick, 2) if self.upright else QRect(at - 1, MARGIN, 2, thick)
            found.append(InsertionPoint(self.surface.id, after, line.translated(origin), ground=ground))
        return found

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        scheme = self._painting.scheme
        painter.fillRect(self.rect(), scheme.color("sheet"))
        painter.setPen(scheme.color("line"))
        edge = self.surface.edge
        box = self.rect()
        if edge == "left":
            painter.drawLine(box.topRight(), box.bottomRight())
        elif edge == "right":
            painter.drawLine(box.topLeft(), box.bottomLeft())
        elif edge == "float":
            return
        elif edge == "top":
            painter.drawLine(box.bottomLeft(), box.bottomRight())
        else:
            painter.drawLine(box.topLeft(), box.topRight())

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is None:
            return
        if any(not w.isHidden() and w.geometry().contains(event.pos()) for w in self.widgets):
            # The item is asked about, not the bar.
            event.ignore()
            return
        self.asked.emit(event.globalPos())
        event.accept()
