"""A question for a range: a bar over the document says what is pointed at while the colleague points."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFont, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font, palette

LOOK = 60
"""Milliseconds between two looks at what is pointed at."""


class RangeQuestion(QWidget):
    """Asks to point with the mouse or keys, in any place of the document. The document keeps the focus.

    Signals:
        finished(well): 1 with an answer, 0 when it was cancelled.
    """

    finished = pyqtSignal(int)

    def __init__(self, prompt: str, here: Callable[[], object], scheme: Scheme, window: QWidget) -> None:
        """`here` tells the range that is pointed at now; it may raise RimecrestError."""
        super().__init__(window)
        self.setObjectName("range-question")
        self.setAccessibleName(prompt)
        self.setPalette(palette(scheme))
        self._scheme = scheme
        self._here = here
        self._over = False
        words = QVBoxLayout()
        words.setSpacing(2)
        self._prompt = self._label(prompt, bold(14))
        self._range = self._label("", font(13))
        self._range.setObjectName("range-now")
        words.addWidget(self._prompt)
        words.addWidget(self._range)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 10, 16, 10)
        row.setSpacing(10)
        row.addLayout(words, 1)
        for text, name, do in (
            (tr("Go on  Enter"), "range-go-on", self.accept),
            (tr("Cancel  Escape"), "range-cancel", self.reject),
        ):
            button = QPushButton(text, self)
            button.setObjectName(name)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(do)
            row.addWidget(button)
        self._looking = QTimer(self)
        self._looking.setInterval(LOOK)
        self._looking.timeout.connect(self._look)
        window.installEventFilter(self)
        self._look()

    def _label(self, text: str, made: QFont) -> QLabel:
        label = QLabel(text, self)
        label.setTextFormat(Qt.TextFormat.PlainText)
        label.setFont(made)
        return label

    def open(self) -> None:
        """Be seen, over the foot of the window."""
        self._place()
        self.show()
        self.raise_()
        self._looking.start()

    def _place(self) -> None:
        window, size = self.parentWidget(), self.sizeHint()
        assert window is not None
        width = min(max(size.width(), 480), window.width() - 24)
        top = window.height() - size.height() - 48
        self.setGeometry((window.width() - width) // 2, max(top, 0), width, size.height())

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Resize:
            self._place()
        return super().eventFilter(watched, event)

    def _look(self) -> None:
        now = self.answers()[0]
        self._range.setText(now or tr("Nothing is pointed at yet: select it with the mouse or the keys."))

    def answers(self) -> tuple[str, ...]:
        """The range that is pointed at, as the one answer."""
        try:
            return (str(self._here()),)
        except RimecrestError:
            return ("",)

    def accept(self) -> None:
        """Go on with what is pointed at; nothing happens while that is nothing."""
        if self.answers()[0]:
            self._end(1)

    def reject(self) -> None:
        """Cancel."""
        self._end(0)

    def _end(self, well: int) -> None:
        if not self._over:
            self._over = True
            self._looking.stop()
            self.hide()
            self.finished.emit(well)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 2))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -1, -1), 6, 6)
