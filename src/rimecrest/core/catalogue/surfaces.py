"""Items and the surfaces that show them, as stored: in a catalogue and in a layout alike."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, field_validator

from rimecrest.core.model import Record

Edge = Literal["top", "left", "right", "bottom"]
FaceKind = Literal["picture", "words", "both"]


class Item(Record):
    """One thing on a surface.

    `run` is `<app>:<verb>`, `macro:<id>`, or None for a separator and for an item with `steps`: a macro's
    text that is private to this item and goes along with a copy of it. `width` is 1 or 2 cells. `collapse`:
    what has more stays longer when the window gets narrow. `access` is the letter that Alt reaches it by.
    """

    id: str
    run: str | None = None
    steps: str | None = None
    args: dict[str, str] = Field(default_factory=dict)
    label: str | None = None
    tip: str | None = None
    picture: str | None = None
    face: FaceKind | None = None
    width: Literal[1, 2] = 1
    collapse: int = 0
    access: str | None = None
    separator: bool = False

    @field_validator("args", mode="before")
    @classmethod
    def _as_written(cls, value: Any) -> Any:
        # Settings are kept as text, the way a macro writes them: one spelling for yes, no and numbers.
        if isinstance(value, dict):
            return {str(key): _written(setting) for key, setting in value.items()}
        return value


def _written(value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value)


class Toolbar(Record):
    """A bar along one edge of the window; `after` names the bar it follows on that edge."""

    id: str
    title: str
    edge: Edge = "left"
    after: str | None = None
    items: tuple[Item, ...] = ()


class Group(Record):
    """A captioned run of items in a ribbon tab."""

    id: str
    title: str
    items: tuple[Item, ...] = ()


class Tab(Record):
    """A ribbon tab, made of groups; `after` names the tab it follows (None = first)."""

    id: str
    title: str
    after: str | None = None
    groups: tuple[Group, ...] = ()


class Menu(Record):
    """A right-click menu; `context` is where it opens."""

    id: str
    title: str
    context: str = "anywhere"
    items: tuple[Item, ...] = ()
