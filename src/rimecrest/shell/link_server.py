"""The link's listening side: JSON-RPC over a Unix socket that only this user can open.

A peer that sends rubbish is disconnected and logged. Requests are answered one per peer in turn, so that no
peer can hold up the others. A peer that does not read its answers gets no more of them.
"""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path
from typing import Any

from msgspec import Struct, field
from pydantic import ConfigDict, validate_call
from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtNetwork import QLocalServer, QLocalSocket

from rimecrest.core.errors import RimecrestError
from rimecrest.core.log import log
from rimecrest.core.words import tr
from rimecrest.link.addresses import socket_path
from rimecrest.link.wire import (
    LONGEST_LINE,
    NO_SUCH_METHOD,
    Failure,
    Notice,
    PeerMisbehaved,
    Reply,
    Request,
    Wire,
    encode,
)
from rimecrest.shell.later import Later

_STRICT = ConfigDict(strict=True)
"""A number is no text: what comes over the link is what its method says, or is refused."""
Method = Callable[..., Any]
READ_AT_ONCE = 64 * 1024
"""Bytes read from a peer at once."""
MOST_PEERS = 200
"""Limit on connected peers; a studio and an agent are two."""
MOST_UNREAD = 8 * 1024 * 1024
"""Limit on unread answers per peer in bytes: half of the longest message."""


class _Peer(Struct):
    """A connected peer and its unanswered requests, in order."""

    wire: Wire = field(default_factory=Wire)
    asked: deque[Request] = field(default_factory=deque)


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
        self._peers: dict[QLocalSocket, _Peer] = {}
        self._turn = QTimer(self)
        self._turn.setSingleShot(True)
        self._turn.timeout.connect(self._answer_next)
        self._server = QLocalServer(self)
        self._server.setListenBacklogSize(MOST_PEERS)
        self._server.setMaxPendingConnections(MOST_PEERS)
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
        return bool(self._peers)

    def tell(self, method: str, params: Mapping[str, Any]) -> None:
        """Send a notice to everybody who is connected."""
        for socket in [*self._peers]:
            if socket.bytesToWrite() > MOST_UNREAD:
                self._drop(socket, "does not read")
            else:
                socket.write(encode(Notice(method, dict(params))))

    def _accept(self) -> None:
        while (socket := self._server.nextPendingConnection()) is not None:
            self._peers[socket] = _Peer()
            # What is not read yet stays with the system, which lets the peer wait.
            socket.setReadBufferSize(READ_AT_ONCE)
            socket.readyRead.connect(lambda socket=socket: self._read(socket))
            socket.bytesWritten.connect(lambda _, socket=socket: self._read(socket))
            socket.disconnected.connect(lambda socket=socket: self._forget(socket))
            if len(self._peers) > MOST_PEERS:
                self._drop(socket, "is one too many")
            elif socket.bytesAvailable():
                self._read(socket)

    def _drop(self, socket: QLocalSocket, reason: str) -> None:
        log.warning("link peer dropped", reason=reason)
        socket.abort()
        self._forget(socket)

    def _forget(self, socket: QLocalSocket) -> None:
        if self._peers.pop(socket, None) is not None:
            socket.deleteLater()

    def _read(self, socket: QLocalSocket) -> None:
        """Read from a peer, unless it has unread answers or unanswered requests."""
        peer = self._peers.get(socket)
        if peer is None or socket.bytesToWrite() > MOST_UNREAD:
            return
        if not peer.asked:
            try:
                messages = peer.wire.feed(socket.read(READ_AT_ONCE))
            except PeerMisbehaved as error:
                self._drop(socket, str(error))
                return
            peer.asked.extend(message for message in messages if isinstance(message, Request))
        if peer.asked or socket.bytesAvailable():
            self._turn.start(0)

    def _answer_next(self) -> None:
        """Answer one request per peer, then let the event loop run."""
        for socket, peer in [*self._peers.items()]:
            if socket not in self._peers or socket.bytesToWrite() > MOST_UNREAD:
                continue
            if peer.asked:
                request = peer.asked.popleft()
                # An answer may let the event loop run, as while something is asked: others have their turn.
                self._turn.start(0)
                answer = self._answer(request)
                if isinstance(answer, Later):
                    answer.answered.connect(partial(self._send_later, socket, request.id))
                else:
                    self._send(socket, answer)
            if socket in self._peers:
                self._read(socket)

    def _send_later(self, socket: QLocalSocket, id: int, answer: Any) -> None:
        failed = isinstance(answer, RimecrestError)
        self._send(socket, Failure(id, str(answer)) if failed else Reply(id, answer))

    def _send(self, socket: QLocalSocket, answer: Reply | Failure) -> None:
        """Send an answer, unless the peer has gone."""
        line = self._encoded(answer)
        if socket in self._peers:
            socket.write(line)
            socket.flush()

    @staticmethod
    def _encoded(answer: Reply | Failure) -> bytes:
        """Encode an answer; if that is impossible, encode a failure that says so."""
        try:
            line = encode(answer)
        except (TypeError, ValueError, RecursionError) as error:
            log.error("link answer not sent", exc_info=error)
            return encode(Failure(answer.id, tr("The answer is nothing that can be sent.")))
        if len(line) <= LONGEST_LINE:
            return line
        most = LONGEST_LINE >> 20
        return encode(Failure(answer.id, tr("The answer has more than {size} MiB.", size=most)))

    def _answer(self, request: Request) -> Reply | Failure | Later:
        method = self._methods.get(request.method)
        if method is None:
            return Failure(
                request.id, tr("There is no method “{method}”.", method=request.method), NO_SUCH_METHOD
            )
        try:
            if request.method not in self._strict:
                self._strict[request.method] = validate_call(config=_STRICT)(method)
            answer = self._strict[request.method](**request.params)
            return answer if isinstance(answer, Later) else Reply(request.id, answer)
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
