"""Recording from the studio: in a scratch window, the default, or in one that runs already."""

from __future__ import annotations

import contextlib
from pathlib import Path
from typing import Any

from msgspec import Struct
from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.words import tr
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line, LinkRefused
from rimecrest.studio.shared.link_client import LinkClient
from rimecrest.studio.shared.live_preview import LivePreview

ANSWER = 1.0
"""Seconds that a running window may take to say what it is."""


class Window(Struct, frozen=True):
    """A window that could be recorded in."""

    path: Path
    app: str
    title: str
    document: str

    @property
    def words(self) -> str:
        return f"“{self.document}” in {self.title}"

    def keep(self, identity: str, text: str) -> None:
        """Keep a macro in the document that is worked in there. Raises LinkRefused."""
        with Line(self.path, timeout=ANSWER) as line:
            line.ask("document.put", id=identity, text=text)


def running_windows(apps: tuple[str, ...]) -> list[Window]:
    """The windows of these applications that run on this desk."""
    found = []
    for path in listening():
        app = path.stem.rpartition("-")[0]
        if app in apps:
            with contextlib.suppress(LinkRefused), Line(path, timeout=ANSWER) as line:
                told = line.ask("hello")
                found.append(Window(path, app, str(told["title"]), str(told["document"]).removesuffix(" *")))
    return found


class Recordings(QObject):
    """What is being recorded, wherever.

    Signals:
        changed(name, steps): what is being recorded, in sentences; an empty name: nothing.
        recorded(name, text, app): a recording ended; the text is empty when it was thrown away.
        told(sentence): how it goes.
    """

    changed = pyqtSignal(str, list)
    recorded = pyqtSignal(str, str, str)
    told = pyqtSignal(str)

    def __init__(self, trying: LivePreview, parent: QObject) -> None:
        super().__init__(parent)
        self._trying = trying
        self._client: LinkClient | None = None
        self.window: Window | None = None
        """The window that was recorded in last; None: a scratch window."""
        trying.recording.connect(self.changed)
        trying.recorded.connect(self.recorded)

    def in_scratch(self, name: str) -> None:
        """Record in a scratch window with the draft."""
        self._leave()
        self.window = None
        self._trying.record(name)

    def in_window(self, window: Window, name: str) -> None:
        """Record in a window that runs."""
        self._leave()
        self.window = window
        self._client = LinkClient(window.path, self)
        self._client.noticed.connect(self._noticed)
        self._client.refused.connect(self.told)
        self._client.gone.connect(lambda: self.changed.emit("", []))
        self._client.open()
        self._client.ask("record.start", {"name": name})
        self.told.emit(tr("Recording in {words}: do the chore there.", words=window.words))

    def stop(self) -> None:
        """Stop, wherever it records."""
        if self._client is not None:
            self._client.ask("record.stop", {})
        else:
            self._trying.stop_recording()

    def _leave(self) -> None:
        if self._client is not None:
            self._client.close()
            self._client = None

    def _noticed(self, method: str, params: dict[str, Any]) -> None:
        if method == "record.changed":
            self.changed.emit(str(params["name"]) if params["on"] else "", list(params["steps"]))
        elif method == "record.ended":
            self.recorded.emit(str(params["name"]), str(params["text"]), str(params["app"]))
            self._leave()
