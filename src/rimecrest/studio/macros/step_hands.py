"""What hands do to the steps of a macro: cut, paste, carry, write between them."""

from __future__ import annotations

from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QApplication

from rimecrest.core.macro.field_edits import field_text
from rimecrest.core.macro.step_tree import END, Path
from rimecrest.core.macro.steps import Do
from rimecrest.shell.there import there
from rimecrest.studio.macros.caret import OTHERWISE, StepCaret, step_entries
from rimecrest.studio.macros.editor import MacroText
from rimecrest.studio.macros.presenter import MacrosPresenter
from rimecrest.studio.macros.step_painting import ROW
from rimecrest.studio.macros.steps import StepList


class StepHands:
    """Joins the steps and the caret between them to the presenter; what is being typed is kept first."""

    def __init__(
        self, presenter: MacrosPresenter, steps: StepList, text: MacroText, caret: StepCaret
    ) -> None:
        self._presenter = presenter
        self._steps = steps
        self._text = text
        self._caret = caret
        steps.reworked.connect(self.rework)
        steps.carried.connect(self.carry)
        steps.search_wanted.connect(self.open_caret)
        caret.taken.connect(lambda text, whole: self.put_text_in(text, edit=not whole))
        caret.left.connect(steps.setFocus)

    def rework(self, name: str, paths: list[Path]) -> None:
        """Do something with some steps: its name is that of a command on steps, or of the clipboard."""
        self._text.flush()
        path = self._steps.path() or ()
        if name == "paste":
            self.put_text_in(there(QApplication.clipboard()).text(), edit=False)
            return
        if not paths:
            return
        if name in ("cut", "copy"):
            text = self._presenter.steps_text(paths)
            if text is None:
                return
            there(QApplication.clipboard()).setText(text)
            if name == "copy":
                return
            name = "take-out"
        where = self._presenter.rework(name, paths, path)
        if where is not None:
            self._steps.choose(where)
            if name == "gather":
                self._edit_first()

    def carry(self, paths: list[Path], behind: Path) -> None:
        """Put steps behind another one."""
        self._text.flush()
        if (where := self._presenter.carry(paths, behind)) is not None:
            self._steps.choose(where)

    def put_text_in(self, text: str, edit: bool = True) -> None:
        """Put steps in behind the chosen one, from their text."""
        self._text.flush()
        behind = self._steps.behind()
        parts = text == OTHERWISE
        first = self._presenter.put_otherwise(behind) if parts else self._presenter.put_in(text, behind)
        if first is not None:
            self._steps.choose(first)
            self._steps.setFocus()
            if edit and not parts:
                self._edit_first()

    def _edit_first(self) -> None:
        """Have the first word of the chosen step changed that says nothing yet."""
        step = self._steps.step()
        fields = [box.piece.field for box in self._steps.fields(self._steps.currentRow())]
        empty = [n for n, field in enumerate(fields) if step and field_text(step, field) in ("", "Which?")]
        if step is not None and fields and (empty or not isinstance(step, Do)):
            self._steps.edit_field(empty[0] if empty else 0)

    def open_caret(self, text: str) -> None:
        """Open the field between two steps, with what was typed first."""
        self._text.flush()
        catalogue, file = self._presenter.catalogue(), self._presenter.mendable()
        if file is None or catalogue is None:
            return
        row = self._steps.currentItem()
        box = self._steps.visualItemRect(row) if row is not None else QRect(0, -ROW, 0, ROW)
        top = min(box.bottom() + 1, there(self._steps.viewport()).height() - ROW)
        behind = self._steps.behind()
        depth = len(behind) - (2 if behind[-1:] == (END,) else 1) if behind else 0
        indent = 34 + 26 * depth
        entries = step_entries(catalogue, self._presenter.others(file))
        width = there(self._steps.viewport()).width() - indent - 8
        self._caret.open(text, entries, indent, max(top, 0), width, ROW - 2)
