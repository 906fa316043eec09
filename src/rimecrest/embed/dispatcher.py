"""The one way in which anything in an application is done.

Menus, buttons, hotkeys, macros and the link all call `perform`. It checks the context, groups undo, tells
who listens (the recorder, the counts), and says in the status line why something did not happen.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping
from enum import StrEnum
from typing import Any, Protocol

import structlog
from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.catalogue import ArgumentType, Catalogue, Command, Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.embed.declare import Declarations, Declared
from rimecrest.embed.document import Document, clean_path
from rimecrest.embed.open_documents import OpenDocuments

log = structlog.get_logger()
COMPANIONS = "companions"
"""First part of the path of a file that a macro brings along."""


class Way(StrEnum):
    """How a command was reached."""

    KEY = "key"
    BUTTON = "button"
    MENU = "menu"
    MACRO = "macro"
    LINK = "link"


class Watcher(Protocol):
    """Whoever wants to know of everything that a colleague does: the recorder."""

    def about_to(self) -> None:
        """Something is going to be done."""

    def did(self, command: Command, args: Mapping[str, str], answer: Any) -> None: ...

    def wrote(self, text: str) -> None: ...


class Dispatcher(QObject):
    """Performs commands and macros of one window."""

    performed = pyqtSignal(str, dict, str)
    """(target, settings, way) after each that went well."""
    refused = pyqtSignal(str)
    """The sentence why something did not happen."""

    def __init__(self, declarations: Declarations, documents: OpenDocuments) -> None:
        super().__init__()
        self.declarations = declarations
        self.catalogue: Catalogue = declarations.catalogue()
        self.documents = documents
        self.contexts = self.catalogue.context_tree
        self.used: Counter[tuple[str, str]] = Counter()
        self.run_macro: Callable[[str], None] = lambda identity: None
        """Set by whoever can run macros; takes the macro's id."""
        self.watcher: Watcher | None = None
        self.busy = ""
        """Name of the macro that runs now; while there is one, nothing else is performed."""

    @property
    def document(self) -> Document:
        """The document that is worked in."""
        return self.documents.current

    def live(self) -> frozenset[str]:
        """The contexts that are live now."""
        return self.contexts.live(self.document.innermost())

    def perform(self, run: str, args: Mapping[str, str] | None = None, way: Way = Way.LINK) -> bool:
        """Perform a target and say why when it cannot be done. Returns whether it was done."""
        try:
            self.perform_or_raise(run, args or {}, way)
        except RimecrestError as error:
            self.refused.emit(str(error))
            return False
        return True

    def perform_or_raise(self, run: str, args: Mapping[str, str], way: Way) -> Any:
        """Perform a target.

        Returns:
            What the command answers; None for most, and for a macro, which goes on by itself.

        Raises:
            RimecrestError: there is no such command, its context is not live, or it refused.
        """
        if self.busy and way is not Way.MACRO:
            raise RimecrestError(f"“{self.busy}” is still running.", "Stop it first, with Escape.")
        self._announce(way)
        if run.startswith("macro:"):
            self.run_macro(run.removeprefix("macro:"))
            answer = None
        else:
            answer = self._command(run, args)
            if self.watcher is not None and way is not Way.MACRO:
                self.watcher.did(self.catalogue.by_id[run], args, answer)
        self.used[run, way.value] += 1
        self.performed.emit(run, dict(args), way.value)
        return answer

    def _announce(self, way: Way) -> None:
        if self.watcher is not None and way is not Way.MACRO:
            self.watcher.about_to()

    def ready(self, run: str, args: Mapping[str, str]) -> Declared:
        """The command, when it could be performed now.

        Raises:
            RimecrestError: there is no such command, its context is not live, or a setting does not fit.
        """
        declared = self.declarations.commands.get(run)
        if declared is None:
            near = self.catalogue.nearest(run.partition(":")[2])
            hint = f"Did you mean “{near}”?" if near else ""
            raise RimecrestError(f"{self.catalogue.title} has no command “{run}”.", hint)
        command = declared.command
        if command.context not in self.live():
            self.document.make_live(command.context)
        if command.context not in self.live():
            where = self.contexts.name(command.context).lower()
            raise RimecrestError(f"“{command.name}” works {where} only.", "Put the cursor there first.")
        if faults := command.argument_faults(args):
            raise RimecrestError(f"{command.name}: {faults[0]}.")
        return declared

    def _found(self, command: Command, args: Mapping[str, str]) -> Mapping[str, str]:
        """The settings with paths of companions as paths of this seat."""
        found = dict(args)
        for argument in command.arguments:
            if argument.type is ArgumentType.PATH and argument.name in found:
                path = clean_path(found[argument.name])
                if path.parts[:1] == (COMPANIONS,):
                    if self.documents.lent is None:
                        raise RimecrestError(
                            f"The companion {path} is not here.", "Ask whoever made the macro."
                        )
                    found[argument.name] = str(self.documents.lent / path.relative_to(COMPANIONS))
        return found

    def _command(self, run: str, args: Mapping[str, str]) -> Any:
        declared = self.ready(run, args)
        command = declared.command
        args = self._found(command, args)
        if Effect.EDITS not in command.effects:
            return declared.call(self.document, args)
        with self.document.change(command.name):
            return declared.call(self.document, args)

    def write(self, text: str, way: Way = Way.MACRO) -> None:
        """Write text at the cursor, for a macro or as it is typed."""
        if self.busy and way is not Way.MACRO:
            return
        self._announce(way)
        self.document.write(text)
        if self.watcher is not None and way is not Way.MACRO:
            self.watcher.wrote(text)
        self.performed.emit("write", {"text": text}, way.value)

    def read(self, name: str) -> Any:
        """The value of a reading. Raises RimecrestError when there is no such reading."""
        known = self.declarations.readings.get(name)
        if known is None:
            raise RimecrestError(f"{self.catalogue.title} cannot tell “{name}”.")
        return known[1](self.document)
