"""Speaking to the applications that run on this seat, over the link, for a moment each."""

from __future__ import annotations

import contextlib
import socket
from pathlib import Path
from typing import Any

import structlog

from rimecrest.link import Failure, PeerMisbehaved, Reply, Request, Wire, encode, listening

TIMEOUT = 5.0
"""Seconds an application may take to answer; one that takes longer reads the profile at its next start."""

log = structlog.get_logger()


class LinkRefused(Exception):
    """The application answered with a failure, or not at all."""


class Line:
    """A connection to one running application that waits for each answer."""

    def __init__(self, path: Path, timeout: float = TIMEOUT) -> None:
        self._socket = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self._socket.settimeout(timeout)
        self._wire = Wire()
        self._next = 0
        try:
            self._socket.connect(str(path))
        except OSError as error:
            self._socket.close()
            raise LinkRefused(f"{path.name} does not listen ({error.strerror})") from None

    def __enter__(self) -> Line:
        return self

    def __exit__(self, *_: object) -> None:
        self._socket.close()

    def ask(self, method: str, **params: Any) -> Any:
        """Send a request and wait for its answer. Raises LinkRefused."""
        self._next += 1
        try:
            self._socket.sendall(encode(Request(self._next, method, params)))
            while True:
                data = self._socket.recv(65536)
                if not data:
                    raise LinkRefused(f"{method}: the application hung up")
                for message in self._wire.feed(data):
                    if isinstance(message, Failure) and message.id == self._next:
                        raise LinkRefused(message.message)
                    if isinstance(message, Reply) and message.id == self._next:
                        return message.result
        except (OSError, PeerMisbehaved) as error:
            raise LinkRefused(f"{method}: {error}") from None


def tell_running(profile: Path) -> int:
    """Have every running application of this profile take over what is installed. Returns how many did."""
    told = 0
    for path in listening():
        with contextlib.suppress(LinkRefused), Line(path) as line:
            if line.ask("hello").get("profile") == str(profile.resolve()):
                try:
                    line.ask("layout.reload")
                    told += 1
                except LinkRefused as refusal:
                    log.warning("application kept its layout", application=path.name, reason=str(refusal))
    return told
