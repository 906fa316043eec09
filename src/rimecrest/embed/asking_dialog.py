"""Asks in a dialog of the window what a macro asks."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.embed.macro_run import Answered
from rimecrest.embed.questions import Asked, Question
from rimecrest.shell.theme import Scheme


class DialogAsker(QObject):
    """One question or form at a time. `asks(question)`: it is open."""

    asks = pyqtSignal(object)

    def __init__(self, window: QWidget, scheme: Callable[[], Scheme]) -> None:
        super().__init__(window)
        self._window = window
        self._scheme = scheme
        self._question: Question | None = None

    def ask(self, macro: str, title: str, questions: tuple[Asked, ...], answered: Answered) -> None:
        question = Question(macro, title, questions, self._scheme(), self._window)
        self._question = question
        question.finished.connect(lambda result: self._finished(question, bool(result), answered))
        question.open()
        self.asks.emit(question)

    def cancel(self) -> None:
        if self._question is not None:
            self._question.reject()

    def _finished(self, question: Question, accepted: bool, answered: Answered) -> None:
        if question is not self._question:
            return
        self._question = None
        answers = question.answers() if accepted else None
        question.deleteLater()
        # The dialog's own event is finished first; a macro may ask again at once.
        QTimer.singleShot(0, lambda: answered(answers))
