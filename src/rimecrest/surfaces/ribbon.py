"""Ribbon tabs: the strip of their names, and the page of the one that is open."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPainterPath, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractButton, QWidget

from rimecrest.core.layout import SeenButton, SeenGroup, SeenSeparator, SeenTab
from rimecrest.shell.theme import bold, font
from rimecrest.surfaces.button import CELL_HEIGHT, RADIUS, ItemButton, MoreButton, Rule
from rimecrest.surfaces.fitting import staying
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.menu import build_menu
from rimecrest.surfaces.painting import Painting

STRIP_HEIGHT = 36
PAGE_HEIGHT = 92
PADDING = 16
GROUP_GAP = 19
BOUNDARY = 15
"""Pixels of the place between two groups where the studio offers a new one."""
CAPTION = 18
SEPARATOR = 9


def _boundary(centre: int) -> QRect:
    return QRect(centre - BOUNDARY // 2, 7, BOUNDARY, CELL_HEIGHT + 2)


class TabName(QAbstractButton):
    """The name of a tab in the strip."""

    def __init__(self, tab: SeenTab, painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self.tab = tab
        self._painting = painting
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setAccessibleName(f"Tab {tab.title}")

    def sizeHint(self) -> QSize:
        return QSize(QFontMetrics(bold(13)).horizontalAdvance(self.tab.title) + 30, STRIP_HEIGHT)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._painting.scheme
        if self.isChecked():
            path = QPainterPath()
            box = QRectF(self.rect()).adjusted(0.5, 6.5, -0.5, RADIUS + 2)
            path.addRoundedRect(box, RADIUS, RADIUS)
            painter.setPen(scheme.color("line"))
            painter.setBrush(scheme.color("paper"))
            painter.drawPath(path)
        elif self.underMouse():
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(scheme.color("hover"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(3, 8, -3, -4), RADIUS, RADIUS)
        painter.setPen(scheme.color("ink"))
        painter.setFont(bold(13) if self.isChecked() else font(13))
        painter.drawText(self.rect().adjusted(0, 5, 0, 0), Qt.AlignmentFlag.AlignCenter, self.tab.title)


class TabStrip(QWidget):
    """All tabs' names."""

    chosen = pyqtSignal(str)

    def __init__(self, tabs: tuple[SeenTab, ...], painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self._painting = painting
        self.names = [TabName(tab, painting, self) for tab in tabs]
        at = 10
        for name in self.names:
            size = name.sizeHint()
            name.setGeometry(at, 0, size.width(), size.height())
            name.clicked.connect(lambda _checked=False, tab=name.tab.id: self.chosen.emit(tab))
            at += size.width() + 2
        self.setFixedHeight(STRIP_HEIGHT)

    def mark(self, tab: str) -> None:
        for name in self.names:
            name.setChecked(name.tab.id == tab)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        scheme = self._painting.scheme
        painter.fillRect(self.rect(), scheme.color("sheet"))
        painter.setPen(scheme.color("line"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class GroupView:
    """One group on the page: its widgets and where they are."""

    def __init__(self, group: SeenGroup, page: Page) -> None:
        self.group = group
        self.widgets: list[ItemButton | Rule] = []
        for item in group.items:
            if isinstance(item, SeenSeparator):
                self.widgets.append(Rule(item, page.painting, True, page))
            else:
                button = ItemButton(item, page.painting, True, page)
                button.clicked.connect(lambda _checked=False, name=item.id: page.triggered.emit(name))
                self.widgets.append(button)
        self.box = QRect()

    def least_width(self) -> int:
        return QFontMetrics(font(11)).horizontalAdvance(self.group.title) + 8


class Page(QWidget):
    """The open tab: its groups side by side, with a caption under each."""

    triggered = pyqtSignal(str)

    def __init__(self, tab: SeenTab, painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self.tab = tab
        self.painting = painting
        self.offers_groups = False
        """Whether the boundaries between groups are slots: on the studio's stage they are."""
        self.groups = [GroupView(group, self) for group in tab.groups]
        self._more = MoreButton(painting, self)
        self._more.clicked.connect(self._show_rest)
        self._more.hide()
        self.boundaries: list[QRect] = []
        self.setFixedHeight(PAGE_HEIGHT)
        self.setAccessibleName(tab.title)

    def resizeEvent(self, _event: QResizeEvent | None) -> None:
        self.arrange()

    def arrange(self) -> None:
        """Place all items; what does not fit goes under »."""
        widgets = [(group, widget) for group in self.groups for widget in group.widgets]
        lengths = [
            widget.sizeHint().width() if isinstance(widget, ItemButton) else SEPARATOR
            for _, widget in widgets
        ]
        ranks = [widget.rank for _, widget in widgets]
        gaps = GROUP_GAP * max(len(self.groups) - 1, 0)
        # A caption wider than its items pushes the next group on.
        gaps += sum(
            max(0, group.least_width() - sum(w.sizeHint().width() for w in group.widgets))
            for group in self.groups
        )
        left = staying(lengths, ranks, self.width() - 2 * PADDING - gaps, MoreButton.SIZE)
        at, index = PADDING, 0
        self.boundaries = [_boundary(PADDING // 2)]
        for group in self.groups:
            start, first = at, index
            for widget in group.widgets:
                widget.setVisible(index in left)
                if index in left:
                    tall = widget.sizeHint().height() if isinstance(widget, ItemButton) else CELL_HEIGHT
                    widget.setGeometry(at, 7, lengths[index], tall)
                    at += lengths[index]
                index += 1
            if group.widgets and not left & set(range(first, index)):
                # All of it went under »: no caption stands there without its items.
                group.box = QRect()
                self.boundaries.append(_boundary(at - GROUP_GAP // 2))
                continue
            at = max(at, start + group.least_width())
            group.box = QRect(start, 0, at - start, PAGE_HEIGHT)
            self.boundaries.append(_boundary(at + GROUP_GAP // 2))
            at += GROUP_GAP
        self._more.setVisible(len(left) < len(widgets))
        self._more.setGeometry(self.width() - MoreButton.SIZE - 4, 28, MoreButton.SIZE, MoreButton.SIZE + 8)
        self.update()

    def unseen(self) -> list[SeenButton]:
        """What does not fit."""
        widgets = (widget for group in self.groups for widget in group.widgets)
        return [w.item for w in widgets if isinstance(w, ItemButton) and w.isHidden()]

    def _show_rest(self) -> None:
        menu = build_menu(self.unseen(), self.painting, self.triggered.emit, self)
        menu.popup(self._more.mapToGlobal(QPoint(0, MoreButton.SIZE)))

    def insertion_points(self, frame: QWidget) -> list[InsertionPoint]:
        """Places between the items of every group, and for a new group at every boundary."""
        origin = self.mapTo(frame, QPoint(0, 0))
        found = []
        for index, group in enumerate(self.groups):
            if group.box.isNull():
                continue
            if self.offers_groups:
                before = self.groups[index - 1].group.id if index else None
                box = self.boundaries[index].translated(origin)
                found.append(InsertionPoint(self.tab.id, before, box, new_group=True))
            at, after = group.box.left(), None
            for widget in [None, *(widget for widget in group.widgets if not widget.isHidden())]:
                if widget is not None:
                    at = widget.geometry().right() + 1
                    after = widget.item.id
                caret = QRect(at - 1, 8, 2, CELL_HEIGHT).translated(origin)
                found.append(InsertionPoint(group.group.id, after, caret))
        if self.offers_groups:
            last = self.groups[-1].group.id if self.groups else None
            found.append(
                InsertionPoint(self.tab.id, last, self.boundaries[-1].translated(origin), new_group=True)
            )
        return found

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self.painting.scheme
        painter.fillRect(self.rect(), scheme.color("paper"))
        painter.setPen(scheme.color("line"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
        painter.setFont(font(11))
        for index, group in enumerate(self.groups):
            if group.box.isNull():
                continue
            painter.setPen(scheme.color("ink2"))
            box = QRect(group.box.left(), PAGE_HEIGHT - CAPTION - 3, group.box.width(), CAPTION)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, group.group.title)
            if any(not later.box.isNull() for later in self.groups[index + 1 :]):
                painter.setPen(scheme.color("line"))
                x = group.box.right() + GROUP_GAP // 2 + 1
                painter.drawLine(x, 8, x, PAGE_HEIGHT - 8)
