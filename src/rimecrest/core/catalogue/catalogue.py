"""The catalogue record and the look-ups on it."""

from collections.abc import Mapping
from enum import StrEnum
from functools import cached_property
from sys import intern
from typing import Literal

from pydantic import field_validator

from rimecrest.core.catalogue.arguments import Argument, argument_fault
from rimecrest.core.catalogue.surfaces import Menu, Row, Tab, Toolbar, rows
from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.identities import AppId, CommandId
from rimecrest.core.keys.chords import normalise
from rimecrest.core.keys.contexts import Context, Contexts
from rimecrest.core.model import Record, parse_record
from rimecrest.core.nearest import nearest
from rimecrest.core.words import tr


class Effect(StrEnum):
    """What a command may do beyond moving the cursor; a macro's effects are the union of its commands'."""

    EDITS = "edits"
    OPENS_FILES = "opens files"
    OPENS_LINKS = "opens links"
    TELLS_LINKS = "puts text into links"
    """An address is put together while it runs: what the document says may leave with it."""
    CREATES = "creates"
    OVERWRITES = "overwrites files"
    CLIPBOARD = "puts into the clipboard"
    SENDS = "sends"
    DELETES = "deletes"
    LEAVES = "leaves the application"


class Command(Record):
    """One built-in operation. `id` is `<application>:<verb>`."""

    id: CommandId
    was: tuple[CommandId, ...] = ()
    """Ids that it had in earlier versions."""
    name: str
    about: str = ""
    context: str = "anywhere"
    arguments: tuple[Argument, ...] = ()
    effects: tuple[Effect, ...] = ()
    changes: tuple[str, ...] = ()
    """Readings that it can change."""
    picture: str = ""
    everyday: bool = False
    """One of the set that every colleague uses without looking: copy, undo, save, print …"""
    leaves_document: bool = False
    """Whether what it does cannot be taken back: a macro does it when its last step has succeeded."""
    repeats: bool = False
    """Whether holding the key down repeats it."""

    synonyms: tuple[str, ...] = ()
    """Other words by which people look for it."""

    asks: bool = False
    """Whether it asks for its settings itself, where a person performs it without any."""

    takes_back: Literal["", "character", "word", "all"] = ""
    """What it takes away of the text that was written just before it; a recording takes it out as well."""

    selects_all: bool = False
    """Whether it selects everything the document has."""

    deletes_selection: bool = False
    """Whether it deletes what is selected."""

    @property
    def verb(self) -> str:
        return self.id.partition(":")[2]

    def argument(self, name: str) -> Argument | None:
        return next((argument for argument in self.arguments if argument.name == name), None)

    def argument_faults(self, given: Mapping[str, str], by_hand: bool = False) -> list[str]:
        """Every reason why these settings cannot be passed to the command.

        `by_hand`: by a key or a button, where a command that `asks` needs none; a macro gives all.
        """
        if by_hand and self.asks and not given:
            return []
        faults = []
        for name, value in given.items():
            argument = self.argument(name)
            if argument is None:
                known = ", ".join(known.name for known in self.arguments) or "none"
                faults.append(
                    tr(
                        "{verb} has no setting “{name}” (it has: {known})",
                        verb=self.verb,
                        name=name,
                        known=known,
                    )
                )
            elif fault := argument_fault(argument, value):
                faults.append(fault)
        for argument in self.arguments:
            if argument.default is None and argument.name not in given:
                faults.append(tr("{verb} needs its setting “{name}”", verb=self.verb, name=argument.name))
        return faults


class Reading(Record):
    """A value that an application can tell."""

    id: str
    about: str = ""
    type: str = "text"
    no_in: tuple[str, ...] = ()
    """Contexts in which it is always empty or `no`."""


class OwnKey(Record):
    """A hotkey that the application comes with."""

    id: str
    keys: str
    run: str
    context: str = "anywhere"

    @field_validator("keys")
    @classmethod
    def _one_spelling(cls, value: str) -> str:
        try:
            return normalise(value)
        except RimecrestError as error:
            raise ValueError(error.sentence) from None


class Catalogue(Record):
    """All that one version of an application can do."""

    app: AppId
    title: str
    version: str
    commands: tuple[Command, ...] = ()
    readings: tuple[Reading, ...] = ()
    contexts: tuple[Context, ...] = ()
    toolbars: tuple[Toolbar, ...] = ()
    tabs: tuple[Tab, ...] = ()
    menus: tuple[Menu, ...] = ()
    keys: tuple[OwnKey, ...] = ()
    opener: str = ""
    """The chord behind which the application keeps room for sequences."""

    @cached_property
    def by_id(self) -> dict[str, Command]:
        return {command.id: command for command in self.commands}

    @cached_property
    def verbs(self) -> dict[str, str]:
        """Id of a command → its verb; the ids are plain strings, which are found quicker than identities.

        One object for each verb: an estate asks a hundred thousand times whether two are the same.
        """
        return {str(command.id): intern(command.verb) for command in self.commands}

    @cached_property
    def plain_verbs(self) -> dict[str, str]:
        """The same of the commands that can be run without any settings."""
        needs = {
            str(command.id)
            for command in self.commands
            if command.arguments and command.argument_faults({}, by_hand=True)
        }
        return {run: verb for run, verb in self.verbs.items() if run not in needs}

    @cached_property
    def context_tree(self) -> Contexts:
        return Contexts(self.contexts)

    @cached_property
    def renamed_commands(self) -> dict[str, str]:
        """Former id of a command → its id now."""
        return {old: command.id for command in self.commands for old in command.was}

    @cached_property
    def renamed_things(self) -> dict[str, str]:
        """Former identity of an item or surface → its identity now, without the `app:`."""
        placed = [*self.tabs, *self.rows(), *(item for row in self.rows() for item in row.items)]
        return {old: thing.id for thing in placed for old in thing.was}

    def rows(self) -> list[Row]:
        """Every row of items that the application comes with."""
        return list(rows((*self.toolbars, *self.tabs, *self.menus)))

    def command(self, verb: str) -> Command | None:
        """The command of this application with that verb, or that had it once."""
        identity = f"{self.app}:{verb}"
        return self.by_id.get(self.renamed_commands.get(identity, identity))

    def nearest(self, verb: str) -> str:
        """The verb that somebody probably meant, or nothing."""
        verbs = [command.verb for command in self.commands]
        return nearest(verb, verbs, 55)

    def nearest_command(self, name: str) -> str:
        """The identity of the command that is called most like that, or nothing."""
        names = {command.name.casefold(): command.id for command in self.commands}
        near = nearest(name.casefold(), names, 50)
        return str(names[near]) if near else ""

    def nearest_reading(self, name: str) -> str:
        return nearest(name, [reading.id for reading in self.readings], 50)


def parse_catalogue(text: str, where: str) -> Catalogue:
    """Read a catalogue file. Raises BrokenFile (as when its contexts lie in a circle) or NewerFormat."""
    catalogue = parse_record(Catalogue, text, "catalogue", where)
    try:
        catalogue.context_tree  # noqa: B018 - contexts that lie within one another are found here
    except RimecrestError as error:
        raise BrokenFile(where, error.sentence.rstrip(".")) from None
    return catalogue
