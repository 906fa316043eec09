"""New identities, and what becomes of those that were deleted.

An identity is given once in a workspace's life: what a macro or item was called by is retired when it is
deleted (`Settings.retired`), so that a button, key or colleague's own change that still names it never
quietly means something else. Macros are unique over all shelves, things on surfaces within their layer's
layout of one application. A copy gets a new identity, undo gives the old one back.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from rimecrest.core.catalogue.items import Item
from rimecrest.core.identities import MacroId, ThingId, fresh, slug
from rimecrest.core.layout.layout import SURFACES, Layout
from rimecrest.core.model import Record
from rimecrest.core.workspace.settings import Retired
from rimecrest.core.workspace.workspace import Workspace


def fresh_macro(workspace: Workspace, words: str, besides: Iterable[str] = ()) -> MacroId:
    """An identity for a new macro, made of its name.

    Args:
        besides: identities that are given away in the same edit.
    """
    taken = {name for _, name in workspace.macros} | {*workspace.settings.retired.macros, *besides}
    return MacroId(fresh(slug(words, "macro"), taken))


def fresh_thing(
    workspace: Workspace, layer: str, app: str, words: str, besides: Iterable[str] = ()
) -> ThingId:
    """An identity for something new that a layer places in an application, made of words."""
    return ThingId(fresh(slug(words, "item"), _taken(workspace, layer, app) | {*besides}))


def distinct(
    workspace: Workspace,
    layer: str,
    app: str,
    items: Iterable[Item],
    cut: bool = False,
    besides: Iterable[str] = (),
) -> list[Item]:
    """Copies of items, with identities that the layer has never given there.

    Args:
        cut: they were cut out of this very layout: what is put back for the first time is the same thing.
        besides: identities that are given away in the same edit.
    """
    taken = _taken(workspace, layer, app) | {*besides}
    here = _things(workspace.layout(layer, app))
    made: list[Item] = []
    for item in items:
        identity = ThingId(item.id if cut and item.id not in here else fresh(item.id, taken))
        taken.add(identity)
        here.add(identity)
        made.append(item.model_copy(update={"id": identity, "was": ()}))
    return made


def told_apart(workspace: Workspace, layer: str, app: str) -> Layout:
    """The layout with an identity of its own for each thing; the first that has one keeps it."""
    layout = workspace.layout(layer, app)
    taken = _taken(workspace, layer, app)
    seen: set[str] = set()
    others: dict[int, ThingId] = {}
    for thing in layout.things():
        if thing.id in seen:
            others[id(thing)] = ThingId(fresh(thing.id, taken))
            taken.add(others[id(thing)])
        seen.add(thing.id)

    def changed(value: Any) -> Any:
        if isinstance(value, tuple):
            return tuple(map(changed, value))
        if not isinstance(value, Record):
            return value
        fields = {name: getattr(value, name) for name in _HOLDING & type(value).model_fields.keys()}
        new: dict[str, Any] = {name: changed(held) for name, held in fields.items()}
        if id(value) in others:
            new["id"] = others[id(value)]
        return value.model_copy(update=new) if new else value

    made: Layout = changed(layout)
    return made


_HOLDING = {*SURFACES, "groups", "insert", "items"}
"""The fields of layouts, surfaces and insertions in which things stand."""


def _taken(workspace: Workspace, layer: str, app: str) -> set[str]:
    retired = workspace.settings.retired.things.get(f"{layer}/{app}", ())
    return _things(workspace.layout(layer, app)) | {*retired}


def _things(layout: Layout | None) -> set[str]:
    return {thing.id for thing in layout.things()} if layout is not None else set()


def with_retired(before: Workspace, after: Workspace) -> Workspace:
    """The workspace after an edit, with the identities of what the edit deleted retired.

    What was cut and is put in again is there once more, and no longer retired.
    """
    old = before.settings.retired
    macros, things = set(old.macros), {where: set(names) for where, names in old.things.items()}
    if before.macros is not after.macros:
        there = {name for _, name in after.macros}
        macros = (macros | {name for _, name in before.macros}) - there
    for key in {**before.layouts, **after.layouts} if before.layouts is not after.layouts else ():
        was, now = before.layouts.get(key), after.layouts.get(key)
        if was is not now:
            where, present = "/".join(key), _things(now)
            things[where] = (things.get(where, set()) | _things(was)) - present
    retired = Retired(
        macros=tuple(sorted(macros)),
        things={where: tuple(sorted(names)) for where, names in sorted(things.items()) if names},
    )
    if retired == old:
        return after
    return after.with_settings(after.settings.model_copy(update={"retired": retired}))
