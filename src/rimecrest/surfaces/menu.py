"""Menus made of items: a right-click menu, or what a bar could not show."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PyQt6.QtGui import QAction, QIcon
from PyQt6.QtWidgets import QMenu, QWidget

from rimecrest.core.layout.seen import SeenButton, SeenItem, SeenSeparator, SeenSubmenu
from rimecrest.shell.theme import font, palette
from rimecrest.surfaces.painting import Painting


def build_menu(
    items: Iterable[SeenItem], painting: Painting, trigger: Callable[[str], None], parent: QWidget
) -> QMenu:
    """A menu of items; `trigger` is called with the identity of the one chosen."""
    menu = QMenu(parent)
    _fill(menu, items, painting, trigger)
    return menu


def _fill(menu: QMenu, items: Iterable[SeenItem], painting: Painting, trigger: Callable[[str], None]) -> None:
    menu.setPalette(palette(painting.scheme))
    menu.setFont(font(13))
    menu.setToolTipsVisible(True)
    for item in items:
        if isinstance(item, SeenSeparator):
            menu.addSeparator()
        if isinstance(item, SeenSubmenu):
            inner = menu.addMenu(item.title.replace("&", "&&"))
            if inner is not None:
                inner.setEnabled(bool(item.menu.items))
                _picture(inner.menuAction(), item.picture, painting)
                _fill(inner, item.menu.items, painting, trigger)
        if not isinstance(item, SeenButton):
            continue
        words = item.label.replace("&", "&&")
        if keys := painting.keys.get(item.target):
            words += f"\t{keys}"
        action = QAction(words, menu)
        action.setToolTip(painting.tooltip(item))
        action.setEnabled(item.exists)
        _picture(action, item.picture, painting)
        action.triggered.connect(lambda _checked=False, name=item.id: trigger(name))
        menu.addAction(action)


def _picture(action: QAction | None, picture: str, painting: Painting) -> None:
    pixmap = painting.pictures.pixmap(picture, painting.scheme.color("ink"), 16)
    if pixmap is not None and action is not None:
        action.setIcon(QIcon(pixmap))
