"""“2 hidden …” at the end of the tab row: what does not show, by whom, and *show again*."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QRect, Qt
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import Hidden, Outcome
from rimecrest.core.words import counted, tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.shared.choice_list import ChoiceList
from rimecrest.studio.shared.sentence_widgets import Word

GAP = 34
"""Pixels behind the last tab in which the plus stands."""


class HiddenWord(Word):
    """The word; a click, or Enter on it, opens the list."""

    def __init__(self, presenter: SurfacePresenter, scheme: Scheme, parent: QWidget) -> None:
        super().__init__("", scheme, 12, parent)
        self._presenter = presenter
        self._rows: list[tuple[Hidden, str]] = []
        self.setObjectName("hidden-things")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.clicked.connect(self.open)
        self.hide()

    def refresh(self, seen: Outcome | None, strip: QRect, last: QRect) -> None:
        """Say how many there are, at the end of the row of tabs."""
        self._rows = self._presenter.hidden(seen) if seen is not None else []
        number = len(self._rows)
        self.setVisible(number > 0)
        if not number:
            return
        self.setText(tr("{things} …", things=counted(number, "hidden", "hidden")))
        self.setAccessibleName(self.text())
        self.setToolTip(tr("What this layer or one beneath hides, and what is off by default (Ctrl+H)"))
        self.adjustSize()
        left = min(last.right() + GAP, strip.right() - self.width() - 4)
        self.move(left, strip.center().y() - self.height() // 2)
        self.raise_()

    def open(self) -> None:
        """Open the list: a row for each, and a choice shows it again."""
        if not self._rows:
            return
        menu = ChoiceList(self._scheme, self)
        for thing, words in self._rows:
            menu.add(tr("Show again: {words}", words=words), partial(self._presenter.show, thing.id))
        menu.show_under(self)
        menu.setActiveAction(menu.actions()[0])
