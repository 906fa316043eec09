"""Try it: the real application on a scratch profile, with the draft, which it follows live."""

from __future__ import annotations

import base64
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QPixmap

from rimecrest.core.keys.traits import NOWHERE
from rimecrest.core.release.stack import ShelvedMacro
from rimecrest.core.release.stack_sources import draft_stack
from rimecrest.core.words import tr
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.studio.shared.scratch_process import ScratchApp
from rimecrest.studio.shared.session import Session


def draft_of(session: Session, app: str) -> dict[str, Any]:
    """The draft of the aimed stack for an application, as the link carries it."""
    workspace, aim = session.workspace, session.aim
    seat = aim.find_seat(workspace)
    state = draft_stack(workspace, aim.stack(workspace), app, seat.traits if seat else NOWHERE)
    own = {
        name: ShelvedMacro(layer=MINE, text=file.text, refused=workspace.refused((layer, name)))
        for (layer, name), file in workspace.macros.items()
        if layer == MINE and file.macro.application == app and name not in state.macros
    }
    return state.model_copy(update={"macros": {**state.macros, **own}}).to_data()


def pixmap_of(content: str) -> QPixmap | None:
    """A picture that came over the link."""
    pixmap = QPixmap()
    return pixmap if pixmap.loadFromData(base64.b64decode(content), "PNG") else None


class LivePreview(QObject):
    """One application that is being tried.

    Signals:
        told(sentence): how it goes.
        pictured(pixmap): the document of the running application.
        recorded(name, text, app): a recording ended there; the text is empty when it was thrown away.
        recording(name, steps): what is being recorded there, in sentences; empty name: nothing.
    """

    told = pyqtSignal(str)
    pictured = pyqtSignal(QPixmap)
    recorded = pyqtSignal(str, str, str)
    recording = pyqtSignal(str, list)
    kept_changed = pyqtSignal()

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._scratch = ScratchApp(self)
        self.kept: dict[str, str] = {}
        """The macros that are kept in the document that is being tried: id → text."""
        self._next: tuple[str, dict[str, Any], str] | None = None
        """What to ask as soon as the draft is shown: method, parameters, sentence."""
        self._scratch.ready.connect(self.send_draft)
        self._scratch.refused.connect(self.told)
        self._scratch.failed.connect(self.told)
        self._scratch.noticed.connect(self._noticed)
        self._scratch.gone.connect(self._ended)
        session.changed.connect(self.send_draft)
        session.aimed.connect(self.send_draft)

    @property
    def running(self) -> bool:
        return self._scratch.running

    @property
    def app(self) -> str:
        return self._scratch.app

    def start(self) -> None:
        """Start the aimed application, or bring the draft to the one that runs."""
        app = self._session.aim.app
        if self.running and self.app == app:
            self.send_draft()
            self._scratch.ask("raise", {})
            self.told.emit(
                tr("{app} runs already: its window has the draft, and is in front.", app=app.capitalize())
            )
            return
        self._scratch.start(app)
        self.told.emit(tr("Starting {app} on a scratch profile …", app=app.capitalize()))

    def send_draft(self) -> None:
        """Show the draft as it is now in the running application."""
        if self._session.aim.app == self.app:
            params = {"state": draft_of(self._session, self.app)}
            self._scratch.ask("draft.show", params, lambda _: self._shown())

    def run_macro(self, identity: str) -> None:
        """Run a macro of the draft in the application that is being tried; start it when it does not run."""
        words = tr("It runs in {app}; a question is asked there.", app=self._session.aim.app.capitalize())
        self._do_there("run", {"macro": identity}, words)

    def record(self, name: str) -> None:
        """Record in the application that is being tried; start it when it does not run."""
        words = tr("Recording in {app}: do the chore in its window.", app=self._session.aim.app.capitalize())
        self._do_there("record.start", {"name": name}, words)

    def stop_recording(self) -> None:
        self._scratch.ask("record.stop", {})

    def _do_there(self, method: str, params: dict[str, Any], words: str) -> None:
        self._next = (method, params, words)
        if self._scratch.listens and self.app == self._session.aim.app:
            self.send_draft()
        else:
            self.start()

    def _shown(self) -> None:
        self._ask_picture()
        if self._next is not None:
            (method, params, words), self._next = self._next, None
            self.told.emit(words)
            self._scratch.ask("raise", {})  # what happens there is seen
            self._scratch.ask(method, params)

    def _noticed(self, method: str, params: dict[str, Any]) -> None:
        if method == "run.ended":
            self.told.emit(f"“{params.get('macro')}”: {params.get('sentence') or 'done.'}")
            self._ask_picture()
        elif method == "record.changed":
            self.recording.emit(str(params["name"]) if params["on"] else "", list(params["steps"]))
        elif method == "record.ended":
            self.recorded.emit(str(params["name"]), str(params["text"]), str(params["app"]))

    def keep(self, identity: str, text: str | None) -> None:
        """Keep a macro in the document that is being tried, or (None) take it out."""
        self._scratch.ask("document.put", {"id": identity, "text": text}, lambda _: self._ask_kept())

    def _ask_kept(self) -> None:
        self._scratch.ask("document.macros", {}, self._take_kept)

    def _take_kept(self, kept: dict[str, str]) -> None:
        if kept != self.kept:
            self.kept = kept
            self.kept_changed.emit()

    def _ask_picture(self) -> None:
        self._ask_kept()
        self._scratch.ask("picture", {}, self._show_picture)

    def _show_picture(self, content: str) -> None:
        if (pixmap := pixmap_of(content)) is not None:
            self.pictured.emit(pixmap)

    def _ended(self) -> None:
        self._take_kept({})
        self.recording.emit("", [])
        self.told.emit(tr("{app} was closed.", app=self.app.capitalize()))

    def stop(self) -> None:
        """End the application that is being tried, with the studio."""
        self._scratch.close()
