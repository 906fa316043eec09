"""What a mailbox is shown in: its folders, the messages of one of them, the message that is read."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QLabel, QListWidget, QListWidgetItem, QSplitter, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.documents.list_document import ROW_HEIGHT, ListTable
from rimecrest.kit.documents.parts import PartsView, below_one_another
from rimecrest.shell.theme import bold, font
from rimecrest_standins.post.maildir import Maildir
from rimecrest_standins.post.message_list import SUBJECT, WIDTHS, MessageModel
from rimecrest_standins.post.reader import Reader

FOLDERS, LIST, READER = 170, 300, 300
"""Pixels of the three parts when they are first shown."""


class MailboxView(PartsView):
    """Its parts are `list` and `reading`.

    Signals:
        folder_clicked(name), opened(): a folder was clicked; a message was double-clicked.
        row_changed(): another message is the current one.
    """

    folder_clicked = pyqtSignal(str)
    opened = pyqtSignal()
    row_changed = pyqtSignal()

    def __init__(self, mailbox: Maildir) -> None:
        super().__init__()
        self.setObjectName("mailbox")
        self.model = MessageModel(mailbox)
        self.table = ListTable(self.model, WIDTHS, SUBJECT)
        self.table.setAccessibleName(tr("The messages of the folder"))
        selection = self.table.selectionModel()
        assert selection is not None
        selection.currentRowChanged.connect(lambda *_: self.row_changed.emit())
        self.reader = Reader()
        self.searched = QLabel()
        self.searched.setFont(font(12))
        self.searched.setContentsMargins(10, 4, 10, 4)
        self.searched.setTextFormat(Qt.TextFormat.PlainText)
        self.folders = QListWidget()
        self.folders.setObjectName("folders")
        self.folders.setAccessibleName(tr("Folders"))
        self.folders.setFrameShape(QFrame.Shape.NoFrame)
        self.folders.setSpacing(1)
        self.folders.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.folders.itemClicked.connect(self._clicked)
        self.table.doubleClicked.connect(lambda _: self.opened.emit())
        listed, right, both = QWidget(), QSplitter(Qt.Orientation.Vertical), QSplitter()
        below_one_another(listed, self.searched, self.table)
        for splitter, parts, sizes in (
            (right, (listed, self.reader), (LIST, READER)),
            (both, (self.folders, right), (FOLDERS, 1000)),
        ):
            for part in parts:
                splitter.addWidget(part)
            splitter.setSizes(sizes)
            splitter.setStretchFactor(1, 1)
            splitter.setChildrenCollapsible(False)
            splitter.setHandleWidth(1)
        below_one_another(self, both)
        self.watch({"list": self.table, "reading": self.reader.view})

    def _clicked(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            self.folder_clicked.emit(item.data(Qt.ItemDataRole.UserRole))

    def say_searched(self, words: str) -> None:
        """Say above the list what it was narrowed to; nothing: it is whole."""
        self.searched.setText(words)
        self.searched.setVisible(bool(words))

    def show_folders(self, counts: dict[str, int], now: str) -> None:
        """Show the folders, each with how many of its messages are not read."""
        self.folders.clear()
        for name, unread in counts.items():
            item = QListWidgetItem(f"{name}  {unread}" if unread else name)
            item.setData(Qt.ItemDataRole.UserRole, name)
            item.setSizeHint(QSize(0, ROW_HEIGHT))
            item.setFont(bold(13) if unread else font(13))
            self.folders.addItem(item)
            if name == now:
                self.folders.setCurrentItem(item)
