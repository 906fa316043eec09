"""What does not fit at the colleague's width: a count and the first few, each a link to its item."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.words import counted, tr
from rimecrest.shell.theme import Scheme, bold
from rimecrest.studio.shared.sentence_widgets import Plain, Word

FIRST = 6
"""Items that are named."""
WIDTH = 136


class LostItems(QWidget):
    """At the side of the stage. `chosen` carries the identity of an item that was clicked."""

    chosen = pyqtSignal(str)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._shown: tuple[int, int, tuple[str, ...]] | None = None
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._rows.setSpacing(4)
        self.setFixedWidth(WIDTH)
        self.setObjectName("unseen")

    def show_lost(self, width: int, text: int, items: Sequence[SeenButton]) -> None:
        """Say what shows only when something is opened at a width in pixels and a text size in per cent."""
        shown = width, text, tuple(item.id for item in items)
        if shown == self._shown:
            return
        self._shown = shown
        while (row := self._rows.takeAt(0)) is not None:
            if (widget := row.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        words = tr("At {width:,} px", width=width)
        words += tr(", text at {text} %", text=text) if text != 100 else ""
        head = self._say(words, "ink2")
        head.setFont(bold(12))
        if not items:
            self._say(tr("everything fits."), "ink2")
        else:
            self._say(
                tr("{items} only when opened:", items=counted(len(items), "shows", "show")),
                "ink2",
            )
        for item in items[:FIRST]:
            word = Word(item.label, self._scheme, 12, self)
            word.setMaximumWidth(WIDTH)
            word.setToolTip(item.label)
            word.setObjectName(f"lost-{item.id}")
            word.clicked.connect(lambda _=False, name=item.id: self.chosen.emit(name))
            self._rows.addWidget(word, 0, Qt.AlignmentFlag.AlignLeft)
        if len(items) > FIRST:
            self._say(tr("and {number} more", number=len(items) - FIRST), "ink2")
        self.setAccessibleName(self.said())

    def _say(self, words: str, token: str) -> Plain:
        line = Plain(words, self._scheme, token, 12, self)
        line.setWordWrap(True)
        self._rows.addWidget(line)
        return line

    def said(self) -> str:
        """All of it as one text."""
        found = []
        for index in range(self._rows.count()):
            row = self._rows.itemAt(index)
            widget = row.widget() if row is not None else None
            if isinstance(widget, Plain | Word):
                found.append(widget.text())
        return " ".join(found)
