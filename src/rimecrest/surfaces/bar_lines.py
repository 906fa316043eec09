"""Where bars stand: lines along an edge that several may share, and sheets that float over the document."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QBoxLayout, QSizePolicy, QWidget

from rimecrest.core.layout import SeenToolbar
from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.titles import draw_title

HEAD = 20
"""Pixels of a floating bar's head, where its name stands."""
FIRST_PLACE = QPoint(24, 24)
"""Where a floating bar stands that nobody has put anywhere, from the document's corner."""


def lines_of(bars: Iterable[Bar]) -> list[list[Bar]]:
    """The bars of each line: those of one edge that follow one another with the same row share one.

    Floating ones stand in no line.
    """
    lines: list[list[Bar]] = []
    last: dict[str, list[Bar]] = {}
    for bar in bars:
        edge, row = bar.surface.edge, bar.surface.row
        if edge == "float":
            continue
        line = last.get(edge)
        if line is not None and row is not None and line[-1].surface.row == row:
            line.append(bar)
        else:
            last[edge] = [bar]
            lines.append(last[edge])
    return lines


def fix_thickness(bar: Bar, thick: int) -> None:
    """Give a bar its size across; along its line it takes what there is."""
    if bar.upright:
        bar.setFixedWidth(thick)
        bar.setMinimumHeight(0)
    else:
        bar.setFixedHeight(thick)
        bar.setMinimumWidth(0)


class Line(QWidget):
    """Several bars that share a line; the last takes the room that is left."""

    def __init__(self, bars: list[Bar], parent: QWidget) -> None:
        super().__init__(parent)
        upright = bars[0].upright
        along = QBoxLayout.Direction.TopToBottom if upright else QBoxLayout.Direction.LeftToRight
        row = QBoxLayout(along, self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        hints = [bar.sizeHint() for bar in bars]
        thick = max(hint.width() if upright else hint.height() for hint in hints)
        for bar in bars:
            last = bar is bars[-1]
            grows = QSizePolicy.Policy.Expanding if last else QSizePolicy.Policy.Preferred
            bar.setSizePolicy(grows, grows)
            fix_thickness(bar, thick)
            row.addWidget(bar, 1 if last else 0)
        if upright:
            self.setFixedWidth(thick)
        else:
            self.setFixedHeight(thick)


class FloatingSheet(QWidget):
    """A bar that floats over the document: its name at the head, its items beneath.

    Signals:
        dropped(point): its head was dragged there, in the pixels of what it floats in.
    """

    dropped = pyqtSignal(QPoint)

    def __init__(self, bar: Bar, painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self.bar = bar
        self._painting = painting
        self._held: QPoint | None = None
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
        wanted = QPoint(*at) if at is not None else FIRST_PLACE
        size = self.sizeHint().boundedTo(ground.size())
        left = max(0, min(wanted.x(), ground.width() - size.width()))
        top = max(0, min(wanted.y(), ground.height() - size.height()))
        self.setGeometry(QRect(ground.topLeft() + QPoint(left, top), size))
        self.bar.setGeometry(1, HEAD + 1, size.width() - 2, size.height() - HEAD - 2)
        self.bar.show()
        self.bar.arrange()
        self.raise_()

    def head(self) -> QRect:
        """Where the name stands."""
        return QRect(0, 0, self.width(), HEAD)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.head().contains(event.position().toPoint()):
            self._held = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._held is not None:
            self.move(self.pos() + event.position().toPoint() - self._held)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._held is not None:
            self._held = None
            self.dropped.emit(self.mapToParent(event.position().toPoint()))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._painting.scheme
        painter.setPen(scheme.color("faint"))
        painter.setBrush(scheme.color("spine"))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.setPen(scheme.color("ink2"))
        draw_title(painter, QRectF(self.head()).adjusted(20, 0, -4, 0), self.bar.surface.title, 11)


def floating(surface: SeenToolbar) -> bool:
    """Whether a bar floats."""
    return surface.edge == "float"
