"""Asking for looks of words: what is looked for, and what it becomes."""

from __future__ import annotations

from typing import Literal

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QGroupBox,
    QHBoxLayout,
    QLabel,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest_standins.formatted_text.looks import SWITCHES, parse_look, parse_made_look

SIZES = ("9 pt", "11 pt", "12 pt", "14 pt", "18 pt", "24 pt")
Where = Literal["all", "next", "this"]
PLACES: tuple[tuple[Where, str], ...] = (
    ("all", tr("everywhere")),
    ("next", tr("the next ones")),
    ("this", tr("those at the cursor")),
)


class LookChooser(QGroupBox):
    """One look, a property a row. `changed`: another one is chosen.

    Args:
        rest: what is said of a property that is not named.
        made: whether it is one that words are given.
    """

    changed = pyqtSignal()

    def __init__(self, title: str, rest: str, made: bool, parent: QWidget) -> None:
        super().__init__(title, parent)
        self._made = made
        rows = QFormLayout(self)
        self._boxes: dict[str, QComboBox] = {}
        for name in SWITCHES:
            off = tr("no link") if name == "linked" else f"not {name}"
            on = () if made and name == "linked" else (name,)
            self._add(rows, name, (rest, *on, off), False)
        self._add(rows, "colour", (rest, tr("the usual colour")), True)
        self._add(rows, "size", (rest, tr("the usual size"), *SIZES), True)

    def _add(self, rows: QFormLayout, name: str, words: tuple[str, ...], written: bool) -> None:
        box = QComboBox(self)
        box.setObjectName(f"look-{name}")
        box.addItems(words)
        box.setEditable(written)
        box.setAccessibleName(name.capitalize())
        box.currentTextChanged.connect(lambda _: self.changed.emit())
        self._boxes[name] = box
        rows.addRow(name.capitalize(), box)

    def text(self) -> str:
        """The look as it is written."""
        chosen = (box for box in self._boxes.values() if box.currentIndex() != 0 or box.isEditable())
        words = (box.currentText().strip() for box in chosen)
        return ", ".join(each for each in words if each and each != self._rest())

    def _rest(self) -> str:
        return self._boxes["size"].itemText(0)

    def choose(self, look: str) -> None:
        """Show a look that was chosen before."""
        for words in (part.strip() for part in look.split(",")):
            for box in self._boxes.values():
                if (at := box.findText(words)) > 0:
                    box.setCurrentIndex(at)

    def fault(self) -> str:
        """Why it cannot be used; empty when it can."""
        if not self.text():
            return tr("Choose at least one thing under “{title}”.", title=self.title())
        try:
            (parse_made_look if self._made else parse_look)(self.text())
        except RimecrestError as error:
            return str(error)
        return ""


class LookDialog(QDialog):
    """Asks for one look to find, or for one and what it becomes."""

    def __init__(self, parent: QWidget, sought: str, replaces: bool) -> None:
        super().__init__(parent)
        self.setObjectName("look-dialog")
        self.setWindowTitle(tr("Replace formatting") if replaces else tr("Find by formatting"))
        whole = QVBoxLayout(self)
        columns = QHBoxLayout()
        whole.addLayout(columns)
        self._sought = LookChooser(tr("Words that are"), tr("either way"), False, self)
        self._sought.choose(sought)
        self._made = LookChooser(tr("become"), tr("as they are"), True, self) if replaces else None
        self._choosers = [each for each in (self._sought, self._made) if each is not None]
        self._where = QComboBox(self)
        self._where.setAccessibleName(tr("Where"))
        for value, words in PLACES:
            self._where.addItem(words, value)
        self._where.setVisible(replaces)
        self._says = QLabel(self)
        self._says.setWordWrap(True)
        self._buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel, self
        )
        self._buttons.accepted.connect(self.accept)
        self._buttons.rejected.connect(self.reject)
        for chooser in self._choosers:
            columns.addWidget(chooser)
            chooser.changed.connect(self._look_again)
        for widget in (self._where, self._says, self._buttons):
            whole.addWidget(widget)
        self._look_again()

    def _look_again(self) -> None:
        fault = next(filter(None, (chooser.fault() for chooser in self._choosers)), "")
        self._says.setText(fault or ", ".join(chooser.text() for chooser in self._choosers))
        ok = self._buttons.button(QDialogButtonBox.StandardButton.Ok)
        if ok is not None:
            ok.setEnabled(not fault)

    def sought(self) -> str:
        """The look that is looked for."""
        return self._sought.text()

    def made(self) -> str:
        """The look that it becomes."""
        return self._made.text() if self._made is not None else ""

    def where(self) -> Where:
        """One of the places that are changed: all, next, this."""
        return PLACES[self._where.currentIndex()][0]


def ask_look(parent: QWidget, sought: str) -> str | None:
    """Ask which look is to be found; None when it was given up."""
    dialog = LookDialog(parent, sought, replaces=False)
    return dialog.sought() if dialog.exec() else None


def ask_looks(parent: QWidget, sought: str) -> tuple[str, str, Where] | None:
    """Ask which look is to become which, and where; None when it was given up."""
    dialog = LookDialog(parent, sought, replaces=True)
    return (dialog.sought(), dialog.made(), dialog.where()) if dialog.exec() else None
