"""A kill, a refusal and a full disk at each operation of a release, a pull and an import."""

from __future__ import annotations

import itertools
import shutil
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest

from rimecrest.core.bundle.arriving import take_in
from rimecrest.core.bundle.bundle import build_bundle, read_bundle
from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.package import read_package, understand
from rimecrest.core.release.profile import Owed, Profile
from rimecrest.core.signing import MakerKey
from rimecrest.core.workspace.folder import open_workspace, read_workspace
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.agent import enrol, pull_now
from rimecrest.rollout.folder import FolderRepository
from rimecrest.rollout.publish import publish_workspace
from tests.conftest import make_workspace
from tests.faulty_files import Failing, Fault, Killed, failing

NASTY = "a\u2028b\u0085c"
NEWS = {"organisation": f"News {NASTY}"}
FEWEST = 8
"""Operations of each at least: fewer would mean that the layer does not see them."""


def tried(folder: Path, fault: Fault, at: int, do: Callable[[], object]) -> tuple[Failing, str]:
    """Do it with a fault at an operation on a folder; how it ended: done, told or killed."""
    with failing(folder, fault, at) as layer:
        try:
            do()
            how = "done"
        except Killed:
            how = "killed"
        except RimecrestError:
            how = "told"
    return layer, how


def until_all_went(run: Callable[[int], tuple[Failing, str]]) -> None:
    """Run with the fault at the first operation, the second, and so on, until none is left to fail."""
    for at in itertools.count():
        layer, how = run(at)
        if layer.done <= at:
            assert how == "done", layer.trail
            assert layer.done >= FEWEST, layer.trail
            return


def sound(channel: FolderRepository) -> int:
    """The release that seats are pointed to; whoever is can take it."""
    audience = channel.audience()
    [number] = {meant.release for meant in audience.seats.values()}
    understand(read_package(channel.package(number), "it"), "it")
    return number


@pytest.mark.parametrize("fault", list(Fault))
def test_a_release_is_there_whole_or_not_at_all(tmp_path: Path, workspace: Workspace, fault: Fault) -> None:
    before = tmp_path / "before"
    publish_workspace(workspace, str(before), NEWS, over=99)

    def run(at: int) -> tuple[Failing, str]:
        here = tmp_path / f"{fault.value} {at}"
        shutil.copytree(before, here)
        layer, how = tried(here, fault, at, lambda: publish_workspace(workspace, str(here), NEWS, over=99))
        channel = FolderRepository(here)
        assert sound(channel) in ((2,) if how == "done" else (1, 2)), layer.trail
        # Whatever it left, the next release is told a number and goes out.
        number, _ = publish_workspace(workspace, str(here), NEWS, over=99)
        assert sound(channel) == number
        return layer, how

    until_all_went(run)


def listing(folder: Path) -> list[str]:
    return sorted(str(path) for path in folder.rglob("*"))


@pytest.mark.long
@pytest.mark.parametrize("changes", range(6))
def test_the_command_line_killed_while_it_releases_leaves_a_channel_that_seats_can_take(
    folder: Path, tmp_path: Path, changes: int
) -> None:
    """It is killed when so many files in the channel have come or gone."""
    channel = tmp_path / "channel"
    publish_workspace(read_workspace(folder), str(channel), NEWS, over=99)
    command = [sys.executable, "-m", "rimecrest", "release", str(folder), "--channel", str(channel)]
    with subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL) as process:
        seen, known = 0, listing(channel)
        while process.poll() is None and seen <= changes:
            if (now := listing(channel)) != known:
                seen, known = seen + 1, now
        process.kill()
    assert sound(FolderRepository(channel)) in (1, 2)
    number, _ = publish_workspace(read_workspace(folder), str(channel), NEWS, over=99)
    assert sound(FolderRepository(channel)) == number


@pytest.mark.parametrize("fault", list(Fault))
def test_a_seat_has_a_whole_release_and_reports_in_the_end(
    tmp_path: Path, workspace: Workspace, fault: Fault
) -> None:
    channel = tmp_path / "channel"
    publish_workspace(workspace, str(channel), NEWS, over=99)
    before = Profile(tmp_path / "before")
    enrol(before, str(channel), "North 1")
    pull_now(before)
    publish_workspace(workspace, str(channel), NEWS, over=99)

    def run(at: int) -> tuple[Failing, str]:
        seat = Profile(tmp_path / f"{fault.value} {at}")
        shutil.copytree(before.folder, seat.folder)
        layer, how = tried(seat.folder, fault, at, lambda: pull_now(seat))
        assert seat.stack("notes").release in ((2,) if how == "done" else (1, 2)), layer.trail
        pull_now(seat)
        assert seat.stack("notes").release == 2
        assert seat.stack("notes").news == NEWS["organisation"]
        installed = seat.installed()
        assert installed is not None
        assert installed.owed == Owed()
        newest = FolderRepository(channel).receipts_of(seat.enrolment().id)[-1]
        assert (newest.release, newest.state) == (2, "applied")
        return layer, how

    until_all_went(run)


def contents(workspace: Workspace) -> tuple[object, ...]:
    return (
        {key: file.text for key, file in workspace.macros.items()},
        dict(workspace.companions),
    )


@pytest.mark.parametrize("fault", list(Fault))
def test_an_import_is_there_whole_or_not_at_all(tmp_path: Path, folder: Path, fault: Fault) -> None:
    text = f'macro "Brought"\nfor notes\nwith "companions/form.txt"\n\nwrite "{NASTY}"\n'
    theirs = make_workspace().with_macro("organisation", "brought", text)
    theirs = theirs.with_companion("form.txt", NASTY.encode())
    maker = MakerKey.fresh(f"Ailis {NASTY}")
    bundle = read_bundle(build_bundle(theirs, [("organisation", "brought")], maker), "it")

    def after(opened: Workspace) -> Workspace:
        return take_in(bundle, opened, "organisation", {}).on(opened)

    old = contents(read_workspace(folder))
    new = contents(after(read_workspace(folder)))
    assert old != new

    def run(at: int) -> tuple[Failing, str]:
        here = tmp_path / f"{fault.value} {at}" / "sample"
        shutil.copytree(folder, here)
        keeper = Keeper(here)
        opened = keeper.open()
        layer, how = tried(here, fault, at, lambda: keeper.save("import", opened, after(opened)))
        keeper.close()
        seen = contents(read_workspace(here))
        assert seen == contents(open_workspace(here)), layer.trail
        assert seen in ((new,) if how == "done" else (old, new)), layer.trail
        return layer, how

    until_all_went(run)
