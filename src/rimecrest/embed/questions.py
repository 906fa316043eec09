"""The questions that a macro asks while it runs: one, or several on one form."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font, palette


@dataclass(frozen=True)
class Asked:
    """One question: a list where there are choices, else a field."""

    prompt: str
    choices: tuple[str, ...]
    default: str


class Question(QDialog):
    """Questions under one another. `accepted` and `rejected` tell how it ended.

    Args:
        macro: the macro's name, for the window's title.
        title: of a form; empty for a single question.
    """

    def __init__(
        self, macro: str, title: str, questions: Sequence[Asked], scheme: Scheme, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(macro)
        self.setObjectName("question")
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.setMinimumWidth(340)
        self.fields: list[QComboBox | QLineEdit] = []
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(20, 18, 20, 16)
        self._rows.setSpacing(10)
        if title:
            self._words(title, 16)
        for question in questions:
            self._words(question.prompt, 13 if title else 14)
            self.fields.append(self._field(question))
            self._rows.addWidget(self.fields[-1])
        buttons = QDialogButtonBox(self)
        go_on = QPushButton(tr("Go on"))
        go_on.setDefault(True)
        buttons.addButton(go_on, QDialogButtonBox.ButtonRole.AcceptRole)
        buttons.addButton(tr("Cancel"), QDialogButtonBox.ButtonRole.RejectRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        self._rows.addSpacing(4)
        self._rows.addWidget(buttons)
        if self.fields:
            self.fields[0].setFocus()

    def _words(self, text: str, pixels: int) -> None:
        words = QLabel(text, self)
        words.setTextFormat(Qt.TextFormat.PlainText)
        words.setWordWrap(True)
        words.setFont(bold(pixels))
        self._rows.addWidget(words)

    def _field(self, question: Asked) -> QComboBox | QLineEdit:
        field: QComboBox | QLineEdit
        if question.choices:
            field = QComboBox(self)
            field.addItems(list(question.choices))
            if question.default in question.choices:
                field.setCurrentText(question.default)
        else:
            field = QLineEdit(question.default, self)
            field.selectAll()
        field.setAccessibleName(question.prompt)
        return field

    def answers(self) -> tuple[str, ...]:
        """The answers, in the order of the questions."""
        return tuple(
            field.currentText() if isinstance(field, QComboBox) else field.text() for field in self.fields
        )
