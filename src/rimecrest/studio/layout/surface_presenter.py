"""What is done to tabs, groups and bars as wholes: from an intent to an edit. No widgets in here.

Each intent answers whether it was done; what could not be done has been said.
"""

from __future__ import annotations

from rimecrest.core.catalogue.surfaces import AFLOAT, Edge, Group, Panel, Tab, Toolbar
from rimecrest.core.layout.seen import BUILT_IN, Hidden, Outcome, SeenGroup, SeenPanel, SeenToolbar
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import (
    Edit,
    MoveSurface,
    PutGroup,
    PutPanel,
    PutTab,
    PutToolbar,
    SetFields,
    Show,
    TakeOff,
    Together,
)
from rimecrest.core.workspace.exactly import exactly, neighbours
from rimecrest.core.workspace.fresh import fresh_thing
from rimecrest.studio.shared.session import Session

EDGES: dict[Edge, str] = {
    "top": tr("at the top"),
    "left": tr("at the left"),
    "right": tr("at the right"),
    "bottom": tr("at the bottom"),
    "float": tr("floating"),
    "window": tr("in a window of its own"),
}
"""Where a bar can stand, in words."""


class SurfacePresenter:
    """Makes, moves, hides and shows the surfaces of the aimed application, in the aimed layer."""

    def __init__(self, session: Session) -> None:
        self._session = session

    @property
    def _seen(self) -> Outcome:
        return self._session.outcome()

    def _where(self) -> tuple[str, str]:
        return self._session.aim.layer, self._session.aim.app

    def _fresh(self, words: str) -> str:
        return fresh_thing(self._session.workspace, *self._where(), words)

    def _exactly(self, edit: Edit, thing: str, after: str | None, into: str = "") -> bool:
        session = self._session
        stack = session.aim.stack(session.workspace)
        return session.do(exactly(session.workspace, stack, session.aim.app, edit, thing, after, into))

    # New ones

    def new_tab(self, after: str | None) -> str | None:
        """A tab behind another one (None = first). Returns its identity."""
        layer, app = self._where()
        tab = Tab.model_validate({"id": self._fresh("tab"), "title": tr("New tab"), "after": after})
        identity = f"{layer}:{tab.id}"
        return identity if self._exactly(PutTab(layer, app, tab), identity, after) else None

    def new_bar(self, edge: Edge, at: tuple[int, int] | None = None) -> str | None:
        """A bar at an edge, behind all others. Returns its identity."""
        layer, app = self._where()
        bars = self._seen.toolbars
        bar = Toolbar.model_validate(
            {
                "id": self._fresh("bar"),
                "title": tr("New bar"),
                "edge": edge,
                "after": bars[-1].id if bars else None,
                "at": at,
            }
        )
        return f"{layer}:{bar.id}" if self._session.do(PutToolbar(layer, app, bar)) else None

    def call_panel(self, identity: str, title: str) -> str | None:
        """Name an empty panel of this layer for the first time: its identity is made of that name.

        Macros read its fields by this identity. Returns it; None where the panel is not empty, or not ours.
        """
        layer, app = self._where()
        layout = self._session.workspace.layout(layer, app)
        panel = next((p for p in layout.panels if layout.full(p.id) == identity), None)
        if panel is None or panel.items or panel.on or not title:
            return None
        fresh = panel.model_copy(update={"id": self._fresh(title), "title": title})
        words = tr("call it {name}", name=title)
        edit = Together(words, (TakeOff(layer, app, (identity,)), PutPanel(layer, app, fresh, words)))
        return layout.full(fresh.id) if self._session.do(edit) else None

    def new_panel(self, edge: Edge = "right") -> str | None:
        """An empty panel beside the document, behind all others. Returns its identity."""
        layer, app = self._where()
        panels = self._seen.panels
        panel = Panel.model_validate(
            {
                "id": self._fresh("panel"),
                "title": tr("New panel"),
                "edge": edge,
                "after": panels[-1].id if panels else None,
            }
        )
        return f"{layer}:{panel.id}" if self._session.do(PutPanel(layer, app, panel)) else None

    def new_group(self, tab: str, after: str | None) -> str | None:
        """An empty group in a tab. Returns its identity."""
        layer, app = self._where()
        group = Group.model_validate({"id": self._fresh("group"), "title": tr("New group")})
        identity = f"{layer}:{group.id}"
        edit = PutGroup(layer, app, tab, after, group)
        return identity if self._exactly(edit, identity, after, tab) else None

    # Moving

    def move(self, thing: str, after: str | None, into: str = "") -> bool:
        """Move a tab, bar or group behind another of its like; a group `into` a tab."""
        order = neighbours(self._seen, thing, into)
        if after == thing or (thing in order and _before(order, thing) == after):
            return False
        edit = MoveSurface(*self._where(), thing, into, after)
        return self._exactly(edit, thing, after, into)

    def shift(self, thing: str, by: int) -> bool:
        """Move a tab, bar or group by one place among its like.

        A group at the end of its tab goes on into the next tab.
        """
        seen = self._seen
        row = seen.row(thing)
        into = row.tab if isinstance(row, SeenGroup) else ""
        order = neighbours(seen, thing, into)
        target = order.index(thing) + by
        if not 0 <= target < len(order):
            return self._shift_out(thing, into, by) if into else False
        rest = [name for name in order if name != thing]
        return self.move(thing, rest[target - 1] if target else None, into)

    def _shift_out(self, group: str, tab: str, by: int) -> bool:
        tabs = [known.id for known in self._seen.tabs]
        target = tabs.index(tab) + by
        if not 0 <= target < len(tabs):
            return False
        into = self._seen.tab(tabs[target])
        assert into is not None
        last = into.groups[-1].id if into.groups and by < 0 else None
        return self.move(group, last, into.id)

    def dock(self, bar: str, edge: Edge, at: tuple[int, int] | None = None) -> bool:
        """Put a bar or panel at an edge, or have it float at a place of the document, or in a window there.

        What floats already stays where it is while no other place is said.
        """
        row = self._seen.row(bar)
        if at is None and edge in AFLOAT and isinstance(row, SeenPanel | SeenToolbar):
            at = row.at
        if isinstance(row, SeenPanel):
            if (row.edge, row.at) == (edge, at):
                return False
            place = {"edge": edge, "at": list(at) if at else None}
            words = tr("panel {where}", where=EDGES[edge])
            return self._session.do(SetFields(*self._where(), bar, place, words))
        if not isinstance(row, SeenToolbar) or (row.edge, row.at) == (edge, at):
            return False
        fields = {"edge": edge, "at": list(at) if at else None, "row": None}
        words = tr("“{title}” {where}", title=row.title, where=EDGES[edge])
        return self._session.do(SetFields(*self._where(), bar, fields, words))

    # Out of sight, and back

    def remove(self, thing: str) -> bool:
        """Remove a surface with everything in it, or hide it where it is not this layer's."""
        title = self._seen.title_of(thing)
        layer = self._session.aim.layer
        mine = thing.startswith(f"{layer}:")
        if not self._session.do(TakeOff(*self._where(), (thing,))):
            return False
        if mine:
            self._session.say(
                tr("“{title}” is removed with all that is in it. Undo brings it back.", title=title)
            )
        else:
            self._session.say(tr("“{title}” is hidden. It stands under “hidden …”.", title=title))
        return True

    def hidden(self, seen: Outcome) -> list[tuple[Hidden, str]]:
        """What does not show of an outcome, each with the words of a row: what it is, who hides it.

        What the aimed layer hides comes first, the last one at the top: it is the likeliest to be wanted.
        """
        workspace, aim = self._session.workspace, self._session.aim
        mine = workspace.layout(aim.layer, aim.app).hide
        found = []
        for thing in sorted(seen.out_of_sight, key=lambda t: -mine.index(t.id) if t.id in mine else 1):
            by = (
                tr("off by default")
                if thing.by == BUILT_IN
                else tr("hidden by {layer}", layer=workspace.layer_title(thing.by))
            )
            where = tr(" of {where}", where=thing.where) if thing.where else ""
            words = tr(
                "{title} ({kind}{where}), {by}", title=thing.title, kind=thing.kind, where=where, by=by
            )
            found.append((thing, words))
        return found

    def show(self, thing: str) -> bool:
        """Have it seen again."""
        return self._session.do(Show(*self._where(), thing))


def _before(order: list[str], thing: str) -> str | None:
    at = order.index(thing)
    return order[at - 1] if at else None
