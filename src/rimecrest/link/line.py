"""A connection to one running application that waits for each answer."""

from __future__ import annotations

import socket
from pathlib import Path
from typing import Any

from rimecrest.core.words import tr
from rimecrest.link.wire import Failure, Message, Notice, PeerMisbehaved, Reply, Request, Wire, encode

TIMEOUT = 5.0
"""Seconds an application may take to answer; one that takes longer reads the profile at its next start."""


class LinkRefused(Exception):
    """The application answered with a failure, or not at all."""


class Line:
    """Requests and their answers, one at a time; notices are kept until they are waited for."""

    def __init__(self, path: Path, timeout: float = TIMEOUT) -> None:
        self._socket = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self._socket.settimeout(timeout)
        self._wire = Wire()
        self._next = 0
        self._notices: list[Notice] = []
        try:
            self._socket.connect(str(path))
        except OSError as error:
            self._socket.close()
            raise LinkRefused(
                tr("{name} does not listen ({reason})", name=path.name, reason=error.strerror)
            ) from None

    def __enter__(self) -> Line:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Hang up."""
        self._socket.close()

    def ask(self, method: str, **params: Any) -> Any:
        """Send a request and wait for its answer. Raises LinkRefused."""
        self._next += 1
        try:
            self._socket.sendall(encode(Request(self._next, method, params)))
            while True:
                for message in self._received(method):
                    if isinstance(message, Failure) and message.id == self._next:
                        raise LinkRefused(message.message)
                    if isinstance(message, Reply) and message.id == self._next:
                        return message.result
        except (OSError, PeerMisbehaved) as error:
            raise LinkRefused(f"{method}: {error}") from None

    def await_notice(self, method: str) -> dict[str, Any]:
        """Wait, however long it takes, until the application tells something. Returns what it tells.

        Raises:
            LinkRefused: it hung up meanwhile.
        """
        self._socket.settimeout(None)
        try:
            while not (found := [notice for notice in self._notices if notice.method == method]):
                self._received(method)
        except (OSError, PeerMisbehaved) as error:
            raise LinkRefused(f"{method}: {error}") from None
        self._notices.remove(found[0])
        return found[0].params

    def _received(self, waiting_for: str) -> list[Message]:
        data = self._socket.recv(65536)
        if not data:
            raise LinkRefused(tr("{waiting_for}: the application hung up", waiting_for=waiting_for))
        messages = self._wire.feed(data)
        self._notices += [message for message in messages if isinstance(message, Notice)]
        return messages
