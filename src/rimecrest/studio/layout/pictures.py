"""Choosing a picture: a search over the free set, shown in actual size."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QKeyEvent
from PyQt6.QtWidgets import QFrame, QLabel, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from rimecrest.core.release import picture_names
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import Scheme, font, palette
from rimecrest.studio.shared.search import Match, Search
from rimecrest.studio.shared.sentence_widgets import InlineField

MOST = 60


class PictureWall(QFrame):
    """A field and a wall of pictures under a word. `chosen` carries `set:<name>`."""

    chosen = pyqtSignal(str)

    def __init__(self, words: str, book: PictureBook, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("picture-wall")
        self.setPalette(palette(scheme))
        self.setFrameShape(QFrame.Shape.Box)
        self._book = book
        self._scheme = scheme
        self._search = Search(Match("picture", name, name.replace("-", " ")) for name in picture_names())
        rows = QVBoxLayout(self)
        rows.setContentsMargins(10, 10, 10, 10)
        self.field = InlineField("", f"a word, as in “{words.split(' ')[0].lower()}”", self)
        self.field.setObjectName("picture-search")
        self.field.textChanged.connect(self._look)
        rows.addWidget(self.field)
        self.wall = QListWidget(self)
        self.wall.setViewMode(QListWidget.ViewMode.IconMode)
        self.wall.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.wall.setMovement(QListWidget.Movement.Static)
        self.wall.setIconSize(QSize(20, 20))
        self.wall.setGridSize(QSize(40, 38))
        self.wall.setFont(font(11))
        self.wall.setUniformItemSizes(True)
        self.wall.itemClicked.connect(self._take)
        self.wall.itemActivated.connect(self._take)
        rows.addWidget(self.wall)
        self._count = QLabel(self)
        self._count.setFont(font(11))
        rows.addWidget(self._count)
        self.resize(360, 300)
        self._look("")
        for word in sorted(words.lower().split(), key=len, reverse=True):
            if self._search.find(word, 1):
                self.field.setText(word)
                break
        self.field.selectAll()

    def show_under(self, word: QWidget) -> None:
        self.move(word.mapToGlobal(QPoint(0, word.height() + 4)))
        self.show()
        self.field.setFocus()

    def _look(self, text: str) -> None:
        self.wall.clear()
        found = self._search.find(text, MOST) if text.strip() else self._search.entries[:MOST]
        ink = self._scheme.color("ink")
        for entry in found:
            pixmap = self._book.pixmap(f"set:{entry.id}", ink, 20, self.devicePixelRatioF())
            if pixmap is not None:
                row = QListWidgetItem(QIcon(pixmap), "")
                row.setToolTip(entry.title)
                row.setData(Qt.ItemDataRole.UserRole, entry.id)
                row.setData(Qt.ItemDataRole.AccessibleTextRole, entry.title)
                self.wall.addItem(row)
        self.wall.setCurrentRow(0)
        self._count.setText(
            f"{len(found)} of {len(self._search.entries):,} pictures" if found else "No such picture."
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.wall.currentItem() is not None:
            self._take(self.wall.currentItem())
        elif event.key() == Qt.Key.Key_Down:
            self.wall.setFocus()
        else:
            super().keyPressEvent(event)

    def _take(self, row: QListWidgetItem) -> None:
        self.close()
        self.chosen.emit(f"set:{row.data(Qt.ItemDataRole.UserRole)}")
