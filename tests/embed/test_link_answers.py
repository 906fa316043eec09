"""Every request on the link gets an answer; without a place for a link an application still starts."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PyQt6.QtNetwork import QLocalSocket
from pytestqt.qtbot import QtBot

from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.letters import declarations
from rimecrest.embed.window import AppWindow
from rimecrest.link import Failure, Reply, Request, Wire, encode, listening
from tests.embed.conftest import Letters


class Caller:
    """Somebody who asks over the real socket."""

    def __init__(self, letters: Letters) -> None:
        self._letters = letters
        self._socket = QLocalSocket()
        self._socket.connectToServer(str(letters.window.server.path))
        assert self._socket.waitForConnected(2000)
        self._wire = Wire()
        self._count = 0

    def ask(self, method: str, params: dict[str, Any]) -> Reply | Failure:
        return self.ask_in(lambda number: encode(Request(number, method, params)))

    def ask_in(self, line: Callable[[int], bytes]) -> Reply | Failure:
        """The answer to a line that is made of the number of the request."""
        self._count += 1
        self._socket.write(line(self._count))
        self._socket.flush()
        found: list[Any] = []

        def came() -> bool:
            found.extend(self._wire.feed(self._socket.readAll().data()))
            return any(getattr(message, "id", None) == self._count for message in found)

        self._letters.qtbot.waitUntil(came, timeout=5000)
        return next(message for message in found if getattr(message, "id", None) == self._count)

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
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text(max_size=8),
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
    def broken(_name: str) -> None:
        raise ZeroDivisionError

    monkeypatch.setattr(letters.window.dispatcher, "read", broken)
    answer = caller.ask("read", {"name": "chosen.text"})
    assert isinstance(answer, Failure)
    assert answer.message == "read: something went wrong (ZeroDivisionError)."


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
