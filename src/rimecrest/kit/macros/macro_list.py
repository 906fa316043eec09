"""“Macros …”: every macro that can run here, to be searched, run, and begun anew by recording."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.commands.field_over_list import FieldOverList
from rimecrest.kit.macros.library import MacroRow
from rimecrest.shell.theme import Scheme

CHANGES = {
    "edit": tr("Edit"),
    "key": tr("Give it a key"),
    "place": tr("Put it on a bar"),
    "delete": tr("Delete"),
}
"""What the studio does with a macro, in words."""


class MacroList(FieldOverList):
    """A field over a list. Enter runs the chosen macro, Escape closes.

    Args:
        run: runs a macro by its id, after the list has closed.
        record: begins a recording, after the list has closed.
    """

    def __init__(
        self,
        rows: Sequence[MacroRow],
        run: Callable[[str], object],
        record: Callable[[], object],
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        super().__init__(
            tr("Macros"), tr("A word of its name or purpose"), tr("Search macros"), scheme, parent
        )
        self._rows = sorted(rows, key=lambda row: row.name.casefold())
        self._run = run
        self._changers: list[QPushButton] = []
        self._own: dict[str, Callable[[str], object]] = {}
        self._own_buttons: list[QPushButton] = []
        self.setObjectName("macro-list")
        column = self.column
        self._changes = QHBoxLayout()
        self._changes_rows = QVBoxLayout()
        self._changes_rows.addLayout(self._changes)
        column.addLayout(self._changes_rows)
        buttons = QHBoxLayout()
        new = QPushButton(tr("Record a new one"), self)
        new.setAutoDefault(False)
        new.clicked.connect(self.reject)
        new.clicked.connect(lambda: record())
        self.go = QPushButton(tr("Run"), self)
        self.go.setDefault(True)
        self.go.clicked.connect(self.take)
        buttons.addWidget(new)
        buttons.addStretch(1)
        buttons.addWidget(self.go)
        column.addLayout(buttons)
        self.fill("")

    def offer_changes(self, change: Callable[[str, str], object]) -> None:
        """Offer what the studio does with a macro that is kept on a shelf.

        Args:
            change: is told one of `CHANGES` and the macro's id, after the list has closed.
        """
        for what, words in CHANGES.items():
            button = QPushButton(words, self)
            button.setObjectName(f"macro-{what}")
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, what=what: self._change(what, change))
            self._changes.addWidget(button)
            self._changers.append(button)
        self._changes.addStretch(1)
        self.list.currentRowChanged.connect(lambda _: self._say_changes())
        self._say_changes()

    def offer_own(self, changes: Mapping[str, Callable[[str], object]]) -> None:
        """Offer what a colleague does with a macro of their own: some of `CHANGES`, done with its id."""
        self._own = dict(changes)
        row = QHBoxLayout()
        for what in changes:
            button = QPushButton(tr("Mine: {what}", what=CHANGES[what].lower()), self)
            button.setObjectName(f"own-{what}")
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, what=what: self._change_own(what))
            row.addWidget(button)
            self._own_buttons.append(button)
        row.addStretch(1)
        self._changes_rows.insertLayout(0, row)
        self.list.currentRowChanged.connect(lambda _: self._say_own())
        self._say_own()

    def _say_own(self) -> None:
        own = {row.id for row in self._rows if row.own}
        for button in self._own_buttons:
            button.setEnabled(self.chosen() in own)

    def _change_own(self, what: str) -> None:
        if macro := self.chosen():
            self.accept()
            self._own[what](macro)

    def _say_changes(self) -> None:
        shelved = {row.id for row in self._rows if row.shelved and not row.own}
        for button in self._changers:
            button.setEnabled(self.chosen() in shelved)
            button.setToolTip(
                "" if button.isEnabled() else tr("It is yours, or kept in this document, and on no shelf.")
            )

    def _change(self, what: str, change: Callable[[str, str], object]) -> None:
        if macro := self.chosen():
            self.accept()
            change(what, macro)

    def fill(self, text: str) -> None:
        words = text.casefold().split()
        self.list.clear()
        for row in self._rows:
            if all(word in f"{row.name} {row.about}".casefold() for word in words):
                self.add(row.id, row.words())
        self.list.setCurrentRow(0)
        self.go.setEnabled(self.list.count() > 0)

    def take(self) -> None:
        if macro := self.chosen():
            self.accept()
            self._run(macro)
