"""The right editor for a word of a step: a list, a number, a colour, a path, a text with {names}."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QModelIndex, QRect, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QPixmap
from PyQt6.QtWidgets import QCompleter, QMenu, QWidget

from rimecrest.core.catalogue.arguments import SWITCHES, ArgumentType
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font
from rimecrest.shell.there import there
from rimecrest.studio.macros.wanted_word import Wanted
from rimecrest.studio.shared.choice_list import ChoiceList
from rimecrest.studio.shared.sentence_widgets import InlineField

BREAKS = "↵⏎␤¶"
"""Stand for a new line while a text is edited in one line: the first that the text does not have itself."""
COLOURS = (
    ("#17232C", "ink"),
    ("#14657A", "sea"),
    ("#2C7A4B", "green"),
    ("#A8480A", "rust"),
    ("#B3213B", "red"),
    ("#FFF1A8", tr("yellow mark")),
    ("#E0EEF3", tr("pale blue")),
    ("#FDEEE4", tr("pale rust")),
)


Commit = Callable[[str], None]


def edit_word(
    parent: QWidget,
    box: QRect,
    wanted: Wanted,
    scheme: Scheme,
    commit: Commit,
    give_up: Callable[[], None],
    replaced: Callable[[QWidget], None] = lambda widget: None,
) -> QWidget:
    """Open the editor of a word over it. `commit` gets the new value.

    `replaced` gets the editor that takes the place of a list, where one chooses to write a value oneself.
    """
    kind = wanted.argument.type if wanted.argument else None
    choices = wanted.choices
    if wanted.argument is not None and kind in (ArgumentType.CHOICE, ArgumentType.SWITCH):
        choices = wanted.argument.choices or SWITCHES
    if choices:
        return _menu(
            parent, box, [(choice, choice) for choice in choices], wanted.value, scheme, commit, give_up
        )
    if kind is ArgumentType.COLOUR:
        pairs = [(value, f"{words}  {value}") for value, words in COLOURS]
        menu = _menu(parent, box, pairs, wanted.value, scheme, commit, give_up, swatches=True)
        menu.addSeparator()
        other = menu.addAction(tr("Another colour, as #14657A …"))
        there(other).triggered.connect(lambda: replaced(_field(parent, box, wanted, commit, give_up)))
        return menu
    return _field(parent, box, wanted, commit, give_up)


def _menu(
    parent: QWidget,
    box: QRect,
    pairs: Sequence[tuple[str, str]],
    now: str,
    scheme: Scheme,
    commit: Commit,
    give_up: Callable[[], None],
    swatches: bool = False,
) -> QMenu:
    menu = ChoiceList(scheme, parent)
    for value, words in pairs:
        patch = None
        if swatches:
            patch = QPixmap(14, 14)
            patch.fill(QColor(value))
        menu.add(words, partial(commit, value), now=value == now, patch=patch)
    menu.aboutToHide.connect(give_up)
    menu.show_at(parent.mapToGlobal(box.bottomLeft()))
    return menu


class WordField(InlineField):
    """A word while it is changed. Up and down count a number; `{` offers names."""

    def __init__(self, wanted: Wanted, parent: QWidget) -> None:
        self._break = next((sign for sign in BREAKS if sign not in wanted.value), BREAKS[-1])
        super().__init__(wanted.value.replace("\n", self._break), "", parent, back=parent)
        self._argument = wanted.argument
        self.setObjectName("word-field")
        self.setFont(font(14))
        if wanted.names:
            completer = NameCompleter(wanted.names, self)
            self.setCompleter(completer)
            there(completer.popup()).setObjectName("names")

    def written(self) -> str:
        # A text may begin or end with blanks on purpose; all else is trimmed by whoever reads it.
        return self.text().replace(self._break, "\n")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        numeric = self._argument is not None and self._argument.type in (
            ArgumentType.NUMBER,
            ArgumentType.WHOLE,
        )
        if numeric and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._count(1 if event.key() == Qt.Key.Key_Up else -1)
        else:
            super().keyPressEvent(event)

    def _count(self, by: int) -> None:
        argument = self._argument
        assert argument is not None
        try:
            number = float(self.text() or argument.default or 0) + by
        except ValueError:
            return
        if argument.least is not None:
            number = max(number, argument.least)
        if argument.most is not None:
            number = min(number, argument.most)
        self.setText(f"{number:g}")
        self.selectAll()


class NameCompleter(QCompleter):
    """Offers names behind an open brace, and puts them in with the closing one."""

    def __init__(self, names: Sequence[str], parent: QWidget) -> None:
        super().__init__([f"{{{name}}}" for name in names], parent)
        self._head = ""

    def splitPath(self, path: str | None) -> list[str]:
        assert path is not None
        at = path.rfind("{")
        open_brace = at >= 0 and "}" not in path[at:]
        self._head = path[:at] if open_brace else path
        return [path[at:] if open_brace else "\0"]

    def pathFromIndex(self, index: QModelIndex) -> str:
        return self._head + str(super().pathFromIndex(index))


def _field(
    parent: QWidget, box: QRect, wanted: Wanted, commit: Commit, give_up: Callable[[], None]
) -> WordField:
    field = WordField(wanted, parent)
    width = max(box.width() + 60, 160)
    field.setGeometry(
        box.left() - 4, box.top() + 3, min(width, parent.width() - box.left()), box.height() - 6
    )

    def done(text: str) -> None:
        field.hide()
        field.deleteLater()
        commit(text) if text != wanted.value else give_up()

    def dropped() -> None:
        field.hide()
        field.deleteLater()
        give_up()

    field.entered.connect(done)
    field.given_up.connect(dropped)
    field.show()
    field.setFocus()
    return field
