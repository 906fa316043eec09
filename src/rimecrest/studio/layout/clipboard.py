"""Items on the clipboard: as one of our own formats, and as words for other programs."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QMimeData

from rimecrest.core.catalogue.surfaces import Group, Item, Panel, Tab, Toolbar, item_of
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout import SeenButton, SeenItem
from rimecrest.core.model import parse_json, validated
from rimecrest.core.words import tr
from rimecrest.studio.layout import gestures

MIME = "application/x-rimecrest-items+json"


@dataclass(frozen=True)
class Copied:
    """Items with the layer and application that they come from, and whether they were cut there."""

    layer: str
    app: str
    cut: bool
    items: tuple[Item, ...]
    surface: Group | Tab | Toolbar | Panel | None = None
    """A surface as a whole; then `items` are all that is in it."""


def to_clipboard(items: Sequence[SeenItem], layer: str, app: str, cut: bool) -> QMimeData:
    """Items as they go onto the clipboard."""
    stored = [gestures.as_stored(item).to_data() for item in items]
    data = QMimeData()
    data.setData(MIME, json.dumps({"from": [layer, app], "cut": cut, "items": stored}).encode())
    data.setText(", ".join(item.label for item in items if isinstance(item, SeenButton)))
    return data


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
        surface = None
        if "surface" in found:
            kind, stored = found["surface"]
            surface = validated(_SURFACES[kind], stored, tr("what was copied"))
            items = items_of(surface)
        return Copied(layer, app, bool(found["cut"]), items, surface)
    except (RimecrestError, KeyError, TypeError, ValueError) as error:
        why = error.sentence if isinstance(error, RimecrestError) else str(error)
        raise RimecrestError(
            tr("What was copied cannot be pasted: {why}", why=why), tr("Copy it again.")
        ) from None
