"""Arranging in the Keys place: what is shown, pinned, and at last taken. Nothing changes before that."""

from __future__ import annotations

from collections.abc import Collection
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.bed_state import BedView
from rimecrest.core.keys.chords import Sequence, parse_sequence
from rimecrest.core.words import tr
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import Scheme
from rimecrest.studio.keys.arranging import ArrangeSheet
from rimecrest.studio.keys.moves_overlay import Arrow
from rimecrest.studio.shared.session import Session

if TYPE_CHECKING:
    from rimecrest.core.suggest.arrange import Arrangement


class Arranger(QObject):
    """One arrangement while it is looked at.

    Signals: changed, when the bed is to be drawn anew; ended, when it was taken or left.
    """

    changed = pyqtSignal()
    ended = pyqtSignal()

    def __init__(self, session: Session, scheme: Scheme) -> None:
        super().__init__()
        self._session = session
        self._pins: set[str] = set()
        self._after = True
        self._known: Arrangement | None = None
        self.on = False
        self.sheet = ArrangeSheet(scheme)
        self.sheet.pinned.connect(self._pin)
        self.sheet.taken.connect(self._take)
        self.sheet.left.connect(self.end)
        self.sheet.side.connect(self._show_side)

    def found(self) -> Arrangement:
        """The arrangement of the aim. Raises RimecrestError when there is nothing to arrange."""
        from rimecrest.core.suggest.arrange import arrange  # noqa: PLC0415  SciPy costs a second

        session, aim = self._session, self._session.aim
        if self._known is None:
            self._known = arrange(session.workspace, aim.app, aim.layer, self._pins, session.checked)
        return self._known

    def begin(self) -> bool:
        """Show the best arrangement beside the keys as they are; whether there is anything to arrange."""
        self._known = None
        try:
            self.found()
        except RimecrestError as error:
            self._session.say(str(error))
            return False
        self.on, self._after = True, True
        self._show()
        return True

    def end(self) -> None:
        """Back to the keys as they are."""
        if self.on:
            self.on = False
            self.ended.emit()

    def forget(self) -> None:
        """Another layer is worked on: its pins are others."""
        self._pins = set()
        self.on = False

    def workspace(self) -> Workspace:
        """What the bed shows: the keys as they would be, or as they are."""
        session, aim = self._session, self._session.aim
        if not (self.on and self._after):
            return session.workspace
        return session.preview(self.found().edit(aim.layer, aim.app)) or session.workspace

    def arrows(self, view: BedView, held: Collection[str], opener: Sequence) -> list[Arrow]:
        """The moves from and to what the bed shows: with these modifiers held, behind this opener."""

        def shown(keys: str) -> str:
            *begin, last = parse_sequence(keys)
            return view.key_of(keys) if tuple(begin) == opener and {*last.mods} == {*held} else ""

        moves = [move for move in self.found().moves if move.moves] if self.on else []
        arrows = [Arrow(shown(move.before), shown(move.after), move.before, move.after) for move in moves]
        return [arrow for arrow in arrows if arrow.start or arrow.end]

    def _show(self) -> None:
        self.sheet.show_arrangement(self.found(), self._after)
        self.changed.emit()

    def _pin(self, identity: str) -> None:
        self._pins ^= {identity}
        self._known = None
        self._show()

    def _show_side(self, after: bool) -> None:
        self._after = after
        self._show()

    def _take(self) -> None:
        session, aim, found = self._session, self._session.aim, self.found()
        self.on = False
        moved = sum(move.moves for move in found.moves)
        if session.do(found.edit(aim.layer, aim.app)):
            keys = tr("1 key is") if moved == 1 else tr("{moved} keys are", moved=moved)
            session.say(tr("{keys} where they should be; undo puts all of it back.", keys=keys))
        self.ended.emit()
