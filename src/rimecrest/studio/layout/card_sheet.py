"""What the cards of surfaces and of panel controls share: their sheet, their words, Escape."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from rimecrest.core.workspace.edits import Edit, SetFields
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.sentence_widgets import Flow, Plain, Word, end_fields
from rimecrest.studio.shared.session import Session


class CardSheet(QWidget):
    """A sheet over the stage that says one thing in words that can be changed.

    Signals:
        wants(edit): do this.
        closed: it went away.
    """

    wants = pyqtSignal(Edit)
    closed = pyqtSignal()

    def __init__(self, session: Session, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self.session = session
        self.scheme = scheme
        self.hide()

    @property
    def subject(self) -> str:
        """The identity of what it is about; empty while it is shut."""
        raise NotImplementedError

    def forget(self) -> None:
        """It is about nothing any more."""
        raise NotImplementedError

    def shut(self) -> None:
        """Close it."""
        if self.isVisible():
            end_fields(self)
            self.hide()
            self.forget()
            self.closed.emit()

    def set_fields(self, fields: dict[str, Any], words: str) -> None:
        """Ask for other values of what it is about; `words` name the edit in undo."""
        aim = self.session.aim
        if self.subject:
            self.wants.emit(SetFields(aim.layer, aim.app, self.subject, fields, words))

    # The words

    def say(self, flow: Flow, text: str) -> None:
        """Words that stay as they are."""
        for part in text.split():
            words = Plain(part, self.scheme, "ink", 14, flow.parentWidget())
            words.setProperty("hugs", part in (".", ",", ";"))
            flow.addWidget(words)

    def word(self, flow: Flow, text: str, name: str, do: Callable[[Word], object], size: int = 14) -> None:
        """A word that can be pressed."""
        word = Word(text, self.scheme, size, flow.parentWidget())
        word.setObjectName(name)
        word.when_pressed(do)
        flow.addWidget(word)

    # Drawing and keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.shut()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.scheme.color("crest"), 1))
        painter.setBrush(self.scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
