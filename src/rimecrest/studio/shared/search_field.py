"""A field with a list of what was found under it: letters search, arrows choose, Enter takes."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.search import Match
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.candidates import Candidates
from rimecrest.studio.shared.sentence_widgets import Field


class SearchField(Field):
    """What is found is the subclass's affair: it fills `_list` in `_look`.

    Signals:
        taken(entry): by Enter or a click.
        put(entry): the same with Shift held.
        left: Escape.
    """

    taken = pyqtSignal(Match)
    put = pyqtSignal(Match)
    left = pyqtSignal()

    def __init__(self, placeholder: str, name: str, width: int, scheme: Scheme, window: QWidget) -> None:
        super().__init__(scheme)
        self.setPlaceholderText(placeholder)
        self.setAccessibleName(placeholder)
        self.setFont(font(13))
        self._list = Candidates(scheme, window, width=width)
        self._list.setObjectName(name)
        self._list.taken.connect(self._take)
        self._list.put.connect(self._put)
        self.textEdited.connect(self._look)

    def _look(self, text: str) -> None:
        raise NotImplementedError

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._list.move_row(1 if event.key() == Qt.Key.Key_Down else -1)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if (entry := self._list.current()) is not None:
                held = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
                (self._put if held else self._take)(entry)
        elif event.key() == Qt.Key.Key_Escape:
            self._close()
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def _take(self, entry: Match) -> None:
        if entry.stays and entry.action is not None:
            entry.action()
            return
        self._close()
        self.taken.emit(entry)

    def _put(self, entry: Match) -> None:
        self._close()
        self.put.emit(entry)

    def _close(self) -> None:
        self.clear()
        self._list.hide()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self._list.hide()
