"""The surfaces that show items, as stored: in a catalogue and in a layout alike.

A surface is a `Toolbar`, a `Tab` (made of groups), a `Panel` or a `Menu`. Whatever holds items in a row is a
`Row`, and `rows` goes through all of them: nobody else walks over tabs and their groups. A new kind of
surface is a class here and a case wherever they are told apart.
"""

from collections.abc import Iterable, Iterator
from typing import Literal

from pydantic import Field

from rimecrest.core.catalogue.applies import EVERYWHERE, Applies
from rimecrest.core.catalogue.items import Button, Event, Eventful, Handler, Item, StepsButton, Thing

Edge = Literal["top", "left", "right", "bottom", "float", "window"]
AFLOAT: tuple[Edge, ...] = ("float", "window")
"""Where things stand that have a place of their own: over the document, or in a window of their own."""


class Named(Thing):
    """What has a title, and may have a picture: surfaces and groups."""

    title: str
    picture: str | None = None


class Row(Named):
    """Whatever holds items in a row."""

    items: tuple[Item, ...] = ()


class Toolbar(Row):
    """A bar along one edge of the window, floating over the document, or in a window of its own.

    `after` names the bar it follows. Bars of one edge that follow one another with the same `row` share a
    line; without one, each has a line of its own. `at` is where one stands that floats or has a window:
    pixels from the document's upper left corner. What is not `shown` is there, and can be shown.
    """

    edge: Edge = "left"
    after: str | None = None
    row: int | None = None
    at: tuple[int, int] | None = None
    shown: bool = True


class Group(Row):
    """A captioned run of items in a ribbon tab."""


class Panel(Row):
    """An area beside the document for one task: its controls one under the other, or on a free grid.

    `edge` is where it stands, `at` where it floats, as a toolbar's; `width` are its pixels across,
    `background` is a colour of the scheme. What is not `shown` with the window is shown by its button. `on`
    has what happens when it opens; `applies` names the documents that it is there with.
    """

    edge: Edge = "right"
    after: str | None = None
    at: tuple[int, int] | None = None
    width: int = Field(default=240, ge=120, le=600)
    background: Literal["sheet", "paper", "spine"] = "sheet"
    flow: Literal["column", "grid"] = "column"
    shown: bool = True
    on: dict[Event, Handler] = Field(default_factory=dict)
    applies: Applies = EVERYWHERE


class Menu(Row):
    """A right-click menu; `context` is where it opens."""

    context: str = "anywhere"


class Tab(Named):
    """A ribbon tab, made of groups; `after` names the tab it follows (None = first).

    What is not `shown` is off by default: a layer can show it.
    """

    after: str | None = None
    shown: bool = True
    groups: tuple[Group, ...] = ()


Surface = Toolbar | Tab | Panel | Menu


def rows(surfaces: Iterable[Surface]) -> Iterator[Row]:
    """Every row of items on these surfaces, in order."""
    for surface in surfaces:
        match surface:
            case Tab():
                yield from surface.groups
            case Toolbar() | Panel() | Menu():
                yield surface


def runs_of(thing: Thing) -> list[str]:
    """The commands and macros that an item or panel runs by name, at whatever event."""
    own = [thing.run] if isinstance(thing, Button) else []
    at_events = thing.on.values() if isinstance(thing, Eventful | Panel) else ()
    return [run for run in (*own, *(handler.run for handler in at_events)) if run]


def steps_of(thing: Thing) -> list[str]:
    """The private steps of an item or panel, at whatever event."""
    own = [thing.steps] if isinstance(thing, StepsButton) else []
    at_events = thing.on.values() if isinstance(thing, Eventful | Panel) else ()
    return [steps for steps in (*own, *(handler.steps for handler in at_events)) if steps]


def settings_of(thing: Thing) -> list[str]:
    """The values of all settings that an item or panel gives to what it runs, at whatever event."""
    own = [thing.args] if isinstance(thing, Button) else []
    at_events = thing.on.values() if isinstance(thing, Eventful | Panel) else ()
    return [value for args in (*own, *(handler.args for handler in at_events)) for value in args.values()]
