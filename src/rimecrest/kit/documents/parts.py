"""A view of several parts, that tells which of them has the keys."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QEvent, QObject, pyqtSignal
from PyQt6.QtWidgets import QLayout, QVBoxLayout, QWidget


class PartsView(QWidget):
    """Its parts stand below one another. `focused` tells the name of the one that got the keys."""

    focused = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._names: dict[QObject, str] = {}

    def watch(self, parts: Mapping[str, QWidget]) -> None:
        """These are its parts that take keys, by name. The first has them where nobody says otherwise."""
        for name, part in parts.items():
            self._names[part] = name
            part.installEventFilter(self)
        self.setFocusProxy(next(iter(parts.values())))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and watched is not None and event.type() == QEvent.Type.FocusIn:
            self.focused.emit(self._names[watched])
        return False


def below_one_another(holder: QWidget, *parts: QWidget | QLayout) -> None:
    """Lay parts out in a widget, without gaps; the last one has the room that is left."""
    rows = QVBoxLayout(holder)
    rows.setContentsMargins(0, 0, 0, 0)
    rows.setSpacing(0)
    for number, part in enumerate(parts):
        stretch = int(number == len(parts) - 1)
        rows.addWidget(part, stretch) if isinstance(part, QWidget) else rows.addLayout(part, stretch)
