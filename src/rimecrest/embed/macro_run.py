"""One run of a macro in an application: its flow, carried out step by step, as one undo.

The run goes on in slices of a few milliseconds, so that the window stays alive and Escape stops it. While it
is there, nothing else is performed (`Dispatcher.run`). What leaves the document (save, send) is queued until
the last step has succeeded. Any failure, cancel or stop takes everything back; whatever happens, a run ends,
and says how.
"""

from __future__ import annotations

import time
from collections.abc import Mapping
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
from rimecrest.embed.asked import Asked
from rimecrest.embed.declare import Declared
from rimecrest.embed.document import Document
from rimecrest.embed.leaving import OWN, Wants
from rimecrest.embed.open_documents import OpenDocuments
from rimecrest.embed.run_partners import Asker, Carrier

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
        carrier: Carrier,
        documents: OpenDocuments,
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
        self._carrier = carrier
        self._documents = documents
        self._asker = asker
        self._stepping = step_by_step
        self._flow: Flow | None = run_macro(file.macro)
        self._said = ""
        self._aloud = False
        """Whether the end is heard."""
        self._answer: Any = None
        self._queued: list[tuple[Declared, Mapping[str, str], Document]] = []
        """What cannot be taken back, and in which document: done after the last step, else never."""
        self._made: set[Path] = set()
        """Files that this run has written: it may write them again."""
        self._asked: Choose | Fill | Present | Wants | None = None
        self._worked_in = documents.current
        self._held: Request | None = None
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
        else:
            self._fail(MacroStopped(tr("“{name}” was stopped; nothing was changed.", name=self.name)))

    def go_on(self) -> None:
        """Do the step that is waited before. Nothing happens while none is."""
        request, self._held = self._held, None
        if request is None:
            return
        answer = self._tried(request)
        if not isinstance(answer, Exception):
            self.stepped.emit(self.line)
        self._advance(answer)

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
            if time.monotonic() > until:
                self._answer = answer
                self._slices.start(0)
                return

    def _waits_for(self, request: Request) -> bool:
        """Whether somebody else has to do something first: answer, or ask for the next step."""
        if not isinstance(request, Meets) and not self._documents.running:
            # The needs are met: now the document is the macro's.
            self._documents.begin_run(self.name)
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
                declared = self._carrier.ready(f"{self._carrier.app}:{request.verb}", request.args)
                if declared.command.leaves_document:
                    self._queued.append((declared, request.args, self._documents.current))
                else:
                    self._carrier.carry_out(declared, request.args)
                return None
            case Write():
                self._carrier.write_in_run(request.text)
                return None
            case Read():
                return self._carrier.read(request.name)
            case Fetch():
                file = self._carrier.find_macro(request.macro)
                return file.macro if file is not None and not file.faults else None
            case Tell():
                self._said = request.text or self._said
                self._aloud = self._aloud or request.aloud
                return None
            case Breathe():
                return None
        raise AssertionError(request)

    def _meets(self, need: Need) -> bool:
        if need.context:
            return need.context in self._carrier.live()
        return is_met(self._carrier.read(need.reading))

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
                partial(self._carrier.read, RANGE) if q.range else None,
            )
            for q in questions
        )
        self._asked = request
        self._asker.ask(self.name, title, fields, self._answered)

    def _present(self, request: Present) -> None:
        panel = self._carrier.panel(request.panel)
        self._asked = request

        def filled(answers: Mapping[str, str] | None) -> None:
            if self._asked is not request:
                return
            self._asked = None
            if answers is not None:
                self._carrier.fill_panel(request.panel, answers)
            self._advance(None if answers is None else ())

        self._asker.ask_panel(self.name, panel, filled)

    def _choices(self, question: Choose) -> tuple[str, ...]:
        if not question.reading:
            return question.choices
        value = self._carrier.read(question.reading)
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
        if self._documents.running:
            self._documents.end_run()
        self._worked_in = self._documents.current
        self._leave()

    def _leave(self, allowed: Wants | None = None) -> None:
        """Do what cannot be taken back, one thing after the other; what a shared macro reaches for is asked.

        Args:
            allowed: what the colleague has just said yes to.
        """
        try:
            while self._queued:
                declared, args, document = self._queued[0]
                if self._documents.is_open(document):
                    self._documents.show(document)
                now = self._carrier.ready(declared.command.id, args)
                wants = self._carrier.wants(now, args)
                if wants is not None and wants != allowed and self._has_to_ask(wants):
                    self._ask_to_leave(wants)
                    return
                if allowed is not None and allowed.writes is not None:
                    document.agree_to_overwrite()
                allowed = None
                del self._queued[0]
                self._carrier.carry_out(now, args)
                if wants is not None and wants.writes is not None:
                    self._made.add(wants.writes)
        except RimecrestError as error:
            self._leave_off(str(error))
            return
        except Exception as error:
            self._leave_off(str(self._unexpected(error)))
            return
        self._go_back()
        if self._aloud:
            self._carrier.ring()
        self._end(self._said, well=True)

    def _go_back(self) -> None:
        """To the document in which the last step was done."""
        if self._documents.is_open(self._worked_in):
            self._documents.show(self._worked_in)

    def _leave_off(self, said: str) -> None:
        """Do nothing more of what cannot be taken back."""
        self._go_back()
        self._end(tr("{said} What was written stays; one undo takes it back.", said=said), well=True)

    def _has_to_ask(self, wants: Wants) -> bool:
        # What is tried step by step may have come from anybody: it is asked whatever shelf it is on.
        own = self.file.layer in OWN and not self._stepping
        if own or self._carrier.agreed(self.file, wants.lasting):
            return False
        if wants.writes is None:
            return True
        saves_what_stood = wants.own and self._documents.stood_open(self._documents.current)
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
                self._carrier.agree(self.file, wants.lasting)
            self._leave(wants)

        self._asker.ask_leave(self.name, wants.words, bool(wants.lasting), answered)

    def _fail(self, error: RimecrestError) -> None:
        sentence = str(error)
        try:
            self._documents.take_back_run()
        except Exception as trouble:
            sentence = tr(
                "{sentence} {unexpected} Look at the document before you save it.",
                sentence=sentence,
                unexpected=self._unexpected(trouble),
            )
        self._end(sentence, well=False)

    def _end(self, sentence: str, well: bool) -> None:
        self._flow, self._held, self._queued = None, None, []
        self._slices.stop()
        self.well = well
        self.ended.emit(sentence)
