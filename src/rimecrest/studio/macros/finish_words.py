"""What the sentence that finishes a recording offers: surfaces with what stands there, and shelves."""

from __future__ import annotations

from msgspec import Struct

from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Group, Tab
from rimecrest.core.layout.seen import SeenButton, SeenGroup, SeenItem, SeenMenu
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, PutTab
from rimecrest.core.workspace.fresh import fresh_thing
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.studio.shared.session import Session

NOWHERE, NEW_TAB = "", "new tab"
IN_DOCUMENT = "document"
"""Stands for a layer: kept in the document where it was recorded."""


class Spot(Struct, frozen=True):
    """A surface that the aimed layer can put things on, with what stands there."""

    id: str
    title: str
    items: tuple[SeenItem, ...]


def spots(session: Session) -> list[Spot]:
    """The surfaces of what the aimed seat sees, those of the aimed layer first; a group with its tab."""
    seen = session.outcome()
    tabs = {group.id: tab.title for tab in seen.tabs for group in tab.groups}
    found = []
    for row in seen.rows():
        if isinstance(row, SeenMenu):
            continue
        title = row.title or row.id
        if isinstance(row, SeenGroup) and (tab := tabs.get(row.id)):
            title = tr("{tab}, {group}", tab=tab, group=title)
        found.append(Spot(row.id, title, row.items))
    own = f"{session.aim.layer}:"
    return sorted(found, key=lambda spot: not spot.id.startswith(own))


def words_of(item: SeenItem) -> str:
    """What an item is called in the list of those after which something can stand."""
    return (item.label if isinstance(item, SeenButton) else "") or tr("a separator")


def shelves(session: Session, document: str) -> list[tuple[str, str]]:
    """Where a macro can be kept, with the words that follow “kept”: what the aimed layer sees, nearest first.

    Args:
        document: the name of the document where it was recorded, while that is open; else empty.
    """
    workspace = session.workspace
    seen = workspace.stack_up_to(session.aim.layer)
    found = [(layer, tr("for {title}", title=workspace.layer_title(layer))) for layer in reversed(seen)]
    found.append((MINE, tr("for me alone")))
    return [*found, (IN_DOCUMENT, tr("in “{document}”", document=document))] if document else found


def new_tab(session: Session, title: str, button: Button) -> Edit:
    """A tab of the aimed layer with one group, in which the button stands; it is the last of the row."""
    aim, workspace = session.aim, session.workspace
    tab = fresh_thing(workspace, aim.layer, aim.app, title, [button.id])
    group = fresh_thing(workspace, aim.layer, aim.app, "group", [button.id, tab])
    tabs = session.outcome().tabs
    made = Tab(
        id=tab,
        title=title,
        after=tabs[-1].id if tabs else None,
        groups=(Group(id=group, title=title, items=(button,)),),
    )
    return PutTab(aim.layer, aim.app, made)
