"""Running a macro in an application: its flow, carried out through the dispatcher, as one undo.

The run goes on in slices of a few milliseconds, so that the window stays alive and Escape stops it. Any
failure, cancel or stop takes everything back.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro import (
    Breathe,
    Choose,
    Fetch,
    Fill,
    Macro,
    MacroStopped,
    Meets,
    Perform,
    Read,
    Request,
    Tell,
    Write,
    check_macro,
    run_macro,
)
from rimecrest.core.macro.run import Flow
from rimecrest.core.macro.steps import Need
from rimecrest.core.workspace.workspace import MacroFile
from rimecrest.embed.dispatcher import Dispatcher, Way
from rimecrest.embed.look import Scheme
from rimecrest.embed.questions import Asked, Question

SLICE = 0.02
"""Seconds of steps between two looks at the window's events: it answers well within 50 ms."""


class MacroRunner(QObject):
    """Runs one macro at a time in one window.

    Signals:
        ended(name, sentence): the sentence is empty when it went well and had nothing to say.
        finished(id, well): which macro it was, and whether it went well.
        stepped(line): a step that does something was done; only while it goes step by step.
        held(line): it waits before a step; only while it goes step by step.
        asks(question): a Question is open.
    """

    started = pyqtSignal(str)
    ended = pyqtSignal(str, str)
    finished = pyqtSignal(str, bool)
    stepped = pyqtSignal(int)
    held = pyqtSignal(int)
    asks = pyqtSignal(object)

    def __init__(
        self,
        dispatcher: Dispatcher,
        find: Callable[[str], MacroFile | None],
        others: Callable[[], Mapping[str, Macro]],
        scheme: Callable[[], Scheme],
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._dispatcher = dispatcher
        self._find = find
        self._others = others
        self._scheme = scheme
        self._window = window
        self._flow: Flow | None = None
        self._file: MacroFile | None = None
        self._said = ""
        self._answer: Any = None
        self._leaving: list[tuple[str, Mapping[str, str]]] = []
        """What cannot be taken back: done when the last step has succeeded, else never."""
        self._single = True
        self._question: Question | None = None
        self.ask_elsewhere: Callable[[str, tuple[Asked, ...]], None] | None = None
        """Asks questions in place of the dialog; the answer comes with `answered`."""
        self._stepping = False
        self._held: Request | None = None
        self.line = 0
        """The line of the step that was begun last."""
        self._slices = QTimer(self)
        self._slices.setSingleShot(True)
        self._slices.timeout.connect(self._go_on)
        dispatcher.run_macro = self.run

    def run(self, identity: str, step_by_step: bool = False) -> None:
        """Begin a macro; step by step it waits before each step that does something, for `go_on`.

        Raises:
            RimecrestError: there is none, it cannot run, or another one runs.
        """
        if self._flow is not None:
            raise RimecrestError(f"“{self._file.name}” is still running.", "Stop it first, with Escape.")
        file = self._find(identity)
        if file is None:
            raise RimecrestError(f"The macro “{identity}” is not here.", "Ask whoever shares your layouts.")
        self._begin(file, step_by_step)

    def run_private(self, file: MacroFile) -> None:
        """Begin the steps that are private to an item. Raises RimecrestError, as `run`."""
        if self._flow is not None:
            raise RimecrestError(f"“{self._file.name}” is still running.", "Stop it first, with Escape.")
        self._begin(file, False)

    def _begin(self, file: MacroFile, step_by_step: bool) -> None:
        faults = (*file.faults, *check_macro(file.macro, self._dispatcher.catalogue, macros=self._others()))
        if faults:
            raise RimecrestError(f"“{file.name}” cannot run: {faults[0]}", "Tell whoever made it.")
        self._file, self._flow, self._said = file, run_macro(file.macro), ""
        self._stepping, self._held, self.line = step_by_step, None, 0
        self._dispatcher.busy = file.name
        self.started.emit(file.name)
        self._advance(None)

    def stop(self) -> None:
        """Stop the run and take everything back."""
        if self._flow is not None:
            if self._question is not None:
                self._question.reject()
            else:
                self._fail(MacroStopped(f"“{self._file.name}” was stopped; nothing was changed."))

    def go_on(self) -> None:
        """Do the step that is waited before. Nothing happens while none is."""
        request, self._held = self._held, None
        if request is None:
            return
        answer = self._tried(request)
        if not isinstance(answer, RimecrestError):
            self.stepped.emit(self.line)
        self._advance(answer)

    def _go_on(self) -> None:
        answer, self._answer = self._answer, None
        self._advance(answer)

    def _tried(self, request: Request) -> Any:
        """The answer to a request; what was refused is an answer too, and the flow says where it stood."""
        try:
            return self._carry_out(request)
        except RimecrestError as error:
            return error

    def _advance(self, answer: Any) -> None:
        until = time.monotonic() + SLICE
        while self._flow is not None:
            try:
                if isinstance(answer, RimecrestError):
                    request = self._flow.throw(answer)
                else:
                    request = self._flow.send(answer)
                if not isinstance(request, Meets) and not self._dispatcher.documents.running:
                    # The needs are met: now the document is the macro's.
                    self._dispatcher.documents.begin_run(self._file.name)
                self.line = getattr(request, "line", 0) or self.line
                if self._stepping and isinstance(request, Perform | Write):
                    self._held = request
                    self.held.emit(request.line)
                    return
                if isinstance(request, Choose):
                    self._ask("", (request,))
                    return
                if isinstance(request, Fill):
                    self._ask(request.title, request.questions)
                    return
                answer = self._tried(request)
            except StopIteration:
                self._succeed()
                return
            except RimecrestError as error:
                self._fail(error)
                return
            if time.monotonic() > until:
                self._answer = answer
                self._slices.start(0)
                return

    def _carry_out(self, request: Request) -> Any:
        match request:
            case Meets():
                return self._meets(request.need)
            case Perform():
                run = f"{self._dispatcher.catalogue.app}:{request.verb}"
                if self._dispatcher.ready(run, request.args).command.leaves_document:
                    self._leaving.append((run, request.args))
                else:
                    self._dispatcher.perform_or_raise(run, request.args, Way.MACRO)
                return None
            case Write():
                self._dispatcher.write(request.text)
                return None
            case Read():
                return self._dispatcher.read(request.name)
            case Fetch():
                file = self._find(request.macro)
                return file.macro if file is not None and not file.faults else None
            case Tell():
                self._said = request.text
                return None
            case Breathe():
                return None
        raise AssertionError(request)

    def _meets(self, need: Need) -> bool:
        if need.context:
            return need.context in self._dispatcher.live()
        return bool(self._dispatcher.read(need.reading))

    def _choices(self, question: Choose) -> tuple[str, ...]:
        if not question.reading:
            return question.choices
        value = self._dispatcher.read(question.reading)
        choices = tuple(map(str, value)) if isinstance(value, list | tuple) else (str(value),)
        if not choices:
            raise MacroStopped(f"There is nothing to choose from: {question.reading} is empty here.")
        return choices

    def _ask(self, title: str, questions: tuple[Choose, ...]) -> None:
        fields = tuple(Asked(q.prompt, self._choices(q), q.default) for q in questions)
        self._single = not title
        if self.ask_elsewhere is not None:
            self.ask_elsewhere(title, fields)
            return
        question = Question(self._file.name, title, fields, self._scheme(), self._window)
        self._question = question
        question.finished.connect(self._answered)
        question.open()
        self.asks.emit(question)

    def answered(self, answers: tuple[str, ...] | None) -> None:
        """The answers to what was asked elsewhere; None: cancelled."""
        if self._flow is not None:
            self._advance(answers[0] if answers and self._single else answers)

    def _answered(self, result: int) -> None:
        question, self._question = self._question, None
        if question is None:
            return
        answers = question.answers() if result else None
        answer: Any = answers[0] if answers and self._single else answers
        question.deleteLater()
        # The dialog's own event is finished first; a macro may ask again at once.
        QTimer.singleShot(0, lambda: self._advance(answer))

    def _succeed(self) -> None:
        if self._dispatcher.documents.running:
            self._dispatcher.documents.end_run()
        leaving, self._leaving = self._leaving, []
        for run, args in leaving:
            try:
                self._dispatcher.perform_or_raise(run, args, Way.MACRO)
            except RimecrestError as error:
                self._end(f"{error} What was written stays; one undo takes it back.")
                return
        self._end(self._said)

    def _fail(self, error: RimecrestError) -> None:
        self._dispatcher.documents.take_back_run()
        self._leaving = []
        self._end(str(error), well=False)

    def _end(self, sentence: str, well: bool = True) -> None:
        name, identity = (self._file.name, self._file.id) if self._file else ("", "")
        self._flow, self._file, self._held = None, None, None
        self._slices.stop()
        self._dispatcher.busy = ""
        self.finished.emit(identity, well)
        self.ended.emit(name, sentence)
