"""Rows and tabs while the layers are laid over one another, and what is seen of a row in the end."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import Any

from msgspec import Struct, field

from rimecrest.core.catalogue.applies import EVERYWHERE, Applies
from rimecrest.core.catalogue.items import Event, Handler
from rimecrest.core.catalogue.surfaces import Edge, Menu, Panel, Row
from rimecrest.core.layout.order import AnchoredOrder
from rimecrest.core.layout.seeing import doings_of
from rimecrest.core.layout.seen import (
    SeenGroup,
    SeenItem,
    SeenMenu,
    SeenPanel,
    SeenSubmenu,
    SeenTab,
    SeenToolbar,
)
from rimecrest.core.model import validated_by
from rimecrest.core.remembered import Remembered

_GROUPS: Remembered[SeenGroup] = Remembered(4_000)
_TABS: Remembered[SeenTab] = Remembered(1_000)
"""A group or tab with the same items is the same object: what is worked out of it is found again."""


class AssembledRow(Struct):
    """A toolbar, group, panel or menu being assembled. `kind` is that of what is stored."""

    id: str
    layer: str
    title: str
    kind: type[Row]
    items: AnchoredOrder[SeenItem] = field(default_factory=AnchoredOrder)
    edge: Edge = "left"
    row: int | None = None
    at: tuple[int, int] | None = None
    context: str = ""
    picture: str = ""
    tab: str = ""
    """The tab that a group stands in."""
    width: int = 240
    background: str = "sheet"
    flow: str = "column"
    shown: bool = True
    """Of a panel, as what follows."""
    on: Mapping[Event, Handler] = field(default_factory=dict)
    applies: Applies = EVERYWHERE

    def change(self, fields: Mapping[str, Any]) -> None:
        """Take over the fields of a change; whether a bar shows, its order knows.

        Raises:
            RimecrestError: what happens when a panel opens, or the documents it is there with, do not fit.
        """
        self.title = str(fields.get("title", self.title))
        self.picture = str(fields.get("picture", self.picture) or "")
        self.edge = fields.get("edge", self.edge)
        self.row = fields.get("row", self.row)
        at = fields.get("at", self.at)
        self.at = (int(at[0]), int(at[1])) if at else None
        if self.kind is not Panel:
            return
        self.width = int(fields.get("width", self.width))
        self.background = str(fields.get("background", self.background))
        self.flow = str(fields.get("flow", self.flow))
        self.shown = bool(fields.get("shown", self.shown))
        if "on" in fields:
            read = partial(validated_by, Handler.model_validate)
            self.on = {event: read(does, event) for event, does in fields["on"].items()}
        if "applies" in fields:
            self.applies = validated_by(Applies.model_validate, fields["applies"], self.title)

    def opened_by(self, item: SeenSubmenu) -> AssembledRow:
        """The row of its own that a line of a menu opens, for what is put into it."""
        return AssembledRow(item.id, item.layer, item.title, Menu, context=self.context, picture=item.picture)

    def _common(self) -> dict[str, Any]:
        """What every row that is seen has."""
        return {
            "id": self.id,
            "layer": self.layer,
            "title": self.title,
            "items": tuple(self.items),
            "picture": self.picture,
        }

    def as_toolbar(self) -> SeenToolbar:
        """The toolbar that this amounts to."""
        return SeenToolbar(**self._common(), edge=self.edge, row=self.row, at=self.at)

    def as_group(self) -> SeenGroup:
        """The group of a ribbon tab that this amounts to."""
        items = tuple(self.items)
        how = self.id, self.layer, self.title, self.picture, self.tab
        return _GROUPS.of(items, how, lambda: SeenGroup(**self._common(), tab=self.tab))

    def as_menu(self) -> SeenMenu:
        """The menu that this amounts to; its submenus are still as they were stored."""
        return SeenMenu(**self._common(), context=self.context)

    def as_panel(self) -> SeenPanel:
        """The panel that this amounts to."""
        return SeenPanel(
            **self._common(),
            edge=self.edge,
            at=self.at,
            width=self.width,
            background=self.background,
            flow=self.flow,
            shown=self.shown,
            on=self.on,
            applies=self.applies,
            doings=doings_of(self.on, self.id, self.layer, self.title),
        )


class AssembledTab(Struct):
    """A ribbon tab being assembled."""

    id: str
    layer: str
    title: str
    groups: AnchoredOrder[str] = field(default_factory=AnchoredOrder)
    picture: str = ""

    def change(self, fields: Mapping[str, Any]) -> None:
        """Take over the fields of a change; whether the tab shows, its order knows."""
        self.title = str(fields.get("title", self.title))
        self.picture = str(fields.get("picture", self.picture) or "")

    def seen(self, groups: tuple[SeenGroup, ...]) -> SeenTab:
        """The tab that this amounts to, with its groups."""
        how = self.id, self.layer, self.title, self.picture
        return _TABS.of(
            groups,
            how,
            lambda: SeenTab(
                id=self.id, layer=self.layer, title=self.title, groups=groups, picture=self.picture
            ),
        )
