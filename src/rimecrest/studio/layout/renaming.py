"""Giving a thing on the stage another name, where it stands."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.layout.seen import Outcome, SeenButton, SeenControl, SeenSubmenu
from rimecrest.shell.glyphs import said_of_unseen
from rimecrest.shell.theme import font
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.naming import Naming
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.studio.layout.stage_hands import Stage
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.shared.session import Session


class Renaming:
    """Opens the field over a thing, and takes the name over."""

    def __init__(
        self,
        stage: Stage,
        session: Session,
        caret: Caret,
        naming: Naming,
        presenter: StagePresenter,
        surfaces: SurfacePresenter,
        named: Callable[[str], None],
    ) -> None:
        """`named` is told the identity of what got its name by a key."""
        self._stage = stage
        self._session = session
        self._caret = caret
        self._naming = naming
        self._presenter = presenter
        self._surfaces = surfaces
        self._named = named

    def begin(self, identity: str, seen: Outcome | None) -> None:
        """Edit a thing's words where it stands."""
        self._naming.close()
        box = self._stage.box_of(identity)
        if box is None or box.isNull() or seen is None:
            return
        what, now = _words_of(seen, identity)

        def enter(text: str, by_key: bool) -> None:
            called = self._surfaces.call_panel(identity, text) if text != now else None
            if called is not None:
                self._stage.redrawn()
                self._caret.hold(called)
            done = called is not None or self._presenter.rename(identity, what, now, text)
            if done and (unseen := said_of_unseen(text, font(13))):
                self._session.say(unseen)
            if by_key:
                self._named(called or identity)
            self._stage.update()

        self._naming.over_thing(box, now, enter)


def _words_of(seen: Outcome, identity: str) -> tuple[str, str]:
    """Which field has the words of a thing, and what they are now."""
    match seen.item(identity):
        case SeenControl(kind=kind, caption=caption):
            return kind, caption
        case SeenButton(label=label):
            return "label", label
        case SeenSubmenu(title=title):
            return "submenu", title
    return "title", seen.title_of(identity)
