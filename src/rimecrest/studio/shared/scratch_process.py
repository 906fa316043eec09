"""An application on a scratch profile: started as a process of its own, spoken to over the link."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, QProcess, QProcessEnvironment, QTimer, pyqtSignal

from rimecrest.core.words import tr
from rimecrest.link.addresses import listening
from rimecrest.link.launch import own_command
from rimecrest.shell.there import there
from rimecrest.studio.shared.link_client import Answer, LinkClient

PATIENCE = 20_000
"""Milliseconds an application may take to listen."""


class ScratchApp(QObject):
    """One such application at a time.

    Args:
        hidden: without a window on the screen, for pictures only.

    Signals:
        ready: requests can be sent.
        noticed(method, params): it told something.
        refused(sentence): it refused a request.
        gone: it was closed, or ended.
        failed(sentence): it could not be started, or does not listen.
    """

    ready = pyqtSignal()
    noticed = pyqtSignal(str, dict)
    refused = pyqtSignal(str)
    gone = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject, hidden: bool = False) -> None:
        super().__init__(parent)
        self.app = ""
        self._hidden = hidden
        self._scratch = tempfile.TemporaryDirectory(prefix="rimecrest-scratch-")
        self._process: QProcess | None = None
        self._client: LinkClient | None = None
        self._looks = 0
        self._looking = QTimer(self)
        self._looking.setInterval(50)
        self._looking.timeout.connect(self._look)

    @property
    def folder(self) -> Path:
        """A folder that goes with it."""
        return Path(self._scratch.name)

    @property
    def running(self) -> bool:
        return self._process is not None and self._process.state() != QProcess.ProcessState.NotRunning

    @property
    def listens(self) -> bool:
        return self._client is not None

    def start(self, app: str) -> None:
        """Start an application; `ready` tells when it listens."""
        self.end()
        self.app = app
        process = QProcess(self)
        environment = QProcessEnvironment.systemEnvironment()
        if self._hidden:
            environment.insert("QT_QPA_PLATFORM", "offscreen")
        process.setProcessEnvironment(environment)
        process.setProcessChannelMode(QProcess.ProcessChannelMode.ForwardedChannels)
        process.finished.connect(self._ended)
        process.errorOccurred.connect(self._trouble)
        profile = self.folder / "profile"
        profile.mkdir(exist_ok=True)
        self._process = process
        program, *arguments = own_command("app", app, "--profile", str(profile))
        process.start(program, arguments)
        self._looks = 0
        self._looking.start()

    def _trouble(self, error: QProcess.ProcessError) -> None:
        if error is QProcess.ProcessError.FailedToStart and self._process is not None:
            self.failed.emit(
                tr(
                    "{app} cannot be started: {reason}.",
                    app=self.app,
                    reason=self._process.errorString(),
                )
            )

    def _look(self) -> None:
        self._looks += 1
        if not self.running or self._looks * self._looking.interval() > PATIENCE:
            self._looking.stop()
            if self.running:
                self.failed.emit(tr("{app} runs but does not listen.", app=self.app.capitalize()))
            return
        wanted = f"{self.app}-{there(self._process).processId()}"
        path = next((path for path in listening(self.app) if path.stem == wanted), None)
        if path is not None and self._client is None:
            self._looking.stop()
            self._client = LinkClient(path, self)
            self._client.connected.connect(self.ready)
            self._client.refused.connect(self.refused)
            self._client.noticed.connect(self.noticed)
            self._client.gone.connect(self._forget)
            self._client.open()

    def ask(self, method: str, params: dict[str, Any], answer: Answer = lambda result: None) -> None:
        """Send a request. Nothing happens while it does not listen."""
        if self._client is not None:
            self._client.ask(method, params, answer)

    def _forget(self) -> None:
        self._client = None

    def _ended(self) -> None:
        self._client = None
        self._looking.stop()
        self.gone.emit()

    def end(self) -> None:
        """End the application, if one runs."""
        self._looking.stop()
        if self._client is not None:
            self._client.close()
            self._client = None
        if self.running:
            there(self._process).blockSignals(True)
            there(self._process).terminate()
            if not there(self._process).waitForFinished(3000):
                there(self._process).kill()
                there(self._process).waitForFinished(1000)
        self._process = None

    def close(self) -> None:
        """End, with the studio: the scratch folder goes."""
        self.end()
        self._scratch.cleanup()
