"""Copying, cutting and pasting on the stage: of items, and of surfaces as wholes."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QMimeData
from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.words import tr
from rimecrest.shell.there import there
from rimecrest.studio.layout import gestures
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.clipboard import Copied, from_clipboard, surface_to_clipboard, to_clipboard
from rimecrest.studio.layout.picture_hands import PictureHands
from rimecrest.studio.layout.presenter import NO_CARET, StagePresenter
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.shared.session import Session


class ClipboardHands:
    """Between the caret and the desktop's clipboard."""

    def __init__(
        self,
        session: Session,
        caret: Caret,
        items: StagePresenter,
        surfaces: SurfacePresenter,
        pictures: PictureHands,
    ) -> None:
        self._session = session
        self._caret = caret
        self._items = items
        self._surfaces = surfaces
        self._pictures = pictures

    def data_of(self, things: Sequence[str], seen: Outcome) -> QMimeData | None:
        """What is dragged out of the window: items, or a surface as a whole; None where nothing can be."""
        aim = self._session.aim
        thing = (seen.tab(things[0]) or seen.row(things[0])) if len(things) == 1 else None
        if thing is not None:
            stored = gestures.surface_as_stored(thing)
            return (
                surface_to_clipboard(stored, aim.layer, aim.app, thing.title) if stored is not None else None
            )
        items = [item for name in things if (item := seen.item(name))]
        return to_clipboard(items, aim.layer, aim.app, cut=False) if items else None

    def copy(self, seen: Outcome, cut: bool) -> None:
        """Copy what is held, or the items that are chosen; cut, they go from where they are."""
        if self._caret.held is not None:
            self._copy_surface(self._caret.held, seen, cut)
            return
        aim = self._session.aim
        items = [item for name in self._caret.chosen() if (item := seen.item(name))]
        if not items:
            nowhere = self._caret.slot() is None
            self._session.say(NO_CARET if nowhere else tr("There is nothing to copy here."))
            return
        data = to_clipboard(items, aim.layer, aim.app, cut)
        self._pictures.add_to(data, items)
        there(QApplication.clipboard()).setMimeData(data)
        if cut:
            self._items.take_off([item.id for item in items])

    def _copy_surface(self, held: str, seen: Outcome, cut: bool) -> None:
        thing = seen.tab(held) or seen.row(held)
        stored = gestures.surface_as_stored(thing) if thing is not None else None
        if stored is None or thing is None:
            self._session.say(tr("A right-click menu cannot be copied as a whole; its items can."))
            return
        aim = self._session.aim
        there(QApplication.clipboard()).setMimeData(
            surface_to_clipboard(stored, aim.layer, aim.app, thing.title)
        )
        self._session.say(tr("“{title}” is copied with all that is in it.", title=thing.title))
        if cut:
            self._surfaces.remove(held)

    def paste(self) -> Copied | None:
        """Paste. Returns what comes from another application: what of it has its like here is to be asked."""
        if self._pictures.paste(self._caret.selected):
            return None
        return self.take(there(QApplication.clipboard()).mimeData())

    def take(self, data: QMimeData | None) -> Copied | None:
        """The same with what was dropped."""
        try:
            copied = from_clipboard(data)
        except RimecrestError as error:
            self._session.say(str(error))
            return None
        if copied is not None and copied.app != self._session.aim.app:
            return copied
        if copied is not None:
            self._items.paste(copied)
        return None
