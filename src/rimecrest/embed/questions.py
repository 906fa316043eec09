"""The question that a macro asks while it runs."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from rimecrest.embed.look import Scheme, bold, font, palette


class Question(QDialog):
    """One question with a field or a list. `accepted` and `rejected` tell how it ended."""

    def __init__(
        self,
        title: str,
        prompt: str,
        choices: Sequence[str],
        default: str,
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setObjectName("question")
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.setMinimumWidth(340)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(20, 18, 20, 16)
        rows.setSpacing(12)
        words = QLabel(prompt, self)
        words.setTextFormat(Qt.TextFormat.PlainText)
        words.setWordWrap(True)
        words.setFont(bold(14))
        rows.addWidget(words)
        self._choice: QComboBox | None = None
        self._field: QLineEdit | None = None
        if choices:
            self._choice = QComboBox(self)
            self._choice.addItems(list(choices))
            self._choice.setAccessibleName(prompt)
            if default in choices:
                self._choice.setCurrentText(default)
            rows.addWidget(self._choice)
        else:
            self._field = QLineEdit(default, self)
            self._field.setAccessibleName(prompt)
            self._field.selectAll()
            rows.addWidget(self._field)
        buttons = QDialogButtonBox(self)
        go_on = buttons.addButton("Go on", QDialogButtonBox.ButtonRole.AcceptRole)
        go_on.setDefault(True)
        buttons.addButton("Cancel", QDialogButtonBox.ButtonRole.RejectRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        rows.addWidget(buttons)
        (self._choice or self._field).setFocus()

    def answer(self) -> str:
        if self._choice is not None:
            return self._choice.currentText()
        assert self._field is not None
        return self._field.text()
