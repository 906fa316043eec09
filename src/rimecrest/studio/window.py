"""The studio's top-level window: the start screen, or a desk on one workspace."""

from __future__ import annotations

import time
from pathlib import Path
from typing import TYPE_CHECKING, Any, get_args

from PyQt6.QtCore import QEvent, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import QApplication, QMessageBox, QVBoxLayout, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.journal import UnfinishedElsewhere
from rimecrest.core.workspace.left_recordings import taken, waiting
from rimecrest.shell.link_server import LinkServer
from rimecrest.shell.theme import DARK, LIGHT, palette
from rimecrest.studio.desk import Desk
from rimecrest.studio.shared.live_preview import LivePreview
from rimecrest.studio.shared.place import Recorded, Task, Thing
from rimecrest.studio.shared.session import Session, own_folder
from rimecrest.studio.start_screen import StartScreen
from rimecrest.surfaces.on_screen import where_on_screen

if TYPE_CHECKING:
    from rimecrest.studio.start_screen import StartScreen


class StudioWindow(QWidget):
    """The one top-level window: the start screen, or a desk."""

    demo_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.scheme = LIGHT
        self.desk: Desk | None = None
        self._recordings: set[str] = set()
        """The identities of the recordings that were taken over."""
        self.session: Session | None = None
        self._preview: LivePreview | None = None
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._start: StartScreen | None = None
        self.setWindowTitle(tr("Rimecrest"))
        self.setPalette(palette(self.scheme))
        self.resize(1280, 800)
        self.server = LinkServer("studio", self._methods(), self)

    def show_start(self, sentence: str = "") -> None:
        """The start screen, with what went wrong."""
        start = StartScreen(self.scheme)
        start.opened.connect(self.open_folder)
        start.begun.connect(lambda folder: self.open_folder(folder, first=True))
        start.demo_wanted.connect(self.demo_wanted)
        start.say(sentence)
        self._replace(start)
        self._start = start

    def open_folder(self, folder: Path, first: bool = False, complete: bool | None = None) -> bool:
        """Open a workspace; where it cannot be opened, the start screen says why.

        Args:
            complete: what is done with a save that another computer has left unfinished; None asks.
        """
        try:
            session = Session(folder, complete)
        except UnfinishedElsewhere as error:
            if (answer := self._completes(error)) is not None:
                return self.open_folder(folder, first, answer)
            again = tr("It was not opened. Open it again to decide.")
            self._cannot_open(RimecrestError(error.sentence, again))
            return False
        except RimecrestError as error:
            self._cannot_open(error)
            return False
        self._end_session()
        self.session = session
        self._preview = LivePreview(session, self)
        desk = self._show_desk(session, self._preview)
        if first:
            desk.places[desk.at].welcome()
        self.setWindowTitle(tr("{name} · Rimecrest", name=session.workspace.settings.name))
        if session.keeper.read_only:
            session.say(
                tr(
                    "Open read-only: {held_by} has it. Close it there to edit here.",
                    held_by=session.keeper.held_by,
                )
            )
        elif session.workspace.broken:
            path, why = next(iter(session.workspace.broken.items()))
            session.say(tr("{path} cannot be used: {why}. The rest is open.", path=path, why=why))
        if session.recovered:
            session.say(
                tr(
                    "The studio did not close properly last time. Everything is kept: {number}, which Undo "
                    "takes back one by one.",
                    number=counted(session.recovered, "change"),
                )
            )
        QTimer.singleShot(0, self._take_what_was_left)
        return True

    def _cannot_open(self, error: RimecrestError) -> None:
        if self._start is not None:
            self._start.say(str(error))
        else:
            self.show_start(str(error))

    def _completes(self, error: UnfinishedElsewhere) -> bool | None:
        """Ask whether what another computer has begun to save is completed; None: neither now."""
        box = QMessageBox(self)
        box.setObjectName("unfinished-elsewhere")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(error.sentence)
        box.setInformativeText(tr("Complete it only if you know who sent you this folder."))
        complete = box.addButton(tr("Complete it"), QMessageBox.ButtonRole.AcceptRole)
        leave = box.addButton(tr("Leave it out"), QMessageBox.ButtonRole.DestructiveRole)
        cancel = box.addButton(tr("Do not open"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(cancel)
        box.exec()
        clicked = box.clickedButton()
        return None if clicked not in (complete, leave) else clicked is complete

    def _show_desk(self, session: Session, preview: LivePreview) -> Desk:
        desk = Desk(session, self.scheme, preview)
        desk.turned.connect(self.turn_scheme)
        self.setPalette(palette(self.scheme))
        self._replace(desk)
        self._start = None
        self.desk = desk
        desk.focus_place()
        return desk

    def turn_scheme(self) -> None:
        """Light becomes dark, and dark light. The aim and the place stay."""
        self.scheme = DARK if self.scheme is LIGHT else LIGHT
        QApplication.setPalette(palette(self.scheme))
        if self.desk is not None and self.session is not None and self._preview is not None:
            place = self.desk.at
            self._show_desk(self.session, self._preview).go(place)

    def _replace(self, widget: QWidget) -> None:
        if self.desk is not None:
            self.desk.close_down()
        while (item := self._rows.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.hide()
                old.setParent(None)
                old.deleteLater()
        self._rows.addWidget(widget)

    def _end_session(self) -> None:
        if self.desk is not None:
            self.desk.close_down()
        if self._preview is not None:
            self._preview.stop()
        if self.session is not None:
            self.session.close()

    def changeEvent(self, event: QEvent | None) -> None:
        assert event is not None
        super().changeEvent(event)
        if (
            event.type() == QEvent.Type.ActivationChange
            and self.isActiveWindow()
            and self.session is not None
        ):
            self.session.look_again()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        self._end_session()
        self.server.close()
        event.accept()

    # The link: where things are, and what is open, for tests and for assistance that walks the windows.

    def _methods(self) -> dict[str, Any]:
        return {
            "hello": lambda: {"app": "studio", "workspace": str(self.session.folder) if self.session else ""},
            "where": self._where,
            "read": self._read,
            "layers": lambda app: self.desk.layers(app) if self.desk is not None else [],
            "take.up": self._take_up,
            "take.recorded": self._take_recorded,
            "has.recorded": lambda recording: recording in self._recordings,
        }

    def _take_recorded(
        self, app: str, name: str, text: str, document: str, pid: int, recording: str, until: float
    ) -> bool:
        """An application hands over what was recorded there.

        Args:
            recording: its identity: it is taken once.
            until: when the application stops waiting, by the system's monotonic clock; it keeps it then.
        """
        if recording in self._recordings:
            return True
        if self.desk is None or time.monotonic() > until:
            return False
        if not self.desk.take_recorded(Recorded(app, name, text, document, pid)):
            return False
        self._recordings.add(recording)
        self._come_to_the_front()
        return True

    def _take_what_was_left(self) -> None:
        """Take over the recordings of windows whose studio was gone."""
        folder = own_folder() / "recordings"
        for left in waiting(folder) if self.desk is not None else ():
            if self.desk is not None and self.desk.take_recorded(
                Recorded(left.app, left.name, left.text, "", 0)
            ):
                self._recordings.add(left.id)
                taken(folder, left)

    def _come_to_the_front(self) -> None:
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.raise_()
        self.activateWindow()

    def _take_up(self, app: str, what: str, kind: str, name: str, layer: str = "") -> bool:
        """An application asks for something to be changed here."""
        task = next((known for known in get_args(Task) if known == what), None)
        if self.desk is None or task is None or kind not in ("item", "macro"):
            return False
        if not self.desk.take_up(app, task, Thing("item" if kind == "item" else "macro", name), layer):
            return False
        self._come_to_the_front()
        return True

    def _where(self, thing: str) -> list[int] | None:
        found = self.desk.where(thing) if self.desk is not None else None
        return found or where_on_screen(None, thing)

    def _read(self, name: str) -> Any:
        if self.desk is None:
            raise RimecrestError(tr("No workspace is open."))
        return self.desk.read(name)
