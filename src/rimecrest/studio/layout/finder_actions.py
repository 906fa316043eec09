"""What the finder offers to do on the stage: begin surfaces, compare, look back, list what is hidden."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.search import Match
from rimecrest.core.words import tr
from rimecrest.studio.layout.looking_back import LookingBack
from rimecrest.studio.layout.overlay import Overlay
from rimecrest.studio.shared.place import action
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.frame import Frame


class FinderActions:
    """Does what was found."""

    def __init__(
        self,
        session: Session,
        frame: Frame,
        overlay: Overlay,
        past: LookingBack,
        wanted: Callable[[], None],
    ) -> None:
        """`wanted`: have the stage come to the fore."""
        self._session = session
        self._frame = frame
        self._overlay = overlay
        self._past = past
        self._wanted = wanted

    def rows(self) -> list[Match]:
        """The rows of the finder."""
        return [
            action(tr("New tab"), self._new_tab, more="ribbon"),
            action(tr("New toolbar"), self._new_toolbar, more="bar"),
            action(tr("New panel"), self._new_panel, more="area beside the document form"),
            action(tr("Compare with the last release"), self._compare_here, more="before after difference"),
            action(
                tr("As it was on …"), self._open_past, tr("action · F8"), tr("history restore back yesterday")
            ),
            action(tr("Hidden things"), self._show_hidden, more="show again off by default"),
        ]

    def _new_tab(self) -> None:
        self._wanted()
        tabs = self._session.outcome().tabs
        identity = self._overlay.surfaces.new_tab(tabs[-1].id if tabs else None)
        if identity is not None:
            self._frame.choose_tab(identity)
            self._overlay.caret.leave()
            self._overlay.rename(identity)

    def _new_toolbar(self) -> None:
        self._wanted()
        identity = self._overlay.surfaces.new_bar("top")
        if identity is not None:
            self._overlay.caret.put_after(identity, None)
            self._overlay.redrawn()
            self._overlay.setFocus()

    def _new_panel(self) -> None:
        self._wanted()
        identity = self._overlay.surfaces.new_panel()
        if identity is not None:
            self._overlay.redrawn()
            self._overlay.caret.hold(identity)
            self._overlay.rename(identity)

    def _compare_here(self) -> None:
        self._wanted()
        self._past.turn()

    def _open_past(self) -> None:
        self._wanted()
        self._past.open()

    def _show_hidden(self) -> None:
        self._wanted()
        if self._overlay.hidden.isVisible():
            self._overlay.hidden.open()
        else:
            self._session.say(tr("Nothing is hidden here."))
