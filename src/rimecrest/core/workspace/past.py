"""A workspace as it was, and bringing back of it a layout, one surface, one thing."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from rimecrest.core.catalogue.surfaces import Row
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import SURFACES, Layout
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, Restore, Restored
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.parts import MACROS, PARTS, Part
from rimecrest.core.workspace.workspace import Workspace

Files = Mapping[str, bytes | None]
"""Path within the workspace → what it held; None: it was not there."""


def _part_of(path: str) -> Part | None:
    return next((part for part in PARTS if part.holds(path)), None)


def restoring(files: Files, label: str) -> Restore:
    """The edit that makes files as they were.

    Raises:
        RimecrestError: one of them cannot be read any more.
    """
    values = []
    for path, content in files.items():
        part = _part_of(path)
        if part is not None:
            key = part.key(path)
            value = part.read(content, path, key) if content is not None else None
            values.append(Restored(part.name, key, value))
    return Restore(label, tuple(values))


def content_at(workspace: Workspace, path: str) -> bytes | None:
    """What a file of a workspace holds; None: it is not there."""
    part = _part_of(path)
    if part is None:
        return None
    value = part.values(workspace).get(part.key(path))
    return part.write(value) if value is not None else None


def is_of_the_folder(path: str) -> bool:
    """Whether a file lies in the workspace's folder: the specialist's own macros do not."""
    return not path.startswith(MACROS.place.replace("*", MINE, 1).partition("*")[0])


class BringBack(Edit, frozen=True):
    """Make a layout, or one thing of it, as it was.

    `then` is the layout as it was. `thing` is a bar, tab, group, panel or item; empty: all of the layout.
    """

    then: Layout
    thing: str = ""
    title: str = ""

    @property
    def label(self) -> str:
        if not self.thing:
            return tr("the layout as it was")
        return tr("“{title}” as it was", title=self.title or self.thing)

    def on(self, workspace: Workspace) -> Workspace:
        if not self.thing:
            return workspace.with_layout(self.then)
        now = workspace.layout(self.then.layer, self.then.app)
        surfaces = {
            layout.full(one.id) for layout in (now, self.then) for one in (*layout.tabs, *layout.rows())
        }
        as_it_was = surface_as_it_was if self.thing in surfaces else item_as_it_was
        return workspace.with_layout(as_it_was(now, self.then, self.thing))


def surface_as_it_was(now: Layout, then: Layout, thing: str) -> Layout:
    """The layout with one of its surfaces, and what the layer did in it, as they were then."""
    local = now.local(thing)
    inside = _inside(now, thing) | _inside(then, thing)
    parts: dict[str, Any] = {}
    for name in SURFACES:
        parts[name] = _swapped(getattr(now, name), getattr(then, name), lambda one: one.id == local)
    parts["groups"] = _swapped(now.groups, then.groups, lambda one: one.id == local or one.into == thing)
    # A group of one's own tab stands in that tab.
    tabs = {tab.id: tab for tab in then.tabs}

    def with_its_group(tab: Any) -> Any:
        if tab.id not in tabs or tab.id == local:
            return tab
        groups = _swapped(tab.groups, tabs[tab.id].groups, lambda one: one.id == local)
        return tab.model_copy(update={"groups": groups})

    parts["tabs"] = tuple(map(with_its_group, parts["tabs"]))
    return now.model_copy(update={**parts, **_changes(now, then, inside)})


def _changes(now: Layout, then: Layout, inside: set[str]) -> dict[str, Any]:
    """What a layer did to things beneath it, of these things as it was then, of others as it is now."""

    def moved(one: Any) -> bool:
        return now.full(one.of) in inside or one.into in inside

    return {
        "insert": _swapped(now.insert, then.insert, lambda one: one.into in inside),
        "change": _swapped(now.change, then.change, lambda one: now.full(one.of) in inside),
        "move": _swapped(now.move, then.move, moved),
        "hide": _swapped(now.hide, then.hide, lambda one: now.full(one) in inside),
    }


def item_as_it_was(now: Layout, then: Layout, thing: str) -> Layout:
    """The layout with one item as it was then, where it was; without it, if it was not there.

    Raises:
        RimecrestError: what it stood on is gone.
    """
    local = now.local(thing)
    made = now.model_copy(update=_changes(now, then, {thing}) | {"insert": now.insert})
    made = made.with_rows(lambda row: row.model_copy(update={"items": _without(row.items, local)}))
    inserted = (one.model_copy(update={"items": _without(one.items, local)}) for one in made.insert)
    made = made.model_copy(update={"insert": tuple(one for one in inserted if one.items)})
    row = next((row for row in then.rows() if any(item.id == local for item in row.items)), None)
    if row is not None:
        return _back_in(made, row, local)
    for one in then.insert:
        at = next((index for index, item in enumerate(one.items) if item.id == local), None)
        if at is not None:
            alone = one.model_copy(update={"items": (one.items[at],)})
            return made.model_copy(update={"insert": (*made.insert, alone)})
    return made


def _back_in(layout: Layout, then: Row, local: str | None) -> Layout:
    """The layout with an item in that row again, behind the last of those that stood before it."""
    if all(other.id != then.id for other in layout.rows()):
        raise RimecrestError(
            tr("“{title}”, where it stood, is gone.", title=then.title), tr("Bring that back first.")
        )
    at = next(index for index, item in enumerate(then.items) if item.id == local)
    item, before = then.items[at], {other.id for other in then.items[:at]}

    def with_it(row: Row) -> Row:
        if row.id != then.id:
            return row
        place = max((index + 1 for index, other in enumerate(row.items) if other.id in before), default=0)
        return row.model_copy(update={"items": (*row.items[:place], item, *row.items[place:])})

    return layout.with_rows(with_it)


def _without(items: tuple[Any, ...], local: str | None) -> tuple[Any, ...]:
    return tuple(item for item in items if item.id != local)


def _inside(layout: Layout, thing: str) -> set[str]:
    """The identities of a surface and of everything that a layout places in it."""
    found = {thing}
    for tab in layout.tabs:
        if layout.full(tab.id) == thing:
            found |= {layout.full(group.id) for group in tab.groups}
    for row in layout.rows():
        if layout.full(row.id) in found:
            found |= {layout.full(item.id) for item in row.items}
    return found


def _swapped(now: tuple[Any, ...], then: tuple[Any, ...], mine: Callable[[Any], bool]) -> tuple[Any, ...]:
    """What is of the surface as it was then, at the place where it begins now; the rest as it is now."""
    at = next((index for index, one in enumerate(now) if mine(one)), len(now))
    before = [one for one in now[:at] if not mine(one)]
    behind = [one for one in now[at:] if not mine(one)]
    return (*before, *(one for one in then if mine(one)), *behind)
