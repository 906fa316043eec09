"""What the studio holds open on a colleague's window: a right-click menu, and what a bar has no room for."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenMenu, SeenSubmenu
from rimecrest.surfaces.menu_sheet import SIDE, MenuSheet
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.removal import drop
from rimecrest.surfaces.rest_sheet import Rest, RestSheet


class OpenSheets:
    """The sheets that stay open over a frame, drawn anew whenever the frame is."""

    def __init__(
        self, frame: QWidget, painting: Painting, ground: Callable[[], QRect], rests: Callable[[], list[Rest]]
    ) -> None:
        """
        Args:
            ground: where the document is, in the frame's pixels.
            rests: what is behind » and in folded groups now.
        """
        self._frame = frame
        self._painting = painting
        self._ground = ground
        self._rests = rests
        self._known: tuple[SeenMenu, ...] = ()
        self.menus: list[MenuSheet] = []
        """The menu that stays open, and the submenus that are open from it."""
        self.rest: RestSheet | None = None
        self._inner = ""
        self._pinned: tuple[str, QPoint] | None = None
        """The menu that stays open over the document, and where."""
        self._rest_of = ""
        """The bar, group or tab whose rest stays open."""

    @property
    def all(self) -> list[MenuSheet]:
        """Every sheet that is open."""
        return [*self.menus, *((self.rest,) if self.rest is not None else ())]

    def pin_menu(self, menu: str, at: QPoint) -> None:
        """Have a right-click menu stay open at a place of the frame; an empty name closes it."""
        self._pinned = (menu, at) if menu else None
        self._draw_menus()

    @property
    def pinned_menu(self) -> str:
        """The menu that stays open; empty when none does."""
        return self._pinned[0] if self._pinned else ""

    def open_submenu(self, menu: str) -> None:
        """Have a submenu of the pinned menu stay open as well, with those between; "" closes them."""
        if menu != self._inner:
            self._inner = menu
            self._draw_menus()

    def show_menus(self, menus: tuple[SeenMenu, ...]) -> None:
        """Draw the pinned one as it is among these menus."""
        self._known = menus
        self._draw_menus()

    def _draw_menus(self) -> None:
        for sheet in self.menus:
            drop(sheet)
        self.menus = []
        if self._pinned is None:
            return
        name, at = self._pinned
        menu = next((menu for menu in self._known if menu.id == name), None)
        for shown in _way_to(menu, self._inner) if menu is not None else ():
            sheet = MenuSheet(shown, self._painting, self._frame)
            row = next((w for s in self.menus for w in s.widgets if w.item.id == shown.id), None)
            if row is not None:
                at = row.mapTo(self._frame, QPoint(self.menus[-1].width() - 2 * SIDE, 0))
            ground = self._ground()
            left = max(ground.left(), min(at.x(), ground.right() - sheet.width()))
            top = max(0, min(at.y(), self._frame.height() - sheet.height()))
            _lay_open(sheet, QPoint(left, top))
            self.menus.append(sheet)

    def open_rest(self, holder: str) -> None:
        """Have what a bar, group or tab has no room for stay open; an empty name closes it."""
        self._rest_of = holder
        self.show_rest()

    @property
    def open_holder(self) -> str:
        """The bar, group or tab whose rest is open; empty when none is."""
        return self._rest_of if self.rest is not None else ""

    def show_rest(self) -> None:
        """Draw the rest that stays open, if there still is one."""
        if self.rest is not None:
            drop(self.rest)
            self.rest = None
        rest = next((rest for rest in self._rests() if rest.holder == self._rest_of), None)
        if rest is None:
            return
        self.rest = RestSheet(rest, self._painting, self._frame)
        left = max(0, min(rest.at.left(), self._frame.width() - self.rest.width()))
        top = max(0, min(rest.at.bottom() + 2, self._frame.height() - self.rest.height()))
        _lay_open(self.rest, QPoint(left, top))


def _lay_open(sheet: MenuSheet, at: QPoint) -> None:
    sheet.move(at)
    sheet.show()
    sheet.raise_()


def _way_to(menu: SeenMenu, inner: str) -> list[SeenMenu]:
    """A menu, and those that lead from it to one of its submenus; the menu alone where that is not in it."""
    for item in menu.items:
        if isinstance(item, SeenSubmenu):
            if item.id == inner:
                return [menu, item.menu]
            way = _way_to(item.menu, inner)
            if len(way) > 1:
                return [menu, *way]
    return [menu]
