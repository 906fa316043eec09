"""Edits: small frozen values that make the next workspace.

`apply(workspace, edit)` returns it together with the inverse. An edit may span layouts, macros and
applications; the inverse puts back exactly the parts that changed. The studio, the command line and the
tests all go through these.
"""

from __future__ import annotations

from abc import abstractmethod
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from rimecrest.core.catalogue.applies import Applies
from rimecrest.core.catalogue.items import Button, Control, Item, Separator, StepsButton, Submenu
from rimecrest.core.catalogue.surfaces import Group, Panel, Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout import placing
from rimecrest.core.layout.layout import Acceptance, KeyBinding, Layout
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.fresh import told_apart, with_retired
from rimecrest.core.workspace.parts import PARTS, part_named
from rimecrest.core.workspace.workspace import Workspace


class Edit(Struct, frozen=True):
    """One gesture. `label` names it in undo: “put Tides”."""

    if TYPE_CHECKING:  # some work it out, some keep it as a field

        @property
        def label(self) -> str: ...

    @property
    def retires(self) -> bool:
        """Whether identities that are gone after it are never given again."""
        return True

    @abstractmethod
    def on(self, workspace: Workspace) -> Workspace:
        """The workspace after the edit. Raises RimecrestError when it cannot be done."""


class _InLayout(Edit, frozen=True):
    """What edits of one layer's layout of one application share."""

    layer: str
    app: str

    @abstractmethod
    def _change(self, layout: Layout) -> Layout:
        """The layout after the edit."""

    def on(self, workspace: Workspace) -> Workspace:
        before = workspace.layout(self.layer, self.app)
        after = self._change(before)
        return workspace if after == before else workspace.with_layout(after)


def _words(item: Item) -> str:
    """What an item is called in the label of an edit."""
    match item:
        case Separator():
            return "a separator"
        case StepsButton():
            return item.label or tr("private steps")
        case Button():
            return item.label or item.run
        case Control():
            return item.caption or tr("a thing without words")
        case Submenu():
            return item.submenu


class PutItems(_InLayout, frozen=True):
    """Put items on a surface after one of its things (None = first)."""

    surface: str
    after: str | None
    items: tuple[Item, ...]

    @property
    def label(self) -> str:
        return f"put {', '.join(map(_words, self.items))}"

    def _change(self, layout: Layout) -> Layout:
        return placing.put_items(layout, self.surface, self.after, self.items)


class TakeOff(_InLayout, frozen=True):
    """Take things off; what comes from beneath is hidden in this layer."""

    things: tuple[str, ...]

    @property
    def label(self) -> str:
        return f"remove {counted(len(self.things), 'thing')}"

    def _change(self, layout: Layout) -> Layout:
        after = layout
        for thing in self.things:
            after = placing.take_off(after, thing)
        return placing.without_emptied(layout, after)


class ShowAgain(_InLayout, frozen=True):
    """As the layer beneath has it."""

    thing: str
    label: str = tr("as the layer beneath has it")

    def _change(self, layout: Layout) -> Layout:
        return placing.show_again(layout, self.thing)


class Show(_InLayout, frozen=True):
    """Have something seen that this layer or one beneath hides, or that is off by default."""

    thing: str
    label: str = tr("show again")

    def _change(self, layout: Layout) -> Layout:
        return placing.show(layout, self.thing)


class MoveItems(_InLayout, frozen=True):
    """Move items, in this order, after one thing of a surface (None = first)."""

    things: tuple[str, ...]
    surface: str
    after: str | None
    label: str = "move"

    def _change(self, layout: Layout) -> Layout:
        after, moved = self.after, layout
        for thing in self.things:
            moved = placing.move_item(moved, thing, self.surface, after)
            after = thing
        return placing.without_emptied(layout, moved)


class MoveSurface(_InLayout, frozen=True):
    """Move a tab, toolbar or group after another of its like (None = first); a group `into` a tab.

    `last`: after all other moves (see `placing.move_surface`).
    """

    thing: str
    into: str
    after: str | None
    label: str = "move"
    last: bool = False

    def _change(self, layout: Layout) -> Layout:
        return placing.move_surface(layout, self.thing, self.into, self.after, self.last)


class SetFields(_InLayout, frozen=True):
    """Other values for an item, group, tab or toolbar."""

    thing: str
    fields: dict[str, Any]
    label: str = "change"

    def _change(self, layout: Layout) -> Layout:
        return placing.set_fields(layout, self.thing, self.fields)


class PutGroup(_InLayout, frozen=True):
    """Put a group into a tab after one of its groups (None = first)."""

    tab: str
    after: str | None
    group: Group
    label: str = tr("new group")

    def _change(self, layout: Layout) -> Layout:
        return placing.put_group(layout, self.tab, self.after, self.group)


class PutTab(_InLayout, frozen=True):
    tab: Tab
    label: str = tr("new tab")

    def _change(self, layout: Layout) -> Layout:
        return placing.put_tab(layout, self.tab)


class PutToolbar(_InLayout, frozen=True):
    toolbar: Toolbar
    label: str = tr("new toolbar")

    def _change(self, layout: Layout) -> Layout:
        return placing.put_toolbar(layout, self.toolbar)


class PutPanel(_InLayout, frozen=True):
    """Put a panel beside the document."""

    panel: Panel
    label: str = tr("new panel")

    def _change(self, layout: Layout) -> Layout:
        return placing.put_panel(layout, self.panel)


class Bind(_InLayout, frozen=True):
    """Bind a key."""

    key: KeyBinding

    @property
    def label(self) -> str:
        return f"key {self.key.keys}"

    def _change(self, layout: Layout) -> Layout:
        return placing.bind(layout, self.key)


class Unbind(_InLayout, frozen=True):
    """Take a binding of this layer away."""

    binding: str
    label: str = tr("take the key away")

    def _change(self, layout: Layout) -> Layout:
        return placing.unbind(layout, self.binding)


class Rebind(_InLayout, frozen=True):
    """Put several keys of a layer elsewhere, all at once: (identity, new sequence) of each."""

    moves: tuple[tuple[str, str], ...]
    label: str = tr("arrange the keys")

    def _change(self, layout: Layout) -> Layout:
        return placing.rebind(layout, dict(self.moves))


class SetApplies(_InLayout, frozen=True):
    """Say in which documents a layer's layout applies."""

    applies: Applies
    label: str = tr("where it applies")

    def _change(self, layout: Layout) -> Layout:
        return layout.model_copy(update={"applies": self.applies})


class Accept(_InLayout, frozen=True):
    """Keep a finding on purpose."""

    acceptance: Acceptance
    label: str = tr("keep on purpose")

    def _change(self, layout: Layout) -> Layout:
        return layout.model_copy(update={"acceptances": (*layout.acceptances, self.acceptance)})


class Withdraw(_InLayout, frozen=True):
    """Keep a finding no longer: it is told again."""

    acceptance: Acceptance
    label: str = tr("no longer keep on purpose")

    def _change(self, layout: Layout) -> Layout:
        left = tuple(kept for kept in layout.acceptances if kept != self.acceptance)
        return layout.model_copy(update={"acceptances": left})


class TellApart(Edit, frozen=True):
    """Identities of their own for things of one layout that share one: the first of them keeps it."""

    layer: str
    app: str
    label: str = tr("an identity of its own")

    def on(self, workspace: Workspace) -> Workspace:
        return workspace.with_layout(told_apart(workspace, self.layer, self.app))


class Together(Edit, frozen=True):
    """Several edits as one: all of them or none."""

    label: str
    edits: tuple[Edit, ...]

    def on(self, workspace: Workspace) -> Workspace:
        for edit in self.edits:
            workspace = edit.on(workspace)
        return workspace


class Restored(Struct, frozen=True):
    """One value to put back: of which part (see `parts`), under which key. None: there was none."""

    part: str
    key: Any
    value: Any


class Restore(Edit, frozen=True):
    """Put values back as they were."""

    label: str
    values: tuple[Restored, ...] = ()

    @property
    def retires(self) -> bool:
        return False

    def without(self, part: str, key: Any = None) -> Restore:
        """The same, but for one value of a part, or all of them: it is never put back."""
        gone = [one for one in self.values if one.part == part and key in (None, one.key)]
        return Restore(self.label, tuple(one for one in self.values if one not in gone))

    def on(self, workspace: Workspace) -> Workspace:
        for one in self.values:
            workspace = part_named(one.part).put(workspace, one.key, one.value)
        return workspace


def apply(workspace: Workspace, edit: Edit) -> tuple[Workspace, Restore]:
    """Make an edit.

    What it deletes for good leaves its identity retired; taking an edit back gives the identity back as well.

    Returns:
        The new workspace, and the edit that takes it back to exactly the old one.

    Raises:
        RimecrestError: the edit cannot be done, or would write over a file that cannot be read; the workspace
            given is as it was.
    """
    after = edit.on(workspace)
    if edit.retires:
        after = with_retired(workspace, after)
    return after, taking_back(workspace, after, edit.label)


def taking_back(before: Workspace, after: Workspace, label: str) -> Restore:
    """The edit that makes the one state of the other again.

    Raises:
        RimecrestError: what differs is in a file that cannot be read.
    """
    values = []
    for part in PARTS:
        for key, was, _ in part.changes(before, after):
            if (path := part.path(key)) in before.broken:
                raise RimecrestError(
                    tr("{path} cannot be changed: {broken}.", path=path, broken=before.broken[path]),
                    tr("Mend the file first."),
                )
            values.append(Restored(part.name, key, was))
    return Restore(label, tuple(values))
