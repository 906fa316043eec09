"""What a message is written in: the fields above it, its files, its text."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QPalette
from PyQt6.QtWidgets import (
    QFormLayout,
    QFrame,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from rimecrest.apps.post.file_row import FileRow
from rimecrest.core.words import tr
from rimecrest.embed.formatted_text.view import TextView
from rimecrest.shell.theme import LIGHT, font

TO, COPY, SUBJECT, TEXT = "to", "copy", "subject", "text"
FIELDS = (TO, COPY, SUBJECT)
PARTS = (*FIELDS, TEXT)
TITLES = {TO: tr("To"), COPY: tr("Copy"), SUBJECT: tr("Subject"), TEXT: tr("Text")}


class MessageView(QWidget):
    """Draws; what is done is told.

    Signals:
        focused(part): the keys went to a field or to the text.
        left(): a field was left, or Enter pressed in it.
    """

    focused = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, page: TextView) -> None:
        super().__init__()
        self.setObjectName("message")
        self.page = page
        self.fields: dict[str, QLineEdit] = {}
        form = QFormLayout()
        form.setContentsMargins(16, 10, 16, 6)
        form.setSpacing(6)
        form.setLabelAlignment(Qt.AlignmentFlag.AlignRight)
        for name in FIELDS:
            field = QLineEdit()
            field.setObjectName(name)
            field.setAccessibleName(TITLES[name])
            field.setFont(font(13))
            field.editingFinished.connect(self.left)
            field.returnPressed.connect(lambda name=name: self.go_on(name))
            self.fields[name] = field
            form.addRow(TITLES[name], field)
        self.writer = QLabel()
        self.writer.setFont(font(12))
        self.writer.setTextFormat(Qt.TextFormat.PlainText)
        form.addRow(tr("From"), self.writer)
        self.files = FileRow(tr("Take {name} out of the message"), "  ✕")
        form.addRow("", self.files)
        line = QFrame()
        line.setFixedHeight(1)
        line.setAutoFillBackground(True)
        line.setPalette(QPalette(LIGHT.color("line")))
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addLayout(form)
        rows.addWidget(line)
        rows.addWidget(page, 1)
        self._parts: dict[QObject, str] = {field: name for name, field in self.fields.items()}
        self._parts[page] = TEXT
        for part in self._parts:
            part.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and watched is not None and event.type() == QEvent.Type.FocusIn:
            self.focused.emit(self._parts[watched])
        return False

    def focus(self, part: str) -> None:
        """Give the keys to a field, its text chosen, or to the text."""
        if part == TEXT:
            self.page.setFocus()
        else:
            self.fields[part].setFocus()
            self.fields[part].selectAll()

    def go_on(self, field: str) -> None:
        """To the field below."""
        self.focus(PARTS[PARTS.index(field) + 1])
