"""A dialog with a field over a list: letters narrow it, arrows choose from the field, Enter takes."""

from __future__ import annotations

from abc import abstractmethod

from PyQt6.QtCore import QModelIndex, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QPainter
from PyQt6.QtWidgets import (
    QDialog,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from rimecrest.shell.abstract import AbstractQObject
from rimecrest.shell.theme import Scheme, bold, font, palette

ROW = 42
"""Pixels of a row of two lines."""


class TwoLines(QStyledItemDelegate):
    """A row of two lines: what it is in bold, what is to be said of it beneath."""

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme

    def sizeHint(self, _option: QStyleOptionViewItem, _index: QModelIndex) -> QSize:
        return QSize(100, ROW)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, box = self._scheme, option.rect.adjusted(4, 1, -4, -1)
        if option.state & QStyle.StateFlag.State_Selected:
            # Not by tint alone: a bar at the chosen row.
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(scheme.color("hover"))
            painter.drawRoundedRect(box, 4, 4)
            painter.fillRect(box.left(), box.top() + 7, 3, box.height() - 14, scheme.color("crest"))
        head, _, rest = str(index.data()).partition("\n")
        box.adjust(10, 3, -8, -3)
        for shown, words, token, line in (
            (bold(13), head, "ink", Qt.AlignmentFlag.AlignTop),
            (font(12), rest, "ink2", Qt.AlignmentFlag.AlignBottom),
        ):
            painter.setFont(shown)
            painter.setPen(scheme.color(token))
            words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, box.width())
            painter.drawText(box, line | Qt.AlignmentFlag.AlignLeft, words)
        painter.restore()


class FieldOverList(QDialog, metaclass=AbstractQObject):
    """What is in the list is the subclass's affair: it fills it in `fill`, and does something in `take`."""

    def __init__(self, title: str, placeholder: str, says: str, scheme: Scheme, parent: QWidget) -> None:
        """
        Args:
            says: what the field is called aloud.
        """
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.resize(520, 460)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(16, 14, 16, 14)
        self.field = QLineEdit(self)
        self.field.setPlaceholderText(placeholder)
        self.field.setAccessibleName(says)
        self.field.textChanged.connect(self.fill)
        self.column.addWidget(self.field)
        self.list = QListWidget(self)
        self.list.setAccessibleName(title)
        self.list.setItemDelegate(TwoLines(scheme, self.list))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemActivated.connect(lambda _: self.take())
        self.column.addWidget(self.list, 1)
        self.field.setFocus()

    @abstractmethod
    def fill(self, text: str) -> None:
        """Show what the typed words find."""

    @abstractmethod
    def take(self) -> None:
        """Do what the chosen row is for; nothing where none is."""

    def add(self, identity: str, words: str) -> QListWidgetItem:
        """One more row."""
        row = QListWidgetItem(words, self.list)
        row.setData(Qt.ItemDataRole.UserRole, identity)
        return row

    def chosen(self) -> str:
        """The identity of the chosen row; empty where none is."""
        item = self.list.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is not None and self.list.count():
            self.list.setCurrentRow((self.list.currentRow() + step) % self.list.count())
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.take()
        else:
            super().keyPressEvent(event)
