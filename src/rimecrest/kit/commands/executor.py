"""Performing the commands of an application in what is worked in, and reading from it.

Nothing here knows windows or documents: a `Host` has both, or works in a program that runs elsewhere.
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
"""First part of the path of a file that a macro brings along."""


class Subject(Protocol):
    """Commands and readings are called with it: the document that is worked in."""

    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        """Around a command that edits: one entry of undo, or a part of the run's."""
        ...

    def innermost(self) -> tuple[str, ...]:
        """The narrowest contexts of the place that was last active."""
        ...

    def make_live(self, context: str) -> None:
        """A command of this context is about to be done: finish what keeps it from being live."""
        ...

    def write(self, text: str) -> None:
        """Write at the cursor, as if typed."""
        ...

    def agree_to_overwrite(self) -> None:
        """The user confirmed: the next save may overwrite the file."""
        ...


class Host(Protocol):
    """Has what is worked in, and takes runs of macros back."""

    lent: Path | None
    """The folder of what macros bring along; None: there is nothing."""

    @property
    def current(self) -> Subject:
        """What is worked in."""
        ...

    @property
    def running(self) -> bool:
        """Whether a macro runs."""
        ...

    def begin_run(self, label: str) -> None:
        """From here on everything is the run's."""
        ...

    def end_run(self) -> None:
        """Keep what the run did, as one entry of undo."""
        ...

    def take_back_run(self) -> None:
        """Have everything as it was before the run."""
        ...

    def is_open(self, subject: Any) -> bool: ...

    def was_open(self, subject: Any) -> bool:
        """Whether it was open already when the last run began."""
        ...

    def show(self, subject: Any) -> None:
        """Work in that one."""
        ...


class Executor:
    """Performs commands and reads, each at once; the dispatcher says when."""

    def __init__(self, declarations: Declarations, host: Host) -> None:
        self.declarations = declarations
        self.host = host
        self.catalogue: Catalogue = declarations.catalogue()
        self.contexts = self.catalogue.context_tree
        self.panels: PanelHost | None = None
        """The panels of the window; None: it has none."""

    def live(self) -> frozenset[str]:
        """The contexts that are live now: the document's, and that of a panel's field with the keys."""
        field = (FIELD,) if field_with_the_keys() is not None else ()
        return self.contexts.live((*self.host.current.innermost(), *field))

    def catalogue_with_panels(self, panel: str = "") -> Catalogue:
        """The catalogue with what panels tell besides; `panel`: the one whose private steps are meant."""
        return self.panels.told(panel) if self.panels is not None else self.catalogue

    def read(self, name: str) -> Any:
        """The value of a reading. Raises RimecrestError when there is no such reading."""
        if self.panels is not None and (value := self.panels.read(name)) is not None:
            return value
        return self.read_from(self.host.current, name)

    def read_from(self, subject: Any, name: str) -> Any:
        """The value of a reading of any document, shown or not.

        Raises:
            RimecrestError: there is no such reading.
        """
        known = self.declarations.readings.get(name)
        if known is None:
            raise RimecrestError(tr("{title} cannot tell “{name}”.", title=self.catalogue.title, name=name))
        return known[1](subject)

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
        """Perform a command; `ready` has said that it can be. Returns what it answers.

        Raises:
            RimecrestError: it refused.
        """
        command = declared.command
        args = self._found(command, args)
        if Effect.EDITS not in command.effects:
            return declared.call(self.host.current, args)
        with self.host.current.change(command.name):
            return declared.call(self.host.current, args)

    def write(self, text: str) -> None:
        """Write text at the cursor, as it is typed. Raises RimecrestError beyond a bound."""
        self.host.current.write(text)

    def wants(self, declared: Declared, args: Mapping[str, str]) -> Wants | None:
        """What a command is about to do outside; None: nothing that has to be asked about."""
        return declared.wants(self.host.current, self._found(declared.command, args))

    def _found(self, command: Command, args: Mapping[str, str]) -> Mapping[str, str]:
        """The settings with paths of companions as paths of this seat."""
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
