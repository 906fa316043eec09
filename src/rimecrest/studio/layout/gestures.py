"""From gestures on the stage to edits of the aimed layer. No widgets in here."""

from __future__ import annotations

from collections.abc import Sequence

from rimecrest.core.catalogue.surfaces import Group, Item
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout import Outcome, SeenItem
from rimecrest.core.layout.placing import fresh_id
from rimecrest.core.workspace import Edit, MoveItems, PutGroup, PutItems, TakeOff, Together
from rimecrest.embed.surfaces import Slot
from rimecrest.studio.session import Session


def item_for(session: Session, run: str) -> Item:
    """A new item of the aimed layer that runs a target."""
    workspace, aim = session.workspace, session.aim
    name = workspace.targets(aim.stack(workspace), aim.app).face(run).name
    layout = workspace.layout(aim.layer, aim.app)
    return Item(id=fresh_id(layout, name), run=run)


def separator(session: Session) -> Item:
    aim = session.aim
    return Item(id=fresh_id(session.workspace.layout(aim.layer, aim.app), "rule"), separator=True)


def put(session: Session, slot: Slot, items: Sequence[Item]) -> Edit:
    """Put items exactly at a slot; at a boundary between groups, in a new group there."""
    aim = session.aim
    if slot.new_group:
        layout = session.workspace.layout(aim.layer, aim.app)
        group = Group(id=fresh_id(layout, "group"), title="New group", items=tuple(items))
        return PutGroup(aim.layer, aim.app, slot.surface, slot.after, group)
    edit = PutItems(aim.layer, aim.app, slot.surface, slot.after, tuple(items))
    return _exactly(session, edit, slot, [f"{aim.layer}:{item.id}" for item in items])


def _exactly(session: Session, edit: Edit, slot: Slot, placed: list[str]) -> Edit:
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
    return next(([item.id for item in items] for name, items in outcome.surfaces() if name == surface), [])


def move(session: Session, things: Sequence[str], slot: Slot) -> Edit | None:
    """Move items to a slot; None when they are there already."""
    aim = session.aim
    after = slot.after
    order = _order(session.outcome(), slot.surface)
    # An item cannot follow itself: it follows what stood before the ones that move.
    while after in things:
        index = order.index(after)
        after = order[index - 1] if index else None
    if slot.new_group:
        items = [as_stored(session, item) for name in things if (item := session.outcome().item(name))]
        return Together(
            "move to a new group", (TakeOff(aim.layer, aim.app, tuple(things)), put(session, slot, items))
        )
    start = order.index(after) + 1 if after in order else 0
    if order[start : start + len(things)] == list(things):
        return None
    edit = MoveItems(aim.layer, aim.app, tuple(things), slot.surface, after)
    return _exactly(session, edit, Slot(slot.surface, after, slot.caret), list(things))


def shift(session: Session, thing: str, by: int) -> Edit | None:
    """Shift an item one place along its surface; None at its end."""
    seen = session.outcome()
    surface = seen.surface_of(thing)
    if surface is None:
        return None
    order = _order(seen, surface)
    target = order.index(thing) + by
    if not 0 <= target < len(order):
        return None
    rest = [name for name in order if name != thing]
    after = rest[target - 1] if target else None
    return MoveItems(session.aim.layer, session.aim.app, (thing,), surface, after, "shift")


def as_stored(session: Session, item: SeenItem) -> Item:
    """An item as it would be stored in the aimed layer; `distinct` gives a copy an identity of its own."""
    name = item.id.rpartition(":")[2]
    if item.separator:
        return Item(id=name, separator=True)
    face = session.workspace.targets(session.aim.stack(session.workspace), session.aim.app).face(item.run)
    return Item(
        id=name,
        run=item.run,
        args=dict(item.args),
        label=item.label if item.label != face.name else None,
        tip=item.tip if item.tip != face.about else None,
        picture=item.picture if item.picture != face.picture else None,
        width=2 if item.width == 2 else 1,
        collapse=item.collapse,
    )


def distinct(session: Session, items: Sequence[Item]) -> list[Item]:
    """The same items with identities that the aimed layer does not have yet."""
    layout = session.workspace.layout(session.aim.layer, session.aim.app)
    taken = {item.id for item in layout.all_items()}
    made = []
    for item in items:
        name, number = item.id, 1
        while name in taken:
            number += 1
            name = f"{item.id}-{number}"
        taken.add(name)
        made.append(item.model_copy(update={"id": name}))
    return made
