"""The buttons that show and hide the panels: at the right end of the status line, one for each."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from rimecrest.core.layout.seen import SeenPanel
from rimecrest.core.words import tr
from rimecrest.shell.theme import font

WIDEST = 160
"""Pixels of a panel's name on its button; a longer one ends in "…", and the tip has it whole."""


class PanelSwitches(QWidget):
    """Emits `turned` with a panel's identity when its button is pressed."""

    turned = pyqtSignal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 8, 0)
        self._row.setSpacing(4)
        self._shown: list[tuple[str, str, bool]] = []
        self.hide()

    def show_panels(self, panels: tuple[SeenPanel, ...], shut: frozenset[str]) -> None:
        """A button for each; pressed in for those that are open."""
        now = [(panel.id, panel.title, panel.id not in shut) for panel in panels]
        self.setVisible(bool(now))
        if now == self._shown:
            return
        self._shown = now
        while (old := self._row.takeAt(0)) is not None:
            if (widget := old.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        for identity, title, is_open in now:
            shown = self.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, WIDEST)
            button = QPushButton(("▾ " if is_open else "▸ ") + shown.replace("&", "&&"), self)
            button.setToolTip(title if shown != title else "")
            button.setFlat(True)
            button.setFont(font(12))
            button.setObjectName(f"switch {identity}")
            told = tr("Panel {title}, open") if is_open else tr("Panel {title}, shut")
            button.setAccessibleName(told.format(title=title))
            button.setFocusPolicy(self.focusPolicy())
            button.clicked.connect(lambda _=False, name=identity: self.turned.emit(name))
            self._row.addWidget(button)
