"""The stack while it is being laid together: the steps that `outcome` names, one method each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from copy import copy
from typing import Any

from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Item, with_fields
from rimecrest.core.catalogue.surfaces import Group, Menu, Panel, Row, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.assembled import AssembledRow, AssembledTab
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.layout import Change, Insertion, Layout
from rimecrest.core.layout.order import AnchoredOrder
from rimecrest.core.layout.seeing import label_of, name_of, see, see_all
from rimecrest.core.layout.seen import (
    BUILT_IN,
    Hidden,
    Outcome,
    SeenButton,
    SeenControl,
    SeenItem,
    SeenMenu,
    SeenSubmenu,
    SeenTab,
)
from rimecrest.core.words import tr

_SET_BY_TARGET = ("label", "tip", "picture")
"""Fields of a face that say something about its target: with another target they begin anew."""


class Assembly:
    """The surfaces of one stack in one application."""

    def __init__(self, catalogue: Catalogue, targets: Targets) -> None:
        self._targets = targets
        self._rows: dict[str, AssembledRow] = {}
        self._tabs: dict[str, AssembledTab] = {}
        self._toolbar_order: AnchoredOrder[str] = AnchoredOrder()
        self._tab_order: AnchoredOrder[str] = AnchoredOrder()
        self._menu_order: AnchoredOrder[str] = AnchoredOrder()
        self._homes: dict[str, AnchoredOrder[Any]] = {}
        """Identity of anything that stands somewhere → the order that it stands in."""
        self._where: dict[str, AssembledRow] = {}
        """Identity of an item → its row."""
        self._hidden: dict[str, str] = {}
        self._lost: list[str] = []
        self._panel_order: AnchoredOrder[str] = AnchoredOrder()
        self._lay_application(catalogue)

    def copied(self, targets: Targets) -> Assembly:
        """The same, to be changed on its own, for a stack with these targets."""
        orders: dict[int, AnchoredOrder[Any]] = {}

        def own(order: AnchoredOrder[Any]) -> AnchoredOrder[Any]:
            if id(order) not in orders:
                orders[id(order)] = order.copy()
            return orders[id(order)]

        rows = {name: replace(row, items=own(row.items)) for name, row in self._rows.items()}
        made = copy(self)
        vars(made).update(
            _targets=targets,
            _rows=rows,
            _tabs={name: replace(tab, groups=own(tab.groups)) for name, tab in self._tabs.items()},
            _where={name: rows[row.id] for name, row in self._where.items()},
            _homes={name: own(order) for name, order in self._homes.items()},
            _toolbar_order=own(self._toolbar_order),
            _tab_order=own(self._tab_order),
            _menu_order=own(self._menu_order),
            _panel_order=own(self._panel_order),
            _hidden=dict(self._hidden),
            _lost=list(self._lost),
        )
        return made

    def _lay_application(self, catalogue: Catalogue) -> None:
        for toolbar in catalogue.toolbars:
            self._add_toolbar(toolbar, "app", BUILT_IN, base=True)
        for tab in catalogue.tabs:
            self._add_tab(tab, "app", BUILT_IN, base=True)
        for menu in catalogue.menus:
            identity = f"app:{menu.id}"
            self._menu_order.append(identity, identity)
            self._homes[identity] = self._menu_order
            self._fill(AssembledRow(identity, BUILT_IN, menu.title, Menu, context=menu.context), menu)

    def lay(self, layout: Layout) -> None:
        """Lay one layer over what is there. The order of the steps is that of `outcome`."""
        layer = layout.layer
        for toolbar in layout.toolbars:
            self._add_toolbar(toolbar, layer, layer)
        for tab in layout.tabs:
            self._add_tab(tab, layer, layer)
        for panel in layout.panels:
            self._add_panel(panel, layer)
        for group in layout.groups:
            into = layout.full(group.into)
            self._add_group(group, layer, layer, into, group.after and layout.full(group.after), base=False)
        for insertion in self._in_order(layout):
            self._insert(layout, insertion.into, insertion.after, insertion.items)
        for move in layout.move:
            self._move(layout, layout.full(move.of), move.into and layout.full(move.into), move.after)
        for change in layout.change:
            self._change(layout.full(change.of), change, layer)
        for identity in layout.hide:
            self._hide(layout.full(identity), layer)

    def _in_order(self, layout: Layout) -> Iterator[Insertion]:
        """The insertions, each when its row is there: what goes into a submenu waits for that one."""
        waiting = list(layout.insert)
        while waiting:
            there = [layout.full(row.into) in self._rows for row in waiting]
            if not any(there):
                break
            yield from (row for row, now in zip(waiting, there, strict=True) if now)
            waiting = [row for row, now in zip(waiting, there, strict=True) if not now]
        yield from waiting

    # Surfaces

    def _stand(
        self, order: AnchoredOrder[str], identity: str, title: str, after: str | None, base: bool, end: str
    ) -> None:
        """Give a surface or group its place in an order."""
        self._homes[identity] = order
        if base:
            order.append(identity, identity)
        elif not order.put(identity, identity, after):
            self._lose(title, after, end)

    def _add_toolbar(self, toolbar: Toolbar, prefix: str, layer: str, base: bool = False) -> None:
        identity = f"{prefix}:{toolbar.id}"
        if not self._is_new(identity, toolbar.title):
            return
        after = toolbar.after and _full(prefix, toolbar.after)
        end = tr("the end of the toolbars")
        self._stand(self._toolbar_order, identity, toolbar.title, after, base, end)
        row = AssembledRow(identity, layer, toolbar.title, Toolbar, picture=toolbar.picture or "")
        row.edge, row.row, row.at = toolbar.edge, toolbar.row, toolbar.at
        self._fill(row, toolbar)
        if not toolbar.shown:
            self._hide(identity, layer)

    def _add_panel(self, panel: Panel, layer: str) -> None:
        identity = f"{layer}:{panel.id}"
        if not self._is_new(identity, panel.title):
            return
        after = panel.after and _full(layer, panel.after)
        self._stand(self._panel_order, identity, panel.title, after, False, tr("the end of the panels"))
        row = AssembledRow(
            identity, layer, panel.title, Panel, picture=panel.picture or "", edge=panel.edge, at=panel.at
        )
        row.width, row.background, row.shown = panel.width, panel.background, panel.shown
        row.on, row.applies, row.flow = panel.on, panel.applies, panel.flow
        self._fill(row, panel)

    def _add_tab(self, tab: Tab, prefix: str, layer: str, base: bool = False) -> None:
        identity = f"{prefix}:{tab.id}"
        if not self._is_new(identity, tab.title):
            return
        after = tab.after and _full(prefix, tab.after)
        self._stand(self._tab_order, identity, tab.title, after, base, tr("the end of the tabs"))
        self._tabs[identity] = AssembledTab(identity, layer, tab.title, picture=tab.picture or "")
        for group in tab.groups:
            self._add_group(group, prefix, layer, identity, None, base=True)
        if not tab.shown:
            self._hide(identity, layer)

    def _add_group(
        self, group: Group, prefix: str, layer: str, tab: str, after: str | None, base: bool
    ) -> None:
        identity = f"{prefix}:{group.id}"
        if tab not in self._tabs:
            self._lost.append(
                tr("The group “{title}” has no tab: {tab} is gone.", title=group.title, tab=tab)
            )
            return
        if not self._is_new(identity, group.title):
            return
        home = self._tabs[tab]
        end = tr("the end of the tab {title}", title=home.title)
        self._stand(home.groups, identity, group.title, after, base, end)
        row = AssembledRow(identity, layer, group.title, Group, picture=group.picture or "", tab=tab)
        self._fill(row, group)

    # Items

    def _fill(self, row: AssembledRow, stored: Row) -> None:
        self._rows[row.id] = row
        prefix = row.id.rpartition(":")[0]
        run = see_all(stored, prefix, row.layer, row.kind, self._targets)
        if run.at_once is not None and self._homes.keys().isdisjoint(run.at_once):
            # As nearly every row: none of its items needs a closer look.
            row.items.extend(run.at_once)
            self._where.update(dict.fromkeys(run.at_once, row))
            self._homes.update(dict.fromkeys(run.at_once, row.items))
            return
        for seen in run.items:
            if self._takes(row, seen):
                row.items.append(seen.id, seen)
                self._settle(seen, row)

    def _takes(self, row: AssembledRow, item: SeenItem) -> bool:
        """Whether an item can stand in a row, and nothing has its identity yet; else that is told."""
        # Nearly all are buttons, which stand anywhere.
        if not isinstance(item, SeenButton) and not self._fits(item, row):
            return False
        return item.id not in self._homes or self._is_new(item.id, label_of(item))

    def _fits(self, item: SeenItem, row: AssembledRow) -> bool:
        """Whether that can stand there: fields and their like stand on panels only, submenus in menus."""
        if isinstance(item, SeenControl) and row.kind is not Panel:
            self._lost.append(tr("“{what}” does not show: it stands only on a panel.", what=label_of(item)))
            return False
        if isinstance(item, SeenSubmenu) and row.kind is not Menu:
            self._lost.append(tr("“{what}” does not show: it stands only in a menu.", what=label_of(item)))
            return False
        return True

    def _is_new(self, identity: str, what: str) -> bool:
        """Whether nothing stands under that identity yet; of two, only the first does."""
        if identity in self._homes:
            self._lost.append(
                tr(
                    "“{what}” does not show: another thing has its identity, {identity}.",
                    what=what,
                    identity=identity,
                )
            )
            return False
        return True

    def _settle(self, item: SeenItem, row: AssembledRow) -> None:
        """Know where an item stands."""
        self._where[item.id] = row
        self._homes[item.id] = row.items
        if isinstance(item, SeenSubmenu) and item.id not in self._rows:
            self._rows[item.id] = row.opened_by(item)

    def _insert(self, layout: Layout, into: str, after: str | None, items: Sequence[Item]) -> None:
        row = self._rows.get(layout.full(into))
        if row is None:
            names = ", ".join(name_of(item) for item in items)
            self._lost.append(tr("{names} has no place: the surface {into} is gone.", names=names, into=into))
            return
        anchor = after and layout.full(after)
        for item in items:
            seen = see(item, f"{layout.layer}:{item.id}", layout.layer, row.kind, self._targets)
            if not self._takes(row, seen):
                continue
            if not row.items.put(seen.id, seen, anchor):
                self._lose(label_of(seen), anchor, tr("the end of {title}", title=row.title))
            self._settle(seen, row)

    def _move(self, layout: Layout, identity: str, into: str, after: str | None) -> None:
        if identity in self._tabs or (identity in self._rows and identity not in self._where):
            self._move_surface(layout, identity, into, after)
            return
        here, there = self._where.get(identity), self._rows.get(into)
        if here is None or there is None:
            self._lost.append(
                tr("{identity} cannot move to {into}: one of them is gone.", identity=identity, into=into)
            )
            return
        standing = here.items.get(identity)
        if standing is None or not self._fits(standing, there):
            return
        item = here.items.move_out(identity)
        assert item is not None
        anchor = after and layout.full(after)
        moved = replace(item, changed_by=(*item.changed_by, layout.layer))
        if not there.items.put(identity, moved, anchor):
            self._lose(label_of(item), anchor, tr("the end of {title}", title=there.title))
        self._settle(moved, there)

    def _move_surface(self, layout: Layout, identity: str, into: str, after: str | None) -> None:
        """Give a tab, toolbar or group another place; a group may go into another tab."""
        home, row = self._homes[identity], self._rows.get(identity)
        there, anchor = home, after and layout.full(after)
        title = row.title if row is not None else self._tabs[identity].title
        if row is not None and row.kind is Group:
            if into not in self._tabs:
                self._lost.append(
                    tr("The group “{title}” cannot move: the tab {into} is gone.", title=title, into=into)
                )
                return
            there, row.tab = self._tabs[into].groups, into
        thing = home.move_out(identity)
        if thing is None:
            return
        self._homes[identity] = there
        if not there.put(identity, thing, anchor):
            self._lose(title, anchor, tr("the end"))

    def _change(self, identity: str, change: Change, layer: str) -> None:
        if identity in self._where:
            row = self._where[identity]
            if change.set.get("shown"):
                row.items.show(identity)
                self._hidden.pop(identity, None)
            item = row.items.get(identity)
            if item is not None:
                fields = {name: value for name, value in change.set.items() if name != "shown"}
                if fields:
                    row.items.change(identity, self._changed(item, fields, layer, row))
        elif (surface := self._rows.get(identity) or self._tabs.get(identity)) is not None:
            self._change_surface(surface, change.set, layer)
        else:
            self._lost.append(tr("A change of {identity} has nothing to change any more.", identity=identity))

    def _change_surface(
        self, surface: AssembledRow | AssembledTab, fields: dict[str, Any], layer: str
    ) -> None:
        try:
            surface.change(fields)
        except RimecrestError as error:
            self._does_not_fit(surface.id, error)
        if isinstance(surface, AssembledRow) and surface.kind is Panel:
            return
        shown = fields.get("shown")
        if shown is True:
            self._homes[surface.id].show(surface.id)
            self._hidden.pop(surface.id, None)
        elif shown is False:
            self._hide(surface.id, layer)

    def _does_not_fit(self, identity: str, error: RimecrestError) -> None:
        self._lost.append(
            tr("A change of {id} does not fit: {sentence}", id=identity, sentence=error.sentence)
        )

    def _changed(self, item: SeenItem, fields: dict[str, Any], layer: str, row: AssembledRow) -> SeenItem:
        if fields.get("run"):
            fields = {**dict.fromkeys(_SET_BY_TARGET), **fields}
        try:
            stored = with_fields(item.stored, fields)
        except RimecrestError as error:
            self._does_not_fit(item.id, error)
            return item
        fresh = see(stored, item.id, item.layer, row.kind, self._targets)
        if isinstance(fresh, SeenSubmenu):
            self._rows[item.id].title = fresh.title
        return replace(fresh, changed_by=(*item.changed_by, layer))

    # What is hidden, and keys

    def _hide(self, identity: str, layer: str) -> None:
        home = self._homes.get(identity)
        if home is not None:
            home.hide(identity)
            self._hidden[identity] = layer

    def _lose(self, what: str, anchor: str | None, end: str) -> None:
        self._lost.append(
            tr(
                "“{what}” stood after {anchor}, which is gone; it is at {end} now.",
                what=what,
                anchor=anchor,
                end=end,
            )
        )

    def result(self, app: str) -> Outcome:
        """What all layers together amount to."""
        return Outcome(
            app,
            tuple(self._rows[name].as_toolbar() for name in self._toolbar_order),
            tuple(self._tab(self._tabs[name]) for name in self._tab_order),
            tuple(self._menu(self._rows[name]) for name in self._menu_order),
            tuple(self._rows[name].as_panel() for name in self._panel_order),
            hidden=dict(self._hidden),
            lost=tuple(self._lost),
            out_of_sight=tuple(
                filter(None, (self._out_of_sight(name, by) for name, by in self._hidden.items()))
            ),
        )

    def _out_of_sight(self, identity: str, by: str) -> Hidden | None:
        """What is said of a thing that does not show; None when it is gone, or something it stands in is."""
        row, tab = self._rows.get(identity), self._tabs.get(identity)
        if tab is not None:
            return Hidden(identity, by, tr("tab"), tab.title)
        if row is not None:
            where = self._tabs[row.tab].title if row.kind is Group else ""
            return Hidden(identity, by, _WORDS[row.kind], row.title, where)
        home = self._where.get(identity)
        item = home.items.hidden(identity) if home is not None else None
        if home is None or item is None:
            return None
        return Hidden(identity, by, tr("item"), label_of(item) or tr("a line"), home.title)

    def _menu(self, row: AssembledRow) -> SeenMenu:
        made = row.as_menu()
        return replace(made, items=tuple(map(self._with_menu, made.items)))

    def _with_menu(self, item: SeenItem) -> SeenItem:
        """A submenu with what layers have put into it."""
        return replace(item, menu=self._menu(self._rows[item.id])) if isinstance(item, SeenSubmenu) else item

    def _tab(self, tab: AssembledTab) -> SeenTab:
        return tab.seen(tuple(self._rows[name].as_group() for name in tab.groups))


_WORDS: dict[type[Row], str] = {
    Group: tr("group"),
    Toolbar: tr("toolbar"),
    Panel: tr("panel"),
    Menu: tr("menu"),
}


def _full(prefix: str, identity: str) -> str:
    return identity if ":" in identity else f"{prefix}:{identity}"
