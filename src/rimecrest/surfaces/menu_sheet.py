"""A right-click menu that stays open: what the studio shows of it, to be edited like any other row."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenButton, SeenMenu, SeenSeparator, SeenSubmenu
from rimecrest.surfaces.button import ItemButton, Rule
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.region import Region
from rimecrest.surfaces.titles import draw_title

HEAD = 24
SIDE = 6
ROW = 30
LEAST = 190


class MenuSheet(Region):
    """The items of one menu, one a line, under its name."""

    def __init__(self, menu: SeenMenu, painting: Painting, parent: QWidget) -> None:
        super().__init__(menu.title, parent)
        self.menu = menu
        self._painting = painting
        self.widgets: list[ItemButton | Rule] = []
        for item in menu.items:
            if isinstance(item, SeenSeparator):
                self.widgets.append(Rule(item, painting, False, self))
            elif isinstance(item, SeenButton):
                self.widgets.append(ItemButton(item, painting, False, self))
            elif isinstance(item, SeenSubmenu):
                self.widgets.append(ItemButton(_as_button(item), painting, False, self))
        self.resize(self.sizeHint())
        self._arrange()

    def sizeHint(self) -> QSize:
        widest = max((widget.sizeHint().width() for widget in self.widgets), default=0)
        tall = sum(self._height(widget) for widget in self.widgets)
        return QSize(max(widest + 2 * SIDE, LEAST), HEAD + tall + 2 * SIDE)

    @staticmethod
    def _height(widget: ItemButton | Rule) -> int:
        return ROW if isinstance(widget, ItemButton) else widget.sizeHint().height()

    def _arrange(self) -> None:
        top = HEAD + SIDE
        for widget in self.widgets:
            height = self._height(widget)
            wide = min(widget.sizeHint().width(), self.width() - 2 * SIDE)
            if not isinstance(widget, ItemButton):
                wide = self.width() - 2 * SIDE
            widget.setGeometry(SIDE, top, wide, height)
            widget.show()
            top += height

    def head(self) -> QRect:
        """Where its name stands."""
        return QRect(0, 0, self.width(), HEAD)

    def insertion_points(self, frame: QWidget) -> list[InsertionPoint]:
        """The places between its items, with carets in the pixels of `frame`."""
        origin = self.mapTo(frame, QPoint(0, 0))
        ground = QRect(origin, self.size())
        top, after = HEAD + SIDE, None
        found = []
        for widget in [None, *self.widgets]:
            if widget is not None:
                top = widget.geometry().bottom() + 1
                after = widget.item.id
            line = QRect(SIDE, top - 1, self.width() - 2 * SIDE, 2).translated(origin)
            found.append(InsertionPoint(self.menu.id, after, line, ground=ground))
        return found

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._painting.scheme
        painter.setPen(scheme.color("faint"))
        painter.setBrush(scheme.color("sheet"))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.setPen(scheme.color("ink2"))
        draw_title(painter, QRectF(self.head()).adjusted(22, 2, -4, 0), self.menu.title, 12)


def _as_button(item: SeenSubmenu) -> SeenButton:
    """The line that opens another menu, as it is drawn."""
    return SeenButton(
        id=item.id,
        layer=item.layer,
        stored=item.stored,
        changed_by=item.changed_by,
        run="",
        label=f"{item.title}  ▸",
        picture=item.picture,
    )
