"""Nothing of our own is written through a link: each step of each writer, with each kind of trap in its way.

A writer works in a folder of its own once, undisturbed; that tells which files and folders it touches. Then
each of these is a trap beforehand: a link to a folder or file outside, to nowhere or to itself, a pipe, a
folder in place of a file. The writer may refuse, in a sentence; what lies outside stays as it is.
"""

from __future__ import annotations

import ast
import contextlib
import os
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import AppId, SeatId
from rimecrest.core.release.audience import Assignment, Audience
from rimecrest.core.release.made import Made
from rimecrest.core.release.package import build_package
from rimecrest.core.release.profile import Installed, Profile
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.release.stack import StackState
from rimecrest.core.signing import MakerKey
from rimecrest.core.workspace.edits import apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.journal import Journal
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.left_recordings import LeftRecording, leave, taken
from rimecrest.kit.macros.sounds import Sounds
from rimecrest.kit.personal.own_macros import OwnMacros
from rimecrest.kit.personal.personal_layout import PersonalLayout
from rimecrest.rollout.folder import FolderRepository
from rimecrest.studio.shared.history import History
from tests.conftest import make_workspace, write_workspace

SOURCE = Path(__file__).parents[2] / "src"
MACRO = 'macro "New"\nfor notes\n'
Writer = Callable[[Path], None]


def save(folder: Path) -> None:
    keeper = Keeper(folder)
    try:
        opened = keeper.open()
        after, _ = apply(opened, PutMacro("organisation", "new", MACRO))
        after = after.with_companion("plan.txt", b"plan")
        keeper.save("new", opened, after)
        gone, _ = apply(after, PutMacro("organisation", "new", None))
        keeper.save("gone", after, gone)
    finally:
        keeper.close()


def finish(folder: Path) -> None:
    files: dict[str, bytes | None] = {
        "companions/plan.txt": b"plan",
        "macros/organisation/new.steps": MACRO.encode(),
        "macros/department.north/closing.steps": None,
    }
    with contextlib.suppress(RimecrestError):
        Journal(folder).begin("half", files)
    Journal(folder).finish(complete=True)


def history(folder: Path) -> None:
    kept = History(folder)
    kept.open()
    try:
        kept.record("one", {"macros/organisation/new.steps": (None, MACRO.encode())})
        kept.point("now")
    finally:
        kept.close()


def shelf(folder: Path) -> None:
    keeper = Keeper(write_workspace(folder.parent / "beside"), mine=folder)
    try:
        opened = keeper.open()
        after, _ = apply(opened, PutMacro("mine", "new", MACRO))
        keeper.save("new", opened, after)
        gone, _ = apply(after, PutMacro("mine", "new", None))
        keeper.save("gone", after, gone)
    finally:
        keeper.close()
        shutil.rmtree(folder.parent / "beside")


def seat(folder: Path) -> None:
    profile = Profile(folder)
    with profile.alone():
        package = build_package(make_workspace(), 1, {}, {})
        for number in range(1, 7):
            profile.stage(number, package)
        profile.switch(Installed(release=6, assignment=Assignment(release=6)))
        profile.write_reports(profile.reports())
        profile.news_shown("notes", 6)
        profile.tidy()


def own(folder: Path) -> None:
    macros = OwnMacros("notes", folder)
    made = macros.add("New", MACRO, StackState(app=AppId("notes")))
    PersonalLayout("notes", folder).bind(StackState(app=AppId("notes")), "F9", "notes:rule")
    Sounds(folder).turn(on=False)
    macros.delete(made)


def channel(folder: Path) -> None:
    there = FolderRepository(folder)
    package = build_package(make_workspace(), 1, {}, {})
    there.publish(1, package, Audience(name="Sample"), Made(release=1, by="Ailis"))
    seen = SeatId("0" * 16)
    there.put_receipt(Receipt(seat=seen, release=1, state="applied", at="2026-11-01T00:00:00Z"))


LEFT = LeftRecording(id="0" * 32, app=AppId("notes"), name="New", text=MACRO)


def recordings_left(folder: Path) -> None:
    leave(folder, LEFT)


def recordings(folder: Path) -> None:
    leave(folder, LEFT)
    taken(folder, LEFT)


def key(folder: Path) -> None:
    MakerKey.of_profile(folder / "keys" / "maker.pem", "Ailis")


WRITERS: dict[str, Writer] = {
    writer.__name__: writer for writer in (save, finish, history, shelf, seat, own, channel, recordings, key)
}
IN_A_WORKSPACE = ("save", "finish", "history")


def touched(name: str, folder: Path) -> list[str]:
    """What a writer makes, changes or takes away: each path within its folder, and the folders above it."""
    seen: dict[str, None] = {}
    real_beneath = Folder._beneath

    @contextlib.contextmanager
    def told(self: Folder, path: str, make: bool = False) -> Iterator[tuple[int, str]]:
        whole = self.path / path
        if whole.is_relative_to(folder):
            parts = whole.relative_to(folder).parts
            seen.update(dict.fromkeys("/".join(parts[: n + 1]) for n in range(len(parts))))
        with real_beneath(self, path, make) as beneath:
            yield beneath

    Folder._beneath = told  # type: ignore[method-assign]
    try:
        WRITERS[name](folder)
    finally:
        Folder._beneath = real_beneath  # type: ignore[method-assign]
    seen |= {path.relative_to(folder).as_posix(): None for path in folder.rglob("*")}
    return sorted(path for path in seen if not path.endswith(".being-written"))


def trap_link_to_folder(path: Path, outside: Path) -> None:
    path.symlink_to(outside / "folder")


def trap_link_to_file(path: Path, outside: Path) -> None:
    path.symlink_to(outside / "file")


def trap_link_to_nothing(path: Path, outside: Path) -> None:
    path.symlink_to(outside / "new")


def trap_link_to_itself(path: Path, outside: Path) -> None:
    path.symlink_to(path)


def trap_pipe(path: Path, outside: Path) -> None:
    os.mkfifo(path)


def trap_folder(path: Path, outside: Path) -> None:
    (path / "inside").mkdir(parents=True)


TRAPS = (
    trap_link_to_folder,
    trap_link_to_file,
    trap_link_to_nothing,
    trap_link_to_itself,
    trap_pipe,
    trap_folder,
)


def everything(folder: Path) -> dict[str, tuple[int, bytes]]:
    """What lies in a folder: path → its kind and rights, and its content."""
    return {
        path.relative_to(folder).as_posix(): (
            path.lstat().st_mode,
            path.read_bytes() if path.is_file() else b"",
        )
        for path in sorted(folder.rglob("*"))
    }


def begin(name: str, place: Path) -> Path:
    place.mkdir(parents=True)
    folder = place / "own"
    if name in IN_A_WORKSPACE:
        return write_workspace(folder)
    folder.mkdir()
    return folder


def like(folder: Path, path: str, copy: Path) -> None:
    """Outside, the same names lie as where the trap is: a writer that follows it finds what it looks for."""
    here = folder / path
    if here.is_dir():
        shutil.copytree(here, copy, dirs_exist_ok=True)
        for file in list(copy.rglob("*")):
            if file.is_file():
                file.write_bytes(b"outside")


@pytest.mark.parametrize("name", WRITERS)
def test_no_writer_goes_through_a_trap(name: str, tmp_path: Path) -> None:
    whole = begin(name, tmp_path / "whole")
    paths = touched(name, whole)
    assert paths
    tried = 0
    for number, path in enumerate(paths):
        for trap in TRAPS:
            place = tmp_path / f"{number}-{trap.__name__}"
            folder, outside = begin(name, place), place / "outside"
            (outside / "folder").mkdir(parents=True)
            (outside / "file").write_bytes(b"outside")
            like(whole, path, outside / "folder")
            there = folder / path
            there.parent.mkdir(parents=True, exist_ok=True)
            if there.is_dir():
                shutil.rmtree(there)
            there.unlink(missing_ok=True)
            trap(there, outside)
            before = everything(outside)
            with contextlib.suppress(RimecrestError, sqlite3.Error):
                WRITERS[name](folder)
            assert everything(outside) == before, (path, trap.__name__)
            shutil.rmtree(place)
            tried += 1
    print(f"{name}: {tried} variants")


# No writer beside the one

BY_ITSELF = {"write_bytes", "write_text", "unlink", "rmtree", "copytree", "copyfile", "symlink_to", "touch"}
OF_THE_SYSTEM = {"replace", "rename", "remove", "move", "copy", "link", "symlink", "truncate", "open"}
SYSTEM = {"os", "shutil"}
WRITING = ("w", "wb", "a", "ab", "x", "xb", "r+", "r+b")
ELSEWHERE = {
    "core/files.py": "here it is done",
    "core/own_cache.py": "a cache in a folder that nobody else can write",
    "core/workspace/journal.py": "cuts a file that is open",
    "core/workspace/lock.py": "opens the folder itself, to lock it",
    "rimecrest_standins/post/maildir.py": "deletes messages and empty folders",
    "rimecrest_standins/post/first_mail.py": "copies messages into a folder that is not there yet",
    "demo/office.py": "makes the demo",
    "kit/documents/view_commands.py": "the toolkit writes a PDF beside the file that somebody named",
    "link/addresses.py": "takes sockets of ended programs away",
    "shell/link_server.py": "takes its socket away",
    "studio/macros/trial_session.py": "copies into a scratch folder",
}
"""Module → why it writes by a path."""
NAMED = {
    "rimecrest_standins/post/message.py", "rimecrest_standins/post/reading.py", "cli/macro.py",
    "demo/office.py", "demo/mail.py",
    "kit/documents/file_document.py", "kit/program.py", "studio/macros/bundles.py",
    "studio/wall_chart/html.py", "studio/wall_chart/pdf.py",
}  # fmt: skip
"""Modules that write the file that somebody named."""


def named_in_tests(path: Path) -> str:
    """A module of the program by its path, without the name of the main package."""
    return path.relative_to(SOURCE).as_posix().removeprefix("rimecrest/")


def writes(tree: ast.AST) -> bool:
    """Whether some call writes a file by a path."""
    for call in (node for node in ast.walk(tree) if isinstance(node, ast.Call)):
        given = {a.value for a in call.args if isinstance(a, ast.Constant) and isinstance(a.value, str)}
        match call.func:
            case ast.Name("open") | ast.Attribute(attr="open") if given & set(WRITING):
                return True
            case ast.Attribute(ast.Name(owner), name) if owner in SYSTEM and name in OF_THE_SYSTEM:
                return True
            case ast.Attribute(attr=name) if name in BY_ITSELF:
                return True
    return False


def test_every_other_writer_uses_the_guarded_one() -> None:
    found, named = set(), set()
    for path in SOURCE.rglob("*.py"):
        text = path.read_text("utf-8")
        where = named_in_tests(path)
        if writes(ast.parse(text)):
            found.add(where)
        if "import" in text and "write_atomically" in text:
            named.add(where)
    assert found == set(ELSEWHERE)
    assert named - {"core/files.py"} == NAMED
