"""A field of one line that writes only what types."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit

from rimecrest.shell.plain_text import is_writable, typed_text


class LineField(QLineEdit):
    """With Alt it writes nothing and takes nothing out, with Ctrl it writes nothing: those are hotkeys."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        # The toolkit's own field would write what the keypad gives with Ctrl, and any symbol with Alt.
        if (alt or is_writable(event.text())) and not typed_text(event):
            event.ignore()
            return
        super().keyPressEvent(event)
