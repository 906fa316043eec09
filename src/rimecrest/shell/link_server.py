"""The link's listening side: JSON-RPC over a Unix socket that only this user can open.

A peer that sends rubbish is dropped with a log line; one that sends nothing costs nothing.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from pydantic import ConfigDict, validate_call
from PyQt6.QtCore import QObject
from PyQt6.QtNetwork import QLocalServer, QLocalSocket

from rimecrest.core.errors import RimecrestError
from rimecrest.core.log import log
from rimecrest.core.words import tr
from rimecrest.link import Failure, Notice, PeerMisbehaved, Reply, Request, Wire, encode, socket_path
from rimecrest.link.wire import NO_SUCH_METHOD

_STRICT = ConfigDict(strict=True)
"""A number is no text: what comes over the link is what its method says, or is refused."""
Method = Callable[..., Any]


class LinkServer(QObject):
    """Answers requests with the methods it is given.

    A method gets the request's parameters by name and returns what JSON can hold; a RimecrestError becomes
    the answer's message.
    """

    def __init__(self, app: str, methods: Mapping[str, Method], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._methods = dict(methods)
        self._strict: dict[str, Method] = {}
        """Those that somebody called: what holds parameters to their types is made for each then."""
        self.trouble = ""
        """Why nobody can reach this application; empty while they can."""
        self._wires: dict[QLocalSocket, Wire] = {}
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._accept)
        self.path: Path | None = None
        try:
            self._listen(socket_path(app, os.getpid()))
        except (RimecrestError, OSError) as error:
            log.warning("link cannot listen", reason=str(error))
            self.trouble = tr("Nobody can reach this window from outside: {reason}", reason=error)

    def _listen(self, path: Path) -> None:
        path.unlink(missing_ok=True)
        if not self._server.listen(str(path)):
            raise RimecrestError(f"{path}: {self._server.errorString()}.")
        path.chmod(0o600)
        self.path = path

    def close(self) -> None:
        self._server.close()
        if self.path is not None:
            self.path.unlink(missing_ok=True)

    @property
    def heard(self) -> bool:
        """Whether anybody is connected."""
        return bool(self._wires)

    def tell(self, method: str, params: Mapping[str, Any]) -> None:
        """Send a notice to everybody who is connected."""
        for socket in self._wires:
            socket.write(encode(Notice(method, dict(params))))

    def _accept(self) -> None:
        while (socket := self._server.nextPendingConnection()) is not None:
            self._wires[socket] = Wire()
            socket.readyRead.connect(lambda socket=socket: self._read(socket))
            socket.disconnected.connect(lambda socket=socket: self._forget(socket))
            if socket.bytesAvailable():
                self._read(socket)

    def _forget(self, socket: QLocalSocket) -> None:
        if self._wires.pop(socket, None) is not None:
            socket.deleteLater()

    def _read(self, socket: QLocalSocket) -> None:
        wire = self._wires.get(socket)
        if wire is None:
            return
        try:
            messages = wire.feed(socket.readAll().data())
        except PeerMisbehaved as error:
            log.warning("link peer dropped", reason=str(error))
            socket.abort()
            self._forget(socket)
            return
        for message in messages:
            if isinstance(message, Request):
                socket.write(encode(self._answer(message)))
                socket.flush()

    def _answer(self, request: Request) -> Reply | Failure:
        method = self._methods.get(request.method)
        if method is None:
            return Failure(
                request.id, tr("There is no method “{method}”.", method=request.method), NO_SUCH_METHOD
            )
        try:
            if request.method not in self._strict:
                self._strict[request.method] = validate_call(config=_STRICT)(method)
            return Reply(request.id, self._strict[request.method](**request.params))
        except RimecrestError as error:
            return Failure(request.id, str(error))
        except (TypeError, ValueError) as error:
            log.warning("link request refused", method=request.method, reason=str(error))
            return Failure(request.id, tr("{method}: the parameters do not fit.", method=request.method))
        except Exception as error:
            # Whoever asked waits for an answer, whatever went wrong here.
            log.error("link request failed", method=request.method, exc_info=error)
            return Failure(
                request.id,
                tr(
                    "{method}: something went wrong ({name}).",
                    method=request.method,
                    name=type(error).__name__,
                ),
            )
