"""What a colleague sees: the layers of a stack laid over one another.

The steps, in order, for each layer from the bottom up:

1. its toolbars, tabs and groups, each after its anchor;
2. its insertions into surfaces of other layers;
3. its moves, 4. its changes, 5. what it hides;
6. its keys, with the variant for the seat's keyboard or desktop.

A lost anchor puts the thing at the end of its surface and says so. Every thing keeps the layer it comes
from, and what was changed keeps who changed it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.surfaces import Edge, FaceKind, Group, Item, Menu, Tab, Toolbar
from rimecrest.core.keys import NOWHERE, Binding, Traits, parse_sequence
from rimecrest.core.layout.faces import Targets, private_face
from rimecrest.core.layout.layout import Change, KeyBinding, Layout
from rimecrest.core.layout.order import AnchoredOrder

BUILT_IN = "built-in"


@dataclass(frozen=True, slots=True)
class SeenItem:
    """An item as the colleague sees it, with where it comes from."""

    id: str
    layer: str
    run: str | None
    args: tuple[tuple[str, str], ...] = ()
    label: str = ""
    tip: str = ""
    picture: str = ""
    face: FaceKind = "both"
    width: int = 1
    collapse: int = 0
    access: str = ""
    separator: bool = False
    exists: bool = True
    named: bool = True
    """Whether some layer gave it words of its own, or its target has them."""
    changed_by: tuple[str, ...] = ()
    steps: str = ""
    """The text of a macro that is private to this item."""

    @property
    def target(self) -> tuple[str | None, tuple[tuple[str, str], ...]]:
        return self.run, self.args


@dataclass(frozen=True, slots=True)
class SeenGroup:
    id: str
    layer: str
    title: str
    items: tuple[SeenItem, ...] = ()


@dataclass(frozen=True, slots=True)
class SeenTab:
    id: str
    layer: str
    title: str
    groups: tuple[SeenGroup, ...] = ()


@dataclass(frozen=True, slots=True)
class SeenSurface:
    """A toolbar (with its edge) or a right-click menu (with its context)."""

    id: str
    layer: str
    title: str
    items: tuple[SeenItem, ...] = ()
    edge: Edge = "left"
    context: str = ""


@dataclass(frozen=True)
class Outcome:
    """Everything one stack amounts to in one application."""

    app: str
    toolbars: tuple[SeenSurface, ...] = ()
    tabs: tuple[SeenTab, ...] = ()
    menus: tuple[SeenSurface, ...] = ()
    bindings: tuple[Binding, ...] = ()
    hidden: dict[str, str] = field(default_factory=dict)
    """Identity → the layer that hides it."""
    lost: tuple[str, ...] = ()
    """A sentence for each anchor that is gone."""

    def surfaces(self) -> Iterator[tuple[str, tuple[SeenItem, ...]]]:
        """Identity and items of every toolbar, group and menu."""
        for toolbar in self.toolbars:
            yield toolbar.id, toolbar.items
        for tab in self.tabs:
            for group in tab.groups:
                yield group.id, group.items
        for menu in self.menus:
            yield menu.id, menu.items

    def items(self) -> Iterator[tuple[str, SeenItem]]:
        """(surface identity, item) of everything that shows."""
        for surface, items in self.surfaces():
            for item in items:
                yield surface, item

    def item(self, identity: str) -> SeenItem | None:
        return next((item for _, item in self.items() if item.id == identity), None)

    def surface_of(self, identity: str) -> str | None:
        return next((surface for surface, item in self.items() if item.id == identity), None)

    def title_of(self, identity: str) -> str:
        """The title of a toolbar, tab, group or menu; its identity when it has none."""
        titles = {surface.id: surface.title for surface in (*self.toolbars, *self.menus)}
        for tab in self.tabs:
            titles[tab.id] = tab.title
            titles |= {group.id: group.title for group in tab.groups}
        return titles.get(identity, identity)

    def keys_of(self, run: str | None, args: tuple[tuple[str, str], ...] = ()) -> list[Binding]:
        """The bindings of a target, highest layer first."""
        found = [binding for binding in self.bindings if binding.target == (run, args)]
        return sorted(found, key=lambda binding: -binding.level)


@dataclass
class _Surface:
    """A toolbar, group or menu being assembled."""

    id: str
    layer: str
    title: str
    kind: str
    items: AnchoredOrder[SeenItem] = field(default_factory=AnchoredOrder)
    edge: Edge = "left"
    context: str = ""


@dataclass
class _Tab:
    id: str
    layer: str
    title: str
    groups: AnchoredOrder[str] = field(default_factory=AnchoredOrder)


class _Assembly:
    """The stack while it is being laid together."""

    def __init__(self, catalogue: Catalogue, targets: Targets, traits: Traits, keys: bool) -> None:
        self.targets = targets
        self.traits = traits
        self.keys = keys
        self.surfaces: dict[str, _Surface] = {}
        self.tabs: dict[str, _Tab] = {}
        self.toolbar_order: AnchoredOrder[str] = AnchoredOrder()
        self.tab_order: AnchoredOrder[str] = AnchoredOrder()
        self.where: dict[str, str] = {}
        self.bindings: list[Binding] = []
        self.hidden: dict[str, str] = {}
        self.lost: list[str] = []
        self._lay_application(catalogue)

    def _lay_application(self, catalogue: Catalogue) -> None:
        for toolbar in catalogue.toolbars:
            self._add_toolbar(toolbar, "app", BUILT_IN, base=True)
        for tab in catalogue.tabs:
            self._add_tab(tab, "app", BUILT_IN, base=True)
        for menu in catalogue.menus:
            self._fill(_Surface(f"app:{menu.id}", BUILT_IN, menu.title, "menu", context=menu.context), menu)
        for own in catalogue.keys if self.keys else ():
            sequence = parse_sequence(own.keys)
            self.bindings.append(Binding(f"app:{own.id}", BUILT_IN, 0, own.context, sequence, own.run))

    def lay(self, layout: Layout, level: int) -> None:
        """Lay one layer over what is there. The order of the steps is the module's docstring."""
        layer = layout.layer
        for toolbar in layout.toolbars:
            self._add_toolbar(toolbar, layer, layer)
        for tab in layout.tabs:
            self._add_tab(tab, layer, layer)
        for group in layout.groups:
            into = layout.full(group.into)
            self._add_group(group, layer, layer, into, group.after and layout.full(group.after), base=False)
        for insertion in layout.insert:
            self._insert(layout, insertion.into, insertion.after, insertion.items)
        for move in layout.move:
            self._move(layout, layout.full(move.of), layout.full(move.into), move.after)
        for change in layout.change:
            self._change(layout.full(change.of), change, layer)
        for identity in layout.hide:
            self._hide(layout.full(identity), layer)
        for key in layout.keys if self.keys else ():
            self._bind(layout, key, level)

    def _add_toolbar(self, toolbar: Toolbar, prefix: str, layer: str, base: bool = False) -> None:
        identity = f"{prefix}:{toolbar.id}"
        if base:
            self.toolbar_order.append(identity, identity)
        else:
            after = toolbar.after and _full(prefix, toolbar.after)
            if not self.toolbar_order.put(identity, identity, after):
                self._lose(toolbar.title, after, "the end of the toolbars")
        self._fill(_Surface(identity, layer, toolbar.title, "toolbar", edge=toolbar.edge), toolbar)

    def _add_tab(self, tab: Tab, prefix: str, layer: str, base: bool = False) -> None:
        identity = f"{prefix}:{tab.id}"
        if base:
            self.tab_order.append(identity, identity)
        else:
            after = tab.after and _full(prefix, tab.after)
            if not self.tab_order.put(identity, identity, after):
                self._lose(tab.title, after, "the end of the tabs")
        self.tabs[identity] = _Tab(identity, layer, tab.title)
        for group in tab.groups:
            self._add_group(group, prefix, layer, identity, None, base=True)

    def _add_group(
        self, group: Group, prefix: str, layer: str, tab: str, after: str | None, base: bool
    ) -> None:
        identity = f"{prefix}:{group.id}"
        if tab not in self.tabs:
            self.lost.append(f"The group “{group.title}” has no tab: {tab} is gone.")
            return
        if base:
            self.tabs[tab].groups.append(identity, identity)
        elif not self.tabs[tab].groups.put(identity, identity, after):
            self._lose(group.title, after, f"the end of the tab {self.tabs[tab].title}")
        self._fill(_Surface(identity, layer, group.title, "group"), group)

    def _fill(self, surface: _Surface, stored: Toolbar | Group | Menu) -> None:
        self.surfaces[surface.id] = surface
        prefix = surface.id.rpartition(":")[0]
        for item in stored.items:
            seen = self._see(item, prefix, surface.layer, surface.kind)
            surface.items.append(seen.id, seen)
            self.where[seen.id] = surface.id

    def _insert(self, layout: Layout, into: str, after: str | None, items: Sequence[Item]) -> None:
        surface = self.surfaces.get(layout.full(into))
        if surface is None:
            names = ", ".join(item.label or item.run or item.id for item in items)
            self.lost.append(f"{names} has no place: the surface {into} is gone.")
            return
        anchor = after and layout.full(after)
        for item in items:
            seen = self._see(item, layout.layer, layout.layer, surface.kind)
            if not surface.items.put(seen.id, seen, anchor):
                self._lose(seen.label, anchor, f"the end of {surface.title}")
            self.where[seen.id] = surface.id

    def _move(self, layout: Layout, identity: str, into: str, after: str | None) -> None:
        here, there = self.surfaces.get(self.where.get(identity, "")), self.surfaces.get(into)
        if here is None or there is None:
            self.lost.append(f"{identity} cannot move to {into}: one of them is gone.")
            return
        item = here.items.move_out(identity)
        if item is None:
            return
        moved = replace(item, changed_by=(*item.changed_by, layout.layer))
        anchor = after and layout.full(after)
        if not there.items.put(identity, moved, anchor):
            self._lose(item.label, anchor, f"the end of {there.title}")
        self.where[identity] = into

    def _change(self, identity: str, change: Change, layer: str) -> None:
        if identity in self.where:
            surface = self.surfaces[self.where[identity]]
            item = surface.items.get(identity)
            if item is not None:
                surface.items.change(identity, self._changed(item, change.set, layer, surface.kind))
        elif (thing := self.surfaces.get(identity) or self.tabs.get(identity)) is not None:
            thing.title = str(change.set.get("title", thing.title))
            if isinstance(thing, _Surface):
                thing.edge = change.set.get("edge", thing.edge)
        else:
            self.lost.append(f"A change of {identity} has nothing to change any more.")

    def _changed(self, item: SeenItem, fields: dict[str, Any], layer: str, kind: str) -> SeenItem:
        stored = Item.model_validate({"id": item.id, "run": item.run, "args": dict(item.args), **fields})
        fresh = self._see(stored, "", item.layer, kind)
        kept = {"label", "tip", "picture", "face", "width", "collapse", "access"} - set(fields)
        if "run" in fields:
            kept -= {"label", "tip", "picture"}
        values = {name: getattr(item, name) for name in kept}
        return replace(fresh, id=item.id, changed_by=(*item.changed_by, layer), **values)

    def _hide(self, identity: str, layer: str) -> None:
        if identity in self.where:
            self.surfaces[self.where[identity]].items.hide(identity)
        elif identity in self.tabs:
            self.tab_order.hide(identity)
        elif identity in self.toolbar_order:
            self.toolbar_order.hide(identity)
        elif identity in self.surfaces:
            for tab in self.tabs.values():
                tab.groups.hide(identity)
        else:
            return
        self.hidden[identity] = layer

    def _bind(self, layout: Layout, key: KeyBinding, level: int) -> None:
        keys = key.on_seat(self.traits)
        if keys is None:
            return
        identity = f"{layout.layer}:{key.identity}"
        args = tuple(sorted(key.args.items()))
        fixed = layout.policy == "fixed"
        self.bindings.append(
            Binding(identity, layout.layer, level, key.in_context, parse_sequence(keys), key.run, args, fixed)
        )

    def _lose(self, what: str, anchor: str | None, end: str) -> None:
        self.lost.append(f"“{what}” stood after {anchor}, which is gone; it is at {end} now.")

    def _see(self, item: Item, prefix: str, layer: str, kind: str) -> SeenItem:
        target = self.targets.face(item.run) if not item.steps else private_face(item.steps)
        label = item.label if item.label is not None else target.name
        default_face: FaceKind = "picture" if kind == "toolbar" else "both"
        face = item.face or default_face
        picture = item.picture or target.picture
        return SeenItem(
            id=f"{prefix}:{item.id}" if prefix else item.id,
            layer=layer,
            run=item.run,
            args=tuple(sorted(item.args.items())),
            label=label,
            tip=item.tip if item.tip is not None else target.about,
            picture=picture,
            face=face,
            width=item.width,
            collapse=item.collapse,
            access=item.access or "",
            separator=item.separator,
            exists=item.separator or target.exists,
            named=bool(item.tip or target.about),
            steps=item.steps or "",
        )

    def result(self, app: str) -> Outcome:
        def seen(identity: str) -> SeenSurface:
            surface = self.surfaces[identity]
            items = tuple(surface.items)
            return SeenSurface(identity, surface.layer, surface.title, items, surface.edge, surface.context)

        def seen_group(identity: str) -> SeenGroup:
            surface = self.surfaces[identity]
            return SeenGroup(identity, surface.layer, surface.title, tuple(surface.items))

        tabs = tuple(
            SeenTab(name, self.tabs[name].layer, self.tabs[name].title, tuple(map(seen_group, groups)))
            for name in self.tab_order
            for groups in [list(self.tabs[name].groups)]
        )
        menus = tuple(seen(name) for name, surface in self.surfaces.items() if surface.kind == "menu")
        return Outcome(
            app,
            tuple(seen(name) for name in self.toolbar_order),
            tabs,
            menus,
            tuple(self.bindings),
            dict(self.hidden),
            tuple(self.lost),
        )


def _full(prefix: str, identity: str) -> str:
    return identity if ":" in identity else f"{prefix}:{identity}"


def outcome(
    catalogue: Catalogue,
    layouts: Iterable[Layout],
    targets: Targets,
    traits: Traits = NOWHERE,
    keys: bool = True,
) -> Outcome:
    """Lay `layouts`, lowest layer first, over the application's own surfaces and hotkeys.

    Args:
        catalogue: what the application comes with.
        layouts: one per layer of the stack, in stack order; layers without a layout are left out.
        targets: names and pictures of commands and macros.
        traits: what the seat has, for variants of its keys.
        keys: whether the hotkeys are wanted as well.
    """
    assembly = _Assembly(catalogue, targets, traits, keys)
    for level, layout in enumerate(layouts, start=1):
        assembly.lay(layout, level)
    return assembly.result(catalogue.app)
