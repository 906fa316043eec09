"""Perform the commands of an application, and read from it.

This module knows neither windows nor documents. A `Host` has them, or represents a program that
runs elsewhere.
"""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import AbstractContextManager
from pathlib import Path
from typing import Any, Protocol

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.declare import Declarations, Declared, Wants
from rimecrest.kit.panels.fields import field_with_the_keys
from rimecrest.kit.panels.host import PanelHost

COMPANIONS = "companions"
"""First part of the path of a file that comes with a macro."""


class Subject(Protocol):
    """The current document, which commands and readings get as their first argument."""

    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        """Return a context for a command that edits: one entry of undo, or a part of the entry of the run."""
        ...

    def innermost(self) -> tuple[str, ...]:
        """Return the narrowest contexts of the place that was active last."""
        ...

    def make_live(self, context: str) -> None:
        """Finish whatever keeps a context from being live: one of its commands is about to run."""
        ...

    def write(self, text: str) -> None:
        """Write at the cursor, as typing does."""
        ...

    def agree_to_overwrite(self) -> None:
        """The user confirmed: the next save may overwrite the file."""
        ...


class Host(Protocol):
    """Knows the current document, and takes back the runs of macros."""

    lent: Path | None
    """Folder of the files that come with macros; None if there are none."""

    @property
    def current(self) -> Subject:
        """The current document."""
        ...

    @property
    def running(self) -> bool:
        """True while a macro runs."""
        ...

    def begin_run(self, label: str) -> None:
        """Start to collect every change for the entry of a run."""
        ...

    def end_run(self) -> None:
        """Keep the changes of the run as one entry of undo."""
        ...

    def take_back_run(self) -> None:
        """Restore everything to the state before the run."""
        ...

    def is_open(self, subject: Any) -> bool: ...

    def was_open(self, subject: Any) -> bool:
        """Return whether it was open when the last run began."""
        ...

    def show(self, subject: Any) -> None:
        """Make it the current document."""
        ...


class Executor:
    """Performs commands and reads, each immediately. The dispatcher decides when."""

    def __init__(self, declarations: Declarations, host: Host) -> None:
        self.declarations = declarations
        self.host = host
        self.catalogue: Catalogue = declarations.catalogue()
        self.contexts = self.catalogue.context_tree
        self.panels: PanelHost | None = None
        """The panels of the window; None if it has no panels."""

    def live(self) -> frozenset[str]:
        """Return the live contexts: those of the document, and that of a panel's field with the focus."""
        field = (FIELD,) if field_with_the_keys() is not None else ()
        return self.contexts.live((*self.host.current.innermost(), *field))

    def catalogue_with_panels(self, panel: str = "") -> Catalogue:
        """Return the catalogue with the readings of panels.

        Args:
            panel: the panel whose private steps may use short names; empty for none.
        """
        return self.panels.told(panel) if self.panels is not None else self.catalogue

    def read(self, name: str) -> Any:
        """Return the value of a reading. Raises RimecrestError if no reading has that name."""
        if self.panels is not None and (value := self.panels.read(name)) is not None:
            return value
        return self.read_from(self.host.current, name)

    def read_from(self, subject: Any, name: str) -> Any:
        """Return the value of a reading of any document, shown or not.

        Raises:
            RimecrestError: no reading has that name.
        """
        known = self.declarations.readings.get(name)
        if known is None:
            raise RimecrestError(tr("{title} cannot tell “{name}”.", title=self.catalogue.title, name=name))
        return known[1](subject)

    def ready(self, run: str, args: Mapping[str, str], asks: bool = False) -> Declared:
        """Return the command if it could be performed now.

        Args:
            asks: the command may ask for the settings that it needs.

        Raises:
            RimecrestError: no command has that id, its context is not live, or a setting does not fit.
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
            self.host.current.make_live(command.context)
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

    def perform(self, declared: Declared, args: Mapping[str, str]) -> Any:
        """Perform a command that is `ready`, and return its answer. Raises RimecrestError if it refuses."""
        command = declared.command
        args = self._found(command, args)
        if Effect.EDITS not in command.effects:
            return declared.call(self.host.current, args)
        with self.host.current.change(command.name):
            return declared.call(self.host.current, args)

    def write(self, text: str) -> None:
        """Write text at the cursor, as typing does. Raises RimecrestError beyond the document's bounds."""
        self.host.current.write(text)

    def wants(self, declared: Declared, args: Mapping[str, str]) -> Wants | None:
        """Return the effect outside the document that the colleague has to allow; None if there is none."""
        return declared.wants(self.host.current, self._found(declared.command, args))

    def _found(self, command: Command, args: Mapping[str, str]) -> Mapping[str, str]:
        """Return the settings, with the paths of companions resolved on this seat."""
        found = dict(args)
        for argument in command.arguments:
            if argument.type is ArgumentType.PATH and argument.name in found:
                path = clean_path(found[argument.name])
                if path.parts[:1] == (COMPANIONS,):
                    if self.host.lent is None:
                        raise RimecrestError(
                            tr("The companion {path} is not here.", path=path),
                            tr("Ask whoever made the macro."),
                        )
                    found[argument.name] = str(self.host.lent / path.relative_to(COMPANIONS))
        return found
