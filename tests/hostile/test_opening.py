"""What is opened is a plain file of so many bytes at most, at every door, whatever lies there in its place.

Each file that a reader looks at is replaced by a pipe, a device that never ends, a sparse file of 8 GiB, a
folder, a link to each of them or to nothing. The reader ends at once: with what it can do without, or with a
sentence. A pipe that is waited for ends the test by its time limit.
"""

from __future__ import annotations

import ast
import contextlib
import os
import resource
import shutil
import socket
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from rimecrest.cli.common import read_text
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import MOST, read_plain
from rimecrest.core.identities import SeatId
from rimecrest.core.release.profile import Profile
from rimecrest.core.workspace.bring_in import read_whole
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.journal import Journal
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.left_recordings import waiting
from rimecrest.kit.macros.sounds import Sounds
from rimecrest.kit.personal.own_macros import OwnMacros
from rimecrest.kit.personal.personal_layout import PersonalLayout
from rimecrest.rollout.folder import FolderRepository
from rimecrest.studio.pictures.bringing_in import from_file
from tests.hostile.test_writing import (
    SOURCE,
    begin,
    channel,
    named_in_tests,
    own,
    recordings_left,
    save,
    seat,
)
from tests.programs import Grid, Letters, Post

SPARSE = 8 << 30
ROOM = 3 << 30
"""Bytes of memory that the tests may take."""


def pipe(path: Path) -> None:
    os.mkfifo(path)


def endless(path: Path) -> None:
    path.symlink_to("/dev/zero")


def sparse(path: Path) -> None:
    with path.open("wb") as file:
        file.truncate(SPARSE)


def folder(path: Path) -> None:
    path.mkdir()


def link_to_a_pipe(path: Path) -> None:
    os.mkfifo(path.with_name("the-pipe"))
    path.symlink_to(path.with_name("the-pipe"))


def link_to_a_sparse_file(path: Path) -> None:
    sparse(path.with_name("the-sparse-one"))
    path.symlink_to(path.with_name("the-sparse-one"))


def link_to_nothing(path: Path) -> None:
    path.symlink_to(path.with_name("nothing"))


def link_to_itself(path: Path) -> None:
    path.symlink_to(path)


def socket_of_somebody(path: Path) -> None:
    with contextlib.chdir(path.parent), socket.socket(socket.AF_UNIX) as made:
        made.bind(path.name)


TRAPS = (
    pipe, endless, sparse, folder, link_to_a_pipe, link_to_a_sparse_file, link_to_nothing, link_to_itself,
    socket_of_somebody,
)  # fmt: skip


def workspace(place: Path) -> None:
    read_workspace(place)


def keeper(place: Path) -> None:
    kept = Keeper(place)
    try:
        kept.open()
        kept.foreign_changes()
    finally:
        kept.close()


def journal(place: Path) -> None:
    Journal(place).pending()


def repository(place: Path) -> None:
    there = FolderRepository(place)
    there.newest()
    there.receipts()
    there.receipts_of(SeatId("0" * 16))
    there.made(1)
    for look in (there.audience, lambda: there.package(1)):
        with contextlib.suppress(RimecrestError):
            look()


def profile(place: Path) -> None:
    there = Profile(place)
    there.reports()
    for look in (there.enrolment, there.installed, lambda: there.stack("notes")):
        with contextlib.suppress(RimecrestError):
            look()
    there.owes_news("notes")


def personal(place: Path) -> None:
    OwnMacros("notes", place)
    PersonalLayout("notes", place)
    assert Sounds(place).on in (True, False)


def left(place: Path) -> None:
    waiting(place)


READERS: dict[str, tuple[str, Callable[[Path], None], Callable[[Path], None]]] = {
    "workspace": ("save", save, workspace),
    "keeper": ("save", save, keeper),
    "journal": ("save", save, journal),
    "repository": ("channel", channel, repository),
    "profile": ("seat", seat, profile),
    "personal": ("own", own, personal),
    "left": ("recordings", recordings_left, left),
}
"""Reader → the kind of folder, what makes its files, and the reader."""


@pytest.fixture(autouse=True)
def little_room() -> Iterator[None]:
    """A reader that takes what never ends is out of memory, instead of the machine."""
    soft, hard = resource.getrlimit(resource.RLIMIT_DATA)
    resource.setrlimit(resource.RLIMIT_DATA, (ROOM, hard))
    yield
    resource.setrlimit(resource.RLIMIT_DATA, (soft, hard))


@pytest.mark.parametrize("name", READERS)
def test_no_reader_waits_or_reads_without_end(name: str, tmp_path: Path) -> None:
    kind, make, read = READERS[name]
    whole = begin(kind, tmp_path / "whole")
    make(whole)
    files = [path.relative_to(whole) for path in sorted(whole.rglob("*")) if path.is_file()]
    assert files
    tried = 0
    for file in files:
        for trap in TRAPS:
            place = tmp_path / "tried"
            shutil.copytree(whole, place)
            (place / file).unlink()
            trap(place / file)
            with contextlib.suppress(RimecrestError):
                read(place)
            shutil.rmtree(place)
            tried += 1
    print(f"{name}: {tried} variants")


# Files that somebody names


def ways_in(qtbot: QtBot) -> dict[str, Callable[[Path], object]]:
    """Each door through which a person, a button or a macro names a file."""
    letters, grid, post = Letters(qtbot), Grid(qtbot), Post(qtbot)
    post.do("new")
    return {
        "plain": read_plain,
        "command line": read_text,
        "companion": read_whole,
        "picture": from_file,
        "letter": lambda path: letters.do("open", path=str(path)),
        "workbook": lambda path: grid.do("open", path=str(path)),
        "attachment": lambda path: post.do("attach-file", path=str(path)),
    }


@pytest.mark.parametrize("ending", [".html", ".txt", ".ods", ".csv", ".png", ".svg", ".eml", ".steps"])
def test_no_door_waits_or_reads_without_end(qtbot: QtBot, tmp_path: Path, ending: str) -> None:
    doors = ways_in(qtbot)
    for number, trap in enumerate(TRAPS):
        path = tmp_path / f"{number}" / f"file{ending}"
        path.parent.mkdir()
        trap(path)
        for name, way_in in doors.items():
            try:
                taken = way_in(path)
            except (RimecrestError, OSError):
                continue
            assert taken in (None, False), (name, trap.__name__)


def test_a_file_may_be_as_long_as_is_read_and_no_byte_longer(tmp_path: Path) -> None:
    path = tmp_path / "file"
    path.write_bytes(b"x" * 100)
    assert len(read_plain(path, 100)) == 100
    with pytest.raises(OSError, match="more than 99 bytes"):
        read_plain(path, 99)
    assert MOST < ROOM


# No reader beside the one

OWN_READERS = {
    "core/keys/desktops/profiles.py": "what is shipped",
    "core/keys/keyboards/national.py": "what is shipped",
    "core/release/pictures.py": "what is shipped, and the cache that nobody else can write",
    "shell/pictures/book.py": "what is shipped",
    "studio/wall_chart/pdf.py": "what it has just made in a scratch folder",
}
"""Module → why it reads a file by a path that is not beside the module."""


def reads(tree: ast.AST) -> bool:
    """Whether some call reads a file by a path."""
    for call in (node for node in ast.walk(tree) if isinstance(node, ast.Call)):
        match call.func:
            case ast.Attribute(attr="read_text" | "read_bytes", value=owner):
                if not ast.unparse(owner).startswith("Path(__file__)"):
                    return True
            case ast.Name("open"):
                return True
    return False


def test_every_other_reader_uses_the_guarded_one() -> None:
    found = {
        named_in_tests(path) for path in SOURCE.rglob("*.py") if reads(ast.parse(path.read_text("utf-8")))
    }
    assert {path for path in found if not path.startswith("demo/")} == set(OWN_READERS)
