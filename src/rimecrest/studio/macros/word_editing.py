"""Changing a word where it stands: a step's words, the name, the purpose. At most one field is open."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QRect, QTimer
from PyQt6.QtWidgets import QWidget

from rimecrest.core.macro.step_tree import Path
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.fields import edit_word
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.macros.open_field import OpenField
from rimecrest.studio.macros.presenter import FieldTarget, MacrosPresenter
from rimecrest.studio.shared.sentence_widgets import InlineField, Word
from rimecrest.studio.shared.session import Session


class WordEditing(QObject):
    """Opens the right field over a word of the sheet, and hands what was written to the presenter."""

    def __init__(
        self, session: Session, presenter: MacrosPresenter, sheet: MacroSheet, scheme: Scheme
    ) -> None:
        super().__init__(sheet)
        self._session = session
        self._presenter = presenter
        self._sheet = sheet
        self._scheme = scheme
        self._field: OpenField | None = None

    def edit_step_word(self, path: Path, field: str, box: QRect) -> None:
        """Have a word of a step changed; `box` is where it stands in the list of steps."""
        target = self._presenter.target(path)
        if target is None:
            return
        self.end()
        steps = self._sheet.steps
        widget = edit_word(
            steps.viewport(),
            box,
            self._presenter.wanted(target, field),
            self._scheme,
            lambda text: self._commit(target, field, text),
            steps.setFocus,
            self._session.say,
            lambda other: self._open(other, target),
        )
        self._open(widget, target)

    def _commit(self, target: FieldTarget, field: str, text: str) -> None:
        path = self._presenter.change_word(target, field, text)
        if path is not None:
            self._sheet.steps.choose(path)
        if target.macro == self._presenter.now:
            self._sheet.steps.setFocus()

    def edit_head(self, what: str) -> None:
        """Have the name (“macro”) or the purpose (“about”) changed in place."""
        file = self._presenter.file()
        if file is None:
            return
        self.end()
        target = FieldTarget((file.layer, file.id))
        word: Word = self._sheet.name if what == "macro" else self._sheet.about
        field = InlineField(
            file.name if what == "macro" else file.macro.about, "", self._sheet, back=self._sheet.steps
        )
        field.setObjectName("macro-field")
        field.setGeometry(word.x(), word.y() - 2, max(word.width() + 80, 320), word.height() + 6)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            self._presenter.change_head(target, what, text)
            if self._presenter.now == target.macro:
                self._sheet.steps.setFocus()

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.show()
        field.setFocus()
        self._open(field, target)

    def _open(self, widget: QWidget, target: FieldTarget) -> None:
        self._field = OpenField(widget, target)

    def end(self) -> None:
        """End the open field, if there is one, and keep what was typed where it belongs."""
        field, self._field = self._field, None
        if field is None:
            return
        before = self._session.workspace.macros.get(field.target.macro)
        field.keep()
        file = self._session.workspace.macros.get(field.target.macro)
        if file is not None and file is not before:
            self._session.say(tr("What was typed last is kept in “{name}”.", name=file.name))

    def drop_lost(self) -> None:
        """Give the open field up when what it belongs to has gone or become something else."""
        field = self._field
        if field is None or not field.open or field.target.find(self._session.workspace) is not None:
            return
        typed = field.text
        self._field = None
        field.give_up()
        sentence = tr("That step is another one meanwhile; “{typed}” was not written.", typed=typed)
        # All views hear of the change first; the strip would write over a sentence said before that.
        QTimer.singleShot(0, lambda: self._session.say(sentence))
