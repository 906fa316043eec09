"""Choosing a picture: a search over the free set, shown at its size with its name."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QIcon, QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import (
    QFrame,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.release import picture_names
from rimecrest.core.words import tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import Scheme, font, palette
from rimecrest.studio.shared.search import Match, Search
from rimecrest.studio.shared.sentence_widgets import Field
from rimecrest.studio.shared.slim_bar import slim

MOST = 60
SIZE = 20
CELL = QSize(92, 54)


class _Cell(QStyledItemDelegate):
    """A picture with its name under it; the chosen one has a frame."""

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme

    def sizeHint(self, _option: QStyleOptionViewItem, _index: QModelIndex) -> QSize:
        return CELL

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(option.rect).adjusted(2, 2, -2, -2)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.setPen(QPen(self._scheme.color("crest"), 2))
            painter.setBrush(self._scheme.color("hover"))
            painter.drawRoundedRect(box, 5, 5)
        icon = index.data(Qt.ItemDataRole.DecorationRole)
        corner = QPoint(option.rect.center().x() - SIZE // 2, option.rect.top() + 7)
        icon.paint(painter, QRect(corner, QSize(SIZE, SIZE)))
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(font(11))
        words = QRect(option.rect.left() + 4, option.rect.top() + 30, option.rect.width() - 8, 18)
        name = str(index.data(Qt.ItemDataRole.ToolTipRole))
        shown = QFontMetrics(font(11)).elidedText(name, Qt.TextElideMode.ElideRight, words.width())
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, shown)
        painter.restore()


class PictureWall(QFrame):
    """A field and a wall of pictures under a word. `chosen` carries `set:<name>`; Escape closes it."""

    chosen = pyqtSignal(str)

    def __init__(self, words: str, now: str, book: PictureBook, scheme: Scheme, parent: QWidget) -> None:
        """
        Args:
            words: what the picture is for; one of its words is looked for first.
            now: the picture that it has, as `set:<name>`: it stands first and is the chosen one.
        """
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("picture-wall")
        self.setPalette(palette(scheme))
        self.setFrameShape(QFrame.Shape.Box)
        self._book = book
        self._scheme = scheme
        self._now = now.removeprefix("set:")
        self._search = Search(Match("picture", name, name.replace("-", " ")) for name in picture_names())
        rows = QVBoxLayout(self)
        rows.setContentsMargins(10, 10, 10, 10)
        self.field = Field(scheme, "", self)
        self.field.setPlaceholderText(tr("a word, as in “{word}”", word=words.split(" ")[0].lower()))
        self.field.setAccessibleName(tr("Find a picture"))
        self.field.setObjectName("picture-search")
        self.field.textChanged.connect(self._look)
        rows.addWidget(self.field)
        self.wall = QListWidget(self)
        self.wall.setViewMode(QListWidget.ViewMode.IconMode)
        self.wall.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.wall.setMovement(QListWidget.Movement.Static)
        self.wall.setGridSize(CELL)
        self.wall.setItemDelegate(_Cell(scheme, self.wall))
        self.wall.setUniformItemSizes(True)
        slim(self.wall, scheme)
        self.wall.itemClicked.connect(self._take)
        self.wall.itemActivated.connect(self._take)
        rows.addWidget(self.wall)
        self._count = QLabel(self)
        self._count.setFont(font(11))
        rows.addWidget(self._count)
        self.resize(500, 330)
        self._look("")
        if not self._now:
            for word in sorted(words.lower().split(), key=len, reverse=True):
                if self._search.having(word, 1):
                    self.field.setText(word)
                    break
        self.field.selectAll()

    def show_under(self, word: QWidget) -> None:
        self.move(word.mapToGlobal(QPoint(0, word.height() + 4)))
        self.show()
        self.field.setFocus()

    def _look(self, text: str) -> None:
        self.wall.clear()
        every = self._search.entries
        if text.strip():
            found = self._search.find(text, MOST)
        else:
            found = [entry for entry in every if entry.id == self._now] + every[:MOST]
        ink = self._scheme.color("ink")
        for entry in found:
            pixmap = self._book.pixmap(f"set:{entry.id}", ink, SIZE, self.devicePixelRatioF())
            if pixmap is not None:
                row = QListWidgetItem(QIcon(pixmap), "")
                row.setToolTip(entry.title)
                row.setData(Qt.ItemDataRole.UserRole, entry.id)
                row.setData(Qt.ItemDataRole.AccessibleTextRole, entry.title)
                self.wall.addItem(row)
        self.wall.setCurrentRow(0)
        self._count.setText(
            tr("{shown} of {all:,} pictures", shown=len(found), all=len(every))
            if found
            else tr("No such picture.")
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.wall.currentItem() is not None:
            self._take(self.wall.currentItem())
        elif event.key() == Qt.Key.Key_Down:
            self.wall.setFocus()
        else:
            super().keyPressEvent(event)

    def _take(self, row: QListWidgetItem) -> None:
        self.close()
        self.chosen.emit(f"set:{row.data(Qt.ItemDataRole.UserRole)}")
