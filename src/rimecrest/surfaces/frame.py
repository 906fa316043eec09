"""A colleague's window but its document, and where everything in it is: what the studio and the link ask."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenButton
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.laid_frame import LaidFrame
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel import PanelItem


class Frame(LaidFrame):
    """A laid out window that knows where each thing in it is, and what is asked there.

    All places are in the frame's pixels.
    """

    def __init__(
        self, painting: Painting, centre: QWidget, parent: QWidget | None = None, outside: bool = False
    ) -> None:
        super().__init__(painting, centre, parent, outside)
        if self.windows is not None:
            self.windows.asked.connect(self._ask_at)

    def button(self, identity: str) -> PanelItem | None:
        return next((widget for widget in self.buttons() if widget.item.id == identity), None)

    def rect_of(self, identity: str) -> QRect | None:
        """Where an item, group, bar or tab name is, in the frame's pixels.

        An item for which there is no room is where it can be opened.
        """
        widget: QWidget | None = self.button(identity)
        if widget is None and self._tabs is not None:
            widget = next((name for name in self._tabs.seen() if name.tab.id == identity), None)
        if widget is None:
            widget = next((bar for bar in self._bars if bar.surface.id == identity), None)
        if widget is None:
            widget = self.panels.view(identity)
        if widget is None:
            widget = next((sheet for sheet in self.sheets.menus if sheet.menu.id == identity), None)
        if widget is not None:
            return QRect(self._spot(widget), widget.size())
        if self._page is not None:
            for group in self._page.groups:
                if group.group.id == identity:
                    return group.box.translated(self._page.mapTo(self, QPoint(0, 0)))
        return self._holder_of(identity)

    def _spot(self, widget: QWidget) -> QPoint:
        """Where a widget begins, in the frame's pixels, also one in a window of its own."""
        return self.mapFromGlobal(widget.mapToGlobal(QPoint(0, 0)))

    def _holder_of(self, identity: str) -> QRect | None:
        """Where to open to see an item for which there is no room: the » of its bar, or its folded group."""
        for bar in self._bars:
            if (box := bar.more_for(identity)) is not None:
                return box.translated(self._spot(bar))
        if self._page is not None and (box := self._page.holder_of(identity)) is not None:
            return box.translated(self._page.mapTo(self, QPoint(0, 0)))
        return None

    def bar_rects(self) -> list[tuple[str, QRect]]:
        """The bars with their places."""
        return [
            (bar.surface.id, QRect(self._spot(bar), bar.size()))
            for bar in self._bars
            if bar.isVisibleTo(self)
        ]

    def floating_heads(self) -> list[tuple[str, QRect]]:
        """The floating bars with the places of their names."""
        return [
            (sheet.bar.surface.id, sheet.head().translated(self._spot(sheet))) for sheet in self._floating
        ]

    def menu_rects(self) -> list[tuple[str, QRect]]:
        """The menu that stays open and the submenus that are open from it, with their places."""
        return [(sheet.menu.id, sheet.geometry()) for sheet in self.sheets.menus]

    def strip_rect(self) -> QRect:
        """Where the tabs' names stand."""
        return self._tabs.geometry() if self._tabs is not None else QRect()

    def spare(self, bar: str) -> int:
        """Pixels along a bar that nothing takes."""
        return next((known.spare() for known in self._bars if known.surface.id == bar), 0)

    def tab_rects(self) -> list[tuple[str, QRect]]:
        if self._tabs is None:
            return []
        names = self._tabs.seen()
        return [(name.tab.id, QRect(name.mapTo(self, QPoint(0, 0)), name.size())) for name in names]

    def group_rects(self) -> list[tuple[str, QRect]]:
        """Groups of the open tab with their boxes."""
        if self._page is None:
            return []
        origin = self._page.mapTo(self, QPoint(0, 0))
        return [(group.group.id, group.box.translated(origin)) for group in self._page.groups]

    def head_rects(self) -> list[tuple[str, QRect]]:
        """Groups of the open tab with the places of their names; folded ones are not among them."""
        if self._page is None:
            return []
        origin = self._page.mapTo(self, QPoint(0, 0))
        return [
            (group.group.id, group.head().translated(origin))
            for group in self._page.groups
            if not group.box.isNull() and group.folded.isHidden()
        ]

    def insertion_points(self) -> list[InsertionPoint]:
        """Every place where something can be put now."""
        found: list[InsertionPoint] = []
        for bar in self._bars:
            found += bar.insertion_points(self) + self._in_rest({bar.surface.id})
        if self._page is not None:
            found += self._page.insertion_points(self)
            found += self._in_rest({self._page.tab.id, *(group.id for group in self._page.tab.groups)})
        for view in self.panels.views:
            view.settle()
            found += view.insertion_points(self)
        return found + [point for sheet in self.sheets.menus for point in sheet.insertion_points(self)]

    def _in_rest(self, holders: set[str]) -> list[InsertionPoint]:
        """The places in the rest of one of these, while that is open."""
        rest = self.sheets.rest
        return rest.insertion_points(self) if rest is not None and rest.rest.holder in holders else []

    def unseen(self) -> list[SeenButton]:
        """What does not fit at this width."""
        hidden = [item for bar in self._bars for item in bar.unseen()]
        return hidden + (self._page.unseen() if self._page is not None else [])

    def box_of_widget(self, widget: QWidget) -> QRect:
        """Where an item is seen, in the frame's pixels; what is scrolled out of its panel is not."""
        box = QRect(self._spot(widget), widget.size())
        view = next((view for view in self.panels.views if view.isAncestorOf(widget)), None)
        return box if view is None else box.intersected(view.seen(self))

    def panel_heads(self) -> list[tuple[str, QRect]]:
        """The open panels with the places of their names."""
        return self.panels.heads()

    def rest_with(self, identity: str) -> str:
        """The bar, group or tab that has no room for an item; empty where it shows."""
        held = (rest.holder for rest in self.rests() if any(item.id == identity for item in rest.items))
        return next(held, "")

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        assert event is not None
        event.setAccepted(self._ask_at(event.globalPos()))

    def _ask_at(self, point: QPoint) -> bool:
        """Ask about the item at a point of the screen. Returns whether there is one."""
        at = self.mapFromGlobal(point)
        for widget in self.buttons():
            if self.box_of_widget(widget).contains(at) and isinstance(widget, ItemButton):
                self.asked.emit(widget.item, point)
                return True
        return False
