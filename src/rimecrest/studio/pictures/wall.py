"""A wall of pictures with their names: what a search found, or what is used here."""

from __future__ import annotations

import time
from collections.abc import Iterable

from PyQt6.QtCore import QModelIndex, QPoint, QRect, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPen, QPixmap
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
SLICE = 0.006
"""Seconds of drawing pictures at a time: less than half a frame."""


class _Cell(QStyledItemDelegate):
    """A picture with its name under it; the chosen one has a frame."""

    def __init__(self, scheme: Scheme, wall: Wall) -> None:
        super().__init__(wall)
        self._scheme = scheme
        self._wall = wall

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
        pixmap = self._wall.drawn(str(index.data(Qt.ItemDataRole.UserRole)))
        corner = QPoint(option.rect.center().x() - SIZE // 2, option.rect.top() + 7)
        if pixmap is not None:
            painter.drawPixmap(corner, pixmap)
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(font(11))
        words = QRect(option.rect.left() + 4, option.rect.top() + 35, option.rect.width() - 8, 18)
        # Without its set, which the tooltip tells: side by side with their pictures, names may be alike.
        name = called(str(index.data(Qt.ItemDataRole.UserRole)))
        shown = QFontMetrics(font(11)).elidedText(name, Qt.TextElideMode.ElideRight, words.width())
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, shown)
        painter.restore()


class Wall(QListWidget):
    """Pictures to choose from. `taken` carries the name, as items have it, at a click or Enter.

    Names show at once; the pictures that are seen are drawn after them, a few at a time, so that whoever
    types waits for none.
    """

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
        self._drawn: dict[str, QPixmap | None] = {}
        self._wanted: dict[str, None] = {}
        self._drawing = QTimer(self)
        self._drawing.setSingleShot(True)
        self._drawing.timeout.connect(self._draw_some)
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
        self._wanted.clear()
        for name in names:
            words = spoken(name)
            row = QListWidgetItem("")
            row.setToolTip(words)
            row.setData(Qt.ItemDataRole.UserRole, name)
            row.setData(Qt.ItemDataRole.AccessibleTextRole, words)
            self.addItem(row)
            if name == now:
                self.setCurrentItem(row)
        if self.currentItem() is None:
            self.setCurrentRow(0)

    def drawn(self, name: str) -> QPixmap | None:
        """The picture, when it is drawn already; else it will be."""
        if name not in self._drawn:
            self._wanted[name] = None
            self._drawing.start(0)
        return self._drawn.get(name)

    def _draw_some(self) -> None:
        end = time.perf_counter() + SLICE
        ink, ratio = self._scheme.color("ink"), self.devicePixelRatioF()
        while self._wanted and time.perf_counter() < end:
            name = next(iter(self._wanted))
            del self._wanted[name]
            self._drawn[name] = self._book.pixmap(name, ink, SIZE, ratio)
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def forget_drawn(self) -> None:
        """Pictures of one's own have changed: draw them anew."""
        self._drawn = {name: pixmap for name, pixmap in self._drawn.items() if name.startswith("set:")}

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


def called(name: str) -> str:
    """A picture's name as people read it: `set:phosphor.boat-bold` is “boat bold”."""
    kind, _, plain = name.partition(":")
    if kind == "own":
        return plain.rpartition(".")[0] or plain
    return plain.rpartition(".")[2].replace("-", " ")


def spoken(name: str) -> str:
    """A picture's name as people read it, with the set that it is of behind it: “boat bold (phosphor)”."""
    kind, _, plain = name.partition(":")
    family = "" if kind == "own" else plain.rpartition(".")[0]
    return f"{called(name)} ({family})" if family else called(name)
