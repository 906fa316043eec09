"""What a colleague sees, as values: items, the rows and surfaces they stand on, the whole outcome.

An item is a `SeenButton`, `SeenSeparator`, `SeenSubmenu` or, on a panel, a `SeenControl`. What holds items is
a `SeenToolbar`, `SeenGroup`, `SeenMenu` or `SeenPanel`. `Outcome.rows` is the one way through all of them.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property, partial
from typing import Literal

from msgspec import Struct, field

from rimecrest.core.catalogue.applies import EVERYWHERE, Applies
from rimecrest.core.catalogue.items import Event, FaceKind, Handler, Item
from rimecrest.core.catalogue.surfaces import Edge
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.remembered import Remembered
from rimecrest.core.values import PartlyCompared

BUILT_IN = "built-in"
ControlKind = Literal["text", "field", "choice", "list", "tick"]


class _Seen(PartlyCompared, frozen=True, kw_only=True):
    """What every item has: its full identity, the layer it comes from, those that changed it.

    `stored` is the item as it would be stored, with all changes: what a copy of it is made of. `beside` and
    `at`: where it stands on a panel, as stored.
    """

    aside = frozenset({"stored"})

    id: str
    layer: str
    stored: Item
    changed_by: tuple[str, ...] = ()
    beside: bool = False
    at: tuple[int, int, int, int] | None = None


class SeenSeparator(_Seen, frozen=True, kw_only=True):
    """A line between items."""


class SeenSubmenu(_Seen, frozen=True, kw_only=True):
    """A line of a menu that opens another one, `menu`, which has the same identity."""

    title: str
    picture: str = ""
    menu: SeenMenu

    @property
    def label(self) -> str:
        """Its words, as a button's."""
        return self.title


class SeenButton(_Seen, frozen=True, kw_only=True):
    """A button. `run` is None where it has private steps (`steps`), empty where it runs nothing."""

    run: str | None
    args: tuple[tuple[str, str], ...] = ()
    steps: str = ""
    made_by: str = ""
    label: str = ""
    tip: str = ""
    picture: str = ""
    face: FaceKind = "both"
    width: int = 1
    collapse: int = 0
    access: str = ""
    exists: bool = True
    named: bool = True
    """Whether some layer gave it words of its own, or its target has them."""
    doings: tuple[Doing, ...] = ()
    """What it does on a panel at other events than a click."""

    @property
    def target(self) -> tuple[str | None, tuple[tuple[str, str], ...]]:
        return self.run, self.args

    @property
    def click(self) -> Doing:
        """What it runs when it is clicked."""
        return Doing(self.id, self.layer, self.label, "click", self.run, self.args, self.steps, self.made_by)

    def doing(self, event: Event) -> Doing | None:
        """What happens at an event; None: nothing."""
        if event == "click":
            return self.click
        return next((doing for doing in self.doings if doing.event == event), None)


class Doing(Struct, frozen=True):
    """What something runs at an event: a target with settings, or steps of its own.

    `of` is the identity of the thing, `layer` the one that placed it, `label` its words, `made_by` the public
    key of whoever outside made the steps.
    """

    of: str
    layer: str
    label: str
    event: Event
    run: str | None = None
    args: tuple[tuple[str, str], ...] = ()
    steps: str = ""
    made_by: str = ""

    @property
    def target(self) -> tuple[str | None, tuple[tuple[str, str], ...]]:
        return self.run, self.args


class SeenControl(_Seen, frozen=True, kw_only=True):
    """A text, field, choice, list or tick box of a panel.

    `caption` are its words, `value` what it has at first, `reading` where its choices come from, `doings`
    what happens at which event.
    """

    kind: ControlKind
    caption: str
    value: str = ""
    choices: tuple[str, ...] = ()
    reading: str = ""
    doings: tuple[Doing, ...] = ()

    @property
    def label(self) -> str:
        """Its words, as a button's."""
        return self.caption

    def doing(self, event: Event) -> Doing | None:
        """What happens at an event; None: nothing."""
        return next((doing for doing in self.doings if doing.event == event), None)

    @property
    def holds_value(self) -> bool:
        """Whether macros can read what is in it."""
        return self.kind != "text"


SeenItem = SeenButton | SeenSeparator | SeenControl | SeenSubmenu


class SeenRow(Struct, frozen=True, kw_only=True, dict=True):
    """What all rows of items share."""

    id: str
    layer: str
    title: str
    items: tuple[SeenItem, ...] = ()
    picture: str = ""

    @cached_property
    def _buttons(self) -> tuple[SeenButton, ...]:
        return tuple([item for item in self.items if isinstance(item, SeenButton)])

    def buttons(self) -> Iterator[SeenButton]:
        return iter(self._buttons)


class SeenToolbar(SeenRow, frozen=True, kw_only=True):
    """A bar with its edge; `row` and `at` as they are stored (`core.catalogue.surfaces.Toolbar`)."""

    edge: Edge = "left"
    row: int | None = None
    at: tuple[int, int] | None = None


class SeenMenu(SeenRow, frozen=True, kw_only=True):
    """A right-click menu with the context where it opens."""

    context: str = ""

    def with_inner(self) -> Iterator[SeenMenu]:
        """Itself and all that open from it."""
        yield self
        for item in self.items:
            if isinstance(item, SeenSubmenu):
                yield from item.menu.with_inner()


class SeenPanel(SeenRow, frozen=True, kw_only=True):
    """A panel: see `core.catalogue.surfaces.Panel`."""

    edge: Edge = "right"
    at: tuple[int, int] | None = None
    width: int = 240
    background: str = "sheet"
    flow: str = "column"
    shown: bool = True
    on: Mapping[Event, Handler] = field(default_factory=dict)
    """As it is stored."""
    doings: tuple[Doing, ...] = ()
    applies: Applies = EVERYWHERE

    def controls(self) -> Iterator[SeenControl]:
        """What is neither a button nor a line."""
        return (item for item in self.items if isinstance(item, SeenControl))


class SeenGroup(SeenRow, frozen=True, kw_only=True):
    """A group of a tab; `tab` is the tab's identity."""

    tab: str


class SeenTab(Struct, frozen=True, kw_only=True):
    """A tab with its groups."""

    id: str
    layer: str
    title: str
    groups: tuple[SeenGroup, ...] = ()
    picture: str = ""


class Hidden(Struct, frozen=True):
    """Something that is there and does not show. `by` is the layer that hides it.

    `by` is the application itself for what is off by default. `kind` is what it is, in a word; `where` the
    title of the surface that it would show on, empty for surfaces.
    """

    id: str
    by: str
    kind: str
    title: str
    where: str = ""


_DOINGS: Remembered[list[tuple[tuple[str, ...], Doing]]] = Remembered(4_000)
"""Row → everything that something on it runs, each with the layers that placed or changed what runs it."""


def _doings_in(row: SeenRow) -> list[tuple[tuple[str, ...], Doing]]:
    found: list[tuple[tuple[str, ...], Doing]] = []
    if isinstance(row, SeenPanel):
        found += [((row.layer,), doing) for doing in row.doings]
    for item in row.items:
        if isinstance(item, SeenButton):
            found.append(((item.layer, *item.changed_by), item.click))
        if isinstance(item, SeenButton | SeenControl) and item.doings:
            found += [((item.layer, *item.changed_by), doing) for doing in item.doings]
    return found


class Outcome(Struct, frozen=True, dict=True):
    """Everything one stack amounts to in one application."""

    app: str
    toolbars: tuple[SeenToolbar, ...] = ()
    tabs: tuple[SeenTab, ...] = ()
    menus: tuple[SeenMenu, ...] = ()
    panels: tuple[SeenPanel, ...] = ()
    bindings: tuple[Binding, ...] = ()
    hidden: dict[str, str] = field(default_factory=dict)
    """Identity → the layer that hides it."""
    lost: tuple[str, ...] = ()
    """A sentence for each anchor that is gone."""
    out_of_sight: tuple[Hidden, ...] = ()
    """What is hidden or off by default, in words."""

    def rows(self) -> Iterator[SeenRow]:
        """Every toolbar, group, panel and menu, in that order."""
        yield from self.toolbars
        for tab in self.tabs:
            yield from tab.groups
        yield from self.panels
        for menu in self.menus:
            yield from menu.with_inner()

    def items(self) -> Iterator[tuple[SeenRow, SeenItem]]:
        """Everything that shows, with the row that it stands in."""
        return ((row, item) for row in self.rows() for item in row.items)

    def buttons(self) -> Iterator[tuple[SeenRow, SeenButton]]:
        """The same without separators."""
        return ((row, item) for row in self.rows() for item in row.buttons())

    def doings(self) -> Iterator[tuple[SeenRow, tuple[str, ...], Doing]]:
        """Everything that something runs: buttons when clicked, all that stands on panels at its events.

        Each with its row and with the layers that placed or changed what runs it.
        """
        for row in self.rows():
            for layers, doing in _DOINGS.of((row,), (), partial(_doings_in, row)):
                yield row, layers, doing

    @cached_property
    def _places(self) -> dict[str, tuple[SeenRow, SeenItem]]:
        return {item.id: (row, item) for row, item in self.items()}

    def item(self, identity: str) -> SeenItem | None:
        return self._places[identity][1] if identity in self._places else None

    def button(self, identity: str) -> SeenButton | None:
        item = self.item(identity)
        return item if isinstance(item, SeenButton) else None

    def row_of(self, item: str) -> SeenRow | None:
        """The row that an item stands in."""
        return self._places[item][0] if item in self._places else None

    def row(self, identity: str) -> SeenRow | None:
        return next((row for row in self.rows() if row.id == identity), None)

    def tab_of(self, item: str) -> str | None:
        """The tab that an item stands in."""
        row = self.row_of(item)
        return row.tab if isinstance(row, SeenGroup) else None

    def whereabouts(self, row: SeenRow) -> str:
        """Where a row is, in words: “bar Freight”, “tab Insert”, “menu In the text”."""
        match row:
            case SeenToolbar():
                return f"bar {row.title}"
            case SeenGroup():
                return f"tab {self.title_of(row.tab)}"
            case SeenPanel():
                return f"panel {row.title}"
        return f"menu {row.title}"

    def tab(self, identity: str) -> SeenTab | None:
        """The tab of that identity."""
        return next((tab for tab in self.tabs if tab.id == identity), None)

    def is_surface(self, identity: str) -> bool:
        """Whether that is a tab, group, toolbar or menu that shows."""
        return self.tab(identity) is not None or self.row(identity) is not None

    def title_of(self, identity: str) -> str:
        """The title of a toolbar, tab, group or menu; its identity when it has none."""
        titled: list[SeenRow | SeenTab] = [*self.rows(), *self.tabs]
        return next((thing.title for thing in titled if thing.id == identity), identity)

    def keys_of(self, run: str | None, args: tuple[tuple[str, str], ...] = ()) -> list[Binding]:
        """The bindings of a target, highest layer first."""
        found = [binding for binding in self.bindings if binding.target == (run, args)]
        return sorted(found, key=lambda binding: -binding.level)
