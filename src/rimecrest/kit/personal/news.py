"""The quiet line under the toolbars that says what a release brought."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.words import counted, tr
from rimecrest.shell.theme import Scheme, font

TOLD = 3
"""Sentences in the line at most; the list has all."""


class NewsLine(QWidget):
    """Hidden until there is news; *Got it* puts it away, *and 7 more* opens the whole list."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.sentences: tuple[str, ...] = ()
        self.setObjectName("news")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 4, 10, 4)
        self._words = QLabel(self)
        self._words.setTextFormat(Qt.TextFormat.PlainText)
        self._words.setFont(font(13))
        self._words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        row.addWidget(self._words, 1)
        self.more = self._button("", "news-more")
        self.more.clicked.connect(lambda _=False: self.open_list())
        row.addWidget(self.more)
        fine = self._button(tr("Got it"), "news-fine")
        fine.clicked.connect(lambda _=False: self.hide())
        row.addWidget(fine)
        self.hide()

    def _button(self, words: str, name: str) -> QPushButton:
        button = QPushButton(words, self)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.setObjectName(name)
        return button

    @property
    def text(self) -> str:
        """Everything there is to say, in one piece."""
        return " ".join(self.sentences)

    @property
    def shown(self) -> str:
        """What stands in the line."""
        return self._words.text()

    def tell(self, sentences: Sequence[str]) -> None:
        """Show the news."""
        self.sentences = tuple(sentences)
        self.setAccessibleName(self.text)
        self.show()
        self._fit()

    def _fit(self) -> None:
        """Show as many whole sentences as there is room for; of one that is too long, whole words."""
        if not self.sentences:
            return
        metrics = QFontMetrics(self._words.font())

        def fits(words: str, others: int) -> bool:
            more = metrics.horizontalAdvance(self._more_words(others)) + 40 if others else 0
            return metrics.horizontalAdvance(words) + more <= self.width() - 130

        number = min(len(self.sentences), TOLD)
        while number > 1 and not fits(" ".join(self.sentences[:number]), len(self.sentences) - number):
            number -= 1
        words, others = " ".join(self.sentences[:number]), len(self.sentences) - number
        whole = fits(words, others)
        parts = words.split(" ")
        while len(parts) > 1 and not fits(" ".join(parts) + " …", max(others, 1)) and not whole:
            parts.pop()
        self._words.setText(words if whole else " ".join(parts) + " …")
        self.more.setText(self._more_words(others) if others else tr("Read all"))
        self.more.setVisible(bool(others) or not whole)

    @staticmethod
    def _more_words(others: int) -> str:
        return tr("and {number} more", number=others)

    def open_list(self) -> None:
        """Show every sentence, one below the other."""
        sheet = QDialog(self.window())
        sheet.setObjectName("news-list")
        sheet.setWindowTitle(tr("What is new: {number}", number=counted(len(self.sentences), "change")))
        sheet.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        rows = QVBoxLayout(sheet)
        rows.setContentsMargins(12, 12, 12, 12)
        listed = QListWidget(sheet)
        listed.setFont(font(13))
        listed.setWordWrap(True)
        listed.setAccessibleName(tr("What is new"))
        listed.addItems(self.sentences)
        rows.addWidget(listed)
        close = QPushButton(tr("Close"), sheet)
        close.clicked.connect(sheet.accept)
        rows.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
        sheet.resize(520, min(120 + 26 * len(self.sentences), 460))
        sheet.open()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme.color("hover"))
        painter.fillRect(0, 0, 4, self.height(), self._scheme.color("crest"))
        painter.setPen(self._scheme.color("line"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
