"""The studio's side of the link: requests to a running application, answered when they are."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtNetwork import QLocalSocket

from rimecrest.core.log import log
from rimecrest.link.wire import Failure, Notice, PeerMisbehaved, Reply, Request, Wire, encode

Answer = Callable[[Any], None]


class LinkClient(QObject):
    """A connection to one application.

    Signals:
        connected: requests can be sent.
        gone: the application ended, or was dropped for sending rubbish.
        refused(sentence): it refused a request.
    """

    connected = pyqtSignal()
    gone = pyqtSignal()
    refused = pyqtSignal(str)
    noticed = pyqtSignal(str, dict)

    def __init__(self, path: Path, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._wire = Wire()
        self._waiting: dict[int, Answer] = {}
        self._next = 0
        self._socket = QLocalSocket(self)
        self._socket.connected.connect(self.connected)
        self._socket.disconnected.connect(self.gone)
        self._socket.readyRead.connect(self._read)
        self._path = path

    def open(self) -> None:
        """Connect. A local socket connects at once, so whoever listens to the signals does so before."""
        self._socket.connectToServer(str(self._path))

    def ask(self, method: str, params: dict[str, Any], answer: Answer = lambda result: None) -> None:
        self._next += 1
        self._waiting[self._next] = answer
        self._socket.write(encode(Request(self._next, method, params)))
        self._socket.flush()

    def close(self) -> None:
        self._socket.abort()

    def _read(self) -> None:
        try:
            messages = self._wire.feed(self._socket.readAll().data())
        except PeerMisbehaved as error:
            log.warning("application dropped", reason=str(error))
            self._socket.abort()
            return
        for message in messages:
            if isinstance(message, Reply):
                self._waiting.pop(message.id, lambda result: None)(message.result)
            elif isinstance(message, Failure):
                self._waiting.pop(message.id or 0, None)
                self.refused.emit(message.message)
            elif isinstance(message, Notice):
                self.noticed.emit(message.method, message.params)
