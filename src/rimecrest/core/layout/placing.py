"""Putting, taking and moving things in one layer's layout.

What the layer itself placed is changed where it stands. What comes from beneath is overridden by an
insertion, a move, a change or a hiding, always anchored to a neighbour. Identities are full ones
(`department.freight:tides`, `app:item-print`); every function returns a new layout.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any

from rimecrest.core.catalogue.items import Item, Submenu, Thing, still_theirs, with_fields
from rimecrest.core.catalogue.surfaces import Group, Panel, Row, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import normalise
from rimecrest.core.layout.layout import Change, Insertion, KeyBinding, Layout, Move, PlacedInTab
from rimecrest.core.model import validated
from rimecrest.core.words import tr

ChangeItems = Callable[[tuple[Item, ...]], tuple[Item, ...]]


def own_items(layout: Layout, surface: str) -> tuple[Item, ...] | None:
    """The items of a row that this layer itself placed, or None when it is another's."""
    local = layout.local(surface)
    return next((row.items for row in layout.rows() if row.id == local), None) if local else None


def put_items(layout: Layout, surface: str, after: str | None, items: Sequence[Item]) -> Layout:
    """Put items on a surface after one of its things (None = first)."""
    own = own_items(layout, surface)
    local_after = layout.local(after) if after else None
    if own is not None and (after is None or local_after in {item.id for item in own}):
        return _in_row(layout, layout.local(surface), lambda row: _after(row, local_after, items))
    # After something that an insertion of ours placed on that very surface: into the same insertion.
    for index, insertion in enumerate(layout.insert):
        if layout.full(insertion.into) == surface:
            if local_after and any(item.id == local_after for item in insertion.items):
                return _with_insertion(layout, index, _after(insertion.items, local_after, items))
            if _anchor(layout, insertion.after) == after:
                return _with_insertion(layout, index, (*items, *insertion.items))
    added = Insertion(into=surface, after=after, items=tuple(items))
    return layout.model_copy(update={"insert": (*layout.insert, added)})


def _anchor(layout: Layout, after: str | None) -> str | None:
    return layout.full(after) if after else None


def _after(row: tuple[Item, ...], after: str | None, items: Iterable[Item]) -> tuple[Item, ...]:
    at = 0 if after is None else next(i for i, item in enumerate(row) if item.id == after) + 1
    return (*row[:at], *items, *row[at:])


def _with_insertion(layout: Layout, index: int, items: tuple[Item, ...]) -> Layout:
    rows = list(layout.insert)
    rows[index : index + 1] = [rows[index].updated(items=items)] if items else []
    return layout.model_copy(update={"insert": tuple(rows)})


def _in_row(layout: Layout, local: str | None, change: ChangeItems) -> Layout:
    """Change the items of one row that this layer placed."""

    def changed(row: Row) -> Row:
        return row.updated(items=change(row.items)) if row.id == local else row

    return layout.with_rows(changed)


def _everywhere(layout: Layout, change: ChangeItems) -> Layout:
    """Change the items of every row and insertion of this layer; an insertion without any goes."""
    layout = layout.with_rows(lambda row: row.updated(items=change(row.items)))
    inserted = [row.updated(items=change(row.items)) for row in layout.insert]
    return layout.updated(insert=tuple(row for row in inserted if row.items))


def find_item(layout: Layout, identity: str) -> Item | None:
    """The item as this layer placed it."""
    local = layout.local(identity)
    return next((item for item in layout.all_items() if item.id == local), None)


def take_off(layout: Layout, identity: str, moved: bool = False) -> Layout:
    """Take a thing off: what the layer placed goes, what comes from beneath is hidden.

    Args:
        moved: it is put in again elsewhere, with what stands in it.
    """
    local = layout.local(identity)
    if local is None or not _owns(layout, local):
        if identity in layout.hide:
            return layout
        kept = tuple(change for change in layout.change if layout.full(change.of) != identity)
        return layout.model_copy(update={"hide": (*layout.hide, identity), "change": kept})
    layout = _reanchored(layout, identity, local)
    if not moved:
        # What this layer put into a submenu goes with it, and into those in it.
        within = _within(layout, local)
        inner = tuple(row for row in layout.insert if layout.local(row.into) not in within)
        layout = layout.model_copy(update={"insert": inner})
    layout = _everywhere(layout, lambda row: tuple(item for item in row if item.id != local))
    tabs = tuple(
        tab.model_copy(update={"groups": tuple(g for g in tab.groups if g.id != local)})
        for tab in layout.tabs
        if tab.id != local
    )
    return layout.model_copy(
        update={
            "tabs": tabs,
            "toolbars": tuple(bar for bar in layout.toolbars if bar.id != local),
            "panels": tuple(panel for panel in layout.panels if panel.id != local),
            "groups": tuple(
                g for g in layout.groups if g.id != local and layout.local(g.into) not in (local,)
            ),
        }
    )


def _within(layout: Layout, local: str) -> set[str]:
    """A thing, and the submenus that this layer has in it, in any depth."""
    found, more = set[str](), {local}
    while more:
        found |= more
        put = [item for row in layout.insert if layout.local(row.into) in more for item in row.items]
        more = {str(item.id) for item in put if isinstance(item, Submenu)} - found
    return found


def _owns(layout: Layout, local: str) -> bool:
    return any(thing.id == local for thing in layout.things())


def _reanchored(layout: Layout, identity: str, local: str) -> Layout:
    """What this layer hung on a thing that goes is hung on the thing before it."""
    placed: list[tuple[tuple[Item, ...], str | None]] = [(row.items, None) for row in layout.rows()]
    placed += [(insertion.items, insertion.after) for insertion in layout.insert]
    for items, first in placed:
        at = next((index for index, item in enumerate(items) if item.id == local), None)
        if at is not None:
            before = layout.full(items[at - 1].id) if at else first
            break
    else:
        found = _surface_before(layout, local)
        if found is None:
            return layout
        before = found[0]

    def hung(thing: Any) -> Any:
        if thing.after and layout.full(thing.after) == identity:
            return thing.model_copy(update={"after": before})
        return thing

    return layout.model_copy(
        update={
            "insert": tuple(map(hung, layout.insert)),
            "move": tuple(map(hung, layout.move)),
            "groups": tuple(map(hung, layout.groups)),
            "tabs": tuple(map(hung, layout.tabs)),
            "toolbars": tuple(map(hung, layout.toolbars)),
            "panels": tuple(map(hung, layout.panels)),
        }
    )


def _surface_before(layout: Layout, local: str) -> tuple[str | None] | None:
    """What an own tab, toolbar or group stands behind; None when there is none of that id."""
    for tab in layout.tabs:
        names: list[str] = [group.id for group in tab.groups]
        if local in names:
            at = names.index(local)
            return (layout.full(names[at - 1]) if at else None,)
    surface: Any = next(
        (
            thing
            for thing in (*layout.tabs, *layout.toolbars, *layout.panels, *layout.groups)
            if thing.id == local
        ),
        None,
    )
    return None if surface is None else (surface.after and layout.full(surface.after),)


def show_again(layout: Layout, identity: str) -> Layout:
    """As the layer beneath has it: no longer hidden, changed or moved by this layer."""
    return layout.model_copy(
        update={
            "hide": tuple(name for name in layout.hide if layout.full(name) != identity),
            "change": tuple(change for change in layout.change if layout.full(change.of) != identity),
            "move": tuple(move for move in layout.move if layout.full(move.of) != identity),
        }
    )


def show(layout: Layout, identity: str) -> Layout:
    """Have a thing seen again: what this layer hides no longer, what a layer beneath hides by a change."""
    if any(layout.full(name) == identity for name in layout.hide):
        kept = tuple(name for name in layout.hide if layout.full(name) != identity)
        return layout.model_copy(update={"hide": kept})
    return set_fields(layout, identity, {"shown": True})


def move_item(layout: Layout, identity: str, surface: str, after: str | None) -> Layout:
    """Move an item to stand after another on a surface (None = first)."""
    if after == identity:
        return layout
    item = find_item(layout, identity)
    if item is not None:
        return put_items(take_off(layout, identity, moved=True), surface, after, [item])
    others = tuple(move for move in layout.move if layout.full(move.of) != identity)
    moved = Move(of=identity, into=surface, after=after)
    return layout.model_copy(update={"move": (*others, moved)})


def move_surface(layout: Layout, identity: str, into: str, after: str | None, last: bool = False) -> Layout:
    """Move a tab, toolbar or group to stand after another (None = first).

    Args:
        into: the tab that a group goes into; empty for tabs and toolbars.
        last: as a move even where this layer placed it, so that it comes after the other moves.
    """
    if after == identity:
        return layout
    local = layout.local(identity)
    others = tuple(move for move in layout.move if layout.full(move.of) != identity)
    if last or local is None or not _owns(layout, local):
        return layout.model_copy(update={"move": (*others, Move(of=identity, into=into, after=after))})
    layout = layout.model_copy(update={"move": others})
    own_group = next((group for group in _own_groups(layout) if group.id == local), None)
    if own_group is not None:
        data = {name: value for name, value in own_group.to_data().items() if name not in ("into", "after")}
        return put_group(take_off(layout, identity), into, after, validated(Group, data, f"“{local}”"))
    return layout.model_copy(
        update={
            "tabs": _moved(layout, layout.tabs, local, after),
            "toolbars": _moved(layout, layout.toolbars, local, after),
            "panels": _moved(layout, layout.panels, local, after),
        }
    )


def _own_groups(layout: Layout) -> list[Group]:
    return [*(group for tab in layout.tabs for group in tab.groups), *layout.groups]


def _moved(layout: Layout, surfaces: tuple[Any, ...], local: str, after: str | None) -> tuple[Any, ...]:
    """Own tabs or toolbars with one of them right behind another thing.

    What hung on the moved one stays where it is, and what stood behind its new neighbour hangs on it.
    """
    moved = next((surface for surface in surfaces if surface.id == local), None)
    if moved is None:
        return surfaces
    identity, before = layout.full(local), moved.after and layout.full(moved.after)

    def rehung(surface: Any) -> Any:
        anchor = surface.after and layout.full(surface.after)
        if anchor == identity:
            anchor = before
        if anchor == after:
            anchor = identity
        return surface.model_copy(update={"after": anchor})

    rest = [rehung(surface) for surface in surfaces if surface is not moved]
    return _anchors_first(layout, [moved.model_copy(update={"after": after}), *rest])


def _anchors_first(layout: Layout, surfaces: list[Any]) -> tuple[Any, ...]:
    """The surfaces in their order, but none before the one that it follows: what is laid finds its anchor."""
    own = {layout.full(surface.id) for surface in surfaces}
    placed: list[Any] = []
    known: set[str] = set()
    waiting = surfaces
    while waiting:
        ready = [
            surface
            for surface in waiting
            if surface.after is None
            or layout.full(surface.after) not in own
            or layout.full(surface.after) in known
        ]
        # A ring, which only a hand can have written: it is laid as it stands, and said to be lost.
        first = (ready or waiting)[0]
        placed.append(first)
        known.add(layout.full(first.id))
        waiting = [surface for surface in waiting if surface is not first]
    return tuple(placed)


def without_emptied(before: Layout, after: Layout) -> Layout:
    """The layout after an edit without those of its own groups that the edit took the last item from."""
    filled = {group.id for group in _own_groups(before) if group.items}
    emptied = [group.id for group in _own_groups(after) if group.id in filled and not group.items]
    for local in emptied:
        after = take_off(after, after.full(local))
    return after


def set_fields(layout: Layout, identity: str, fields: dict[str, Any]) -> Layout:
    """Give a thing other values: in place where this layer placed it, else as a change of it."""
    local = layout.local(identity)
    if local is not None and _owns(layout, local):
        return _set_own(layout, local, fields)
    for index, change in enumerate(layout.change):
        if layout.full(change.of) == identity:
            merged = change.model_copy(update={"set": {**change.set, **fields}})
            rows = (*layout.change[:index], merged, *layout.change[index + 1 :])
            return layout.model_copy(update={"change": rows})
    return layout.model_copy(update={"change": (*layout.change, Change(of=identity, set=fields))})


def _set_own(layout: Layout, local: str, fields: dict[str, Any]) -> Layout:
    def item(old: Item) -> Item:
        return with_fields(old, fields) if old.id == local else old

    def surface(old: Any) -> Any:
        return _surface_with(old, fields) if old.id == local else old

    layout = _everywhere(layout, lambda row: tuple(map(item, row))).with_rows(surface)
    return layout.updated(tabs=tuple(map(surface, layout.tabs)))


def _surface_with(old: Thing, fields: dict[str, Any]) -> Thing:
    data = {**old.model_dump(by_alias=True), **fields}
    if "on" in fields and isinstance(old, Panel):
        data["on"] = still_theirs(old.on, fields["on"])
    return validated(type(old), data, f"“{old.id}”")


def put_group(layout: Layout, tab: str, after: str | None, group: Group) -> Layout:
    """Put a group into a tab after one of its groups (None = first)."""
    local = layout.local(tab)
    for index, own in enumerate(layout.tabs):
        if own.id == local:
            names = [layout.full(old.id) for old in own.groups]
            if after is not None and after not in names:
                break
            at = names.index(after) + 1 if after else 0
            groups = (*own.groups[:at], group, *own.groups[at:])
            changed = own.model_copy(update={"groups": groups})
            return layout.model_copy(
                update={"tabs": (*layout.tabs[:index], changed, *layout.tabs[index + 1 :])}
            )
    placed = PlacedInTab(**group.model_dump(), into=tab, after=after)
    return layout.model_copy(update={"groups": (*layout.groups, placed)})


def put_tab(layout: Layout, tab: Tab) -> Layout:
    """Put a tab right behind the one that its `after` names (None = first)."""
    layout = layout.model_copy(update={"tabs": (*layout.tabs, tab)})
    return move_surface(layout, layout.full(tab.id), "", tab.after and layout.full(tab.after))


def put_toolbar(layout: Layout, toolbar: Toolbar) -> Layout:
    """Put a toolbar right behind the one that its `after` names (None = first)."""
    layout = layout.model_copy(update={"toolbars": (*layout.toolbars, toolbar)})
    return move_surface(layout, layout.full(toolbar.id), "", toolbar.after and layout.full(toolbar.after))


def put_panel(layout: Layout, panel: Panel) -> Layout:
    """Put a panel right behind the one that its `after` names (None = first)."""
    layout = layout.model_copy(update={"panels": (*layout.panels, panel)})
    return move_surface(layout, layout.full(panel.id), "", panel.after and layout.full(panel.after))


def bind(layout: Layout, key: KeyBinding) -> Layout:
    """Bind a key; a binding of this layer with the same identity is replaced."""
    others = tuple(old for old in layout.keys if old.identity != key.identity)
    return layout.model_copy(update={"keys": (*others, key)})


def unbind(layout: Layout, identity: str) -> Layout:
    """Take a binding of this layer away.

    Raises:
        RimecrestError: the binding is not this layer's.
    """
    local = identity.removeprefix(f"{layout.layer}:")
    kept = tuple(old for old in layout.keys if old.identity != local)
    if len(kept) == len(layout.keys):
        raise RimecrestError(tr("{layer} has no binding {identity}.", layer=layout.layer, identity=identity))
    return layout.model_copy(update={"keys": kept})


def rebind(layout: Layout, moves: Mapping[str, str]) -> Layout:
    """Put bindings of this layer elsewhere, all at once.

    Args:
        moves: identity → new sequence.

    Raises:
        RimecrestError: a binding is not this layer's.
    """
    known = {key.identity for key in layout.keys}
    for identity in moves:
        if identity not in known:
            raise RimecrestError(
                tr("{layer} has no binding {identity}.", layer=layout.layer, identity=identity)
            )
    keys = tuple(
        key.model_copy(update={"keys": normalise(moves[key.identity])}) if key.identity in moves else key
        for key in layout.keys
    )
    return layout.model_copy(update={"keys": keys})
