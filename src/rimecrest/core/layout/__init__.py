"""Surfaces, items and hotkeys: what one layer says (`Layout`), and what a colleague sees (`Outcome`).

`outcome(stack)` lays the layers of a seat over one another; `compare` says in words what differs.
"""

from rimecrest.core.catalogue.items import Button, Item, Separator, StepsButton
from rimecrest.core.catalogue.surfaces import Group, Menu, Tab, Toolbar
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
from rimecrest.core.layout.outcome import outcome, surfaces, with_keys
from rimecrest.core.layout.seen import (
    BUILT_IN,
    ControlKind,
    Doing,
    Hidden,
    Outcome,
    SeenButton,
    SeenControl,
    SeenGroup,
    SeenItem,
    SeenMenu,
    SeenPanel,
    SeenRow,
    SeenSeparator,
    SeenSubmenu,
    SeenTab,
    SeenToolbar,
)

__all__ = [
    "Acceptance",
    "BUILT_IN",
    "ControlKind",
    "Button",
    "Change",
    "Doing",
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
    "Hidden",
    "SeenButton",
    "SeenControl",
    "SeenGroup",
    "SeenItem",
    "SeenMenu",
    "SeenPanel",
    "SeenRow",
    "SeenSeparator",
    "SeenSubmenu",
    "SeenTab",
    "SeenToolbar",
    "Separator",
    "StepsButton",
    "Tab",
    "Targets",
    "Toolbar",
    "outcome",
    "parse_layout",
    "surfaces",
    "with_keys",
]
