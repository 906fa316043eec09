"""Where things stand on the screen: for whoever points at them from another process."""

from __future__ import annotations

from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QApplication, QWidget

from rimecrest.surfaces.frame import Frame


def where_on_screen(frame: Frame | None, thing: str) -> list[int] | None:
    """The place of an item of a frame, or of any visible widget by its object or accessible name."""
    if frame is not None and (box := frame.rect_of(thing)) is not None:
        return _screen_box(frame, box)
    if thing == "focus" and (widget := QApplication.focusWidget()) is not None:
        return _screen_box(widget, widget.rect())
    for top in QApplication.topLevelWidgets():
        if not top.isVisible():
            continue
        for widget in (top, *top.findChildren(QWidget)):
            if widget.isVisible() and thing in (widget.objectName(), widget.accessibleName()):
                return _screen_box(widget, widget.rect())
    return None


def _screen_box(widget: QWidget, box: QRect) -> list[int]:
    corner = widget.mapToGlobal(box.topLeft())
    return [corner.x(), corner.y(), box.width(), box.height()]
