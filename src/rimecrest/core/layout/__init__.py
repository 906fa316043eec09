"""Surfaces, items and hotkeys: what one layer says (`Layout`), and what a colleague sees (`Outcome`).

`outcome(stack)` lays the layers of a seat over one another; `compare` says in words what differs.
"""

from rimecrest.core.catalogue.surfaces import Group, Item, Menu, Tab, Toolbar
from rimecrest.core.layout.faces import Face, Targets
from rimecrest.core.layout.layout import (
    Acceptance,
    Change,
    Insertion,
    KeyBinding,
    Layout,
    Move,
    PlacedInTab,
    parse_layout,
)
from rimecrest.core.layout.outcome import (
    BUILT_IN,
    Outcome,
    SeenGroup,
    SeenItem,
    SeenSurface,
    SeenTab,
    outcome,
)

__all__ = [
    "BUILT_IN",
    "Acceptance",
    "Change",
    "Face",
    "Group",
    "Insertion",
    "Item",
    "KeyBinding",
    "Layout",
    "Menu",
    "Move",
    "Outcome",
    "PlacedInTab",
    "SeenGroup",
    "SeenItem",
    "SeenSurface",
    "SeenTab",
    "Tab",
    "Targets",
    "Toolbar",
    "outcome",
    "parse_layout",
]
