"""The sheet of the macro that is open: its name and purpose, its steps, what is wrong, what runs it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.macro.steps import Fault
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.steps import StepList
from rimecrest.studio.shared.sentence_widgets import Elided, Plain, Push, Word


class MacroSheet(QWidget):
    """Shows one macro. What its words and buttons do is joined by the place."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.steps = StepList(scheme)
        self.name = self._word("", 20, "macro-title")
        self.about = self._word("", 13, "macro-about")
        for word in (self.name, self.about):
            # However long they are, they make no window wider.
            word.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
            word.setMinimumWidth(60)
        self._facts = Elided("", scheme, "ink2", 12)
        self.hint = Plain(
            tr("Type a command, a macro or a word like ask: it is put in here."), scheme, "ink2"
        )
        self.fault = Plain("", scheme, "blocks", 13)
        self.fault.setWordWrap(True)
        self.fault.setObjectName("macro-fault")
        self.used = Elided("", scheme, "ink2", 12)
        self.used.setObjectName("macro-used")
        self.run = Push(tr("Run it"), scheme)
        self.run.setObjectName("macro-run")
        self.run.setToolTip(tr("Run it in the real application, on a scratch profile"))
        self.show_text = Push(tr("Show as text"), scheme)
        self.show_text.setObjectName("show-text")
        self.maker = self._word("", 12, "macro-maker", tr("Who made it, and whether it runs"))
        self.key = self._word(tr("key"), 12, "macro-key", tr("Give it a key (Ctrl+Shift+K)"))
        self.key_context = self._word("", 12, "macro-key-context", tr("Where its key is live"))
        self.key_context.hide()
        self.move_word = self._word(tr("move"), 12, "macro-move", tr("Move it to another shelf"))
        self.copy = self._word(tr("copy"), 12, "macro-copy", tr("Put a copy on another shelf"))
        self.earlier = self._word(tr("earlier"), 12, "macro-earlier", tr("Bring an earlier version back"))
        self.delete = self._word(tr("delete"), 12, "macro-delete")
        self._rows = QVBoxLayout(self)
        self._build()

    def _word(self, words: str, pixels: int, name: str, tip: str = "") -> Word:
        word = Word(words, self._scheme, pixels)
        word.setObjectName(name)
        word.setToolTip(tip)
        return word

    def _build(self) -> None:
        head, foot = QHBoxLayout(), QHBoxLayout()
        head.addWidget(self.name)
        head.addStretch(1)
        head.addWidget(self.show_text)
        head.addWidget(self.run)
        foot.addWidget(self.used)
        foot.addStretch(1)
        for word in (
            self.maker,
            self.key,
            self.key_context,
            self.move_word,
            self.copy,
            self.earlier,
            self.delete,
        ):
            foot.addWidget(word)
        self._rows.setContentsMargins(18, 14, 18, 10)
        self._rows.setSpacing(6)
        self._rows.addLayout(head)
        for widget in (self.about, self._facts, self.hint):
            self._rows.addWidget(widget)
        self._rows.addWidget(self.steps, 1)
        self._rows.addWidget(self.fault)
        self._rows.addLayout(foot)

    def show_macro(
        self,
        file: MacroFile,
        catalogue: Catalogue | None,
        faults: list[Fault],
        facts: str,
        used: str,
        fault_words: Callable[[Fault], str] = str,
    ) -> None:
        """Show a macro: its steps, what it may do, what runs it.

        Args:
            fault_words: how a fault is told; by its line when nothing else is said.
        """
        for word, text in ((self.name, file.name), (self.about, file.macro.about or tr("What is it for?"))):
            word.setText(text)
            word.updateGeometry()
        for elided, text in ((self._facts, facts), (self.used, used)):
            elided.setText(text)
            elided.setToolTip(text)
        self.hint.setVisible(not file.macro.steps)
        self.steps.show_macro(file.macro, catalogue, faults)
        self.fault.setText(fault_words(faults[0]) if faults else "")

    def put_above_fault(self, widget: QWidget) -> None:
        """Show a widget between the steps and what is wrong with them."""
        self._rows.insertWidget(self._rows.indexOf(self.fault), widget)
        widget.show()
