"""The dialogs that a window of an application opens: the finder of commands, the list of macros."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.commands.command_finder import CommandFinder, targets
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.macros.availability import why_not
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.kit.macros.macro_list import MacroList
from rimecrest.kit.personal.own_macros import OwnMacros
from rimecrest.kit.recording.recording import OwnRecording
from rimecrest.kit.remote.studio_door import StudioDoor
from rimecrest.surfaces.frame import Frame


class WindowDialogs:
    """Opens them over the window."""

    def __init__(
        self,
        window: QWidget,
        frame: Frame,
        dispatcher: Dispatcher,
        library: MacroLibrary,
        recording: OwnRecording,
        own_macros: OwnMacros,
        studio: StudioDoor,
    ) -> None:
        self._window = window
        self._frame = frame
        self._dispatcher = dispatcher
        self._library = library
        self._recording = recording
        self._own_macros = own_macros
        self._studio = studio

    def open_finder(self) -> None:
        """Let any command or macro be found by a word, and run."""

        outcome, catalogue = self._frame.outcome, self._dispatcher.executor.catalogue
        assert outcome is not None
        CommandFinder(
            targets(catalogue, self._library.runnable(), outcome, self._frame.painting.keys),
            catalogue.title,
            partial(why_not, self._dispatcher.executor, self._library),
            lambda run: self._dispatcher.perform(run, {}, by_hand=True),
            self._frame.painting.scheme,
            self._window,
        ).open()

    def open_macros(self) -> None:
        """Show every macro that can run here, where it is kept and its key."""
        rows = self._library.rows(self._frame.painting.keys)
        if not rows:
            self._frame.say(tr("There are no macros here yet."))
        dialog = MacroList(
            rows,
            lambda macro: self._dispatcher.perform(f"macro:{macro}", {}, by_hand=True),
            self._recording.turn,
            self._frame.painting.scheme,
            self._window,
        )
        if self._own_macros.texts:
            dialog.offer_own({"key": self._recording.ask_key, "delete": self._recording.delete})
        if self._studio.layers():
            dialog.offer_changes(self._change_macro)
        dialog.open()

    def _change_macro(self, what: str, macro: str) -> None:
        """Have the studio take a macro up."""
        try:
            self._studio.take_over(what, "macro", f"macro:{macro}")
        except RimecrestError as error:
            self._frame.say(str(error))
