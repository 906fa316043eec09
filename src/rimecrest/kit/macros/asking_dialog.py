"""Asks in a dialog of the window what a macro asks."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.kit.macros.asker import Allowed, Answered, Filled
from rimecrest.kit.macros.questions import LeaveQuestion, PanelQuestion, Question
from rimecrest.kit.macros.range_question import RangeQuestion
from rimecrest.kit.panels.asked import Asked, AskedPanel
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel_controls import Choices

if TYPE_CHECKING:
    from rimecrest.kit.macros.questions import LeaveQuestion, PanelQuestion, Question
    from rimecrest.kit.macros.range_question import RangeQuestion

    Asking = Question | PanelQuestion | RangeQuestion | LeaveQuestion


class DialogAsker(QObject):
    """One question or form at a time. `asks(question)`: it is open."""

    asks = pyqtSignal(QWidget)

    def __init__(self, window: QWidget, painting: Callable[[], Painting], choices: Choices) -> None:
        """`choices` tells the entries of a reading, for the panels that are asked."""
        super().__init__(window)
        self._window = window
        self._painting = painting
        self._choices = choices
        self._question: Asking | None = None
        self._pointing: RangeQuestion | None = None

    def ask(self, macro: str, title: str, questions: tuple[Asked, ...], answered: Answered) -> None:

        here = questions[0].here if len(questions) == 1 else None
        scheme = self._painting().scheme
        question: Question | RangeQuestion
        if here is not None:
            question = self._pointing = RangeQuestion(questions[0].prompt, here, scheme, self._window)
        else:
            question = Question(macro, title, questions, scheme, self._window)
        self._open(question, lambda well: answered(question.answers() if well else None))

    def ask_panel(self, macro: str, panel: AskedPanel, answered: Filled) -> None:
        question = PanelQuestion(macro, panel, self._painting(), self._choices, self._window)
        self._open(question, lambda well: answered(question.view.values() if well else None))

    def ask_leave(self, macro: str, words: str, may_last: bool, answered: Allowed) -> None:
        question = LeaveQuestion(macro, words, may_last, self._painting().scheme, self._window)
        self._open(question, lambda well: answered(well, well and question.lasts()))

    def _open(self, question: Asking, end: Callable[[bool], None]) -> None:
        self._question = question
        if question is not self._pointing:
            self._pointing = None
        question.finished.connect(lambda result: self._finished(question, bool(result), end))
        question.open()
        self.asks.emit(question)

    @property
    def pointing(self) -> RangeQuestion | None:
        """The question that waits for something to be pointed at."""
        return self._pointing

    @property
    def asking(self) -> bool:
        """Whether a question is open."""
        return self._question is not None

    def cancel(self) -> None:
        if self._question is not None:
            self._question.reject()

    def _finished(self, question: Asking, accepted: bool, end: Callable[[bool], None]) -> None:
        if question is not self._question:
            return
        points = self._pointing is not None
        self._question = self._pointing = None

        def told() -> None:
            end(accepted)
            question.deleteLater()

        if points:
            # A part of the window: what comes next, as closing it, finds the run over.
            told()
        else:
            # The dialog's own event is finished first; a macro may ask again at once.
            QTimer.singleShot(0, told)
