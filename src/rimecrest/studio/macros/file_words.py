"""The words of a step that name a file, and what is in it: chosen, dropped, or copied where all reach it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, QPoint

from rimecrest.core.catalogue.arguments import Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.macro.format import step_text
from rimecrest.core.macro.step_tree import Path as StepPath
from rimecrest.core.macro.steps import Do, Setting
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.core.workspace.bring_in import COMPANIONS
from rimecrest.core.workspace.edits import Edit
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.macros.presenter import FieldTarget, MacrosPresenter
from rimecrest.studio.shared.choice_list import ChoiceList
from rimecrest.studio.shared.file_choice import Commit, FileChoice
from rimecrest.studio.shared.open_files import LookInside
from rimecrest.studio.shared.session import Session


class FileWords(QObject):
    """Lists over such a word; every other word has a field of its own."""

    def __init__(
        self, session: Session, presenter: MacrosPresenter, sheet: MacroSheet, scheme: Scheme
    ) -> None:
        super().__init__(sheet)
        self._session = session
        self._presenter = presenter
        self._sheet = sheet
        self._scheme = scheme
        self._choice = FileChoice(session, scheme, sheet)
        self._inside = LookInside(self)
        sheet.destroyed.connect(self._inside.close)

    def choose_path(
        self, target: FieldTarget, now: str, corner: QPoint, commit: Commit, write: Callable[[], None]
    ) -> ChoiceList:
        """Offer files for a word; `write` opens a field instead."""
        return self._choice.choose(self._app(target), now, corner, commit, write, self._sheet.steps.setFocus)

    def take_path(self, written: str, corner: QPoint, commit: Commit) -> None:
        """Take a path that was written or pasted."""
        self._choice.take(written, corner, commit)

    def choose_place(
        self,
        target: FieldTarget,
        argument: Argument,
        now: str,
        corner: QPoint,
        commit: Callable[[str], None],
        write: Callable[[], None],
        opened: Callable[[ChoiceList], None],
    ) -> None:
        """Offer what is in the file that the step opens, or in the document that is worked in.

        What cannot be told is written: `write` opens a field. `opened` gets the list, which may come later.
        """
        path = self._file_of(target)
        title = path.name if path is not None else ""

        def show(entries: list[str]) -> None:
            if target.find(self._session.workspace) is None or not self._sheet.isVisible():
                return
            if not entries:
                where = title or tr("it")
                self._session.say(
                    tr("There are no {reading} in {where}.", reading=argument.among, where=where)
                )
                write()
                return
            menu = ChoiceList(self._scheme, self._sheet)
            for entry in entries:
                menu.add(entry, partial(commit, entry), now=entry == now)
            menu.addSeparator()
            menu.add(tr("Write it …"), write)
            menu.aboutToHide.connect(self._sheet.steps.setFocus)
            menu.show_at(corner)
            opened(menu)

        def fail(sentence: str) -> None:
            if target.find(self._session.workspace) is not None and self._sheet.isVisible():
                self._session.say(sentence)
                write()

        if title:
            self._session.say(tr("Looking into {title} …", title=title))
        self._inside.ask(self._app(target), path, argument.among, show, fail)

    def drop(self, path: StepPath | None, name: str, behind: StepPath) -> StepPath | None:
        """A file was dropped: on a step that names one it is that one's, else a step that opens it comes in.

        Returns:
            The step that names it now; None where nothing came of it, or somebody is asked first.
        """
        corner = self._sheet.steps.mapToGlobal(QPoint(40, 40))
        target = self._presenter.target(path) if path is not None else None
        argument = self._argument(target)
        if target is not None and argument is not None:
            field = f"setting {argument.name}"
            found = path
            self._choice.take(
                name, corner, lambda text, *more: self._presenter.change_word(target, field, text, more)
            )
            return found
        opener = self._opener()
        if opener is None:
            self._session.say(tr("Nothing here opens a file."))
            return None
        verb, argument = opener

        def put(text: str, *more: Edit) -> None:
            line = step_text(Do(verb, (Setting(argument.name, text, True),)))
            self._presenter.put_in(line, behind, more)

        self._choice.take(name, corner, put)
        return None

    # What a step opens

    def _app(self, target: FieldTarget) -> str:
        return self._session.workspace.macros[target.macro].macro.application

    def _argument(self, target: FieldTarget | None) -> Argument | None:
        """The setting of a step that names a file."""
        step = target.step if target is not None else None
        if target is None or not isinstance(step, Do):
            return None
        catalogue = self._session.workspace.catalogues.get(self._app(target))
        command = catalogue.command(step.command) if catalogue is not None else None
        arguments = command.arguments if command is not None else ()
        return next((argument for argument in arguments if argument.type is ArgumentType.PATH), None)

    def _file_of(self, target: FieldTarget) -> Path | None:
        argument, step = self._argument(target), target.step
        if argument is None or not isinstance(step, Do):
            return None
        written = next((setting.value for setting in step.settings if setting.name == argument.name), "")
        path = clean_path(written)
        return self._session.keeper.folder / path if written.startswith(COMPANIONS) else path

    def _opener(self) -> tuple[str, Argument] | None:
        """The command that opens a file of the open macro's application, and its setting for the path.

        Best is one that goes to a place in it: others may hand the file to another program.
        """
        catalogue = self._presenter.catalogue()
        openers = [
            command
            for command in (catalogue.commands if catalogue is not None else ())
            if command.effects == (Effect.OPENS_FILES,)
            and command.arguments
            and command.arguments[0].type is ArgumentType.PATH
        ]
        openers.sort(key=lambda command: not any(argument.among for argument in command.arguments))
        return (openers[0].verb, openers[0].arguments[0]) if openers else None
