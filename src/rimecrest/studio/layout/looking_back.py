"""Showing on the stage what was, in place of the draft: the last release, or a point of the history."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct
from PyQt6.QtCore import QObject, QSize
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.compare import Difference, compare
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.words import counted, owned, tr
from rimecrest.core.workspace.parts import LAYOUTS
from rimecrest.core.workspace.past import BringBack
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import Scheme
from rimecrest.studio.history.sheet import WIDTH, HistorySheet, Scope
from rimecrest.studio.layout.last_release import last_release
from rimecrest.studio.layout.overlay import Overlay
from rimecrest.studio.shared.session import Session


class Before(Struct, frozen=True):
    """What is shown in place of the draft: what it is called, what it amounts to, what the draft has else."""

    called: str
    outcome: Outcome
    differences: tuple[Difference, ...]

    def framed(self) -> frozenset[str]:
        """The identities of what differs."""
        return frozenset(difference.of for difference in self.differences if difference.kind != "key")


class LookingBack(QObject):
    """Turns between what was and the draft, and brings back of it what is wanted."""

    def __init__(
        self,
        session: Session,
        scheme: Scheme,
        overlay: Overlay,
        draw: Callable[[Workspace | None], None],
        place: QWidget,
    ) -> None:
        """
        Args:
            draw: draws the stage anew; the pictures are those of a workspace that was, or of the draft.
        """
        super().__init__(place)
        self._session = session
        self._overlay = overlay
        self._draw = draw
        self._place = place
        self.before: Before | None = None
        """What shows in place of the draft."""
        self._point: Before | None = None
        """The point of the history that F7 turns to, while the sheet is open."""
        self._then: Workspace | None = None
        self.sheet = HistorySheet(session, scheme, place)
        self.sheet.looked.connect(self._look)
        self.sheet.back.connect(self._bring_back)
        self.sheet.thing_back.connect(self._bring_thing_back)
        self.sheet.closed.connect(self._closed)

    def forget(self) -> None:
        """The draft shows again: it has changed."""
        self.before = None
        self._overlay.looking_back = False
        self._overlay.shown.framed = frozenset()

    def fit(self, size: QSize) -> None:
        """Keep the sheet at the right of the place."""
        self.sheet.setGeometry(size.width() - WIDTH - 8, 8, WIDTH, size.height() - 16)

    # The last release, and back

    def turn(self) -> None:
        """Show the last release, or the chosen point, in place of the draft; and the draft again."""
        if self.before is not None:
            called, framed = self.before.called, self.before.framed()
            self.forget()
            self._draw(None)
            self._overlay.shown.framed = framed
            self._overlay.update()
            self._session.say(tr("The draft; what differs from {called} is framed.", called=called))
            return
        if self._point is not None and self.sheet.isVisible():
            self._show(self._point, self._then)
            return
        try:
            number, outcome = last_release(self._session)
        except RimecrestError as error:
            self._session.say(str(error))
            return
        before = self._compared(tr("release {number}", number=number), outcome)
        self._show(before, None)
        told = tr("Release {number}, as it is installed. F7 shows the draft again.", number=number)
        if not before.differences:
            told = tr("The draft and release {number} are the same here.", number=number)
        self._session.say(told)

    def _compared(self, called: str, outcome: Outcome) -> Before:
        workspace, aim = self._session.workspace, self._session.aim
        targets = workspace.targets(aim.stack(workspace), aim.app)
        return Before(called, outcome, tuple(compare(outcome, self._session.outcome(), targets)))

    def _show(self, before: Before, then: Workspace | None) -> None:
        self.before = before
        self._overlay.caret.leave()
        self._overlay.looking_back = True
        self._overlay.shown.framed = before.framed()
        self._draw(then)

    # The history

    def open(self) -> None:
        """Open the sheet: of what is held on the stage, of the layout that is aimed at, or of everything."""
        workspace, aim = self._session.workspace, self._session.aim
        path = LAYOUTS.path((aim.layer, aim.app))
        title = workspace.catalogues[aim.app].title if aim.app in workspace.catalogues else aim.app
        layout = Scope(f"{owned(workspace.layer_title(aim.layer))} {title}", path)
        scopes = [layout, Scope(tr("everything"))]
        scopes[:0] = [
            Scope(tr("“{title}”", title=title), path, thing, title) for thing, title in self._held()
        ]
        self.fit(self._place.size())
        self.sheet.open(scopes)

    def _held(self) -> list[tuple[str, str]]:
        """What is held or chosen on the stage, and around it: identities and names."""
        caret, seen = self._overlay.caret, self._session.outcome()
        if caret.held is not None:
            thing = seen.tab(caret.held) or seen.row(caret.held)
            return [(caret.held, thing.title)] if thing is not None else []
        chosen = [(row, item) for row, item in seen.buttons() if item.id in caret.selected]
        if len(chosen) != 1:
            return []
        row, item = chosen[0]
        return [(item.id, item.label), (row.id, row.title)]

    def _look(self, point: int, said: str) -> None:
        """Show how it was at a point."""
        try:
            self._then = self._session.as_it_was(point)
            before = self._compared(said, self._session.outcome(self._then))
        except RimecrestError as error:
            self._point = None
            self.sheet.tell(str(error), [], differs=False)
            return
        self._point = before
        self._show(before, self._then)
        number = len(before.differences)
        differs = counted(number, tr("difference")) if number else tr("No difference here")
        told = tr("On the stage: {said}. F7 turns to today and back. {differs}.", said=said, differs=differs)
        back, now = self._edit(self.sheet.scope), self._session.workspace
        there = back is None or back.on(now) != now
        if number and not there:
            told += " " + tr("{what} is the same.", what=self.sheet.scope.words)
        self.sheet.tell(told, list(before.differences), differs=there)

    def _edit(self, scope: Scope) -> BringBack | None:
        """What brings back what one looks for, as it was at the point that shows; None: it is everything."""
        if not scope.path or self._then is None:
            return None
        aim = self._session.aim
        return BringBack(self._then.layout(aim.layer, aim.app), scope.thing, scope.title)

    def _bring_back(self, point: int, said: str, scope: Scope) -> None:
        if not scope.path:
            done = self._session.bring_everything_back(point, said)
        elif (back := self._edit(scope)) is None:
            return
        else:
            done = self._session.do(back)
        if done:
            self.sheet.shut()
            self._session.say(tr("As it was {said}; undo takes that back.", said=said))

    def _bring_thing_back(self, identity: str, _sentence: str) -> None:
        if self._then is None:
            return
        aim = self._session.aim
        if self._session.do(BringBack(self._then.layout(aim.layer, aim.app), identity)):
            self.sheet.look_again()

    def _closed(self) -> None:
        self._point = self._then = None
        self.forget()
        self._draw(None)
        self._overlay.setFocus()
