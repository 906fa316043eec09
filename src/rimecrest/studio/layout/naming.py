"""The field in which something on the stage gets its name, where it stands."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.studio.shared.sentence_widgets import InlineField

NAME_WIDTH = 90
"""Pixels of a field for a name at least; where the thing is narrower, the field stands under it."""


class Naming:
    """At most one such field is open."""

    def __init__(self, over: QWidget) -> None:
        """`over` is what the field stands on, and what gets the keys back."""
        self._over = over
        self._field: InlineField | None = None

    def over_thing(self, box: QRect, now: str, enter: Callable[[str, bool], None]) -> None:
        """Open over a thing. `enter` gets what was written, and whether a key ended it."""
        self._open(now, tr("its name"), self._room(box), enter)

    def at_caret(self, caret: QRect, hint: str, enter: Callable[[str, bool], None]) -> None:
        """Open where something new is to stand, under the caret."""
        box = QRect(caret.left(), caret.top() + 2, max(caret.width(), 140), 27)
        self._open("", hint, box, enter)

    def _open(self, now: str, hint: str, box: QRect, enter: Callable[[str, bool], None]) -> None:
        self.close()
        field = InlineField(now, hint, self._over, back=self._over)
        field.setObjectName("rename")
        field.setGeometry(box)

        def entered(text: str) -> None:
            by_key = field.by_key
            self.close()
            enter(text, by_key)

        field.entered.connect(entered)
        field.given_up.connect(self.close)
        self._field = field
        field.show()
        field.setFocus()

    def close(self) -> None:
        """Close the field; what is written in it goes."""
        if self._field is not None:
            self._field.hide()
            self._field.deleteLater()
            self._field = None

    def _room(self, box: QRect) -> QRect:
        """In the thing's own place where that is wide enough, else under it: it covers no neighbour."""
        if NAME_WIDTH <= box.width() <= 3 * NAME_WIDTH and box.height() <= 60:
            return QRect(box.left(), box.center().y() - 13, box.width(), 27)
        wide = 2 * NAME_WIDTH
        left = max(0, min(box.left(), self._over.width() - wide))
        top = box.bottom() + 2 if box.height() <= 60 else box.top() + 2
        return QRect(QPoint(left, top), QPoint(left + wide, top + 27))
