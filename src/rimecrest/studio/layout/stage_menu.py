"""What a right-click on the stage offers: for an item, for several, for a surface, for the document."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Protocol

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.panel_grid import Axis, Side
from rimecrest.core.layout.seen import Outcome, SeenControl, SeenGroup, SeenMenu, SeenPanel, SeenToolbar
from rimecrest.core.words import counted, tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.grid_presenter import GridPresenter
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.studio.layout.surface_presenter import EDGES, SurfacePresenter
from rimecrest.studio.shared.choice_list import ChoiceList

FACES = (("both", tr("Picture and words")), ("picture", tr("Picture only")), ("words", tr("Words only")))
SIDES: tuple[tuple[Side, str], ...] = (
    ("left", tr("Line up at the left")),
    ("right", tr("Line up at the right")),
    ("top", tr("Line up at the top")),
    ("bottom", tr("Line up at the bottom")),
)
AXES: tuple[tuple[Axis, str], ...] = (
    ("across", tr("Spread across, with equal gaps")),
    ("down", tr("Spread down, with equal gaps")),
)
WIDTHS = ((1, tr("Single width")), (2, tr("Double width")))


class Doors(Protocol):
    """What a row of the menu opens."""

    def rename(self, identity: str) -> None:
        """Edit a name in place."""
        ...

    def open_card(self, identity: str) -> None:
        """Open the card of an item or a surface."""
        ...

    def open_word(self, identity: str, word: str) -> None:
        """Open the card of an item, and what this word of it opens."""
        ...

    def write_steps(self, identity: str) -> None:
        """Write the private steps of a control."""
        ...

    def open_past(self) -> None:
        """Show the points of what was, of what is held or chosen."""
        ...

    def begin_submenu(self) -> None:
        """Begin a submenu behind what is chosen in a menu."""
        ...

    def pin(self, menu: str, at: QPoint) -> None:
        """Have a right-click menu stay open there."""
        ...


class StageMenu:
    """Makes the menus."""

    def __init__(
        self,
        items: StagePresenter,
        surfaces: SurfacePresenter,
        grid: GridPresenter,
        doors: Doors,
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        self._items = items
        self._grid = grid
        self._surfaces = surfaces
        self._doors = doors
        self._scheme = scheme
        self._parent = parent

    def _begin(self) -> ChoiceList:
        return ChoiceList(self._scheme, self._parent)

    def for_items(self, things: list[str], seen: Outcome) -> ChoiceList:
        """For one item, or for all that are selected."""
        menu = self._begin()
        button = seen.button(things[-1])
        if len(things) == 1 and button is not None:
            menu.add(tr("Card"), partial(self._doors.open_card, things[0]), keys=tr("Space"))
            menu.add(tr("Rename"), partial(self._doors.rename, things[0]), keys="F2")
            menu.add(tr("As it was on …"), self._doors.open_past, keys="F8")
            menu.add(tr("Picture …"), partial(self._doors.open_word, things[0], "card-picture"))
            menu.add(tr("Tip …"), partial(self._doors.open_word, things[0], "card-tip"))
            menu.add(tr("Key …"), partial(self._doors.open_word, things[0], "card-key"))
        control = seen.item(things[0]) if len(things) == 1 else None
        if isinstance(control, SeenControl):
            menu.add(tr("Card"), partial(self._doors.open_card, things[0]), keys=tr("Space"))
            if control.holds_value:
                write = partial(self._doors.write_steps, things[0])
                menu.add(tr("Steps of its own"), write, keys="Ctrl+Enter")
        if any(seen.button(name) is not None for name in things):
            for face, words in FACES:
                now = button is not None and button.face == face and len(things) == 1
                menu.add(words, partial(self._items.set_all, things, {"face": face}, words), now=now)
            for width, words in WIDTHS:
                now = button is not None and button.width == width and len(things) == 1
                menu.add(words, partial(self._items.set_all, things, {"width": width}, words), now=now)
        if len(things) == 1 and isinstance(seen.row_of(things[0]), SeenMenu):
            menu.add(tr("Submenu behind it"), self._doors.begin_submenu, keys=">")
        if self._grid.panel_of(things) is not None:
            self._for_grid(menu, things)
        remove = (
            tr("Remove") if len(things) == 1 else tr("Remove {items}", items=counted(len(things), "item"))
        )
        menu.add(remove, partial(self._items.take_off, things), keys=tr("Delete"))
        return menu

    def _for_grid(self, menu: ChoiceList, things: list[str]) -> None:
        """What a panel's free grid adds: the order of Tab for one thing, lines and gaps for several."""
        if len(things) == 1:
            menu.add(tr("Earlier with Tab"), partial(self._items.shift, things[0], -1), keys=tr("Alt+PageUp"))
            menu.add(tr("Later with Tab"), partial(self._items.shift, things[0], 1), keys=tr("Alt+PageDown"))
            return
        for side, words in SIDES:
            menu.add(words, partial(self._grid.line_up, things, side))
        for axis, words in AXES if len(things) > 2 else ():
            menu.add(words, partial(self._grid.spread, things, axis))

    def for_surface(self, thing: str, seen: Outcome, new_behind: Callable[[], object]) -> ChoiceList:
        """For a tab, a group or a bar."""
        menu = self._begin()
        row = seen.row(thing)
        menu.add(tr("Card"), partial(self._doors.open_card, thing), keys=tr("Space"))
        menu.add(tr("Rename"), partial(self._doors.rename, thing), keys="F2")
        if isinstance(row, SeenToolbar | SeenPanel):
            for edge, words in EDGES.items():
                menu.add(
                    words[:1].upper() + words[1:],
                    partial(self._surfaces.dock, thing, edge),
                    now=row.edge == edge,
                )
        if seen.tab(thing) is not None or isinstance(row, SeenGroup | SeenToolbar | SeenPanel):
            words = (
                tr("New panel")
                if isinstance(row, SeenPanel)
                else tr("New tab behind it")
                if seen.tab(thing) is not None
                else tr("New group behind it")
                if isinstance(row, SeenGroup)
                else tr("New bar")
            )
            menu.add(words, new_behind, keys=tr("Insert"))
            menu.add(tr("Remove"), partial(self._surfaces.remove, thing), keys=tr("Delete"))
        menu.add(tr("As it was on …"), self._doors.open_past, keys="F8")
        return menu

    def for_edge(self, bar: Callable[[], object], panel: Callable[[], object]) -> ChoiceList:
        """What can begin at an edge of the document."""
        menu = self._begin()
        menu.add(tr("New bar here"), bar)
        menu.add(tr("New panel here"), panel)
        return menu

    def for_document(self, at: QPoint, seen: Outcome, pinned: str) -> ChoiceList:
        """The application's own right-click menus, to be opened there and edited."""
        menu = self._begin()
        for known in seen.menus:
            menu.add(known.title, partial(self._doors.pin, known.id, at), now=known.id == pinned)
        if pinned:
            menu.add(tr("Close the menu"), partial(self._doors.pin, "", at), keys=tr("Esc"))
        return menu
