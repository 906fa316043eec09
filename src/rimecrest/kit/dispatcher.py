"""The one way in which anything in an application is done.

Menus, buttons, hotkeys, macros and the link all call `perform`. It checks the context, groups undo, tells
who listens (the recorder, the counts), begins runs of macros, and says in the status line why something did
not happen.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.catalogue.catalogue import Command
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.kit.commands.executor import Executor
from rimecrest.kit.commands.leaving import Agreements
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.macros.asker import Asker
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.kit.macros.run import MacroRun
from rimecrest.shell.later import Later


class Dispatcher(QObject):
    """Performs commands and macros of one window.

    Signals:
        about_to: somebody is going to do something, by hand or over the link.
        did(command, settings, answer): they performed a command.
        wrote(text): they wrote.
        refused(sentence): why something did not happen.
        told(sentence): what came of a command, for who did it by hand.
        run_begun(run), run_ended(name, sentence, well): of a macro; the sentence may be empty.
        run_over(id, well): which macro it was, and whether it went well.
        rang: a macro that plays a sound at its end has ended.
    """

    about_to = pyqtSignal()
    did = pyqtSignal(Command, dict, object)
    """The answer is whatever the command of an application gives back."""
    wrote = pyqtSignal(str)
    refused = pyqtSignal(str)
    told = pyqtSignal(str)
    run_begun = pyqtSignal(MacroRun)
    run_ended = pyqtSignal(str, str, bool)
    run_over = pyqtSignal(str, bool)
    rang = pyqtSignal()

    def __init__(
        self, executor: Executor, library: MacroLibrary, agreements: Agreements, asker: Asker
    ) -> None:
        """`agreements` are the colleague's; `asker` asks what macros ask, unless a run has one of its own."""
        super().__init__()
        self.executor = executor
        self.library = library
        self.run: MacroRun | None = None
        """The macro that runs now; while there is one, nothing else is performed."""
        self._agreements = agreements
        self._asker = asker

    # By hand and over the link

    def perform(self, run: str, args: Mapping[str, str] | None = None, by_hand: bool = False) -> bool:
        """Perform a target; if that fails, say why. Returns whether it was done, or has begun."""
        try:
            answer = self.perform_or_raise(run, args or {}, by_hand)
            if isinstance(answer, Later):
                answer.answered.connect(self._say_why_not)
        except RimecrestError as error:
            self.refused.emit(str(error))
            return False
        return True

    def perform_or_raise(self, run: str, args: Mapping[str, str], by_hand: bool = False) -> Any:
        """Perform a target.

        Returns:
            The answer of the command: usually None; a `Later` if the command is not done yet. None for a
            macro, which goes on by itself.

        Raises:
            RimecrestError: a macro runs, the command is unknown, its context is not live, or it refuses.
        """
        self._refuse_while_running(run)
        self.about_to.emit()
        answer = None
        if run.startswith("macro:"):
            self.begin_macro(run.removeprefix("macro:"))
        else:
            asks = by_hand and not args
            declared = self.executor.ready(run, args, asks)
            if asks and declared.asks is not None:
                declared.asks(self.executor.host.current)
                return NOT_DONE
            answer = self.executor.perform(declared, args)
            done = partial(self._done, declared.command, args)
            if isinstance(answer, Later):
                answer.answered.connect(done)
            else:
                done(answer)
        return answer

    def _say_why_not(self, answer: Any) -> None:
        if isinstance(answer, RimecrestError):
            self.refused.emit(str(answer))

    def _done(self, command: Command, args: Mapping[str, str], answer: Any) -> None:
        """Tell the listeners that a command has answered."""
        if isinstance(answer, RimecrestError):
            return
        self.did.emit(command, dict(args), answer)
        if isinstance(answer, CommandResult) and answer.done and answer.says:
            self.told.emit(answer.says)

    def write(self, text: str) -> None:
        """Write text at the cursor, as it is typed; nothing while a macro runs, or beyond a bound."""
        if self.run is not None:
            return
        self.about_to.emit()
        try:
            self.executor.write(text)
        except RimecrestError as error:
            self.refused.emit(str(error))
            return
        self.wrote.emit(text)

    def _refuse_while_running(self, run: str = "") -> None:
        if self.run is not None and not (self.run.pointing and self._only_goes(run)):
            raise RimecrestError(
                tr("“{name}” is still running.", name=self.run.name), tr("Stop it first, with Escape.")
            )

    def _only_goes(self, run: str) -> bool:
        """Whether a command only goes somewhere, or selects, as may be done while something is pointed at."""
        command = self.executor.catalogue.by_id.get(run)
        return (
            command is not None
            and bool(command.changes)
            and not command.effects
            and not command.leaves_document
        )

    # Runs of macros

    def begin_macro(self, identity: str, step_by_step: bool = False, asker: Asker | None = None) -> MacroRun:
        """Begin a macro, which then goes on by itself; see `MacroRun`.

        Raises:
            RimecrestError: there is none, it cannot run, or another one runs.
        """
        self._refuse_while_running()
        file = self.library.find(identity)
        if file is None:
            raise RimecrestError(
                tr("The macro “{identity}” is not here.", identity=identity),
                tr("Ask whoever shares your layouts."),
            )
        return self._begin(file, step_by_step, asker)

    def begin_steps(self, file: MacroFile, panel: str = "") -> MacroRun:
        """Begin the steps that are private to an item, on a panel where it is one's.

        Raises RimecrestError, as `begin_macro`.
        """
        self._refuse_while_running()
        self.about_to.emit()
        return self._begin(file, False, None, panel)

    def stop_run(self) -> None:
        """Stop the macro that runs, if one does, and take everything back."""
        if self.run is not None:
            self.run.stop()

    def _begin(self, file: MacroFile, step_by_step: bool, asker: Asker | None, panel: str = "") -> MacroRun:
        from rimecrest.core.macro.check import check_macro  # noqa: PLC0415  an application starts without it

        checked = check_macro(
            file.macro, self.executor.catalogue_with_panels(panel), macros=self.library.others()
        )
        # Whether a file can be reached is a question for the studio; here it is tried.
        faults = [fault for fault in (*file.faults, *checked) if fault.kind != "reach"]
        if faults:
            raise RimecrestError(
                tr("“{name}” cannot run: {faults}", name=file.name, faults=faults[0]),
                tr("Tell whoever made it."),
            )
        run = MacroRun(
            file, self.executor, self.library, self._agreements, asker or self._asker, step_by_step
        )
        self.run = run
        run.ended.connect(lambda sentence: self._ended(run, sentence))
        self.run_begun.emit(run)
        run.begin()
        return run

    def _ended(self, run: MacroRun, sentence: str) -> None:
        self.run = None
        if run.aloud:
            self.rang.emit()
        self.run_over.emit(run.file.id, run.well)
        self.run_ended.emit(run.name, sentence, run.well)
