"""The items that surfaces show, as stored: in a catalogue and in a layout alike.

An item is a `Button` (runs a command or macro), a `StepsButton` (has private steps), a `Separator`, what only
menus have, a `Submenu`, or what only panels have: a `Text`, a `TextField`, a `Choice`, a `ListBox` or a
`Tick`. A new kind of item is a class here, its tag, and a case wherever they are told apart.
"""

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Literal

from pydantic import (
    Discriminator,
    Field,
    GetJsonSchemaHandler,
    Tag,
    TypeAdapter,
    field_validator,
    model_validator,
)
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema

from rimecrest.core.identities import ThingId
from rimecrest.core.model import Record, validated_by
from rimecrest.core.words import tr

FaceKind = Literal["picture", "words", "both"]


class Thing(Record):
    """Whatever stands on a surface or is one.

    `was` are identities that it had in earlier versions of the application; what layouts stored about them
    follows (`core.layout.renames`).
    """

    id: ThingId
    was: tuple[ThingId, ...] = ()


class Placed(Thing):
    """Where an item stands on a panel; elsewhere it means nothing.

    `beside`: in the row of the item before it. `at`: on a free grid (column, row, columns, rows), see
    `core.layout.panel_grid`.
    """

    beside: bool = False
    at: tuple[int, int, int, int] | None = None


class Separator(Placed):
    """A line between items."""

    kind: ClassVar[str] = "separator"
    separator: Literal[True]


class Submenu(Placed):
    """A line of a right-click menu that opens another one: a row of its own, into which layers put items."""

    kind: ClassVar[str] = "submenu"
    submenu: str
    picture: str | None = None


class Handler(Record):
    """What an event of a control does: runs a command or macro with settings, or private steps."""

    run: str = ""
    args: dict[str, str] = Field(default_factory=dict)
    steps: str = ""
    made_by: str = ""
    """Public key of whoever outside made the steps; empty: they were made here."""


Event = Literal["click", "double", "change", "enter", "leave", "point", "open"]
"""What can happen to a thing on a panel, or to the panel.

`click` and `double` are presses of the mouse (Enter on what has the focus is a click), `change` a value that
is settled by hand (never at each letter, nor when a macro writes it), `enter` and `leave` are of the focus,
`point` a pointer that rests on it, `open` the panel that comes into sight.
"""


class Eventful(Placed):
    """What is common to all that something can happen to on a panel; `on` names what it does at which event.

    Elsewhere `on` means nothing.
    """

    kind: ClassVar[str]
    events: ClassVar[tuple[Event, ...]] = ()
    """What can happen to it, the usual one first."""
    on: dict[Event, Handler] = Field(default_factory=dict)

    @field_validator("on")
    @classmethod
    def _of_its_events(cls, on: dict[Event, Handler]) -> dict[Event, Handler]:
        for event in on:
            if event not in cls.events:
                known = ", ".join(cls.events)
                sentence = tr(
                    "“{event}” does not happen to a {kind}: {known}", event=event, kind=cls.kind, known=known
                )
                raise ValueError(sentence)
        return on


class Faced(Eventful):
    """What is common to all that can be pressed. What a click does, each says for itself.

    `width` is 1 or 2 cells. `collapse`: what has more stays longer when the window gets narrow. `access` is
    the letter that Alt reaches it by.
    """

    events: ClassVar[tuple[Event, ...]] = ("double", "enter", "leave", "point")

    label: str | None = None
    tip: str | None = None
    picture: str | None = None
    face: FaceKind | None = None
    width: Literal[1, 2] = 1
    collapse: int = 0
    access: str | None = None


class Button(Faced):
    """Runs `<app>:<verb>` with settings, or `macro:<id>`. An empty `run` runs nothing, which is a finding."""

    kind: ClassVar[str] = "button"
    run: str = ""
    args: dict[str, str] = Field(default_factory=dict)

    @model_validator(mode="before")
    @classmethod
    def _without_nothing(cls, data: Any) -> Any:
        return without(data, "steps", "run", "made_by") if isinstance(data, dict) else data

    @field_validator("args", mode="before")
    @classmethod
    def _as_written(cls, value: Any) -> Any:
        # Settings are kept as text, the way a macro writes them: one spelling for yes, no and numbers.
        if isinstance(value, dict):
            return {str(key): _written(setting) for key, setting in value.items()}
        return value


class StepsButton(Faced):
    """Has private steps: a macro's text that is private to it and goes along with a copy of it."""

    kind: ClassVar[str] = "steps"
    steps: str
    made_by: str = ""
    """Public key of whoever outside made the steps; empty: they were made here."""

    @model_validator(mode="before")
    @classmethod
    def _without_nothing(cls, data: Any) -> Any:
        return without(data, "run", "args") if isinstance(data, dict) else data


class Control(Eventful):
    """What is common to what stands on panels only."""

    events: ClassVar[tuple[Event, ...]] = ("change", "enter", "leave", "click", "double", "point")

    @property
    def caption(self) -> str:
        """The words it shows: what stands under the name of its kind."""
        return str(getattr(self, self.kind))


class Text(Control):
    """Words that explain."""

    kind: ClassVar[str] = "text"
    events: ClassVar[tuple[Event, ...]] = ("click", "double", "point")
    text: str


class TextField(Control):
    """A field with its caption; `value` is what stands in it at first."""

    kind: ClassVar[str] = "field"
    field: str
    value: str = ""


class Entries(Control):
    """What is common to what offers entries: fixed `choices`, or those of a reading (`from`)."""

    choices: tuple[str, ...] = ()
    from_reading: str = Field(default="", alias="from")
    value: str = ""


class Choice(Entries):
    """A box that opens to choose one of its entries, with its caption."""

    kind: ClassVar[str] = "choice"
    choice: str


class ListBox(Entries):
    """Entries that stay in sight, with their caption; `change` is each choice, also of the same one again."""

    kind: ClassVar[str] = "list"
    list: str


class Tick(Control):
    """A box to tick, with its words."""

    kind: ClassVar[str] = "tick"
    tick: str
    value: bool = False


ControlItem = Text | TextField | Choice | ListBox | Tick
CONTROLS: tuple[str, ...] = tuple(kind.kind for kind in (Text, TextField, Choice, ListBox, Tick))
"""The kinds of controls."""


def without(data: dict[str, Any], *names: str) -> dict[str, Any]:
    """The object without these fields where they hold nothing."""
    return {name: value for name, value in data.items() if name not in names or value}


def _written(value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value)


def _kind_of(data: Any) -> str:
    if isinstance(data, Thing):
        return str(getattr(data, "kind", ""))
    if not isinstance(data, dict):
        return ""
    for kind in (*CONTROLS, "submenu", "separator", "steps"):
        # Empty words are words: a field may have no caption yet.
        if data.get(kind) or (kind in data and kind in (*CONTROLS, "submenu")):
            return kind
    return "button"


class _AnyOf:
    """In the JSON Schema an item fits any of its kinds: fields that a kind does not know may stand there."""

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        made = handler(schema)
        made["anyOf"] = made.pop("oneOf", made.get("anyOf", []))
        return made


Item = Annotated[
    Annotated[Button, Tag("button")]
    | Annotated[StepsButton, Tag("steps")]
    | Annotated[Separator, Tag("separator")]
    | Annotated[Submenu, Tag("submenu")]
    | Annotated[Text, Tag("text")]
    | Annotated[TextField, Tag("field")]
    | Annotated[Choice, Tag("choice")]
    | Annotated[ListBox, Tag("list")]
    | Annotated[Tick, Tag("tick")],
    Discriminator(_kind_of),
    _AnyOf,
]
_ITEM: TypeAdapter[Button | StepsButton | Separator | Submenu | ControlItem] = TypeAdapter(Item)


def item_of(data: Any, where: str) -> Item:
    """The item that a JSON object describes.

    Raises:
        BrokenFile: it describes none.
    """
    return validated_by(_ITEM.validate_python, data, where)


def with_fields(item: Item, fields: dict[str, Any]) -> Item:
    """The item with other values; it may become another kind: a button that gets private steps.

    Raises:
        BrokenFile: a value does not fit.
    """
    data = {**item.to_data(), **fields}
    if fields.get("steps"):
        data |= {"run": "", "args": {}}
    elif fields.get("run"):
        data |= {"steps": "", "made_by": ""}
    if "on" in fields and isinstance(item, Eventful):
        data["on"] = still_theirs(item.on, fields["on"])
    return item_of(data, tr("the item {id}", id=item.id))


def still_theirs(before: Mapping[Event, Handler], on: Mapping[Event, Any]) -> dict[Event, Any]:
    """What happens at which event, where steps that somebody outside made stay theirs though changed here."""
    made = dict(on)
    for event, does in on.items():
        maker = before[event].made_by if event in before else ""
        if maker and isinstance(does, dict) and does.get("steps") and not does.get("made_by"):
            made[event] = {**does, "made_by": maker}
    return made
