"""Try it: the real application on a scratch profile, with the draft, which it follows live."""

from __future__ import annotations

import base64
import sys
import tempfile
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, QProcess, QProcessEnvironment, QTimer, pyqtSignal
from PyQt6.QtGui import QPixmap

from rimecrest.core.release import draft_stack
from rimecrest.link import listening
from rimecrest.studio.linkclient import LinkClient
from rimecrest.studio.session import Session

PATIENCE = 20_000
"""Milliseconds an application may take to listen."""


class Trying(QObject):
    """One application that is being tried.

    Signals:
        told(sentence): how it goes.
        pictured(pixmap): the document of the running application.
    """

    told = pyqtSignal(str)
    pictured = pyqtSignal(object)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._scratch = tempfile.TemporaryDirectory(prefix="rimecrest-try-")
        self._process: QProcess | None = None
        self._client: LinkClient | None = None
        self._app = ""
        self._looks = 0
        self._next = ""
        """The macro to run as soon as the draft is shown."""
        self._looking = QTimer(self)
        self._looking.setInterval(50)
        self._looking.timeout.connect(self._look)
        session.changed.connect(self.send_draft)
        session.aimed.connect(self.send_draft)

    @property
    def running(self) -> bool:
        return self._process is not None and self._process.state() != QProcess.ProcessState.NotRunning

    def start(self) -> None:
        """Start the aimed application, or bring the draft to the one that runs."""
        if self.running:
            self.send_draft()
            self.told.emit("It runs already and has the draft; look for its window.")
            return
        self._app = self._session.aim.app
        process = QProcess(self)
        environment = QProcessEnvironment.systemEnvironment()
        process.setProcessEnvironment(environment)
        process.setProcessChannelMode(QProcess.ProcessChannelMode.ForwardedChannels)
        process.finished.connect(self._ended)
        process.errorOccurred.connect(
            lambda _: self.told.emit(f"{self._app} cannot be started: {process.errorString()}.")
        )
        scratch = Path(self._scratch.name) / "profile"
        scratch.mkdir(exist_ok=True)
        self._process = process
        process.start(sys.executable, ["-m", "rimecrest", "app", self._app, "--profile", str(scratch)])
        self._looks = 0
        self._looking.start()
        self.told.emit(f"Starting {self._app.capitalize()} on a scratch profile …")

    def _look(self) -> None:
        self._looks += 1
        if not self.running or self._looks * self._looking.interval() > PATIENCE:
            self._looking.stop()
            if self.running:
                self.told.emit(f"{self._app.capitalize()} runs but does not listen; the draft was not sent.")
            return
        wanted = f"{self._app}-{self._process.processId()}"
        path = next((path for path in listening(self._app) if path.stem == wanted), None)
        if path is not None and self._client is None:
            self._looking.stop()
            self._client = LinkClient(path, self)
            self._client.connected.connect(self.send_draft)
            self._client.refused.connect(self.told)
            self._client.noticed.connect(self._noticed)
            self._client.gone.connect(self._forget)
            self._client.open()

    def send_draft(self) -> None:
        """Show the draft as it is now in the running application."""
        aim = self._session.aim
        if self._client is None or aim.app != self._app:
            return
        workspace = self._session.workspace
        seat = aim.find_seat(workspace)
        state = draft_stack(workspace, aim.stack(workspace), aim.app, seat.keyboard if seat else "")
        self._client.ask("draft.show", {"state": state.to_data()}, lambda _: self._shown())

    def run_macro(self, identity: str) -> None:
        """Run a macro of the draft in the application that is being tried; start it when it does not run."""
        self._next = identity
        if self.running and self._client is not None:
            self.send_draft()
        else:
            self.start()

    def _shown(self) -> None:
        self._ask_picture()
        if self._next and self._client is not None:
            self.told.emit(f"It runs in {self._app.capitalize()}; a question is asked there.")
            identity, self._next = self._next, ""
            self._client.ask("run", {"macro": identity})

    def _noticed(self, method: str, params: dict[str, Any]) -> None:
        if method == "run.ended":
            self.told.emit(f"“{params.get('macro')}”: {params.get('sentence') or 'done.'}")
            self._ask_picture()

    def _ask_picture(self) -> None:
        if self._client is not None:
            self._client.ask("picture", {}, self._show_picture)

    def _show_picture(self, content: str) -> None:
        pixmap = QPixmap()
        if pixmap.loadFromData(base64.b64decode(content), "PNG"):
            self.pictured.emit(pixmap)

    def _forget(self) -> None:
        self._client = None

    def _ended(self) -> None:
        self._client = None
        self._looking.stop()
        self.told.emit(f"{self._app.capitalize()} was closed.")

    def stop(self) -> None:
        """End the application that is being tried, with the studio."""
        if self._client is not None:
            self._client.close()
        if self.running:
            self._process.blockSignals(True)
            self._process.terminate()
            if not self._process.waitForFinished(3000):
                self._process.kill()
                self._process.waitForFinished(1000)
        self._scratch.cleanup()
