"""The one way in which anything in an application is done.

Menus, buttons, hotkeys, macros and the link all call `perform`. It checks the context, groups undo, tells
who listens (the recorder, the counts), begins runs of macros, and says in the status line why something did
not happen.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from enum import StrEnum
from typing import Any, Protocol

from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.embed.asked import AskedPanel
from rimecrest.embed.declare import Declarations, Declared
from rimecrest.embed.document import NOT_DONE, Document, Reached
from rimecrest.embed.leaving import Agreements, Wants
from rimecrest.embed.macro_library import MacroLibrary
from rimecrest.embed.macro_run import MacroRun
from rimecrest.embed.open_documents import OpenDocuments
from rimecrest.embed.panel_fields import field_with_the_keys
from rimecrest.embed.run_partners import Asker

COMPANIONS = "companions"
"""First part of the path of a file that a macro brings along."""


class Way(StrEnum):
    """How a command was reached."""

    KEY = "key"
    BUTTON = "button"
    MENU = "menu"
    MACRO = "macro"
    LINK = "link"


BY_HAND = (Way.KEY, Way.BUTTON, Way.MENU)
"""How a person reaches a command."""


class Panels(Protocol):
    """The panels of a window, as far as macros have to do with them."""

    def told(self, own: str = "") -> Catalogue:
        """The catalogue with what panels tell besides; `own`: the panel whose private steps are checked."""
        ...

    def read(self, name: str) -> str | None:
        """What a reading of a panel tells; None: it is none."""
        ...

    def asked(self, name: str) -> AskedPanel | None:
        """A panel as a question."""
        ...

    def fill(self, answers: Mapping[str, str]) -> None:
        """Write values into panels, by identity."""
        ...


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

    def __init__(
        self, declarations: Declarations, documents: OpenDocuments, library: MacroLibrary, asker: Asker
    ) -> None:
        """`asker` asks what macros ask, unless a run is given one of its own."""
        super().__init__()
        self.declarations = declarations
        self.app = declarations.app
        self.catalogue: Catalogue = declarations.catalogue()
        self.documents = documents
        self.contexts = self.catalogue.context_tree
        self.used: Counter[tuple[str, str]] = Counter()
        self.run: MacroRun | None = None
        """The macro that runs now; while there is one, nothing else is performed."""
        self.agreements = Agreements(None)
        """What the colleague lets macros do outside; the window has those of its profile."""
        self.panels: Panels | None = None
        """The panels of the window; None: it has none."""
        self.library = library
        self._asker = asker

    @property
    def document(self) -> Document:
        """The document that is worked in."""
        return self.documents.current

    def live(self) -> frozenset[str]:
        """The contexts that are live now: the document's, and that of a panel's field with the keys."""
        field = (FIELD,) if field_with_the_keys() is not None else ()
        return self.contexts.live((*self.document.innermost(), *field))

    # By hand and over the link

    def perform(self, run: str, args: Mapping[str, str] | None = None, way: Way = Way.LINK) -> bool:
        """Perform a target and say why when it cannot be done. Returns whether it was done."""
        try:
            self.perform_or_raise(run, args or {}, way)
        except RimecrestError as error:
            self.refused.emit(str(error))
            return False
        return True

    def perform_or_raise(self, run: str, args: Mapping[str, str], way: Way = Way.LINK) -> Any:
        """Perform a target.

        Returns:
            What the command answers; None for most, and for a macro, which goes on by itself.

        Raises:
            RimecrestError: a macro runs, there is no such command, its context is not live, or it refused.
        """
        self._refuse_while_running(run)
        self.about_to.emit()
        answer = None
        if run.startswith("macro:"):
            self.begin_macro(run.removeprefix("macro:"))
        else:
            asks = way in BY_HAND and not args
            declared = self.ready(run, args, asks)
            if asks and declared.asks is not None:
                declared.asks(self.document)
                return NOT_DONE
            answer = self._call(declared, args)
            self.did.emit(declared.command, dict(args), answer)
            if isinstance(answer, Reached) and not answer.done:
                return answer
            if isinstance(answer, Reached) and answer.says:
                self.told.emit(answer.says)
        self._note(run, way)
        return answer

    def write(self, text: str) -> None:
        """Write text at the cursor, as it is typed; nothing while a macro runs, or beyond a bound."""
        if self.run is not None:
            return
        self.about_to.emit()
        try:
            self.document.write(text)
        except RimecrestError as error:
            self.refused.emit(str(error))
            return
        self.wrote.emit(text)

    def read_from(self, document: Document, name: str) -> Any:
        """The value of a reading of any document, shown or not.

        Raises:
            RimecrestError: there is no such reading.
        """
        known = self.declarations.readings.get(name)
        if known is None:
            raise RimecrestError(tr("{title} cannot tell “{name}”.", title=self.catalogue.title, name=name))
        return known[1](document)

    def read(self, name: str) -> Any:
        """The value of a reading. Raises RimecrestError when there is no such reading."""
        if self.panels is not None and (value := self.panels.read(name)) is not None:
            return value
        return self.read_from(self.document, name)

    def _refuse_while_running(self, run: str = "") -> None:
        if self.run is not None and not (self.run.pointing and self._only_goes(run)):
            raise RimecrestError(
                tr("“{name}” is still running.", name=self.run.name), tr("Stop it first, with Escape.")
            )

    def _only_goes(self, run: str) -> bool:
        """Whether a command only goes somewhere, or selects, as may be done while something is pointed at."""
        command = self.catalogue.by_id.get(run)
        return (
            command is not None
            and bool(command.changes)
            and not command.effects
            and not command.leaves_document
        )

    def _note(self, run: str, way: Way) -> None:
        self.used[run, way.value] += 1

    # Commands

    def ready(self, run: str, args: Mapping[str, str], asks: bool = False) -> Declared:
        """The command, when it could be performed now; `asks`: what it needs can be asked for.

        Raises:
            RimecrestError: there is no such command, its context is not live, or a setting does not fit.
        """
        declared = self.declarations.commands.get(self.catalogue.renamed_commands.get(run, run))
        if declared is None:
            near = self.catalogue.nearest(run.partition(":")[2])
            hint = tr("Did you mean “{near}”?", near=near) if near else ""
            raise RimecrestError(
                tr("{title} has no command “{run}”.", title=self.catalogue.title, run=run), hint
            )
        command = declared.command
        if command.context not in self.live():
            self.document.make_live(command.context)
        if command.context not in self.live():
            where = self.contexts.name(command.context).lower()
            raise RimecrestError(
                tr("“{name}” works {where} only.", name=command.name, where=where),
                tr("Put the cursor there first."),
            )
        faults = command.argument_faults(args, by_hand=asks)
        if faults:
            raise RimecrestError(f"{command.name}: {faults[0]}.")
        return declared

    def _call(self, declared: Declared, args: Mapping[str, str]) -> Any:
        command = declared.command
        args = self._found(command, args)
        if Effect.EDITS not in command.effects:
            return declared.call(self.document, args)
        with self.document.change(command.name):
            return declared.call(self.document, args)

    def _found(self, command: Command, args: Mapping[str, str]) -> Mapping[str, str]:
        """The settings with paths of companions as paths of this seat."""
        found = dict(args)
        for argument in command.arguments:
            if argument.type is ArgumentType.PATH and argument.name in found:
                path = clean_path(found[argument.name])
                if path.parts[:1] == (COMPANIONS,):
                    if self.documents.lent is None:
                        raise RimecrestError(
                            tr("The companion {path} is not here.", path=path),
                            tr("Ask whoever made the macro."),
                        )
                    found[argument.name] = str(self.documents.lent / path.relative_to(COMPANIONS))
        return found

    # Runs of macros

    def begin_macro(self, identity: str, step_by_step: bool = False, asker: Asker | None = None) -> MacroRun:
        """Begin a macro, which then goes on by itself; see `MacroRun`.

        Raises:
            RimecrestError: there is none, it cannot run, or another one runs.
        """
        self._refuse_while_running()
        file = self.find_macro(identity)
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

        checked = check_macro(file.macro, self.with_panels(panel), macros=self.library.others())
        # Whether a file can be reached is a question for the studio; here it is tried.
        faults = [fault for fault in (*file.faults, *checked) if fault.kind != "reach"]
        if faults:
            raise RimecrestError(
                tr("“{name}” cannot run: {faults}", name=file.name, faults=faults[0]),
                tr("Tell whoever made it."),
            )
        run = MacroRun(file, self, self.documents, asker or self._asker, step_by_step)
        self.run = run
        run.ended.connect(lambda sentence: self._ended(run, sentence))
        self.run_begun.emit(run)
        run.begin()
        return run

    def with_panels(self, panel: str = "") -> Catalogue:
        """The catalogue with what panels tell besides; `panel`: the one whose private steps are meant."""
        return self.panels.told(panel) if self.panels is not None else self.catalogue

    def _ended(self, run: MacroRun, sentence: str) -> None:
        self.run = None
        self.run_over.emit(run.file.id, run.well)
        self.run_ended.emit(run.name, sentence, run.well)

    # What a run wants done (`Carrier`)

    def find_macro(self, identity: str) -> MacroFile | None:
        """The macro of that id. Raises RimecrestError when nobody vouches for its maker."""
        return self.library.find(identity)

    def panel(self, name: str) -> AskedPanel:
        """A panel as a question. Raises RimecrestError when there is none of that id."""
        found = self.panels.asked(name) if self.panels is not None else None
        if found is None:
            raise RimecrestError(
                tr("The panel “{name}” is not here.", name=name), tr("Ask whoever shares your layouts.")
            )
        return found

    def fill_panel(self, _name: str, answers: Mapping[str, str]) -> None:
        """Write answers into a panel, for as long as the macro's run is not taken back."""
        if self.panels is not None:
            self.panels.fill(answers)

    def ring(self) -> None:
        """Let the end of a macro be heard, where the seat has that on."""
        self.documents.sounds.ring()

    def wants(self, declared: Declared, args: Mapping[str, str]) -> Wants | None:
        """What a command is about to do outside; None: nothing that has to be asked about."""
        return declared.wants(self.document, self._found(declared.command, args))

    def agreed(self, file: MacroFile, lasting: str) -> bool:
        """Whether the colleague lets this macro do that, once and for all."""
        return self.agreements.has(file, lasting)

    def agree(self, file: MacroFile, lasting: str) -> None:
        """Remember that they do."""
        self.agreements.add(file, lasting)

    def carry_out(self, declared: Declared, args: Mapping[str, str]) -> None:
        """Perform a command for a macro; `ready` has said that it can be."""
        self._call(declared, args)
        self._note(declared.command.id, Way.MACRO)

    def write_in_run(self, text: str) -> None:
        """Write text at the cursor, for a macro."""
        self.document.write(text)
