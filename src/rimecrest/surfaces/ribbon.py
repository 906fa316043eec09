"""The page of the open ribbon tab.

A page is a row of groups, each a sheet with one corner cut away: its name at the head, its items beneath in
two rows, picture beside words. The names of the tabs are above it (`tab_strip.TabStrip`).
"""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import QAbstractButton, QWidget

from rimecrest.core.layout.fitting import fit_groups
from rimecrest.core.layout.flow import ROWS, Cell, behind, column_widths, flow
from rimecrest.core.layout.seen import SeenButton, SeenGroup, SeenSeparator, SeenTab
from rimecrest.core.layout.widths import (
    CELL_HEIGHT,
    COLUMN_GAP,
    GROUP_GAP,
    GROUP_SIDE,
    PAGE_MARGIN,
    SEPARATOR,
    TITLE_MOST,
)
from rimecrest.core.words import tr
from rimecrest.shell.theme import bold
from rimecrest.surfaces.button import ItemButton, MoreButton, Rule
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.menu import build_menu
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.region import Region
from rimecrest.surfaces.rest_sheet import Rest
from rimecrest.surfaces.ribbon_drawing import CUT, MARK, PICTURE, cut_corner, draw_picture, short

MARGIN = PAGE_MARGIN
"""Pixels around the groups."""
HEAD = 22
"""Pixels of a group's head, where its name stands."""
SIDE = GROUP_SIDE
GROUP_HEIGHT = HEAD + ROWS * CELL_HEIGHT + 6
PAGE_HEIGHT = GROUP_HEIGHT + 2 * MARGIN


class FoldedGroup(QAbstractButton):
    """A group for which there is no room, as one button with its name."""

    def __init__(self, group: SeenGroup, painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self._title = group.title
        self._picture = group.picture
        self._painting = painting
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setAccessibleName(tr("Group {title}", title=group.title))
        self.setToolTip(tr("{title}: there is no room for all of it at this width", title=group.title))

    def sizeHint(self) -> QSize:
        words = min(QFontMetrics(bold(12)).horizontalAdvance(self._title), TITLE_MOST)
        return QSize(words + 2 * MARK, GROUP_HEIGHT)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._painting.scheme
        painter.setPen(scheme.color("line"))
        painter.setBrush(scheme.color("hover" if self.underMouse() else "sheet"))
        painter.drawPath(cut_corner(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)))
        painter.setPen(scheme.color("ink"))
        painter.setFont(bold(12))
        box = QRectF(self.rect())
        if self._picture:
            at = QPoint((self.width() - PICTURE) // 2, 8)
            draw_picture(painter, self._painting, self._picture, at, self.devicePixelRatioF())
        words = short(self._title, bold(12))
        painter.drawText(box.adjusted(0, -8, 0, -8), Qt.AlignmentFlag.AlignCenter, words)
        middle = QPointF(box.center().x(), box.center().y() + 12)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(scheme.color("ink"))
        left, right, low = QPointF(-5, -3), QPointF(5, -3), QPointF(0, 3)
        painter.drawPolygon(QPolygonF([middle + left, middle + right, middle + low]))


class GroupView:
    """One group on the page: its widgets, and where they stand in it."""

    def __init__(self, group: SeenGroup, page: Page) -> None:
        self.group = group
        self._holder = Region(group.title, page)
        self._holder.setToolTip(group.title if short(group.title, bold(12)) != group.title else "")
        self.widgets: list[ItemButton | Rule] = []
        for item in group.items:
            if isinstance(item, SeenSeparator):
                self.widgets.append(Rule(item, page.painting, True, self._holder))
            elif isinstance(item, SeenButton):
                button = ItemButton(item, page.painting, True, self._holder)
                button.clicked.connect(lambda _checked=False, name=item.id: page.triggered.emit(name))
                self.widgets.append(button)
        self.folded = FoldedGroup(group, page.painting, page)
        self.folded.hide()
        self.box = QRect()
        """On the page; its name stands at the head of it."""
        self.cells: list[Cell] = flow(
            [w.item.width if isinstance(w, ItemButton) else 0 for w in self.widgets]
        )
        self._columns: list[int] = []

    def ranks(self) -> list[int | None]:
        """The rank of each item whose words can go."""
        return [w.rank if isinstance(w, ItemButton) and w.can_be_bare() else None for w in self.widgets]

    def _widths(self, bare: frozenset[int]) -> list[int]:
        return [
            widget.cell_width(place in bare) if isinstance(widget, ItemButton) else SEPARATOR
            for place, widget in enumerate(self.widgets)
        ]

    def width(self, bare: frozenset[int]) -> int:
        """Pixels of the whole group when the items at some places show no words."""
        columns = column_widths(self.cells, self._widths(bare), COLUMN_GAP)
        inner = sum(columns) + COLUMN_GAP * max(len(columns) - 1, 0)
        head = min(QFontMetrics(bold(12)).horizontalAdvance(self.group.title), TITLE_MOST) + MARK + CUT
        return max(inner, head, CELL_HEIGHT) + 2 * SIDE

    def place(self, left: int, bare: frozenset[int], fold: bool) -> int:
        """Put everything in its place from a pixel of the page on; returns the width."""
        wide = self.folded.sizeHint().width() if fold else self.width(bare)
        self.box = QRect(left, MARGIN, wide, GROUP_HEIGHT)
        self.folded.setVisible(fold)
        self.folded.setGeometry(self.box)
        self._holder.setVisible(not fold)
        self._holder.setGeometry(self.box)
        self._columns = column_widths(self.cells, self._widths(bare), COLUMN_GAP)
        for place, (widget, cell) in enumerate(zip(self.widgets, self.cells, strict=True)):
            widget.setVisible(not fold)
            if isinstance(widget, ItemButton):
                widget.bare = place in bare
                size = QSize(widget.cell_width(widget.bare), CELL_HEIGHT)
                widget.setGeometry(QRect(self._corner(cell.column, cell.row) - self.box.topLeft(), size))
            else:
                tall = QSize(SEPARATOR, ROWS * CELL_HEIGHT)
                widget.setGeometry(QRect(self._corner(cell.column, 0) - self.box.topLeft(), tall))
        return wide

    def _corner(self, column: int, row: int) -> QPoint:
        past = sum(self._columns[:column]) + COLUMN_GAP * column
        return QPoint(self.box.left() + SIDE + past, MARGIN + HEAD + row * CELL_HEIGHT)

    def caret(self, place: int) -> QRect:
        """Where the caret stands before the item at a place; behind the last one, where the next would be."""
        if place < len(self.cells):
            corner = self._corner(self.cells[place].column, self.cells[place].row)
            tall = CELL_HEIGHT if self.cells[place].span else ROWS * CELL_HEIGHT
        else:
            corner, tall = self._corner(*behind(self.cells)), CELL_HEIGHT
        return QRect(corner.x() - 1, corner.y() + 2, 2, tall - 4)

    def head(self) -> QRect:
        """Where the name stands."""
        return QRect(self.box.left(), self.box.top(), self.box.width(), HEAD)


class Page(Region):
    """The open tab: its groups side by side."""

    triggered = pyqtSignal(str)

    def __init__(self, tab: SeenTab, painting: Painting, parent: QWidget) -> None:
        super().__init__(tab.title, parent)
        self.tab = tab
        self.painting = painting
        self.groups = [GroupView(group, self) for group in tab.groups]
        for group in self.groups:
            group.folded.clicked.connect(lambda _checked=False, group=group: self._unfold(group))
        self._more = MoreButton(painting, self)
        self._more.clicked.connect(self._show_rest)
        self._more.hide()
        self._beyond: list[GroupView] = []
        self._arranged_for = -1
        """The width that everything was placed for last: nothing else makes a difference."""
        self.setFixedHeight(PAGE_HEIGHT)

    def resizeEvent(self, _event: QResizeEvent | None) -> None:
        self.arrange()

    def arrange(self) -> None:
        """Place all groups; where there is no room words go, then groups fold, the rest goes under »."""
        if self._arranged_for == self.width():
            return
        self._arranged_for = self.width()
        gaps = GROUP_GAP * max(len(self.groups) - 1, 0)
        room = self.width() - 2 * MARGIN - 2 - gaps
        folded = [group.folded.sizeHint().width() for group in self.groups]
        bare, folds = fit_groups(
            [group.ranks() for group in self.groups], lambda n, gone: self.groups[n].width(gone), folded, room
        )
        at = MARGIN + 2
        self._beyond = []
        for index, group in enumerate(self.groups):
            at += group.place(at, bare[index], index in folds) + GROUP_GAP
        end = self.width() - MARGIN
        if at - GROUP_GAP > end:
            end -= MoreButton.SIZE + 4
            self._beyond = [group for group in self.groups if group.box.right() > end]
            for group in self._beyond:
                group.folded.hide()
                for widget in group.widgets:
                    widget.hide()
                group.box = QRect()
        self._more.setVisible(bool(self._beyond))
        self._more.setGeometry(self.width() - MoreButton.SIZE - 4, 28, MoreButton.SIZE, MoreButton.SIZE + 8)
        self.update()

    def unseen(self) -> list[SeenButton]:
        """What shows only when a folded group or » is opened."""
        widgets = (widget for group in self.groups for widget in group.widgets)
        return [w.item for w in widgets if isinstance(w, ItemButton) and w.isHidden()]

    def holder_of(self, identity: str) -> QRect | None:
        """The folded group that an item is in, or the place of », when it is under one of these."""
        for group in self.groups:
            if any(item.id == identity for item in group.group.items):
                if group in self._beyond:
                    return self._more.geometry()
                return None if group.folded.isHidden() else group.box
        return None

    def rests(self, frame: QWidget) -> list[Rest]:
        """What is in folded groups and behind »."""
        origin = self.mapTo(frame, QPoint(0, 0))
        found = []
        for group in self.groups:
            if group not in self._beyond and not group.folded.isHidden():
                identity = group.group.id
                rows = {item.id: identity for item in group.group.items}
                box = group.box.translated(origin)
                found.append(Rest(identity, group.group.title, box, group.group.items, rows, whole=True))
        if self._beyond:
            rows = {item.id: group.group.id for group in self._beyond for item in group.group.items}
            items = tuple(item for group in self._beyond for item in group.group.items)
            box = self._more.geometry().translated(origin)
            found.append(Rest(self.tab.id, self.tab.title, box, items, rows))
        return found

    def _unfold(self, group: GroupView) -> None:
        menu = build_menu(group.group.items, self.painting, self.triggered.emit, self)
        menu.popup(self.mapToGlobal(group.box.bottomLeft()))

    def _show_rest(self) -> None:
        items = [item for group in self._beyond for item in group.group.items]
        menu = build_menu(items, self.painting, self.triggered.emit, self)
        menu.popup(self._more.mapToGlobal(QPoint(0, MoreButton.SIZE)))

    def insertion_points(self, frame: QWidget) -> list[InsertionPoint]:
        """Places between the items of every group, and for a new group at every boundary."""
        origin = self.mapTo(frame, QPoint(0, 0))
        ground = QRect(origin, self.size())
        found = []
        before: str | None = None
        at = MARGIN + 2 - GROUP_GAP // 2
        for group in self.groups:
            if group.box.isNull():
                continue
            found.append(self._boundary(before, at, origin, ground))
            inside = group.box.translated(origin)
            if group.folded.isHidden():
                after: str | None = None
                for place, widget in enumerate([*group.widgets, None]):
                    caret = group.caret(place).translated(origin)
                    found.append(InsertionPoint(group.group.id, after, caret, ground=inside))
                    after = widget.item.id if widget is not None else None
            before, at = group.group.id, group.box.right() + 1 + GROUP_GAP // 2
        found.append(self._boundary(before, at, origin, ground))
        return found

    def _boundary(self, after: str | None, at: int, origin: QPoint, ground: QRect) -> InsertionPoint:
        line = QRect(at - 1, MARGIN, 2, GROUP_HEIGHT).translated(origin)
        return InsertionPoint(self.tab.id, after, line, new_group=True, ground=ground)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self.painting.scheme
        painter.fillRect(self.rect(), scheme.color("paper"))
        painter.setFont(bold(12))
        for group in self.groups:
            if group.box.isNull() or not group.folded.isHidden():
                continue
            painter.setPen(scheme.color("line"))
            painter.setBrush(scheme.color("sheet"))
            painter.drawPath(cut_corner(QRectF(group.box).adjusted(0.5, 0.5, -0.5, -0.5)))
            painter.setPen(scheme.color("ink2"))
            head = QRectF(group.head()).adjusted(MARK, 1, -CUT, 0)
            words = short(group.group.title, bold(12))
            painter.drawText(head, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, words)
