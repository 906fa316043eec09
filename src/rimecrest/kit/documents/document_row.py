"""The middle of a window: the open documents by name, over the one that is worked in."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.documents.open_documents import OpenDocuments
from rimecrest.shell.theme import Scheme, bold, font


class DocumentRow(QWidget):
    """The open documents by name, shown while there is more than one. A click works in that one."""

    def __init__(self, documents: OpenDocuments, scheme: Callable[[], Scheme]) -> None:
        super().__init__()
        self._documents = documents
        self._scheme = scheme
        self.setObjectName("documents")
        self.setAccessibleName(tr("Open documents"))
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(10, 3, 10, 3)
        self._row.setSpacing(4)
        self._row.addStretch(1)
        self._buttons: list[QPushButton] = []
        documents.changed.connect(self._fill)
        self._fill()

    def _fill(self) -> None:
        documents = self._documents
        self.setVisible(len(documents.all) > 1)
        while len(self._buttons) > len(documents.all):
            button = self._buttons.pop()
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        while len(self._buttons) < len(documents.all):
            button = QPushButton(self)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setFlat(True)
            number = len(self._buttons)
            button.clicked.connect(lambda _=False, number=number: self._choose(number))
            self._row.insertWidget(number, button)
            self._buttons.append(button)
        for button, document in zip(self._buttons, documents.all, strict=True):
            now = document is documents.current
            title = document.title()
            button.setText(("▸ " if now else "") + title.replace("&", "&&"))
            button.setAccessibleName(title + (tr(", worked in") if now else ""))
            button.setFont(bold(12) if now else font(12))

    def _choose(self, number: int) -> None:
        if number < len(self._documents.all):
            name = self._documents.all[number].name()
            self._documents.wants.emit("go-to-document", {"name": name})

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme().color("paper"))
        painter.setPen(self._scheme().color("line"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class Centre(QWidget):
    """The middle of a window: the row of open documents over the one that is worked in."""

    def __init__(self, documents: OpenDocuments, scheme: Callable[[], Scheme]) -> None:
        super().__init__()
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(DocumentRow(documents, scheme))
        rows.addWidget(documents.widget, 1)
