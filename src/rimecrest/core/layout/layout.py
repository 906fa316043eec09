"""What one layer adds to or changes in one application, as stored (docs/formats/README.md, "Layout")."""

from collections.abc import Callable, Iterator
from typing import Any, Literal

from pydantic import Field, field_validator

from rimecrest.core.catalogue.applies import EVERYWHERE, Applies
from rimecrest.core.catalogue.items import Item, Thing
from rimecrest.core.catalogue.surfaces import Group, Panel, Row, Tab, Toolbar, rows
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import AppId, LayerId
from rimecrest.core.keys.chords import normalise
from rimecrest.core.keys.traits import Traits
from rimecrest.core.model import Record, parse_record


class PlacedInTab(Group):
    """A group put into a tab of another layer, after one of its groups."""

    into: str
    after: str | None = None


class Insertion(Record):
    """Items put into a row of another layer, after one of its things (None = first)."""

    into: str
    after: str | None = None
    items: tuple[Item, ...] = ()


class Change(Record):
    """Other values for some fields of an item, group, tab or toolbar that a layer beneath placed."""

    of: str
    set: dict[str, Any] = Field(default_factory=dict)


class Move(Record):
    """Another place for an item, group, tab or toolbar that a layer beneath placed.

    `into` is the row of an item, the tab of a group; tabs and toolbars stand among their like.
    """

    of: str
    into: str = ""
    after: str | None = None


class KeyBinding(Record):
    """A hotkey. `in_context` is `in` in the file.

    `on` gives another sequence, or none, for some seats: by the code of their keyboard, or by `desktop:…`,
    `session:…`, `reader:…`, `input:…`.
    """

    id: str = ""
    keys: str
    in_context: str = Field(default="anywhere", alias="in")
    run: str | None = None
    args: dict[str, str] = Field(default_factory=dict)
    on: dict[str, str | None] = Field(default_factory=dict)

    @field_validator("keys")
    @classmethod
    def _one_spelling(cls, value: str) -> str:
        return _normalised(value)

    @field_validator("on")
    @classmethod
    def _one_spelling_each(cls, value: dict[str, str | None]) -> dict[str, str | None]:
        return {board: keys and _normalised(keys) for board, keys in value.items()}

    @property
    def identity(self) -> str:
        """Its own id, or one made of where it is bound."""
        return self.id or f"key:{self.in_context}:{self.keys}"

    def on_seat(self, traits: Traits) -> str | None:
        """The sequence on seats like that; None where they go without."""
        for name in traits.names() if self.on else ():
            if name in self.on:
                return self.on[name]
        return self.keys


def _normalised(value: str) -> str:
    try:
        return normalise(value)
    except RimecrestError as error:
        raise ValueError(error.sentence) from None


class Acceptance(Record):
    """A finding kept on purpose. It lapses when the digest of its owners' targets changes."""

    kind: str
    owners: tuple[str, ...]
    targets: str
    why: str
    since: str = ""
    """The day, as YYYY-MM-DD; empty where it is not known."""
    by: str = ""
    """The name of whoever kept it."""


SURFACES = ("toolbars", "tabs", "panels")
"""The fields of a layout in which its surfaces stand. A new kind of surface is one more."""
SHOWN = (*SURFACES, "groups", "insert", "change", "move", "hide")
"""Those that say what is seen, and what of lower layers is seen otherwise."""


class Layout(Record):
    """One layer's layout for one application; `applies` names the documents that it is for."""

    app: AppId
    layer: LayerId
    policy: Literal["fixed", "open", "offered"] = "open"
    applies: Applies = EVERYWHERE
    toolbars: tuple[Toolbar, ...] = ()
    tabs: tuple[Tab, ...] = ()
    groups: tuple[PlacedInTab, ...] = ()
    panels: tuple[Panel, ...] = ()
    insert: tuple[Insertion, ...] = ()
    change: tuple[Change, ...] = ()
    move: tuple[Move, ...] = ()
    hide: tuple[str, ...] = ()
    keys: tuple[KeyBinding, ...] = ()
    acceptances: tuple[Acceptance, ...] = ()

    def local(self, identity: str) -> str | None:
        """The id inside this file of a full identity, or None when another layer owns it."""
        layer, colon, name = identity.rpartition(":")
        if not colon:
            return identity
        return name if layer == self.layer else None

    def full(self, identity: str) -> str:
        """The full identity of an id as written in this file."""
        return identity if ":" in identity else f"{self.layer}:{identity}"

    def rows(self) -> Iterator[Row]:
        """Every row that this layout places, in file order."""
        yield from rows(surface for name in SURFACES for surface in getattr(self, name))
        yield from self.groups

    def all_items(self) -> list[Item]:
        """Every item that this layout places, in file order."""
        placed = [row.items for row in self.rows()] + [insertion.items for insertion in self.insert]
        return [item for items in placed for item in items]

    def things(self) -> Iterator[Thing]:
        """Everything with an identity that this layout places: surfaces, groups, items."""
        yield from self.tabs
        yield from self.rows()
        yield from self.all_items()

    def with_rows(self, change: Callable[[Row], Row]) -> "Layout":
        """The layout with each of its rows changed; `change` gives a row of the same kind.

        What `change` leaves as it is stays the same object, and what holds nothing else does.
        """

        def changed(group: Any) -> Any:
            return change(group)

        tabs = (tab.updated(groups=tuple(map(changed, tab.groups))) for tab in self.tabs)
        flat = {name: tuple(map(changed, getattr(self, name))) for name in SURFACES if name != "tabs"}
        return self.updated(**flat, tabs=tuple(tabs), groups=tuple(map(changed, self.groups)))


def parse_layout(text: str, where: str) -> Layout:
    """Read a layout file. Raises BrokenFile or NewerFormat."""
    return parse_record(Layout, text, "layout", where)
