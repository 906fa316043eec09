"""Items on the clipboard: as one of our own formats, and as words for other programs."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from msgspec import Struct, field
from PyQt6.QtCore import QMimeData

from rimecrest.core.catalogue.items import Item, item_of
from rimecrest.core.catalogue.surfaces import Group, Panel, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.seen import SeenButton, SeenItem, SeenSubmenu
from rimecrest.core.model import parse_json, validated
from rimecrest.core.words import tr
from rimecrest.studio.layout import gestures

MIME = "application/x-rimecrest-items+json"


class Copied(Struct, frozen=True):
    """Items with the layer and application that they come from, and whether they were cut there."""

    layer: str
    app: str
    cut: bool
    items: tuple[Item, ...]
    surface: Group | Tab | Toolbar | Panel | None = None
    """A surface as a whole; then `items` are all that is in it."""
    inside: Mapping[str, tuple[Item, ...]] = field(default_factory=dict)
    """What is in the submenus among the items, and in those within them, by the submenu's identity."""

    def everything(self) -> tuple[Item, ...]:
        """The items, and what is in the submenus among them."""
        return (*self.items, *(item for held in self.inside.values() for item in held))


def to_clipboard(items: Sequence[SeenItem], layer: str, app: str, cut: bool) -> QMimeData:
    """Items as they go onto the clipboard."""
    found = {"from": [layer, app], "cut": cut, "items": _stored(items)}
    inside = {gestures.as_stored(menu).id: _stored(menu.menu.items) for menu in _submenus(items)}
    if inside:
        found["inside"] = inside
    data = QMimeData()
    data.setData(MIME, json.dumps(found).encode())
    data.setText(", ".join(item.label for item in items if isinstance(item, SeenButton)))
    return data


def run_to_clipboard(run: str, words: str, layer: str, app: str) -> QMimeData:
    """A command or macro as an item that runs it, to be dropped or pasted."""
    item = {"id": "found", "run": run}
    data = QMimeData()
    data.setData(MIME, json.dumps({"from": [layer, app], "cut": False, "items": [item]}).encode())
    data.setText(words)
    return data


def _stored(items: Sequence[SeenItem]) -> list[dict[str, Any]]:
    return [gestures.as_stored(item).to_data() for item in items]


def _submenus(items: Sequence[SeenItem]) -> Iterator[SeenSubmenu]:
    """The submenus among items, and those within them."""
    for item in items:
        if isinstance(item, SeenSubmenu):
            yield item
            yield from _submenus(item.menu.items)


_SURFACES: dict[str, type[Group] | type[Tab] | type[Toolbar] | type[Panel]] = {
    "group": Group,
    "tab": Tab,
    "toolbar": Toolbar,
    "panel": Panel,
}


def surface_to_clipboard(
    surface: Group | Tab | Toolbar | Panel, layer: str, app: str, words: str
) -> QMimeData:
    """A tab, group, bar or panel with all that is in it, as it goes onto the clipboard."""
    kind = next(name for name, made in _SURFACES.items() if type(surface) is made)
    found = {"from": [layer, app], "cut": False, "items": [], "surface": [kind, surface.to_data()]}
    data = QMimeData()
    data.setData(MIME, json.dumps(found).encode())
    data.setText(words)
    return data


def items_of(surface: Group | Tab | Toolbar | Panel) -> tuple[Item, ...]:
    """All items of a surface."""
    if isinstance(surface, Tab):
        return tuple(item for group in surface.groups for item in group.items)
    return surface.items


def from_clipboard(data: QMimeData | None) -> Copied | None:
    """What can be pasted here; None when it is something else.

    Raises:
        RimecrestError: it calls itself ours, and cannot be read.
    """
    if data is None or not data.hasFormat(MIME):
        return None
    try:
        found = parse_json(data.data(MIME).data().decode(), tr("what was copied"))
        layer, app = found["from"]
        items = tuple(item_of(row, tr("what was copied")) for row in found["items"])
        inside = {
            str(name): tuple(item_of(row, tr("what was copied")) for row in rows)
            for name, rows in found.get("inside", {}).items()
        }
        surface = None
        if "surface" in found:
            kind, stored = found["surface"]
            surface = validated(_SURFACES[kind], stored, tr("what was copied"))
            items = items_of(surface)
        return Copied(layer, app, bool(found["cut"]), items, surface, inside)
    except (RimecrestError, AttributeError, KeyError, TypeError, ValueError) as error:
        why = error.sentence if isinstance(error, RimecrestError) else str(error)
        raise RimecrestError(
            tr("What was copied cannot be pasted: {why}", why=why), tr("Copy it again.")
        ) from None
