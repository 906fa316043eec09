"""What a colleague sees of an item that is stored: its face, filled up from what it runs."""

from __future__ import annotations

from collections.abc import Mapping
from typing import cast

from msgspec import Struct

from rimecrest.core.catalogue.items import (
    Button,
    Control,
    ControlItem,
    Entries,
    Event,
    FaceKind,
    Handler,
    Item,
    Separator,
    StepsButton,
    Submenu,
    Tick,
)
from rimecrest.core.catalogue.surfaces import Panel, Row, Toolbar
from rimecrest.core.layout.faces import NO_FACE, Face, Targets, private_face
from rimecrest.core.layout.seen import (
    ControlKind,
    Doing,
    SeenButton,
    SeenControl,
    SeenItem,
    SeenMenu,
    SeenSeparator,
    SeenSubmenu,
)
from rimecrest.core.remembered import Remembered

_SEEN: Remembered[SeenItem] = Remembered(20_000)
"""As many as some dozens of large layouts have: after an edit all but what it changed are found again."""


def see(item: Item, identity: str, layer: str, kind: type[Row], targets: Targets) -> SeenItem:
    """What a colleague sees of an item in a row of that kind: the same object while nothing of it changed."""
    match item:
        case StepsButton():
            target = private_face(item.steps)
        case Button():
            target = targets.face(item.run)
        case _:
            target = NO_FACE
    how = identity, layer, kind
    return _SEEN.of((item, target), how, lambda: _seen(item, identity, layer, kind, target))


class SeenRun(Struct, frozen=True):
    """All items of a row as it is stored; `at_once` has them by identity where each can just stand there."""

    items: tuple[SeenItem, ...]
    at_once: Mapping[str, SeenItem] | None


_ROWS: Remembered[SeenRun] = Remembered(4_000)


def see_all(row: Row, prefix: str, layer: str, kind: type[Row], targets: Targets) -> SeenRun:
    """What a colleague sees of all items of a row that is stored; `prefix` begins their identities."""

    def make() -> SeenRun:
        items = tuple(see(item, f"{prefix}:{item.id}", layer, kind, targets) for item in row.items)
        by_id = {item.id: item for item in items}
        # What is no button may not fit, and of two with one identity only the first stands there.
        plain = len(by_id) == len(items) and all(isinstance(item, SeenButton) for item in items)
        return SeenRun(items, by_id if plain else None)

    return _ROWS.of((row, targets), (prefix, layer, kind), make)


def _seen(item: Item, identity: str, layer: str, kind: type[Row], target: Face) -> SeenItem:
    if isinstance(item, Separator):
        return SeenSeparator(id=identity, layer=layer, stored=item, beside=item.beside, at=item.at)
    if isinstance(item, Control):
        return _seen_control(item, identity, layer)
    if isinstance(item, Submenu):
        inner = SeenMenu(id=identity, layer=layer, title=item.submenu)
        picture = item.picture or ""
        return SeenSubmenu(
            id=identity, layer=layer, stored=item, title=item.submenu, picture=picture, menu=inner
        )
    private = isinstance(item, StepsButton)
    usual: FaceKind = "picture" if kind is Toolbar else "both"
    if target.any_picture and not item.picture:
        usual = "words"
    label = item.label if item.label is not None else target.name
    return SeenButton(
        id=identity,
        layer=layer,
        stored=item,
        beside=item.beside,
        at=item.at,
        run=None if isinstance(item, StepsButton) else item.run,
        args=() if isinstance(item, StepsButton) else tuple(sorted(item.args.items())),
        steps=item.steps if isinstance(item, StepsButton) else "",
        made_by=item.made_by if isinstance(item, StepsButton) else "",
        label=label,
        tip=item.tip if item.tip is not None else target.about,
        picture=item.picture or target.picture,
        face=item.face or usual,
        width=item.width,
        collapse=item.collapse,
        access=item.access or "",
        exists=private or target.exists,
        named=bool(item.tip or target.about),
        doings=doings_of(item.on, identity, layer, label) if kind is Panel else (),
    )


def doings_of(on: Mapping[Event, Handler], of: str, layer: str, label: str) -> tuple[Doing, ...]:
    """What happens at each event of an item or panel that does something."""
    return tuple(
        Doing(
            of,
            layer,
            label,
            event,
            handler.run or None,
            tuple(sorted(handler.args.items())),
            handler.steps,
            handler.made_by,
        )
        for event, handler in on.items()
        if handler.run or handler.steps
    )


def _seen_control(item: ControlItem, identity: str, layer: str) -> SeenControl:
    value = getattr(item, "value", "")
    return SeenControl(
        id=identity,
        layer=layer,
        stored=item,
        beside=item.beside,
        at=item.at,
        kind=cast("ControlKind", item.kind),
        caption=item.caption,
        value=("yes" if value else "no") if isinstance(item, Tick) else value,
        choices=item.choices if isinstance(item, Entries) else (),
        reading=item.from_reading if isinstance(item, Entries) else "",
        doings=doings_of(item.on, identity, layer, item.caption),
    )


def name_of(item: Item) -> str:
    """What an item that is stored is called in a sentence."""
    match item:
        case Button() | StepsButton():
            return item.label or getattr(item, "run", "") or item.id
        case Control():
            return item.caption
        case Submenu():
            return item.submenu
    return item.id


def label_of(item: SeenItem) -> str:
    """The words that an item shows; empty for a line."""
    match item:
        case SeenButton():
            return item.label
        case SeenControl():
            return item.caption
        case SeenSubmenu():
            return item.title
    return ""
