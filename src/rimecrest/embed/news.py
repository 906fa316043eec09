"""The one quiet line under the bars that says what a release brought."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSizePolicy, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font


class NewsLine(QWidget):
    """Hidden until there is news; *Got it* puts it away."""

    dismissed = pyqtSignal()

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.setObjectName("news")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 4, 10, 4)
        self._words = QLabel(self)
        self._words.setTextFormat(Qt.TextFormat.PlainText)
        self._words.setFont(font(13))
        self._words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        row.addWidget(self._words, 1)
        fine = QPushButton(tr("Got it"), self)
        fine.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        fine.setObjectName("news-fine")
        fine.clicked.connect(self._put_away)
        row.addWidget(fine)
        self.hide()

    @property
    def text(self) -> str:
        return self._words.text()

    def tell(self, sentence: str) -> None:
        self._words.setText(sentence)
        self._words.setToolTip(sentence)
        self.setAccessibleName(sentence)
        self.show()

    def _put_away(self) -> None:
        self.hide()
        self.dismissed.emit()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme.color("hover"))
        painter.fillRect(0, 0, 4, self.height(), self._scheme.color("crest"))
        painter.setPen(self._scheme.color("line"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
