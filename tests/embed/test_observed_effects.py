"""Every command of every application does no more than its effects say: each is performed, and watched.

Files are compared before and after, reading is heard by an audit hook, addresses by handlers of the desktop's
services, programs by a gio that notes what it was asked for, the clipboard by its signal.
"""

from __future__ import annotations

import hashlib
import os
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QObject, QUrl, pyqtSlot
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QMessageBox
from pytestqt.qtbot import QtBot

from rimecrest.apps.grid.grid import declarations as grid_declarations
from rimecrest.apps.letters.letters import declarations as letters_declarations
from rimecrest.core.catalogue import Argument, ArgumentType, Command, Effect
from rimecrest.core.errors import RimecrestError
from tests.embed.conftest import Grid, Letters, Program

LETTER = '<h1>Notice</h1><p>Dear <b>all</b> of <a href="https://example.org/x">Ystle</a></p>'
APPS: dict[str, type[Program]] = {"letters": Letters, "grid": Grid}
COMMANDS = [
    pytest.param(command, id=command.id)
    for declared in (letters_declarations, grid_declarations)
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


class Watch:
    """What happened outside of the window, and in its documents."""

    def __init__(self, program: Program, folder: Path, gio: Path) -> None:
        self._program = program
        self._folder = folder
        self._gio = gio
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
            Effect.LEAVES: "file" in links or self._gio.exists() or not self._program.window.isVisible(),
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
def gio(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """What a gio that only takes notes has written; and one installed application that it would start."""
    note, bin_, data = tmp_path / "started", tmp_path / "bin", tmp_path / "data" / "applications"
    bin_.mkdir()
    data.mkdir(parents=True)
    (bin_ / "gio").write_text(f'#!/bin/sh\necho "$@" > {note}.part && mv {note}.part {note}\n')
    (bin_ / "gio").chmod(0o755)
    (data / "ferry.desktop").write_text("[Desktop Entry]\nType=Application\nName=Ferry\nExec=true\n")
    monkeypatch.setenv("PATH", f"{bin_}:{os.environ['PATH']}")
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


def begin(program: Program, folder: Path) -> None:
    """Something of everything to work on, saved; the cursor in the middle of it."""
    if isinstance(program, Letters):
        (folder / "there.html").write_text(LETTER)
        program.do("open", path=str(folder / "there.html"))
        program.do("go-to-end")
        program.do("insert-table")
        program.do("insert-note")
        program.do("leave-note")
        program.choose(13, 16)
    else:
        assert isinstance(program, Grid)
        program.fill("Vessel\tLane\nOvessa\tN\nOvessa\tN\nQuessel\tS")
        program.do("save-as", path=str(folder / "there.ods"))
        program.go("B2")


@pytest.mark.long
@pytest.mark.parametrize("exists", [True, False], ids=["there", "new"])
@pytest.mark.parametrize("command", COMMANDS)
def test_a_command_does_no_more_than_it_says(
    qtbot: QtBot, folder: Path, gio: Path, listening: list[Path], command: Command, exists: bool
) -> None:
    if not exists and all(argument.type is not ArgumentType.PATH for argument in command.arguments):
        return  # the same once more
    app = command.id.partition(":")[0]
    program = APPS[app](qtbot)
    program.window.show()
    begin(program, folder)
    ending = "html" if app == "letters" else "ods"
    path = folder / f"{'there' if exists else 'new'}.{ending}"
    watch = Watch(program, folder, gio)
    listening.clear()
    args = {argument.name: value_of(argument, program, path) for argument in command.arguments}
    try:
        program.window.dispatcher.perform_or_raise(command.id, args)
    except RimecrestError:
        pass  # it does not fit here: whatever it did before it said so counts all the same
    else:
        if Effect.LEAVES in command.effects and "application" in args:
            qtbot.waitUntil(gio.exists)
    seen = watch.seen(list(listening))
    watch.close()
    for document in program.window.documents.all:
        document.saved()
    program.window.close()
    assert seen <= set(command.effects), f"{command.id} {args}"


def test_what_is_watched_is_seen(qtbot: QtBot, folder: Path, gio: Path, listening: list[Path]) -> None:
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
        watch = Watch(program, folder, gio)
        listening.clear()
        if verb == "insert-text":
            program.window.dispatcher.write("x")
        else:
            program.do(verb, **args)
        if verb == "start-application":
            qtbot.waitUntil(gio.exists)
        found |= watch.seen(list(listening))
        watch.close()
        program.window.document.saved()
        program.window.close()
    assert found == set(Effect) - {Effect.SENDS, Effect.DELETES, Effect.TELLS_LINKS}
