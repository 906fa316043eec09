"""Changing a word where it stands: a step's words, the name, the purpose. At most one field is open."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QObject, QRect, QTimer
from PyQt6.QtWidgets import QWidget

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.macro.step_tree import Path
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.macros.fields import Commit, edit_word
from rimecrest.studio.macros.file_words import FileWords
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
        self.files = FileWords(session, presenter, sheet, scheme)
        sheet.steps.file_dropped.connect(self._file_dropped)

    def edit_step_word(self, path: Path, field: str, box: QRect) -> None:
        """Have a word of a step changed; `box` is where it stands in the list of steps."""
        target = self._presenter.target(path)
        if target is None:
            return
        self.end()
        steps = self._sheet.steps
        wanted = self._presenter.wanted(target, field)
        corner = there(steps.viewport()).mapToGlobal(box.bottomLeft())

        def commit(text: str, *besides: Edit) -> None:
            self._commit(target, field, text, besides)

        def open_field(taken: Commit) -> None:
            opened = edit_word(
                there(steps.viewport()),
                box,
                wanted,
                self._scheme,
                taken,
                steps.setFocus,
                lambda other: self._open(other, target),
            )
            self._open(opened, target)

        argument = wanted.argument
        if argument is not None and argument.type is ArgumentType.PATH:
            take = partial(self.files.take_path, corner=corner, commit=commit)
            write = partial(open_field, take)
            self._open(self.files.choose_path(target, wanted.value, corner, commit, write), target)
        elif argument is not None and argument.among:
            write = partial(open_field, commit)
            self.files.choose_place(
                target, argument, wanted.value, corner, commit, write, lambda menu: self._open(menu, target)
            )
        else:
            open_field(commit)

    def _commit(self, target: FieldTarget, field: str, text: str, besides: Sequence[Edit]) -> None:
        path = self._presenter.change_word(target, field, text, besides)
        if path is not None:
            self._sheet.steps.choose(path)
        if target.macro == self._presenter.now:
            self._sheet.steps.setFocus()

    def _file_dropped(self, path: Path, name: str, behind: Path) -> None:
        self.end()
        if (found := self.files.drop(path or None, name, behind)) is not None:
            self._sheet.steps.choose(found)

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

        before, shown = field.text(), self._presenter.now

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text != before:  # otherwise a text that was pasted meanwhile keeps the name in it
                self._presenter.change_head(target, what, text)
            if shown == target.macro:
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
