"""One run of a macro in an application: its flow, carried out step by step, as one undo.

The run goes on in slices of a few milliseconds, so that the window stays alive and Escape stops it. While it
is there, nothing else is performed (`Dispatcher.run`). What leaves the document (save, send) is queued until
the last step has succeeded. Any failure, cancel or stop takes everything back; whatever happens, a run ends,
and says how.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from rimecrest.core.errors import RimecrestError
from rimecrest.core.log import log
from rimecrest.core.macro.run import (
    Breathe,
    Choose,
    Fetch,
    Fill,
    MacroStopped,
    Meets,
    Perform,
    Present,
    Read,
    Request,
    Tell,
    Write,
    run_macro,
)
from rimecrest.core.macro.steps import RANGE
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.kit.commands.executor import Executor, Subject
from rimecrest.kit.commands.leaving import OWN, Agreements
from rimecrest.kit.declare import Declared, Wants
from rimecrest.kit.macros.asker import Asker
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.kit.panels.asked import Asked, AskedPanel
from rimecrest.kit.panels.host import PanelHost
from rimecrest.shell.later import Later

if TYPE_CHECKING:
    from rimecrest.core.macro.run import Flow
    from rimecrest.core.macro.steps import Need

SLICE = 0.006
"""Seconds of steps between two looks at the window's events: with the longest single step, a paste of
thousands of cells, it answers within 50 ms."""


def is_met(value: Any) -> bool:
    """Whether a reading that a macro needs is there: not empty, and no switch that is off."""
    return bool(value) and value != "no"


class MacroRun(QObject):
    """One run.

    Signals:
        ended(sentence): it is over; empty when it went well and had nothing to say.
        stepped(line): a step that does something was done; only while it goes step by step.
        held(line): it waits before a step; only while it goes step by step.
    """

    ended = pyqtSignal(str)
    stepped = pyqtSignal(int)
    held = pyqtSignal(int)

    def __init__(
        self,
        file: MacroFile,
        executor: Executor,
        library: MacroLibrary,
        agreements: Agreements,
        asker: Asker,
        step_by_step: bool = False,
    ) -> None:
        """Step by step it waits before each step that does something, for `go_on`."""
        super().__init__()
        self.file = file
        self.line = 0
        """The line of the step that was begun last."""
        self.well = False
        """Whether it ended well."""
        self._executor = executor
        self._host = executor.host
        self._library = library
        self._agreements = agreements
        self._asker = asker
        self._stepping = step_by_step
        self._flow: Flow | None = run_macro(file.macro)
        self._said = ""
        self.aloud = False
        """Whether a sound is played at the end."""
        self._rings = False
        self._answer: Any = None
        self._queued: list[tuple[Declared, Mapping[str, str], Subject]] = []
        """What cannot be taken back, and in which document: done after the last step, else never."""
        self._made: set[Path] = set()
        """Files that this run has written: it may write them again."""
        self._asked: Choose | Fill | Present | Wants | None = None
        self._worked_in = executor.host.current
        self._held: Request | None = None
        self._later: Later | None = None
        """The answer that the run waits for."""
        self._slices = QTimer(self)
        self._slices.setSingleShot(True)
        self._slices.timeout.connect(self._next_slice)

    @property
    def name(self) -> str:
        return self.file.name

    @property
    def pointing(self) -> bool:
        """Whether it waits for the colleague to point at something in the document."""
        return isinstance(self._asked, Choose) and self._asked.range

    def begin(self) -> None:
        """Go on to the first thing that takes time."""
        self._advance(None)

    def stop(self) -> None:
        """Stop and take everything back."""
        if self._flow is None:
            return
        if self._asked is not None:
            self._asker.cancel()
        elif self._later is not None and not self._host.running:
            self._leave_off(tr("“{name}” was stopped.", name=self.name))
        else:
            self._fail(MacroStopped(tr("“{name}” was stopped; nothing was changed.", name=self.name)))

    def go_on(self) -> None:
        """Do the step that is waited before. Nothing happens while none is."""
        request, self._held = self._held, None
        if request is None:
            return
        answer = self._tried(request)
        if isinstance(answer, Later):
            self._wait_for(answer, self._stepped)
        else:
            self._stepped(answer)

    def _stepped(self, answer: Any) -> None:
        if not isinstance(answer, Exception):
            self.stepped.emit(self.line)
        self._advance(answer)

    def _wait_for(self, later: Later, then: Callable[[Any], None]) -> None:
        """Continue with `then` once a command has answered, unless the run has ended by then."""
        self._later = later

        def came(answer: Any) -> None:
            if self._later is later:
                self._later = None
                then(answer)

        later.answered.connect(came)

    def _next_slice(self) -> None:
        answer, self._answer = self._answer, None
        self._advance(answer)

    def _advance(self, answer: Any) -> None:
        until = time.monotonic() + SLICE
        while self._flow is not None:
            try:
                request = (
                    self._flow.throw(answer) if isinstance(answer, Exception) else self._flow.send(answer)
                )
                if self._waits_for(request):
                    return
            except StopIteration:
                self._succeed()
                return
            except RimecrestError as error:
                self._fail(error)
                return
            except Exception as error:
                self._fail(self._unexpected(error))
                return
            answer = self._tried(request)
            if isinstance(answer, Later):
                self._wait_for(answer, self._advance)
                return
            if time.monotonic() > until:
                self._answer = answer
                self._slices.start(0)
                return

    def _waits_for(self, request: Request) -> bool:
        """Whether somebody else has to do something first: answer, or ask for the next step."""
        if not isinstance(request, Meets) and not self._host.running:
            # The needs are met: now the document is the macro's.
            self._host.begin_run(self.name)
        self.line = getattr(request, "line", 0) or self.line
        if self._stepping and isinstance(request, Perform | Write):
            self._held = request
            self.held.emit(request.line)
            return True
        if isinstance(request, Choose | Fill):
            self._ask(request)
            return True
        if isinstance(request, Present):
            self._present(request)
            return True
        return False

    def _tried(self, request: Request) -> Any:
        """The answer to a request; what was refused is an answer too, and the flow says where it stood."""
        try:
            return self._carry_out(request)
        except RimecrestError as error:
            return error
        except Exception as error:
            return self._unexpected(error)

    def _unexpected(self, error: Exception) -> RimecrestError:
        # A mistake of ours must neither leave the window locked nor half a macro in the letter.
        log.error("a macro met a mistake", macro=self.file.id, line=self.line, exc_info=error)
        return RimecrestError(
            tr("Something went wrong inside ({name}).", name=type(error).__name__),
            tr("Tell whoever looks after Rimecrest."),
        )

    def _carry_out(self, request: Request) -> Any:
        match request:
            case Meets():
                return self._meets(request.need)
            case Perform():
                declared = self._executor.ready(
                    f"{self._executor.catalogue.app}:{request.verb}", request.args
                )
                if declared.command.leaves_document:
                    self._queued.append((declared, request.args, self._host.current))
                else:
                    answer = self._executor.perform(declared, request.args)
                    return answer if isinstance(answer, Later) else None
                return None
            case Write():
                self._executor.write(request.text)
                return None
            case Read():
                return self._executor.read(request.name)
            case Fetch():
                file = self._library.find(request.macro)
                return file.macro if file is not None and not file.faults else None
            case Tell():
                self._said = request.text or self._said
                self._rings = self._rings or request.aloud
                return None
            case Breathe():
                return None
        raise AssertionError(request)

    def _meets(self, need: Need) -> bool:
        if need.context:
            return need.context in self._executor.live()
        return is_met(self._executor.read(need.reading))

    # Asking

    def _ask(self, request: Choose | Fill) -> None:
        title, questions = (
            (request.title, request.questions) if isinstance(request, Fill) else ("", (request,))
        )
        fields = tuple(
            Asked(
                q.prompt,
                self._choices(q),
                q.default,
                partial(self._executor.read, RANGE) if q.range else None,
            )
            for q in questions
        )
        self._asked = request
        self._asker.ask(self.name, title, fields, self._answered)

    def _present(self, request: Present) -> None:
        panels, panel = self._panel(request.panel)
        self._asked = request

        def filled(answers: Mapping[str, str] | None) -> None:
            if self._asked is not request:
                return
            self._asked = None
            if answers is not None:
                panels.fill(answers)
            self._advance(None if answers is None else ())

        self._asker.ask_panel(self.name, panel, filled)

    def _panel(self, name: str) -> tuple[PanelHost, AskedPanel]:
        """Return the panels of the window, and one of them as a question."""
        panels = self._executor.panels
        found = panels.asked(name) if panels is not None else None
        if panels is None or found is None:
            raise RimecrestError(
                tr("The panel “{name}” is not here.", name=name), tr("Ask whoever shares your layouts.")
            )
        return panels, found

    def _choices(self, question: Choose) -> tuple[str, ...]:
        if not question.reading:
            return question.choices
        value = self._executor.read(question.reading)
        choices = tuple(map(str, value)) if isinstance(value, list | tuple) else (str(value),)
        if not choices:
            raise MacroStopped(
                tr("There is nothing to choose from: {reading} is empty here.", reading=question.reading)
            )
        return choices

    def _answered(self, answers: tuple[str, ...] | None) -> None:
        asked, self._asked = self._asked, None
        if asked is not None:
            self._advance(answers[0] if answers and isinstance(asked, Choose) else answers)

    # Ending

    def _succeed(self) -> None:
        if self._host.running:
            self._host.end_run()
        self._worked_in = self._host.current
        self._leave()

    def _leave(self, allowed: Wants | None = None) -> None:
        """Do what cannot be taken back, one thing after the other; what a shared macro reaches for is asked.

        Args:
            allowed: what the colleague has just said yes to.
        """
        try:
            while self._queued:
                declared, args, document = self._queued[0]
                if self._host.is_open(document):
                    self._host.show(document)
                now = self._executor.ready(declared.command.id, args)
                wants = self._executor.wants(now, args)
                if wants is not None and wants != allowed and self._has_to_ask(wants):
                    self._ask_to_leave(wants)
                    return
                if allowed is not None and allowed.writes is not None:
                    document.agree_to_overwrite()
                allowed = None
                del self._queued[0]
                answer = self._executor.perform(now, args)
                if wants is not None and wants.writes is not None:
                    self._made.add(wants.writes)
                if isinstance(answer, Later):
                    self._wait_for(answer, self._left)
                    return
        except RimecrestError as error:
            self._leave_off(str(error))
            return
        except Exception as error:
            self._leave_off(str(self._unexpected(error)))
            return
        self._go_back()
        self.aloud = self._rings
        self._end(self._said, well=True)

    def _left(self, answer: Any) -> None:
        """Continue after a queued command has answered."""
        if isinstance(answer, Exception):
            self._leave_off(str(answer))
        else:
            self._leave()

    def _go_back(self) -> None:
        """To the document in which the last step was done."""
        if self._host.is_open(self._worked_in):
            self._host.show(self._worked_in)

    def _leave_off(self, said: str) -> None:
        """Do nothing more of what cannot be taken back."""
        self._go_back()
        self._end(tr("{said} What was written stays; one undo takes it back.", said=said), well=True)

    def _has_to_ask(self, wants: Wants) -> bool:
        # What is tried step by step may have come from anybody: it is asked whatever shelf it is on.
        own = self.file.layer in OWN and not self._stepping
        if own or self._agreements.has(self.file, wants.lasting):
            return False
        if wants.writes is None:
            return True
        saves_what_stood = wants.own and self._host.was_open(self._host.current)
        stands = wants.risky or wants.writes.exists()
        return stands and wants.writes not in self._made and not saves_what_stood

    def _ask_to_leave(self, wants: Wants) -> None:
        self._asked = wants

        def answered(may: bool, lasts: bool) -> None:
            if self._asked is not wants:
                return
            self._asked = None
            if not may:
                self._leave_off(tr("“{name}” did not {words}.", name=self.name, words=wants.words))
                return
            if lasts:
                self._agreements.add(self.file, wants.lasting)
            self._leave(wants)

        self._asker.ask_leave(self.name, wants.words, bool(wants.lasting), answered)

    def _fail(self, error: RimecrestError) -> None:
        sentence = str(error)
        try:
            self._host.take_back_run()
        except Exception as trouble:
            sentence = tr(
                "{sentence} {unexpected} Look at the document before you save it.",
                sentence=sentence,
                unexpected=self._unexpected(trouble),
            )
        self._end(sentence, well=False)

    def _end(self, sentence: str, well: bool) -> None:
        self._flow, self._held, self._later, self._queued = None, None, None, []
        self._slices.stop()
        self.well = well
        self.ended.emit(sentence)
