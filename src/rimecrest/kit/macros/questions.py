"""The questions that a macro asks while it runs: one, or several on one form."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace
from PyQt6.QtCore import QDate, Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDateEdit,
    QDialog,
    QDialogButtonBox,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.words import tr
from rimecrest.kit.panels.asked import Asked, AskedPanel
from rimecrest.shell.theme import Scheme, bold, font, palette
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel import PanelView
from rimecrest.surfaces.panel_controls import Choices

LEAST_WIDTH, MOST_HEIGHT = 300, 640
"""Pixels of a panel that is asked: across at least, and down at most; beyond that it scrolls."""


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
        self.fields: list[QComboBox | QLineEdit | QDateEdit] = []
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(20, 18, 20, 16)
        self._rows.setSpacing(10)
        if title:
            self._words(title, 16)
        for question in questions:
            self._words(question.prompt, 13 if title else 14)
            self.fields.append(self._field(question))
            self._rows.addWidget(self.fields[-1])
        self._rows.addSpacing(4)
        self._rows.addWidget(go_on_or_cancel(self))
        if self.fields:
            self.fields[0].setFocus()

    def _words(self, text: str, pixels: int) -> None:
        words = QLabel(text, self)
        words.setTextFormat(Qt.TextFormat.PlainText)
        words.setWordWrap(True)
        words.setFont(bold(pixels))
        self._rows.addWidget(words)

    def _field(self, question: Asked) -> QComboBox | QLineEdit | QDateEdit:
        field: QComboBox | QLineEdit | QDateEdit
        if question.is_date:
            field = QDateEdit(self)
            field.setDisplayFormat("yyyy-MM-dd")
            field.setCalendarPopup(True)
            day = QDate.fromString(question.default, Qt.DateFormat.ISODate)
            field.setDate(day if day.isValid() else QDate.currentDate())
        elif question.choices:
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


class LeaveQuestion(QDialog):
    """Whether a macro may do something outside of its documents. *Not now* has the keys at first: a key that
    was pressed twice must not say yes.

    Args:
        words: what it wants to do, behind “… wants to”.
        may_last: whether a yes may be remembered.
    """

    def __init__(self, macro: str, words: str, may_last: bool, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(macro)
        self.setObjectName("leave-question")
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.setMinimumWidth(380)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(20, 18, 20, 16)
        rows.setSpacing(12)
        said = QLabel(tr("“{macro}” wants to {words}.", macro=macro, words=words), self)
        said.setObjectName("leave-words")
        said.setTextFormat(Qt.TextFormat.PlainText)
        said.setWordWrap(True)
        said.setFont(bold(14))
        rows.addWidget(said)
        self._lasts = QCheckBox(tr("Let this macro always do that"), self)
        self._lasts.setObjectName("leave-lasts")
        self._lasts.setVisible(may_last)
        rows.addWidget(self._lasts)
        buttons = QDialogButtonBox(self)
        go = buttons.addButton(tr("Let it"), QDialogButtonBox.ButtonRole.AcceptRole)
        stay = buttons.addButton(tr("Not now"), QDialogButtonBox.ButtonRole.RejectRole)
        assert go is not None
        assert stay is not None
        go.setObjectName("leave-go")
        go.setAutoDefault(False)
        stay.setObjectName("leave-stay")
        stay.setDefault(True)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        rows.addWidget(buttons)
        stay.setFocus()

    def lasts(self) -> bool:
        """Whether a yes is to be remembered."""
        return self._lasts.isChecked()


def go_on_or_cancel(dialog: QDialog) -> QDialogButtonBox:
    """The two buttons at the end of a question."""
    buttons = QDialogButtonBox(dialog)
    go_on = QPushButton(tr("Go on"))
    go_on.setDefault(True)
    buttons.addButton(go_on, QDialogButtonBox.ButtonRole.AcceptRole)
    buttons.addButton(tr("Cancel"), QDialogButtonBox.ButtonRole.RejectRole)
    buttons.accepted.connect(dialog.accept)
    buttons.rejected.connect(dialog.reject)
    return buttons


class PanelQuestion(QDialog):
    """A panel as a question. It shows all but the panel's buttons: what they run cannot run meanwhile."""

    def __init__(
        self, macro: str, asked: AskedPanel, painting: Painting, choices: Choices, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(macro)
        self.setObjectName("panel-question")
        self.setPalette(palette(painting.scheme))
        self.setFont(font(13))
        items = tuple(item for item in asked.panel.items if not isinstance(item, SeenButton))
        shown = replace(asked.panel, items=items, edge="right", width=max(asked.panel.width, LEAST_WIDTH))
        self.view = PanelView(shown, painting, choices, self)
        self.view.put_values(dict(asked.values))
        self.view.left.connect(self.reject)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(12, 12, 12, 12)
        rows.setSpacing(12)
        rows.addWidget(self.view, 1)
        rows.addWidget(go_on_or_cancel(self))
        self.resize(self.sizeHint().width(), min(self.view.sizeHint().height() + 72, MOST_HEIGHT))
        fields = [view for view in self.view.controls() if view.item.holds_value]
        if fields:
            fields[0].take_focus()
