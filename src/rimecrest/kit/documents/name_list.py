"""Names of things that a command can be told: a list that is typed in, where it is performed without one."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QInputDialog, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.commands.field_over_list import FieldOverList
from rimecrest.kit.documents.document import Document
from rimecrest.shell.theme import LIGHT


class NameList(FieldOverList):
    """Names to choose one of, found by a word. Enter takes it."""

    def __init__(self, title: str, names: list[str], taken: Callable[[str], object], parent: QWidget) -> None:
        super().__init__(title, tr("A word of its name"), title, LIGHT, parent)
        self.setObjectName("name-list")
        self._names = names
        self._taken = taken
        self.fill("")

    def fill(self, text: str) -> None:
        self.list.clear()
        for name in self._names:
            if all(word in name.casefold() for word in text.casefold().split()):
                self.add(name, name)
        self.list.setCurrentRow(0)

    def take(self) -> None:
        if name := self.chosen():
            self.accept()
            self._taken(name)


def offer_names(doc: Document, title: str, names: list[str], verb: str, setting: str = "name") -> None:
    """Offer names, and have the command performed with the one that is taken."""
    window = doc.widget.window() or doc.widget
    NameList(title, names, lambda name: doc.wants.emit(verb, {setting: name}), window).open()


def ask_words(title: str, words: str, verb: str, setting: str) -> Callable[[Document], None]:
    """What a command of one text does where it is performed without: ask for it, and perform it again."""

    def ask(doc: Document) -> None:
        text, go_on = QInputDialog.getText(doc.widget, title, words)
        if go_on and text.strip():
            doc.wants.emit(verb, {setting: text})

    return ask
