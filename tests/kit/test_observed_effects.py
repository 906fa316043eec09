"""Every command of every application does no more than its effects say: each is performed, and watched.

Files are compared before and after, reading is heard by an audit hook, addresses by handlers of the desktop's
services, programs by what they leave behind when the desktop starts them, the clipboard by its signal, and a
session bus of one's own tells every call that asks another program for something.
"""

from __future__ import annotations

import hashlib
import os
import subprocess
import sys
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QObject, QUrl, pyqtSlot
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QMessageBox
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.arguments import Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Command, Effect
from rimecrest.core.errors import RimecrestError
from rimecrest_standins.grid.grid import declarations as grid_declarations
from rimecrest_standins.letters.letters import declarations as letters_declarations
from rimecrest_standins.post.message_parts import Written, build
from rimecrest_standins.post.post import declarations as post_declarations
from tests.programs import Grid, Letters, Post, Program

LETTER = '<h1>Notice</h1><p>Dear <b>all</b> of <a href="https://example.org/x">Ystle</a></p>'
APPS: dict[str, type[Program]] = {"letters": Letters, "grid": Grid, "post": Post}
COMMANDS = [
    pytest.param(command, id=command.id)
    for declared in (letters_declarations, grid_declarations, post_declarations)
    for command in declared.catalogue().commands
]
heard: list[Path] | None = None
"""Files that were opened for reading, while somebody listens."""


def _hear(event: str, args: tuple[Any, ...]) -> None:
    if heard is not None and event == "open" and isinstance(args[0], str | bytes | os.PathLike):
        path, flags = Path(os.fsdecode(args[0])), args[2] or 0
        if not flags & (os.O_WRONLY | os.O_RDWR):
            heard.append(path)


sys.addaudithook(_hear)


class Addresses(QObject):
    """Stands where the desktop would open addresses."""

    def __init__(self) -> None:
        super().__init__()
        self.seen: list[QUrl] = []

    @pyqtSlot(QUrl)
    def take(self, url: QUrl) -> None:
        self.seen.append(url)


class Bus:
    """A session bus that nobody else is on, and what is asked on it."""

    def __init__(self, folder: Path) -> None:
        self._daemon = subprocess.Popen(
            ["dbus-daemon", "--session", "--nofork", "--print-address=1"], stdout=subprocess.PIPE, text=True
        )
        assert self._daemon.stdout is not None
        self.address = self._daemon.stdout.readline().strip()
        self._told = folder / "calls"
        with self._told.open("wb") as out:
            match = "type='method_call'"
            monitor = ["dbus-monitor", "--address", self.address, match]
            self._monitor = subprocess.Popen(monitor, stdout=out, env={**os.environ, "LC_ALL": "C"})
        self._asked = 0
        while not self._pinged():
            pass  # until it listens; a bus that never does ends with the test's own time

    def _pinged(self) -> bool:
        """Whether the monitor has told of a call that is made now: then it has told of all before it."""
        self._asked += 1
        name = f"org.example.Ping{self._asked}"
        ask = ["dbus-send", f"--bus={self.address}", "--dest=org.freedesktop.DBus", "--print-reply"]
        call = ["/", "org.freedesktop.DBus.NameHasOwner", f"string:{name}"]
        subprocess.run([*ask, *call], check=True, capture_output=True)
        return name in self._told.read_text()

    def calls(self) -> list[str]:
        """What programs on the bus asked of one another so far, what they ask of the bus itself left out."""
        while not self._pinged():
            pass
        lines = self._told.read_text().splitlines()
        calls = [line for line in lines if line.startswith("method call")]
        return [line for line in calls if "destination=org.freedesktop.DBus " not in line]

    def close(self) -> None:
        for process in (self._monitor, self._daemon):
            process.terminate()
            process.wait(10)


@pytest.fixture(scope="module")
def bus(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Bus]:
    made = Bus(tmp_path_factory.mktemp("bus"))
    yield made
    made.close()


class Watch:
    """What happened outside of the window, and in its documents."""

    def __init__(self, program: Program, folder: Path, started: Path, bus: Bus) -> None:
        self._program = program
        self._folder = folder
        self._started = started
        self._bus = bus
        self._calls = bus.calls()
        self._addresses = Addresses()
        for scheme in ("https", "http", "mailto", "file"):
            QDesktopServices.setUrlHandler(scheme, self._addresses.take)
        self._clipboard: list[bool] = []
        QApplication.clipboard().dataChanged.connect(self._copied)
        self._files = self._tree()
        self._documents = list(program.window.documents.all)
        self._versions = [document.undo.version for document in self._documents]

    def _copied(self) -> None:
        self._clipboard.append(True)

    def _tree(self) -> dict[Path, str]:
        files = [path for path in self._folder.rglob("*") if path.is_file()]
        return {path: hashlib.sha256(path.read_bytes()).hexdigest() for path in files}

    def seen(self, read: list[Path]) -> set[Effect]:
        """The effects that were observed."""
        documents = self._program.window.documents.all
        now, links = self._tree(), {url.scheme() for url in self._addresses.seen}
        changed = any(
            document.undo.version != version
            for document, version in zip(self._documents, self._versions, strict=True)
            if document in documents
        )
        found = {
            Effect.CREATES: bool(now.keys() - self._files) or len(documents) > len(self._documents),
            Effect.OVERWRITES: any(now.get(path) != was for path, was in self._files.items()),
            Effect.OPENS_FILES: any(self._folder in path.parents for path in read),
            Effect.OPENS_LINKS: bool(links - {"file"}),
            Effect.LEAVES: "file" in links
            or self._started.exists()
            or self._bus.calls() != self._calls
            or not self._program.window.isVisible(),
            Effect.CLIPBOARD: bool(self._clipboard),
            Effect.EDITS: changed,
        }
        return {effect for effect, happened in found.items() if happened}

    def close(self) -> None:
        QApplication.clipboard().dataChanged.disconnect(self._copied)
        for scheme in ("https", "http", "mailto", "file"):
            QDesktopServices.unsetUrlHandler(scheme)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Where everything of this test lies: a file that is there, room for one that is not."""
    made = tmp_path / "files"
    made.mkdir()
    return made


@pytest.fixture
def started(tmp_path: Path, bus: Bus, monkeypatch: pytest.MonkeyPatch) -> Path:
    """What an installed application leaves when it is started."""
    note, program, data = tmp_path / "started", tmp_path / "ferry", tmp_path / "data" / "applications"
    data.mkdir(parents=True)
    program.write_text(f"#!/bin/sh\necho yes > {note}\n")
    program.chmod(0o755)
    entry = f"[Desktop Entry]\nType=Application\nName=Ferry\nExec={program}\n"
    (data / "ferry.desktop").write_text(entry)
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", bus.address)
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    return note


@pytest.fixture(autouse=True)
def no_answers(monkeypatch: pytest.MonkeyPatch) -> None:
    """Questions of the toolkit are given up at once."""
    for kind, name, answer in (
        (QFileDialog, "getOpenFileName", ("", "")),
        (QFileDialog, "getSaveFileName", ("", "")),
    ):
        monkeypatch.setattr(kind, name, lambda *_args, _answer=answer, **_known: _answer)
    for dialog in (QDialog, QMessageBox, QPrintDialog):
        monkeypatch.setattr(dialog, "exec", lambda _self: 0)


@pytest.fixture
def listening() -> Iterator[list[Path]]:
    global heard
    heard = []
    yield heard
    heard = None


def value_of(argument: Argument, program: Program, path: Path) -> str:
    """A value that fits."""
    match argument.type:
        case ArgumentType.PATH:
            return str(path)
        case ArgumentType.ADDRESS:
            return "https://example.org/"
        case ArgumentType.COLOUR:
            return "#14657A"
        case ArgumentType.SWITCH:
            return "yes"
        case ArgumentType.CHOICE:
            return argument.choices[0]
        case ArgumentType.WHOLE | ArgumentType.NUMBER:
            return str(int(argument.least or 1))
    if argument.among:
        known = program.read(argument.among)
        return str(known[0]) if isinstance(known, list | tuple) and known else str(known)
    return {"application": "ferry", "name": "A1"}.get(argument.name, argument.default or "x")


def begin(program: Program, folder: Path, context: str = "anywhere") -> None:
    """Something of everything to work on, saved; the cursor in the middle of it."""
    if isinstance(program, Letters):
        (folder / "there.html").write_text(LETTER)
        program.do("open", path=str(folder / "there.html"))
        program.do("go-to-end")
        program.do("insert-table")
        program.do("insert-note")
        program.do("leave-note")
        program.choose(13, 16)
    elif isinstance(program, Post):
        there = Written("a@b.example", "c@d.example", "", "There", "Dear all", "<p>Dear <b>all</b></p>")
        message = build(there, datetime(2026, 11, 1), draft=True)
        (folder / "there.eml").write_bytes(message.as_bytes())
        (folder / "there.html").write_text(LETTER)
        program.do("choose-message", name="Berths of the week")
        if context not in ("anywhere", "mailbox", "list", "reading"):
            program.do("open", path=str(folder / "there.eml"))
            program.do("attach-file", path=str(folder / "there.html"))
            program.do("go-to-part", name="to" if context == "address" else "text")
            program.choose("all")
        elif context == "reading":
            program.do("read-message")
    else:
        assert isinstance(program, Grid)
        program.fill("Vessel\tLane\nOvessa\tN\nOvessa\tN\nQuessel\tS")
        program.do("save-as", path=str(folder / "there.ods"))
        program.go("B2")


@pytest.mark.long
@pytest.mark.parametrize("exists", [True, False], ids=["there", "new"])
@pytest.mark.parametrize("command", COMMANDS)
def test_a_command_does_no_more_than_it_says(
    qtbot: QtBot,
    folder: Path,
    started: Path,
    bus: Bus,
    listening: list[Path],
    command: Command,
    exists: bool,
) -> None:
    if not exists and all(argument.type is not ArgumentType.PATH for argument in command.arguments):
        return  # the same once more
    app = command.id.partition(":")[0]
    program = APPS[app](qtbot)
    program.window.show()
    begin(program, folder, command.context)
    ending = {"letters": "html", "grid": "ods", "post": "eml"}[app]
    path = folder / f"{'there' if exists else 'new'}.{ending}"
    watch = Watch(program, folder, started, bus)
    listening.clear()
    args = {argument.name: value_of(argument, program, path) for argument in command.arguments}
    try:
        program.window.dispatcher.perform_or_raise(command.id, args)
    except RimecrestError:
        pass  # it does not fit here: whatever it did before it said so counts all the same
    else:
        if Effect.LEAVES in command.effects and "application" in args:
            qtbot.waitUntil(started.exists)
    seen = watch.seen(list(listening))
    watch.close()
    program.forget()
    program.window.close()
    assert seen <= set(command.effects), f"{command.id} {args}"


def test_what_is_watched_is_seen(
    qtbot: QtBot, folder: Path, started: Path, bus: Bus, listening: list[Path]
) -> None:
    """The watch itself: each effect is observed at a command that has it."""
    found: set[Effect] = set()
    for verb, args in (
        ("copy", {}),
        ("new", {}),
        ("insert-text", {"text": "x"}),
        ("open-address", {"to": "https://example.org/"}),
        ("start-application", {"application": "ferry"}),
        ("save-as", {"path": str(folder / "there.html")}),
        ("open", {"path": str(folder / "other.html")}),
    ):
        program = Letters(qtbot)
        program.window.show()
        begin(program, folder)
        (folder / "other.html").write_text("<p>x</p>")
        watch = Watch(program, folder, started, bus)
        listening.clear()
        if verb == "insert-text":
            program.window.dispatcher.write("x")
        else:
            program.do(verb, **args)
        if verb == "start-application":
            qtbot.waitUntil(started.exists)
        found |= watch.seen(list(listening))
        watch.close()
        program.window.document.saved()
        program.window.close()
    assert found == set(Effect) - {Effect.SENDS, Effect.DELETES, Effect.TELLS_LINKS}


def test_what_is_asked_of_another_program_over_the_bus_is_seen(
    qtbot: QtBot, folder: Path, started: Path, bus: Bus
) -> None:
    program = Letters(qtbot)
    program.window.show()
    watch = Watch(program, folder, started, bus)
    assert watch.seen([]) == set()
    call = ["dbus-send", f"--bus={bus.address}", "--dest=org.example.Ferry", "--type=method_call"]
    subprocess.run([*call, "/org/example/Ferry", "org.freedesktop.Application.Activate"], check=True)
    assert watch.seen([]) == {Effect.LEAVES}
    watch.close()
