"""Pictures of other programs dropped or pasted onto a button of the stage, and a button's copied out."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QMimeData, Qt
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.seen import SeenButton, SeenItem
from rimecrest.core.words import tr
from rimecrest.shell.there import there
from rimecrest.studio.layout.clipboard import MIME
from rimecrest.studio.pictures.copying_out import add_picture
from rimecrest.studio.pictures.offered_data import holds_picture
from rimecrest.studio.pictures.presenter import PicturePresenter, content_named, subject_of
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.frame import Frame


class PictureHands:
    """Gives buttons of the stage the pictures that come from outside."""

    def __init__(self, frame: Frame, session: Session) -> None:
        self._frame = frame
        self._session = session

    def paste(self, chosen: Sequence[str]) -> bool:
        """Give the chosen button the picture on the clipboard. Returns whether there is one, and no items."""
        data = there(QApplication.clipboard()).mimeData()
        if data is None or data.hasFormat(MIME) or not holds_picture(data):
            return False
        seen = self._frame.outcome
        buttons = [item for name in chosen if seen and isinstance(item := seen.item(name), SeenButton)]
        if len(buttons) == 1:
            self._give(buttons[0], data)
        else:
            self._session.say(tr("Choose the button that shall have the picture, then paste it."))
        return True

    def comes(self, event: QDropEvent) -> SeenButton | None:
        """The button that a picture over the stage can be dropped on."""
        data = event.mimeData()
        point = event.position().toPoint()
        seen = self._frame.outcome
        if data is None or data.hasFormat(MIME) or not holds_picture(data) or seen is None:
            return None
        for _, item in seen.buttons():
            box = self._frame.rect_of(item.id)
            if box is not None and box.contains(point):
                event.setDropAction(Qt.DropAction.CopyAction)
                event.accept()
                return item
        return None

    def drop(self, event: QDropEvent) -> None:
        """Give the button beneath the picture that is dropped."""
        item, data = self.comes(event), event.mimeData()
        if item is not None and data is not None:
            self._give(item, data)

    def _give(self, item: SeenButton, data: QMimeData) -> None:
        from rimecrest.studio.pictures.bringing_in import from_clipboard  # noqa: PLC0415  it brings what converts

        aim = self._session.aim
        presenter = PicturePresenter(self._session, subject_of(aim.layer, aim.app, item))
        try:
            arrived = from_clipboard(data)
        except RimecrestError as error:
            self._session.say(str(error))
            return
        if presenter.put(arrived.content, arrived.name):
            self._session.say(tr("“{name}” has the picture. {how}", name=item.label, how=arrived.says))

    def add_to(self, data: QMimeData, items: Sequence[SeenItem]) -> None:
        """What is copied of one button has its picture as well, for other programs."""
        if len(items) == 1 and isinstance(item := items[0], SeenButton) and item.picture:
            content = content_named(self._session.workspace, item.picture)
            add_picture(data, self._frame.painting.pictures, item.picture, content)
