"""From gestures on the stage to edits of the aimed layer. No widgets in here."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from rimecrest.core.catalogue.items import Button, Item, Separator
from rimecrest.core.catalogue.surfaces import Edge, Group, Panel, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import ThingId
from rimecrest.core.layout.seen import Outcome, SeenGroup, SeenItem, SeenPanel, SeenRow, SeenTab, SeenToolbar
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import (
    Edit,
    MoveItems,
    PutGroup,
    PutItems,
    PutPanel,
    PutTab,
    PutToolbar,
    SetFields,
    Together,
)
from rimecrest.core.workspace.fresh import fresh_thing
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.insertion_points import InsertionPoint

Args = tuple[tuple[str, str], ...]
"""The settings of a command, as name and value."""


def item_for(session: Session, run: str, args: Args = (), label: str = "") -> Item:
    """A new item of the aimed layer that runs a target with settings; without a label it has its words."""
    workspace, aim = session.workspace, session.aim
    name = label or workspace.targets(aim.stack(workspace), aim.app).face(run).name
    made = Button(id=fresh_thing(workspace, aim.layer, aim.app, name), run=run, args=dict(args))
    if not label:
        return made
    # The tip says what it opens: its picture alone does not.
    return made.model_copy(update={"label": label, "tip": ", ".join(value for _, value in args)})


def separator(session: Session) -> Item:
    aim = session.aim
    return Separator(id=fresh_thing(session.workspace, aim.layer, aim.app, "rule"), separator=True)


def new_group(session: Session, items: Sequence[Item]) -> Group:
    """A group of the aimed layer that waits for its name."""
    aim = session.aim
    identity = fresh_thing(session.workspace, aim.layer, aim.app, "group", [item.id for item in items])
    return Group(id=identity, title="New group", items=tuple(items))


def put(session: Session, slot: InsertionPoint, items: Sequence[Item]) -> Edit:
    """Put items exactly at a slot; at a boundary between groups, in a new group there."""
    aim = session.aim
    if slot.new_group:
        return PutGroup(aim.layer, aim.app, slot.surface, slot.after, new_group(session, items))
    placed = tuple(item.model_copy(update={"beside": slot.beside, "at": None}) for item in items)
    edit = PutItems(aim.layer, aim.app, slot.surface, slot.after, placed)
    return _exactly(session, edit, slot, [f"{aim.layer}:{item.id}" for item in items])


def _exactly(session: Session, edit: Edit, slot: InsertionPoint, placed: list[str]) -> Edit:
    """What a lower layer hung on the same neighbour would stand before: move it behind the new items."""
    aim = session.aim
    try:
        order = _order(session.outcome(edit.on(session.workspace)), slot.surface)
    except RimecrestError:
        return edit  # applying it will say why
    if not placed or placed[0] not in order:
        return edit
    start = order.index(slot.after) + 1 if slot.after in order else 0
    between = [name for name in order[start : order.index(placed[0])] if name not in placed]
    if not between:
        return edit
    move = MoveItems(aim.layer, aim.app, tuple(between), slot.surface, placed[-1])
    return Together(edit.label, (edit, move))


def _order(outcome: Outcome, surface: str) -> list[str]:
    row = outcome.row(surface)
    return [item.id for item in row.items] if row is not None else []


def move(session: Session, things: Sequence[str], slot: InsertionPoint) -> Edit | None:
    """Move items to a slot; None when they are there already."""
    aim = session.aim
    after = slot.after
    order = _order(session.outcome(), slot.surface)
    # An item cannot follow itself: it follows what stood before the ones that move.
    while after is not None and after in things:
        index = order.index(after)
        after = order[index - 1] if index else None
    if slot.new_group:
        # The things themselves go there, not copies: they keep all they have, and their identities.
        group = new_group(session, ())
        there = f"{aim.layer}:{group.id}"
        into = MoveItems(aim.layer, aim.app, tuple(things), there, None)
        return Together(
            tr("move to a new group"),
            (PutGroup(aim.layer, aim.app, slot.surface, slot.after, group), into),
        )
    start = order.index(after) + 1 if after in order else 0
    rows = (*_in_row(session, things, slot), *keep_rows(session, things))
    if order[start : start + len(things)] == list(things):
        return Together(tr("move"), rows) if rows else None
    edit = MoveItems(aim.layer, aim.app, tuple(things), slot.surface, after)
    moved = _exactly(session, edit, InsertionPoint(slot.surface, after, slot.caret), list(things))
    return Together(moved.label, (moved, *rows)) if rows else moved


def _in_row(session: Session, things: Sequence[str], slot: InsertionPoint) -> list[Edit]:
    """What makes things that move stand beside what is in a panel's row, or in rows of their own."""
    aim, seen = session.aim, session.outcome()
    found: list[Edit] = []
    for name in things:
        item = seen.item(name)
        if item is not None and (item.beside != slot.beside or item.at is not None):
            fields = {"beside": slot.beside, "at": None}
            found.append(SetFields(aim.layer, aim.app, name, fields))
    return found


def keep_rows(session: Session, things: Sequence[str]) -> list[Edit]:
    """What keeps a panel's rows together when things leave them: the next in the row begins it then."""
    aim, seen = session.aim, session.outcome()
    found: list[Edit] = []
    for panel in seen.panels:
        headless = False  # whether the row has lost what it began with, and nothing begins it yet
        for item in panel.items:
            if item.id in things:
                headless = headless or not item.beside
            elif item.beside and headless:
                found.append(SetFields(aim.layer, aim.app, item.id, {"beside": False}))
                headless = False
            else:
                headless = False
    return found


def bar_of(
    session: Session, things: Sequence[str], edge: Edge, at: tuple[int, int] | None
) -> tuple[Edit, str]:
    """Items moved to a new bar. Returns the edit, and the bar's identity."""
    aim = session.aim
    bars = session.outcome().toolbars
    bar = Toolbar.model_validate(
        {
            "id": fresh_thing(session.workspace, aim.layer, aim.app, "bar"),
            "title": tr("New bar"),
            "edge": edge,
            "after": bars[-1].id if bars else None,
            "at": at,
        }
    )
    identity = f"{aim.layer}:{bar.id}"
    into = MoveItems(aim.layer, aim.app, tuple(things), identity, None)
    return Together(tr("move to a new bar"), (PutToolbar(aim.layer, aim.app, bar), into)), identity


def shift(session: Session, thing: str, by: int) -> Edit | None:
    """Shift an item one place along its surface; None at its end."""
    seen = session.outcome()
    row = seen.row_of(thing)
    if row is None:
        return None
    order = _order(seen, row.id)
    target = order.index(thing) + by
    if not 0 <= target < len(order):
        return None
    rest = [name for name in order if name != thing]
    after = rest[target - 1] if target else None
    return MoveItems(session.aim.layer, session.aim.app, (thing,), row.id, after, "shift")


def surface_as_stored(seen: SeenTab | SeenRow) -> Group | Tab | Toolbar | Panel | None:
    """A surface as it would be stored in another place, with all that is in it; None for a menu."""
    data: dict[str, Any] = {"id": seen.id.rpartition(":")[2], "title": seen.title}
    if seen.picture:
        data["picture"] = seen.picture
    if isinstance(seen, SeenTab):
        groups = [surface_as_stored(group) for group in seen.groups]
        return Tab.model_validate({**data, "groups": [group.to_data() for group in groups if group]})
    data["items"] = [as_stored(item).to_data() for item in seen.items]
    match seen:
        case SeenToolbar():
            return Toolbar.model_validate({**data, "edge": seen.edge, "at": seen.at})
        case SeenPanel():
            look = {"edge": seen.edge, "width": seen.width, "background": seen.background}
            return Panel.model_validate({**data, **look, "shown": seen.shown})
        case SeenGroup():
            return Group.model_validate(data)
    return None


def put_surface(
    session: Session, surface: Group | Tab | Toolbar | Panel, beside: str | None
) -> tuple[Edit, str] | None:
    """A copy of a surface: a tab or group behind `beside`, a bar or panel behind all others.

    Returns the edit and the copy's identity; None for a group where no tab is.
    """
    aim, workspace, seen = session.aim, session.workspace, session.outcome()
    taken: list[str] = []

    def fresh(name: str) -> ThingId:
        made = fresh_thing(workspace, aim.layer, aim.app, name, taken)
        taken.append(made)
        return made

    def copied(items: Sequence[Item]) -> tuple[Item, ...]:
        return tuple(item.model_copy(update={"id": fresh(item.id), "was": ()}) for item in items)

    identity = fresh(surface.id)
    where = (aim.layer, aim.app)
    full = f"{aim.layer}:{identity}"
    match surface:
        case Tab():
            groups = tuple(
                group.model_copy(update={"id": fresh(group.id), "was": (), "items": copied(group.items)})
                for group in surface.groups
            )
            tab = surface.model_copy(update={"id": identity, "was": (), "after": beside, "groups": groups})
            return PutTab(*where, tab), full
        case Toolbar():
            last = seen.toolbars[-1].id if seen.toolbars else None
            change = {"id": identity, "was": (), "after": last, "items": copied(surface.items)}
            return PutToolbar(*where, surface.model_copy(update=change)), full
        case Panel():
            last = seen.panels[-1].id if seen.panels else None
            change = {"id": identity, "was": (), "after": last, "items": copied(surface.items)}
            return PutPanel(*where, surface.model_copy(update=change)), full
    row = seen.row(beside) if beside is not None else None
    into = row.tab if isinstance(row, SeenGroup) else beside
    if into is None or seen.tab(into) is None:
        return None
    group = surface.model_copy(update={"id": identity, "was": (), "items": copied(surface.items)})
    return PutGroup(*where, into, beside if isinstance(row, SeenGroup) else None, group), full


def as_stored(item: SeenItem) -> Item:
    """An item as it would be stored in another place: whatever it is goes along."""
    return item.stored.model_copy(update={"id": ThingId(item.id.rpartition(":")[2]), "was": ()})
