"""Recording what a colleague does in this window, at the dispatcher: commands and text, never the mouse.

The recorder looks where the cursor is before and after each thing that is done. What lies between two of
them was a way by mouse or arrows; the document says what it means. All else it hands to `Recording`.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from rimecrest.core.catalogue.catalogue import Command
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.record import Recording
from rimecrest.core.macro.steps import Comment
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.documents.document import Document
from rimecrest.kit.documents.open_documents import OpenDocuments

if TYPE_CHECKING:
    from rimecrest.core.macro.record import Recording
    from rimecrest.core.macro.steps import Statement

PRIVATE = "private "
"""Begins the id of steps that are private to an item."""
IDLE = 60_000
"""Milliseconds without anything done after which it asks whether it is still wanted."""


class Recorder(QObject):
    """Records in one window.

    Signals:
        changed: the steps, or whether it records, are others.
        idle: nothing was done for a while.
        ended(name, text): stopped; the macro as text, empty when it was thrown away.
    """

    changed = pyqtSignal()
    idle = pyqtSignal()
    ended = pyqtSignal(str, str)

    def __init__(
        self, dispatcher: Dispatcher, documents: OpenDocuments, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._dispatcher = dispatcher
        self._documents = documents
        self.name = ""
        self.recording: Recording | None = None
        """What was recorded so far; None while nothing is."""
        self.paused = False
        self._place: Any = None
        self._document: Document | None = None
        self._before: tuple[Any, int, int, int, bool] = (None, 0, 0, 0, False)
        self._ways: Recording | None = None
        """The recording with the way to where the next thing is done."""
        self._at: dict[tuple[int, int], tuple[Recording, Any]] = {}
        """(document, depth of its undo) → the recording when that depth was reached, and the place then."""
        self._trail: dict[int, Any] = {}
        """How many steps → the place after them."""
        self.idling = QTimer(self)
        self.idling.setSingleShot(True)
        self.idling.setInterval(IDLE)
        self.idling.timeout.connect(self.idle)
        dispatcher.about_to.connect(self._about_to)
        dispatcher.did.connect(self._did)
        dispatcher.wrote.connect(self._wrote)
        dispatcher.run_over.connect(self._ran)

    @property
    def steps(self) -> tuple[Statement, ...]:
        return self.recording.steps if self.recording else ()

    @property
    def on(self) -> bool:
        return self.recording is not None

    # Beginning and ending

    def start(self, name: str) -> None:
        """Begin. Raises RimecrestError when something is being recorded or run."""
        if self.on:
            raise RimecrestError(
                tr("“{name}” is being recorded here already.", name=self.name), tr("Stop it first.")
            )
        if self._dispatcher.run is not None:
            raise RimecrestError(
                tr("“{name}” is still running.", name=self._dispatcher.run.name), tr("Wait until it is done.")
            )
        self.name = name
        self.paused = False
        self.recording = Recording()
        self._at, self._trail = {}, {}
        self._documents.current.settle()
        self._look()
        self._keep()
        self._tell()

    def stop(self) -> str:
        """End, and give out the macro as text; empty where nothing was done, and there is nothing to keep."""
        if self.recording is None:
            raise RimecrestError(tr("Nothing is being recorded here."))
        if not any(not isinstance(step, Comment) or step.comment for step in self.recording.steps):
            self._end("")
            return ""
        if not self.paused:
            self._about_to()  # the macro ends where the person ended
            self.recording = self._ways or self.recording
        text = format_macro(self.recording.macro(self.name, self._dispatcher.executor.catalogue.app))
        self._end(text)
        return text

    def throw_away(self) -> None:
        """End, and keep nothing."""
        if self.on:
            self._end("")

    def _end(self, text: str) -> None:
        self.recording = None
        self.idling.stop()
        self.ended.emit(self.name, text)
        self.changed.emit()

    def pause(self) -> None:
        """Leave out what is done until `go_on`."""
        if self.recording is not None and not self.paused:
            self.paused = True
            self.recording = self.recording.closed()
            self._tell()
            self.idling.stop()

    def go_on(self) -> None:
        if self.on:
            if self.paused:
                self.paused = False
                self._look()
                self._at = {}
                self._keep()
            self._tell()

    def drop_last(self) -> str:
        """Strike the last step out, and take back what it did.

        Returns:
            What is to be said: that its effect stays, where something else was done since; else nothing.
        """
        if self.recording is None:
            return ""
        left = self.recording.without_last()
        document, back = self._documents.current, self._depth_before(left)
        before = self._trail.get(len(left.steps), self._place)
        taken_back = self._undo_to(back) if back is not None else self._only_moved(left)
        if taken_back:
            document.go(before)
        self._become(left)
        self._look()
        # A macro without that step is still where the steps before it led.
        self._place = before
        self._trail[len(left.steps)] = before
        return "" if taken_back else tr("It is out of the macro; what it did in the document stays.")

    def _undo_to(self, depth: int) -> bool:
        """Undo back to a depth. Returns whether that went: not where another document was edited since."""
        document = self._documents.current
        try:
            while document.undo.depth > depth:
                document.documents.undo()
        except RimecrestError:
            return False
        return True

    def _depth_before(self, left: Recording) -> int | None:
        """How far undo goes back to what a shorter recording had done; None where other things come between.

        Nothing may have been done since the last step, and every entry on the way is one of its own.
        """
        undo, key = self._documents.current.undo, id(self._documents.current)
        now = self._at.get((key, undo.depth))
        if self.recording is None or now is None or now[0].steps != self.recording.steps:
            return None
        for depth in range(undo.depth - 1, -1, -1):
            known = self._at.get((key, depth))
            if known is not None and len(known[0].steps) <= len(left.steps):
                return depth if known[0].steps == left.steps else None
        return None

    def _only_moved(self, left: Recording) -> bool:
        """Whether the last step changed nothing: undo is where it was without it."""
        document = self._documents.current
        known = self._at.get((id(document), document.undo.depth))
        if document is not self._document or known is None:
            return False
        return left.steps[: len(known[0].steps)] == known[0].steps

    def ask_for_last(self) -> None:
        """Ask for what was written last, each time the macro runs."""
        if self.recording is not None:
            made = self.recording.asking()
            if made == self.recording:
                raise RimecrestError(
                    tr("The last step has no text to ask for."), tr("Write something first.")
                )
            self._become(made)

    # What the dispatcher tells

    def _about_to(self) -> None:
        if self.recording is None or self.paused:
            return
        document = self._documents.current
        place, undo = document.place(), document.undo
        self._before = (place, document.offset(), undo.depth, undo.version, document.replaces())
        self._ways = self.recording
        if document is not self._document:
            return
        if place != self._place:
            moves = document.moves(self._place, place)
            if moves is None:
                self._ways = self._ways.lost(tr("the way to another place."))
            for verb, args in moves or ():
                self._ways = self._ways.did(self._command(verb), args)

    def _did(self, command: Command, args: Mapping[str, str], answer: Any) -> None:
        if self.recording is None or self.paused or self._ways is None or command.context == FIELD:
            return
        if isinstance(answer, CommandResult) and not answer.done:
            return
        if command.verb in ("undo", "redo"):
            self._undone()
            return
        made = self._ways
        taken = self._taken(command, made)
        if taken is not None:
            made = taken
        elif isinstance(answer, CommandResult) and answer.text is not None:
            made = made.typed(answer.text, self._before[4])
        else:
            if isinstance(answer, CommandResult):
                if answer.verb:
                    command = self._command(answer.verb)
                args = {**args, **answer.args}
            made = made.did(command, args)
        if isinstance(answer, CommandResult) and answer.lost:
            made = made.lost(answer.lost)
        self._after(made)

    def _wrote(self, text: str) -> None:
        if self.recording is not None and not self.paused and self._ways is not None:
            self._after(self._ways.typed(text, self._before[4]))

    def _ran(self, macro: str, well: bool) -> None:
        """A macro that was begun by hand has ended."""
        if self.recording is not None and not self.paused and self._ways is not None:
            made = self._ways
            if well and macro.startswith(PRIVATE):
                made = made.lost(tr("the steps of a button’s own."))
            elif well:
                made = made.ran(macro)
            self._after(made)

    # How

    def _command(self, verb: str) -> Command:
        return self._dispatcher.executor.catalogue.by_id[f"{self._dispatcher.executor.catalogue.app}:{verb}"]

    def _taken(self, command: Command, made: Recording) -> Recording | None:
        """The recording without the text that a command took away, when it was the text just written."""
        if command.takes_back == "all":
            return made.dropped_text() if made.open_text else None
        if not command.takes_back or made is not self.recording:
            return None
        place, offset = self._before[:2]
        document = self._documents.current
        if document is not self._document or document.has_selection(place):
            return None
        return made.took_back(offset - document.offset(), document.inherits_look)

    def _undone(self) -> None:
        assert self.recording is not None
        document = self._documents.current
        known = self._at.get((id(document), document.undo.depth))
        self._look()
        if known is None:
            self._become(self.recording.lost(tr("undo of something from before the recording began.")))
        else:
            # A macro never does what was undone, so it is where the steps that are left led.
            recording, self._place = known
            self._become(recording)

    def _after(self, made: Recording) -> None:
        document = self._documents.current
        _, _, depth, version, _ = self._before
        same = document is self._document
        changed = not same or document.undo.version != version
        fewer = self.recording is not None and len(made.steps) < len(self.recording.steps)
        led_to = self._trail.get(len(made.steps)) if fewer else None
        self._become(made)
        self._look()
        if led_to is not None:
            # What was written is gone, and so is its step: a macro is where the steps before it led.
            self._place = self._trail[len(made.steps)] = led_to
        if changed:
            self._keep(depth if same else None)

    def _keep(self, came_from: int | None = None) -> None:
        """Remember the recording for when undo comes back to here.

        Args:
            came_from: the depth of undo before what was done last. One command may make several entries: what
                was remembered of depths that it went past had been undone before, and never comes again.
        """
        document = self._documents.current
        assert self.recording is not None
        key, depth = id(document), document.undo.depth
        since = depth if came_from is None else min(came_from + 1, depth)
        self._at = {k: r for k, r in self._at.items() if k[0] != key or k[1] < since}
        self._at[key, depth] = (self.recording, self._place)

    def _look(self) -> None:
        """Where the cursor is now: the next way begins here."""
        self._document = self._documents.current
        self._place = self._document.place()
        if self.recording is not None:
            self._trail[len(self.recording.steps)] = self._place

    def _become(self, recording: Recording) -> None:
        self.recording = recording
        self._ways = None
        self._tell()

    def _tell(self) -> None:
        self.idling.start()
        self.changed.emit()
