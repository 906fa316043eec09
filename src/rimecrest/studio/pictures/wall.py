"""A wall of pictures with their names: what a search found, or what is used here."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QModelIndex, QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QIcon, QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import (
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from rimecrest.core.words import tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.slim_bar import slim

SIZE = 24
CELL = QSize(94, 58)


class _Cell(QStyledItemDelegate):
    """A picture with its name under it; the chosen one has a frame."""

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme

    def sizeHint(self, _option: QStyleOptionViewItem, _index: QModelIndex) -> QSize:
        return CELL

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(option.rect).adjusted(2, 2, -2, -2)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.setPen(QPen(self._scheme.color("crest"), 2))
            painter.setBrush(self._scheme.color("hover"))
            painter.drawRoundedRect(box, 5, 5)
        icon = index.data(Qt.ItemDataRole.DecorationRole)
        corner = QPoint(option.rect.center().x() - SIZE // 2, option.rect.top() + 7)
        if isinstance(icon, QIcon):
            icon.paint(painter, QRect(corner, QSize(SIZE, SIZE)))
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(font(11))
        words = QRect(option.rect.left() + 4, option.rect.top() + 35, option.rect.width() - 8, 18)
        name = str(index.data(Qt.ItemDataRole.AccessibleTextRole))
        shown = QFontMetrics(font(11)).elidedText(name, Qt.TextElideMode.ElideRight, words.width())
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, shown)
        painter.restore()


class Wall(QListWidget):
    """Pictures to choose from. `taken` carries the name, as items have it, at a click or Enter."""

    taken = pyqtSignal(str)

    def __init__(self, book: PictureBook, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._book = book
        self._scheme = scheme
        self.setObjectName("picture-wall")
        self.setAccessibleName(tr("Pictures"))
        self.setViewMode(QListWidget.ViewMode.IconMode)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.setMovement(QListWidget.Movement.Static)
        self.setGridSize(CELL)
        self.setItemDelegate(_Cell(scheme, self))
        self.setUniformItemSizes(True)
        self.setFrameShape(QListWidget.Shape.NoFrame)
        slim(self, scheme)
        self.itemClicked.connect(lambda row: self.taken.emit(self.name_of(row)))

    @staticmethod
    def name_of(row: QListWidgetItem) -> str:
        return str(row.data(Qt.ItemDataRole.UserRole))

    def names(self) -> list[str]:
        """Those that show, in their order."""
        return [self.name_of(row) for at in range(self.count()) if (row := self.item(at)) is not None]

    def show_pictures(self, names: Iterable[str], now: str = "") -> None:
        """Show these; the one that is used now is the chosen one, else the first."""
        self.clear()
        ink, ratio = self._scheme.color("ink"), self.devicePixelRatioF()
        for name in names:
            pixmap = self._book.pixmap(name, ink, SIZE, ratio)
            if pixmap is None:
                continue
            words = spoken(name)
            row = QListWidgetItem(QIcon(pixmap), "")
            row.setToolTip(words)
            row.setData(Qt.ItemDataRole.UserRole, name)
            row.setData(Qt.ItemDataRole.AccessibleTextRole, words)
            self.addItem(row)
            if name == now:
                self.setCurrentItem(row)
        if self.currentItem() is None:
            self.setCurrentRow(0)

    def take_current(self) -> None:
        """Take the one that is chosen; nothing where nothing shows."""
        row = self.currentItem()
        if row is not None:
            self.taken.emit(self.name_of(row))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.take_current()
        elif event.key() == Qt.Key.Key_Escape or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            event.ignore()
        else:
            super().keyPressEvent(event)


def spoken(name: str) -> str:
    """A picture's name as people read it, with the set or place that it is of behind it."""
    kind, _, plain = name.partition(":")
    if kind == "own":
        return plain.rpartition(".")[0] or plain
    family, _, last = plain.rpartition(".")
    words = last.replace("-", " ")
    return f"{words} ({family})" if family else words
