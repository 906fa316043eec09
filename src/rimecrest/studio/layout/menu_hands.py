"""What a right-click, or a plus at an edge, opens on the stage."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPoint

from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.held_keys import HeldKeys
from rimecrest.studio.layout.pointer_tools import PointerTools
from rimecrest.studio.layout.stage_hands import Stage
from rimecrest.studio.layout.stage_menu import StageMenu
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.layout.surface_tools import Plus, SurfaceTools
from rimecrest.surfaces.frame import Frame


class MenuHands:
    """Chooses what the menu is about, and opens it."""

    def __init__(
        self,
        stage: Stage,
        frame: Frame,
        caret: Caret,
        surfaces: SurfacePresenter,
        pointer: PointerTools,
        tools: SurfaceTools,
        held: HeldKeys,
        menus: StageMenu,
    ) -> None:
        self._stage = stage
        self._frame = frame
        self._caret = caret
        self._surfaces = surfaces
        self._pointer = pointer
        self._tools = tools
        self._held = held
        self._menus = menus

    def begin_new(self, plus: Plus) -> None:
        """Begin a tab, a bar or a panel where a plus was clicked, ready to be named."""
        if plus.kind == "tab":
            self._name_new(self._surfaces.new_tab(plus.after))
            return
        menu = self._menus.for_edge(
            lambda: self._name_new(self._surfaces.new_bar(plus.edge)),
            lambda: self._name_new(self._surfaces.new_panel(plus.edge)),
        )
        menu.show_at(self._stage.mapToGlobal(plus.box.bottomLeft()))

    def _name_new(self, made: str | None) -> None:
        """Hold what has just begun, and have it named."""
        if made is None:
            return
        if self._frame.outcome is not None and self._frame.outcome.tab(made) is not None:
            self._frame.choose_tab(made)
        self._stage.redrawn()
        self._caret.hold(made)
        self._stage.rename(made)

    def open_at(self, point: QPoint, there: QPoint) -> None:
        """What can be done with what is there: with an item, a surface, or the document."""
        seen = self._frame.outcome
        if seen is None:
            return
        button = self._pointer.button_at(point)
        thing = self._tools.thing_at(point)
        if button is not None:
            if button.item.id not in self._caret.selected:
                row = seen.row_of(button.item.id)
                self._caret.select(row.id if row is not None else "", button.item.id)
            menu = self._menus.for_items(list(self._caret.selected), seen)
        elif thing is not None and thing[0] != "menu":
            self._caret.hold(thing[1])
            menu = self._menus.for_surface(
                thing[1], seen, partial(self._held.new_behind, thing[1], self._stage.rename)
            )
        elif self._frame.centre_rect().contains(point) and seen.menus:
            menu = self._menus.for_document(point, seen, self._frame.sheets.pinned_menu)
        else:
            return
        self._stage.caret_moved()
        menu.show_at(there, from_top=True)

    def open_by_key(self) -> None:
        """The same for what is chosen or held; for the document when nothing is."""
        chosen = self._caret.selected or ([self._caret.held] if self._caret.held else [])
        box = self._stage.box_of(chosen[-1]) if chosen else None
        point = box.center() if box is not None else self._frame.centre_rect().center()
        self.open_at(point, self._stage.mapToGlobal(point))
