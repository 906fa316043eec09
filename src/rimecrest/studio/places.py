"""The places of the studio, in the order of work. A new place is a row here, and its package."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from rimecrest.core.words import tr
from rimecrest.studio.keys.place import KeysPlace
from rimecrest.studio.layout.place import LayoutPlace
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.rollout.place import RolloutPlace
from rimecrest.studio.shared.place import Place, Surroundings


@dataclass(frozen=True)
class PlaceRow:
    """How a place is called, its picture, other words that find it, and how it is made."""

    name: str
    picture: str
    more: str
    make: Callable[[Surroundings], Place]


PLACES = (
    PlaceRow("Macros", "set:format-list-text", tr("steps shelves"), MacrosPlace),
    PlaceRow("Layout", "set:application-outline", tr("stage toolbars tabs"), LayoutPlace),
    PlaceRow("Keys", "set:keyboard-outline", tr("bed hotkeys shortcuts"), KeysPlace),
    PlaceRow("Roll-out", "set:hexagon-multiple-outline", tr("release seats map"), RolloutPlace),
)
FIRST = "Layout"
"""The place in which a workspace opens."""
