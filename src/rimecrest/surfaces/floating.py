"""What floats, over the document or in a window of its own: its head, and how it is dragged by it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QContextMenuEvent, QGuiApplication, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.catalogue.surfaces import Edge
from rimecrest.shell.theme import Scheme
from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.titles import draw_title

HEAD = 20
"""Pixels of a floating thing's head, where its name stands."""
FIRST_PLACE = QPoint(24, 24)
"""Where something floats that nobody has put anywhere, from the document's corner."""


def held_within(wanted: QPoint, size: QSize, ground: QRect) -> QPoint:
    """The corner nearest to a wanted one, from the ground's corner, at which all of a thing is within it."""
    left = max(0, min(wanted.x(), ground.width() - size.width()))
    top = max(0, min(wanted.y(), ground.height() - size.height()))
    return ground.topLeft() + QPoint(left, top)


class HeadDrag(QObject):
    """Drags a floating view by its head; in a window of its own, that window.

    `dropped` is called with the point of the screen where it was let go.
    """

    def __init__(self, view: QWidget, head: Callable[[], QRect], dropped: Callable[[QPoint], None]) -> None:
        super().__init__(view)
        self._view = view
        self._head = head
        self._dropped = dropped
        self._held: QPoint | None = None
        view.installEventFilter(self)

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QMouseEvent):
            point = event.position().toPoint()
            match event.type():
                case QEvent.Type.MouseButtonPress if event.button() == Qt.MouseButton.LeftButton:
                    return self._press(point)
                case QEvent.Type.MouseMove if self._held is not None:
                    moved = self._moved()
                    moved.move(moved.pos() + point - self._held)
                    return True
                case QEvent.Type.MouseButtonRelease if self._held is not None:
                    self._held = None
                    self._dropped(event.globalPosition().toPoint())
                    return True
        return False

    def _press(self, point: QPoint) -> bool:
        """Take hold of the head. Returns whether the point is on it."""
        if not self._head().contains(point):
            return False
        moved = self._moved()
        handle = moved.windowHandle()
        # Where the desktop places windows, it alone can move one.
        alone = moved.isWindow() and QGuiApplication.platformName().startswith("wayland")
        if not (alone and handle is not None and handle.startSystemMove()):
            self._held = point
        return True

    def _moved(self) -> QWidget:
        above = self._view.parentWidget()
        own = above is not None and above.isWindow() and above.size() == self._view.size()
        return above if own and above is not None else self._view


def draw_head(painter: QPainter, head: QRect, edge: Edge, scheme: Scheme) -> None:
    """Draw what tells a window of its own from what floats over the document: a darker, ruled head."""
    if edge != "window":
        return
    painter.fillRect(head.adjusted(1, 1, -1, 0), scheme.color("line"))
    painter.setPen(scheme.color("ink2"))
    painter.drawLine(1, head.bottom(), head.width() - 2, head.bottom())


class FloatingSheet(QWidget):
    """A bar that floats over the document: its name at the head, its items beneath.

    Signals:
        dropped(point): its head was dragged there, to a point of the screen.
    """

    dropped = pyqtSignal(QPoint)

    def __init__(self, bar: Bar, painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self.bar = bar
        self._painting = painting
        self._drag = HeadDrag(self, self.head, self.dropped.emit)
        bar.setParent(self)
        bar.setMinimumSize(0, 0)
        bar.setMaximumSize(QSize(16777215, 16777215))
        self.setObjectName(f"floating {bar.surface.id}")
        self.setAccessibleName(bar.surface.title)

    def sizeHint(self) -> QSize:
        inner = self.bar.sizeHint()
        head = self.fontMetrics().horizontalAdvance(self.bar.surface.title) + 24
        return QSize(max(inner.width(), head) + 2, inner.height() + HEAD + 2)

    def place(self, ground: QRect) -> None:
        """Stand where the layout says, as far as that is within the ground; what does not fit is under »."""
        at = self.bar.surface.at
        size = self.sizeHint().boundedTo(ground.size())
        corner = held_within(QPoint(*at) if at is not None else FIRST_PLACE, size, ground)
        self.setGeometry(QRect(corner, size))
        self.arrange()
        self.raise_()

    def arrange(self) -> None:
        """Have the bar beneath its name."""
        self.bar.setGeometry(1, HEAD + 1, self.width() - 2, self.height() - HEAD - 2)
        self.bar.show()
        self.bar.arrange()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.arrange()

    def head(self) -> QRect:
        """Where the name stands."""
        return QRect(0, 0, self.width(), HEAD)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is None:
            return
        if self.head().contains(event.pos()):
            event.accept()
            self.bar.asked.emit(event.globalPos())
        else:
            event.ignore()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        scheme = self._painting.scheme
        painter.fillRect(self.rect(), scheme.color("spine"))
        painter.setPen(scheme.color("faint"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        draw_head(painter, self.head(), self.bar.surface.edge, scheme)
        painter.setPen(scheme.color("ink2"))
        draw_title(painter, QRectF(self.head()).adjusted(20, 0, -4, 0), self.bar.surface.title, 11)
