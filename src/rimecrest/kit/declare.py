"""How an application says what it can do: beside the code, once.

```python
letters = Declarations("letters", "Letters", "1.0", opener="Ctrl+J")

@letters.command("embolden", "Bold", about="Make the chosen words bold", keys="Ctrl+B", context="writing")
def embolden(doc: LetterDocument, on: Switch = Switch.FLIP) -> None: ...
```
The arguments come from the signature, the catalogue from the declarations.
"""

from __future__ import annotations

import inspect
import typing
from collections.abc import Callable, Iterable, Mapping
from enum import StrEnum
from pathlib import Path
from typing import Annotated, Any, Literal, NewType, get_args, get_origin

from msgspec import Struct

from rimecrest.core.catalogue.arguments import Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect, OwnKey, Reading
from rimecrest.core.catalogue.surfaces import Menu, Tab, Toolbar
from rimecrest.core.identities import CommandId
from rimecrest.core.keys.chords import normalise
from rimecrest.core.keys.contexts import Context

Colour = NewType("Colour", str)
Address = NewType("Address", str)


class Switch(StrEnum):
    """A state to reach, or to turn over."""

    YES = "yes"
    NO = "no"
    FLIP = "flip"

    def reached(self, now: bool) -> bool:
        """The state after it, from the state now."""
        return not now if self is Switch.FLIP else self is Switch.YES


class Between(Struct, frozen=True):
    """Bounds of a number, both included: `Annotated[int, Between(1, 50)]`."""

    least: float
    most: float


class Wants(Struct, frozen=True):
    """What a command is about to do outside.

    Args:
        words: as it goes on behind “… wants to”; it names what it is.
        writes: the file that is written; it is asked about where there is one already, or in a risky place.
        own: that file is the document's own: saving what was open anyway overwrites nothing.
        lasting: under what a yes may be remembered; empty: it is asked each time.
        risky: whether a new file there may be started, or read as settings, by another program.
    """

    words: str
    writes: Path | None = None
    own: bool = False
    lasting: str = ""
    risky: bool = False


class Declared(Struct, frozen=True):
    """A command with the function behind it."""

    command: Command
    function: Callable[..., Any]
    parse: Mapping[str, Callable[[str], Any]]
    asks: Callable[[Any], None] | None = None
    """Asks for the settings of a document's command that a person performs without any."""
    reaches: Callable[..., Wants | None] | None = None
    """Tells what it is about to do outside, of a document and its settings."""

    def wants(self, document: Any, args: Mapping[str, str]) -> Wants | None:
        """What it would do outside with these settings; None: nothing that a macro has to ask about."""
        if self.reaches is None:
            return None
        return self.reaches(document, **{name: self.parse[name](value) for name, value in args.items()})

    def call(self, document: Any, args: Mapping[str, str]) -> Any:
        """Call it with arguments as written, which have been found to fit."""
        return self.function(document, **{name: self.parse[name](value) for name, value in args.items()})


Read = Callable[[Any], Any]


class Declarations:
    """Everything one application declares."""

    def __init__(self, app: str, title: str, version: str, opener: str = "") -> None:
        self.app = app
        self.title = title
        self.version = version
        self.opener = opener
        self.commands: dict[str, Declared] = {}
        self.readings: dict[str, tuple[Reading, Read]] = {}
        self.contexts: tuple[Context, ...] = ()
        self.toolbars: tuple[Toolbar, ...] = ()
        self.tabs: tuple[Tab, ...] = ()
        self.menus: tuple[Menu, ...] = ()
        self._keys: list[OwnKey] = []

    def command(
        self,
        verb: str,
        name: str,
        *,
        about: str,
        keys: str | tuple[str, ...] = (),
        context: str = "anywhere",
        effects: Iterable[Effect] = (),
        changes: Iterable[str] = (),
        picture: str = "",
        everyday: bool = False,
        leaves_document: bool = False,
        repeats: bool = False,
        takes_back: Literal["", "character", "word", "all"] = "",
        selects_all: bool = False,
        deletes_selection: bool = False,
        was: tuple[str, ...] = (),
        synonyms: tuple[str, ...] = (),
        asks: Callable[[Any], None] | None = None,
        reaches: Callable[..., Wants | None] | None = None,
    ) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
        """Declare the function beneath as a command.

        Args:
            was: the verbs it had in earlier versions.
            synonyms: other words by which people look for it.
            asks: what is done instead where a person performs it without settings: it asks the document's
                colleague for them, and has it performed with these. A macro never asks.
            reaches: of the same parameters: what it is about to do outside, which a shared macro asks about.
        """

        def declare(function: Callable[..., Any]) -> Callable[..., Any]:
            arguments, parse = _arguments(function)
            identity = f"{self.app}:{verb}"
            if identity in self.commands:
                raise ValueError(f"{identity} is declared twice")
            command = Command(
                id=identity,
                name=name,
                about=about,
                context=context,
                arguments=arguments,
                effects=tuple(effects),
                changes=tuple(sorted(changes)),
                picture=f"set:{picture}" if picture else "",
                everyday=everyday,
                leaves_document=leaves_document,
                repeats=repeats,
                takes_back=takes_back,
                selects_all=selects_all,
                deletes_selection=deletes_selection,
                asks=asks is not None,
                synonyms=synonyms,
                was=tuple(CommandId(f"{self.app}:{verb}") for verb in was),
            )
            self.commands[identity] = Declared(command, function, parse, asks, reaches)
            for number, spelling in enumerate((keys,) if isinstance(keys, str) else keys):
                own = f"key-{was[0] if was else verb}" + (f"-{number + 1}" if number else "")
                self._keys.append(OwnKey(id=own, keys=normalise(spelling), run=identity, context=context))
            return function

        return declare

    def reading(
        self, identity: str, about: str, type: str = "text", no_in: tuple[str, ...] = ()
    ) -> Callable[[Read], Read]:
        """Declare the function below as a reading; `no_in` are contexts in which it is always no or empty."""

        def declare(function: Read) -> Read:
            self.readings[identity] = (Reading(id=identity, about=about, type=type, no_in=no_in), function)
            return function

        return declare

    def catalogue(self) -> Catalogue:
        """The catalogue written from the declarations."""
        return Catalogue(
            app=self.app,
            title=self.title,
            version=self.version,
            commands=tuple(declared.command for declared in self.commands.values()),
            readings=tuple(reading for reading, _ in self.readings.values()),
            contexts=self.contexts,
            toolbars=self.toolbars,
            tabs=self.tabs,
            menus=self.menus,
            keys=tuple(self._keys),
            opener=self.opener,
        )


class Among(Struct, frozen=True):
    """The reading whose entries an argument can be: `Annotated[str, Among("sheets")]`."""

    reading: str


def _arguments(
    function: Callable[..., Any],
) -> tuple[tuple[Argument, ...], dict[str, Callable[[str], Any]]]:
    # Most commands take none, and looking closer at a hundred of them is felt at the start.
    if function.__code__.co_argcount + function.__code__.co_kwonlyargcount < 2:
        return (), {}
    parameters = list(inspect.signature(function).parameters.values())[1:]
    hints = typing.get_type_hints(function, include_extras=True)
    arguments, parse = [], {}
    for parameter in parameters:
        argument, reader = _argument(parameter, hints[parameter.name])
        arguments.append(argument)
        parse[parameter.name] = reader
    return tuple(arguments), parse


def _argument(parameter: inspect.Parameter, hint: Any) -> tuple[Argument, Callable[[str], Any]]:
    bounds: Between | None = None
    among: Among | None = None
    if get_origin(hint) is Annotated:
        hint, *rest = get_args(hint)
        bounds = next((extra for extra in rest if isinstance(extra, Between)), None)
        among = next((extra for extra in rest if isinstance(extra, Among)), None)
    choices: tuple[str, ...] = ()
    reader: Callable[[str], Any] = str
    if get_origin(hint) is Literal:
        kind, choices = ArgumentType.CHOICE, get_args(hint)
    elif hint is Switch:
        kind, reader = ArgumentType.SWITCH, Switch
    elif hint is int:
        kind, reader = ArgumentType.WHOLE, int
    elif hint is float:
        kind, reader = ArgumentType.NUMBER, float
    elif hint is Colour:
        kind = ArgumentType.COLOUR
    elif hint is Address:
        kind, reader = ArgumentType.ADDRESS, str
    elif hint is Path:
        kind, reader = ArgumentType.PATH, Path
    elif hint is str:
        kind = ArgumentType.TEXT
    else:
        raise TypeError(f"{parameter.name}: a command cannot take a {hint}")
    default = parameter.default
    return (
        Argument(
            name=parameter.name,
            type=kind,
            choices=choices,
            default=None if default is inspect.Parameter.empty else str(default),
            least=bounds.least if bounds else None,
            most=bounds.most if bounds else None,
            among=among.reading if among else "",
        ),
        reader,
    )
