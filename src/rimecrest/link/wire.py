"""Messages of the link as values, and the bytes they travel as (https://www.jsonrpc.org/specification)."""

from __future__ import annotations

import json
from typing import Any

from msgspec import Struct, field

LONGEST_LINE = 16 * 1024 * 1024
"""Bytes of one message at most; a draft with pictures stays far below."""

PARSE_ERROR, INVALID_REQUEST, NO_SUCH_METHOD, REFUSED = -32700, -32600, -32601, -32000


class PeerMisbehaved(Exception):
    """The other side sent something that is no message; the caller drops it."""


class Request(Struct, frozen=True):
    id: int
    method: str
    params: dict[str, Any] = field(default_factory=dict)


class Notice(Struct, frozen=True):
    """A message that wants no answer."""

    method: str
    params: dict[str, Any] = field(default_factory=dict)


class Reply(Struct, frozen=True):
    id: int
    result: Any = None


class Failure(Struct, frozen=True):
    """A request that was refused. `message` is a sentence for people."""

    id: int | None
    message: str
    code: int = REFUSED


Message = Request | Notice | Reply | Failure


def encode(message: Message) -> bytes:
    """One line.

    Raises:
        TypeError, ValueError, RecursionError: it holds what JSON cannot, as an infinite number.
    """
    data: dict[str, Any] = {"jsonrpc": "2.0"}
    match message:
        case Request():
            data |= {"id": message.id, "method": message.method, "params": message.params}
        case Notice():
            data |= {"method": message.method, "params": message.params}
        case Reply():
            data |= {"id": message.id, "result": message.result}
        case Failure():
            data |= {"id": message.id, "error": {"code": message.code, "message": message.message}}
    # What is no character (half of a surrogate pair) is sent as “?”: whoever asked waits for an answer.
    text = json.dumps(data, ensure_ascii=False, allow_nan=False, separators=(",", ":"))
    return text.encode(errors="replace") + b"\n"


def _characters(data: Any) -> Any:
    """The same with “?” for what is no character: half of a surrogate pair, which no file could hold."""
    match data:
        case str():
            return data.encode(errors="replace").decode()
        case list():
            return [_characters(each) for each in data]
        case dict():
            return {_characters(name): _characters(value) for name, value in data.items()}
    return data


def _decode(line: bytes) -> Message:
    try:
        data = json.loads(line.decode())
        if b"\\u" in line:
            data = _characters(data)
    except (ValueError, RecursionError):
        raise PeerMisbehaved("sent a line that is not JSON") from None
    if not isinstance(data, dict) or data.get("jsonrpc") != "2.0":
        raise PeerMisbehaved("sent JSON that is no JSON-RPC 2.0 message")
    identity, params = data.get("id"), data.get("params", {})
    if identity is not None and not isinstance(identity, int):
        raise PeerMisbehaved("sent a message whose id is no number")
    if "method" in data:
        if not isinstance(data["method"], str) or not isinstance(params, dict):
            raise PeerMisbehaved("sent a request without a method or with unnamed parameters")
        return (
            Notice(data["method"], params) if identity is None else Request(identity, data["method"], params)
        )
    error = data.get("error")
    if isinstance(error, dict):
        code = error.get("code")
        return Failure(identity, str(error.get("message", "")), code if type(code) is int else REFUSED)
    if identity is None or "result" not in data:
        raise PeerMisbehaved("sent a message that is neither request nor answer")
    return Reply(identity, data["result"])


class Wire:
    """Cuts what arrives into messages."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []
        """What has come of a message that has no end yet."""
        self._bytes = 0

    def feed(self, data: bytes) -> list[Message]:
        """The messages completed by these bytes.

        Raises:
            PeerMisbehaved: a line is no message, or longer than LONGEST_LINE bytes.
        """
        self._parts.append(data)
        self._bytes += len(data)
        lines: list[bytes] = []
        if b"\n" in data:
            *lines, rest = b"".join(self._parts).split(b"\n")
            self._parts, self._bytes = [rest], len(rest)
        if self._bytes > LONGEST_LINE:
            raise PeerMisbehaved("sent a line without an end")
        return [_decode(line) for line in lines if line.strip()]
