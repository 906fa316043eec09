"""What can be put on a panel besides commands and macros, as a strip at the caret: to click before typing."""

from __future__ import annotations

from PyQt6.QtCore import QRect, Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.control_kinds import KINDS
from rimecrest.studio.shared.sentence_widgets import Chip

LINE = "|"


GAP = 16
"""Pixels between the strip and the panel that its caret stands in."""


class KindStrip(QWidget):
    """Emits `chosen` with the character that begins a kind."""

    chosen = pyqtSignal(str)

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("kind-strip")
        row = QHBoxLayout(self)
        row.setContentsMargins(4, 4, 4, 4)
        row.setSpacing(4)
        for begins, word in [(kind.begins, kind.word) for kind in KINDS] + [(LINE, tr("Line"))]:
            chip = Chip(f"{begins}  {word}", scheme, self)
            chip.setObjectName(f"kind-{word.lower().replace(' ', '-')}")
            chip.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            chip.setToolTip(tr("Or type {begins} at the caret", begins=begins))
            chip.clicked.connect(lambda _=False, begins=begins: self.chosen.emit(begins))
            row.addWidget(chip)
        self.adjustSize()
        self.hide()

    def show_at(self, caret: QRect, room: QRect) -> None:
        """Stand beside a caret, where the document is; where there is no room, under it."""
        self.adjustSize()
        beside = caret.left() - self.width() - GAP
        if beside < GAP:
            beside = caret.right() + GAP
        if beside + self.width() < room.right() - GAP:
            top = caret.center().y() - self.height() // 2
            self.move(beside, max(GAP, min(top, room.bottom() - self.height() - GAP)))
            self.show()
            self.raise_()
            return
        left = max(4, min(caret.left(), room.right() - self.width() - 4))
        below = caret.bottom() + 6
        top = below if below + self.height() < room.bottom() else caret.top() - self.height() - 6
        self.move(left, top)
        self.show()
        self.raise_()
