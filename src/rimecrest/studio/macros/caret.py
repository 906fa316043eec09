"""The caret between steps: what is typed there is searched like anywhere, and put in with Enter."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from rimecrest.core.catalogue.catalogue import Catalogue, Command
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.macro.complete import panels_of
from rimecrest.core.macro.format import quote
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import Comment, Do
from rimecrest.core.search import Match, Search
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.candidates import Candidates
from rimecrest.studio.shared.sentence_widgets import take_back

WHOLE = "whole"
"""Names what was written whole: nothing is left to be filled in."""
OTHERWISE = "else"
"""The text of the line that is no step of its own: it parts an `if`."""
SHAPES = (
    ("write", tr("Write text"), "step", "type words insert", 'write ""'),
    ("ask", "Ask", "step", "question form name choices", 'ask answer "Which?"'),
    (
        "form",
        tr("Ask together"),
        "step",
        "form several questions",
        'form "Fill in"\n  ask answer "Which?"\nend',
    ),
    ("set", tr("Remember a value"), "step", "set name value", 'set value = ""'),
    ("if", "If", "step", "only when condition else", "if yes\nend"),
    ("otherwise", tr("Otherwise"), "step", "else if not condition", OTHERWISE),
    ("repeat", tr("Do several times"), "step", "repeat loop times", "repeat 2 times\nend"),
    ("for each", tr("For each"), "step", "loop list every", "for each entry in {list}\nend"),
    ("while", tr("As long as"), "step", "while loop until", "while no limit 100\nend"),
    ("part", "Part", "step", "heading group steps", 'part "Part"\nend'),
    ("say", "Say", "step", "tell status sentence", 'say ""'),
    ("stop", "Stop", "step", "end here", "stop"),
)
"""Steps that are no command: word, title, hint, more to search, text."""


def command_text(command: Command) -> str:
    """A step that performs a command, with room for the settings it cannot do without."""
    needed = [argument for argument in command.arguments if argument.default is None]
    settings = []
    for argument in needed:
        value = argument.choices[0] if argument.choices else ""
        settings.append(f" {argument.name}={value or quote('')}")
    return f"do {command.verb}{''.join(settings)}"


def step_entries(catalogue: Catalogue, macros: dict[str, MacroFile]) -> list[Match]:
    """All that a step can be; `about` holds its text."""
    lists = [reading.id for reading in catalogue.readings if reading.type == "list"]
    entries = [
        Match("shape", word, title, hint, more, text.replace("{list}", lists[0] if lists else "list"))
        for word, title, hint, more, text in SHAPES
    ]
    for panel in panels_of(catalogue):
        title = tr("Ask with the panel {panel}", panel=panel)
        more = "question form fill in"
        entries.append(Match("shape", f"panel {panel}", title, "step", more, f"ask panel {quote(panel)}"))
    for command in (known for known in catalogue.commands if known.context != FIELD):
        hint = catalogue.context_tree.name(command.context).lower()
        entries.append(Match("command", command.id, command.name, hint, command.about, command_text(command)))
    for name, file in macros.items():
        entries.append(Match("macro", name, file.name, "macro", file.macro.about, f"run {quote(name)}"))
    return entries


def step_as_written(text: str) -> str:
    """The text of the step that a whole line of the text form is; empty for words that are searched for."""
    if " " not in text.strip():
        return ""
    for end in ("", "\nend"):
        macro, faults = parse_macro(f"{text}{end}\n")
        step = macro.steps[0] if not faults and len(macro.steps) == 1 else None
        if isinstance(step, Do) and not step.settings:
            return ""  # the search finds commands by more than their verb
        if step is not None and not isinstance(step, Comment):
            return f"{text}{end}"
    return ""


class StepCaret(QLineEdit):
    """A field at the place where the step will stand.

    Signals:
        taken(text, whole): the text of the step that was chosen; whole where all of it was written already.
        left: closed without one.
    """

    taken = pyqtSignal(str, bool)
    left = pyqtSignal()

    def __init__(self, scheme: Scheme, parent: QWidget, over: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("step-caret")
        self.setAccessibleName(tr("A step to put in"))
        self.setPlaceholderText(tr('A command, a macro, a word like ask or if, or "a text'))
        self.setFont(font(14))
        self._search = Search(())
        self.candidates = Candidates(scheme, over, 420)
        self.candidates.nothing = tr("There is no such command, macro or step.")
        self.candidates.taken.connect(self._take)
        self.textEdited.connect(self._offer)
        self.hide()

    def open(self, text: str, entries: list[Match], left: int, top: int, width: int, height: int) -> None:
        """Begin to type at a place in the parent's pixels."""
        self._search = Search(entries)
        self.setGeometry(left, top, width, height)
        self.setText(text)
        self.show()
        self.raise_()
        self.setFocus()
        self._offer(text)

    def _offer(self, text: str) -> None:
        self.candidates.row = 0
        if text.startswith('"'):
            words = text[1:].removesuffix('"')
            found = [Match("shape", WHOLE, f"Write “{words}”", "step", "", f"write {quote(words)}")]
        elif line := step_as_written(text):
            found = [Match("shape", WHOLE, text, tr("as it is written"), "", line)]
        else:
            found = self._search.find(text)
        at = self.mapTo(self.candidates.parentWidget(), QPoint(0, self.height() + 2))
        self.candidates.offer(text, found, at, tag=False) if text else self.candidates.hide()

    def _take(self, entry: Match | None) -> None:
        if entry is not None:
            self._shut()
            self.taken.emit(entry.text, entry.id == WHOLE)

    def _writes(self) -> bool:
        """Whether more than words to search for is typed: a text, or a whole step."""
        return self.text().startswith('"') or bool(step_as_written(self.text()))

    def _shut(self) -> None:
        self.candidates.hide()
        self.hide()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        match event.key():
            case Qt.Key.Key_Down:
                self.candidates.move_row(1)
            case Qt.Key.Key_Up:
                self.candidates.move_row(-1)
            case Qt.Key.Key_Return | Qt.Key.Key_Enter:
                self._take(self.candidates.current())
            case Qt.Key.Key_Escape if self._writes() and take_back(self, ""):
                self._offer("")
            case Qt.Key.Key_Escape:
                self._shut()
                self.left.emit()
            case _:
                super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if not self.isHidden():
            self._shut()
            self.left.emit()
