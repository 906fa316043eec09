"""Every request on the link gets an answer; without a place for a link an application still starts."""

from __future__ import annotations

import contextlib
import json
import random
import socket
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtNetwork import QLocalSocket
from pytestqt.qtbot import QtBot

from rimecrest.core.errors import RimecrestError
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.window import AppWindow
from rimecrest.link.addresses import listening
from rimecrest.link.wire import Failure, Reply, Request, Wire, encode
from rimecrest.shell.later import Later
from rimecrest.shell.link_server import MOST_UNREAD
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from tests.hostile.seeds import SEED
from tests.programs import Letters


class Caller:
    """Somebody who asks over the real socket."""

    def __init__(self, letters: Letters) -> None:
        self._letters = letters
        self._socket = QLocalSocket()
        self._socket.connectToServer(str(letters.window.server.path))
        assert self._socket.waitForConnected(2000)
        self._wire = Wire()
        self._count = 0
        self.heard: list[Any] = []

    def ask(self, method: str, params: dict[str, Any]) -> Reply | Failure:
        return self.ask_in(lambda number: encode(Request(number, method, params)))

    def ask_in(self, line: Callable[[int], bytes]) -> Reply | Failure:
        """The answer to a line that is made of the number of the request."""
        self._count += 1
        self._socket.write(line(self._count))
        self._socket.flush()

        def came() -> bool:
            self.heard.extend(self._wire.feed(self._socket.readAll().data()))
            return any(getattr(message, "id", None) == self._count for message in self.heard)

        self._letters.qtbot.waitUntil(came, timeout=5000)
        return next(message for message in self.heard if getattr(message, "id", None) == self._count)

    def begin(self, number: int, method: str, params: dict[str, Any]) -> None:
        """Ask without waiting for the answer."""
        self._socket.write(encode(Request(number, method, params)))

    def close(self) -> None:
        self._socket.abort()


@pytest.fixture
def caller(letters: Letters) -> Iterator[Caller]:
    made = Caller(letters)
    yield made
    made.close()


@pytest.mark.parametrize(
    ("method", "params"),
    [
        ("perform", {"run": 5}),
        ("perform", {"run": "letters:insert-text", "args": {"text": 5}}),
        ("perform", {"run": "letters:embolden", "args": "on"}),
        ("record.start", {"name": 5}),
        ("read", {"name": None}),
        ("read", {}),
        ("run.text", {"text": ["x"]}),
        ("document.put", {"id": 5, "text": "x"}),
        ("copy", {"folder": 5}),
        ("where", {"thing": {}}),
        ("hello", {"more": 1}),
    ],
)
def test_a_wrong_type_is_told_and_changes_nothing(
    letters: Letters, caller: Caller, method: str, params: dict[str, Any]
) -> None:
    answer = caller.ask(method, params)
    assert isinstance(answer, Failure)
    assert answer.message == f"{method}: the parameters do not fit."
    assert not letters.window.recorder.on
    assert isinstance(caller.ask("hello", {}), Reply)


VALUES = st.recursive(
    st.none()
    | st.booleans()
    | st.integers()
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=4), inner, max_size=3),
    max_leaves=6,
)
METHODS = ["perform", "run", "run.text", "read", "draft.show", "where", "document.put", "look", "record.stop"]
NAMES = ["run", "args", "macro", "text", "name", "state", "thing", "id", "path", "reading"]


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.sampled_from(METHODS), st.dictionaries(st.sampled_from(NAMES), VALUES, max_size=3))
def test_any_request_is_answered(caller: Caller, method: str, params: dict[str, Any]) -> None:
    assert isinstance(caller.ask(method, params), Reply | Failure)


def test_a_method_that_breaks_is_answered(
    letters: Letters, caller: Caller, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_document: object) -> None:
        raise ZeroDivisionError

    readings = letters.window.executor.declarations.readings
    monkeypatch.setitem(readings, "chosen.text", (readings["chosen.text"][0], broken))
    answer = caller.ask("read", {"name": "chosen.text"})
    assert isinstance(answer, Failure)
    assert answer.message == "read: something went wrong (ZeroDivisionError)."


@pytest.mark.parametrize("answered", [CommandResult({"on": "yes"}), RimecrestError("It has ended.")])
def test_an_answer_that_comes_later_holds_nobody_up(
    letters: Letters, caller: Caller, monkeypatch: pytest.MonkeyPatch, answered: object
) -> None:
    later, commands = Later(), letters.window.executor.declarations.commands
    changed = replace(commands["letters:insert-rule"], function=lambda _document: later)
    monkeypatch.setitem(commands, "letters:insert-rule", changed)
    caller.begin(99, "perform", {"run": "letters:insert-rule"})
    assert caller.ask("read", {"name": "chosen.text"}) == Reply(1, "")
    assert not [each for each in caller.heard if each.id == 99]
    later.answered.emit(answered)
    caller.ask("read", {"name": "chosen.text"})
    wanted = Reply(99, {"on": "yes"}) if isinstance(answered, CommandResult) else Failure(99, "It has ended.")
    assert wanted in caller.heard


# No place for it


def somebody_elses(folder: Path) -> None:
    (folder / "rimecrest").symlink_to("/")


def a_file(folder: Path) -> None:
    (folder / "rimecrest").write_text("x")


def nothing_can_be_made(folder: Path) -> None:
    folder.rmdir()
    folder.write_text("x")


@pytest.mark.parametrize("spoil", [somebody_elses, a_file, nothing_can_be_made])
def test_without_a_folder_for_it_an_application_starts_without_a_link_and_says_so(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, spoil: Any
) -> None:
    folder = tmp_path / "run"
    folder.mkdir()
    spoil(folder)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(folder))
    assert listening() == []
    window = AppWindow(declarations, LetterDocument, None)
    qtbot.addWidget(window)
    assert window.frame.status.text().startswith("Nobody can reach this window from outside: ")
    assert window.dispatcher.perform("letters:embolden")
    window.close()


def test_a_place_that_is_taken_is_told(qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("rimecrest.shell.link_server.socket_path", lambda app, pid: tmp_path)
    window = AppWindow(declarations, LetterDocument, None)
    qtbot.addWidget(window)
    assert "Nobody can reach this window from outside" in window.frame.status.text()
    window.close()
    assert tmp_path.is_dir()


NO_CHARACTERS = st.text(st.characters(min_codepoint=0xD7F0, max_codepoint=0xE010), max_size=5)


@settings(max_examples=100, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    method=st.sampled_from(["read", "perform", "run", "document.macros"]) | NO_CHARACTERS,
    name=st.sampled_from(["name", "run", "args", "macro"]) | NO_CHARACTERS,
    value=NO_CHARACTERS,
)
def test_what_is_no_character_is_answered_too(caller: Caller, method: str, name: str, value: str) -> None:
    def line(number: int) -> bytes:
        request = {"jsonrpc": "2.0", "id": number, "method": method, "params": {name: value}}
        return json.dumps(request).encode() + b"\n"

    assert isinstance(caller.ask_in(line), Reply | Failure)


def test_what_is_no_character_comes_into_no_document(
    caller: Caller, letters: Letters, tmp_path: Path
) -> None:
    text = 'macro "Odd"\nfor letters\n\nwrite "a\ud800b"\n'
    line = {"jsonrpc": "2.0", "method": "run.text", "params": {"text": text}}
    answer = caller.ask_in(lambda number: json.dumps({**line, "id": number}).encode() + b"\n")
    assert isinstance(answer, Reply), answer
    letters.qtbot.waitUntil(lambda: letters.text == "a?b")
    assert letters.do("save-as", path=str(tmp_path / "letter.html"))


@pytest.mark.parametrize("code", [None, "x", 1.5, [], {}, True, 10**400])
def test_an_answer_with_an_odd_code_is_an_answer(code: object) -> None:
    line = json.dumps({"jsonrpc": "2.0", "id": 1, "error": {"code": code, "message": "no"}}).encode()
    assert isinstance(Wire().feed(line + b"\n")[0], Failure)


NO_NUMBERS = st.recursive(
    st.sampled_from(["Infinity", "-Infinity", "NaN", "1e999", "-0", "1" * 400, "null", '""']),
    lambda inner: st.lists(inner, max_size=3).map(lambda each: f"[{','.join(each)}]"),
    max_leaves=6,
)


@settings(max_examples=100, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    method=st.sampled_from(["read", "perform", "run.text", "hello", "echo"]),
    name=st.sampled_from(["name", "run", "args", "text", "value"]),
    value=NO_NUMBERS,
    deep=st.sampled_from([0, 0, 0, 50, 400]),
)
def test_numbers_that_are_none_and_what_lies_deep_are_answered(
    caller: Caller, letters: Letters, method: str, name: str, value: str, deep: int
) -> None:
    letters.window.server._methods["echo"] = lambda **params: params
    value = "[" * deep + value + "]" * deep
    line = f'{{"jsonrpc":"2.0","id":%d,"method":"{method}","params":{{"{name}":{value}}}}}\n'
    assert isinstance(caller.ask_in(lambda number: (line % number).encode()), Reply | Failure)


# Several at once


class Peer:
    """Somebody on a plain socket, who sends and reads as they like."""

    def __init__(self, path: Path, dice: random.Random) -> None:
        self.socket = socket.socket(socket.AF_UNIX)
        self.socket.connect(str(path))
        self.socket.setblocking(False)
        self.kind = dice.choice(("never reads", "reads slowly", "floods", "sends halves", "rubbish", "goes"))
        self.asks = {"never reads": 3_000, "reads slowly": 300, "floods": 3_000}.get(self.kind, 20)
        lines = [encode(Request(number, "told", {"size": 20_000})) for number in range(self.asks)]
        self.left = b"".join(lines) if self.kind != "rubbish" else b"\x00{[\n" * 500
        self._dice = dice

    def go_on(self) -> None:
        try:
            if self.left:
                size = 7 if self.kind == "sends halves" else 60_000
                self.left = self.left[self.socket.send(self.left[:size]) :]
            if self.kind == "goes" and self._dice.random() < 0.2:
                self.socket.close()
            elif self.kind == "reads slowly":
                self.socket.recv(500)
            elif self.kind != "never reads":
                self.socket.recv(1 << 20)
        except (BlockingIOError, ConnectionError, OSError):
            pass


@pytest.mark.parametrize("number", range(20))
def test_of_several_peers_none_holds_the_others(letters: Letters, number: int) -> None:
    """Of six each, 120 in all, by seed; what they leave unread stays below the bound."""
    dice = random.Random(SEED * 1000 + number)
    server = letters.window.server
    server._methods["told"] = lambda size: "x" * size
    assert server.path is not None
    peers = [Peer(server.path, dice) for _ in range(6)]
    caller = Caller(letters)
    for count in range(60):
        for peer in peers:
            peer.go_on()
        answer = caller.ask("told", {"size": count})
        assert isinstance(answer, Reply)
        assert answer.result == "x" * count
        assert all(each.bytesToWrite() < MOST_UNREAD + 30_000 for each in server._peers)
        assert sum(len(peer.asked) for peer in server._peers.values()) < 6 * 2_000
    for peer in peers:
        peer.socket.close()
    caller.close()


def test_whoever_reads_late_gets_every_answer_in_order(letters: Letters) -> None:
    server = letters.window.server
    server._methods["told"] = lambda size: "x" * size
    late = socket.socket(socket.AF_UNIX)
    late.connect(str(server.path))
    late.setblocking(False)
    left, wire, found = (
        b"".join(encode(Request(n, "told", {"size": 9_000})) for n in range(2_000)),
        Wire(),
        [],
    )

    def sent() -> bool:
        nonlocal left
        with contextlib.suppress(BlockingIOError):
            left = left[late.send(left) :]
        return not left or any(each.bytesToWrite() > MOST_UNREAD for each in server._peers)

    letters.qtbot.waitUntil(sent)

    def read() -> bool:
        sent()
        with contextlib.suppress(BlockingIOError):
            found.extend(wire.feed(late.recv(1 << 20)))
        return len(found) == 2_000

    letters.qtbot.waitUntil(read, timeout=20_000)
    assert [message.id for message in found if isinstance(message, Reply)] == [*range(2_000)]
    late.close()


def test_a_peer_that_never_reads_is_dropped_by_what_is_told(letters: Letters) -> None:
    server = letters.window.server
    deaf = socket.socket(socket.AF_UNIX)
    deaf.connect(str(server.path))
    letters.qtbot.waitUntil(lambda: server.heard)
    for _ in range(300):
        server.tell("told", {"text": "x" * 100_000})
    assert not server.heard
    deaf.close()


def test_no_more_than_so_many_are_heard_at_once(letters: Letters, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("rimecrest.shell.link_server.MOST_PEERS", 5)
    server = letters.window.server
    many = [socket.socket(socket.AF_UNIX) for _ in range(60)]
    for each in many:
        each.connect(str(server.path))
    letters.qtbot.waitUntil(lambda: len(server._peers) == 5)
    for each in many:
        each.close()
    letters.qtbot.waitUntil(lambda: not server.heard)
    caller = Caller(letters)
    assert isinstance(caller.ask("read", {"name": "text"}), Reply | Failure)
    caller.close()
