"""What happens beside a pull: a second agent, a second profile, a changed release, a clock that is wrong."""

from __future__ import annotations

import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from click.testing import Result
from filelock import FileLock
from typer.testing import CliRunner

from rimecrest.cli.command_line import app
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import BESIDE, LEFT_BEHIND
from rimecrest.core.model import dump_record
from rimecrest.core.release import profile as profile_module
from rimecrest.core.release.audience import audience_of
from rimecrest.core.release.package import build_package
from rimecrest.core.release.profile import Profile, default_folder
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.kit.program import enrolled_here
from rimecrest.rollout.agent import enrol, pull_now, status
from rimecrest.rollout.folder import FolderRepository
from rimecrest.rollout.publish import publish_workspace

NEWS = {"organisation": "Greeting is new."}


@pytest.fixture
def channel(tmp_path: Path, workspace: Workspace) -> FolderRepository:
    made = FolderRepository(tmp_path / "channel")
    publish_workspace(workspace, str(tmp_path / "channel"), NEWS, over=99)
    return made


@pytest.fixture
def seat(tmp_path: Path, channel: FolderRepository) -> Profile:
    profile = Profile(tmp_path / "profile")
    enrol(profile, str(tmp_path / "channel"), "North 1")
    return profile


def place(channel: FolderRepository) -> Path:
    return channel.places()[0]


# Two agents in one profile


def test_while_one_agent_works_another_waits_and_is_told(
    seat: Profile, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(profile_module, "PATIENCE", 0.2)
    with (
        FileLock(seat.folder / profile_module.LOCK),
        pytest.raises(RimecrestError, match="Another agent is at work"),
    ):
        pull_now(seat)
    assert seat.installed() is None
    assert pull_now(seat).changed


@pytest.mark.long
def test_agents_as_processes_at_once_never_go_backwards(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    pull_now(seat)
    command = [sys.executable, "-m", "rimecrest", "seat", "pull", "--profile", str(seat.folder)]

    def agent(_number: int) -> int:
        return subprocess.run(command, capture_output=True, check=False).returncode

    with ThreadPoolExecutor(4) as pool:
        running = [pool.submit(agent, number) for number in range(4)]
        publish_workspace(workspace, str(place(channel)), NEWS, over=99)
        publish_workspace(workspace, str(place(channel)), NEWS, over=99)
        assert [one.result() for one in running] == [0] * 4
    pull_now(seat)
    assert seat.stack("notes").release == 3
    reports = [receipt.report for receipt in channel.receipts()[0]]
    assert reports == sorted(set(reports))


def test_what_a_killed_agent_left_half_written_is_tidied(seat: Profile, channel: FolderRepository) -> None:
    (seat.folder / "releases").mkdir()
    left = [seat.folder / f".a{BESIDE}", seat.folder / "releases" / f".b{BESIDE}"]
    theirs = place(channel) / "receipts" / seat.enrolment().id / f".c{BESIDE}"
    theirs.parent.mkdir(parents=True)
    fresh = seat.folder / f".d{BESIDE}"
    for path in (*left, theirs, fresh):
        path.write_bytes(b"half")
    for path in (*left, theirs):
        os.utime(path, (path.stat().st_mtime - LEFT_BEHIND - 5,) * 2)
    pull_now(seat)
    assert not [path for path in (*left, theirs) if path.exists()]
    assert fresh.exists()


# What is released under a number stays that


def test_a_number_with_other_content_is_noticed_and_reported(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    publish_workspace(workspace, str(place(channel)), NEWS, over=99)
    other = build_package(workspace, 2, {"organisation": "Something else."}, {})
    (place(channel) / "releases" / "2.crestpack").write_bytes(other)
    with pytest.raises(RimecrestError, match="Release 2 is not what was released"):
        pull_now(seat)
    assert seat.installed() is None
    assert [(r.release, r.state) for r in channel.receipts()[0]] == [(2, "failed")]


def test_a_release_made_anew_under_its_number_is_noticed_where_it_is_installed(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    pull_now(seat)
    again = audience_of(workspace, 1).pointing_to(1, b"another")
    (place(channel) / "audience.json").write_text(dump_record(again, "audience"))
    with pytest.raises(RimecrestError, match="Release 1 is not what it was when this seat took it"):
        pull_now(seat)
    assert seat.stack("notes").news == "Greeting is new."
    assert [r.state for r in channel.receipts()[0]] == ["failed"]


def test_a_package_that_is_missing_leaves_a_failed_receipt(seat: Profile, channel: FolderRepository) -> None:
    (place(channel) / "releases" / "1.crestpack").unlink()
    with pytest.raises(RimecrestError, match="cannot be fetched"):
        pull_now(seat)
    [receipt] = channel.receipts()[0]
    assert (receipt.release, receipt.state) == (1, "failed")
    assert "cannot be fetched" in receipt.reason


# Receipts in order, whatever the clocks say


def test_receipts_are_in_order_by_release_and_report_not_by_the_clock(
    seat: Profile, channel: FolderRepository
) -> None:
    identity = seat.enrolment().id
    for release, report, at in ((2, 7, "2026-01-01"), (1, 3, "2040-01-01"), (2, 4, "2031-01-01")):
        data = {"seat": identity, "release": release, "state": "applied", "at": at, "report": report}
        channel.put_receipt(Receipt.model_validate({**data, "profile": f"{report}"}))
    assert [(r.release, r.report) for r in channel.receipts_of(identity)] == [(1, 3), (2, 4), (2, 7)]


# What a seat says of itself


def test_status_names_a_newer_release_and_why_the_last_pull_failed(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    pull_now(seat)
    publish_workspace(workspace, str(place(channel)), NEWS, over=99)
    assert "Release 2 is ready for it: pull." in status(seat)
    package = place(channel) / "releases" / "2.crestpack"
    whole = package.read_bytes()
    package.write_bytes(whole[:200])
    with pytest.raises(RimecrestError):
        pull_now(seat)
    assert any("The last pull failed" in line and "not what was released" in line for line in status(seat))
    package.write_bytes(whole)
    pull_now(seat)
    assert not any("failed" in line or "ready" in line for line in status(seat))


def test_status_without_the_channel_says_so_and_what_is_here(
    seat: Profile, channel: FolderRepository
) -> None:
    pull_now(seat)
    place(channel).rename(place(channel).with_name("gone"))
    said = status(seat)
    assert any("audience.json cannot be read" in line for line in said)
    assert said[-1].startswith("Release 1, layers:")


def test_a_second_profile_for_one_seat_is_told(
    tmp_path: Path, seat: Profile, channel: FolderRepository
) -> None:
    assert "Another profile" not in pull_now(seat).sentence
    second = Profile(tmp_path / "second")
    enrol(second, str(place(channel)), "North 1")
    assert "Another profile reports for North 1 too" in pull_now(second).sentence
    assert any("Another profile reports for North 1 too" in line for line in status(seat))


def test_a_receipt_of_before_that_names_no_profile_is_nobody_elses(
    seat: Profile, channel: FolderRepository
) -> None:
    data = {"seat": seat.enrolment().id, "release": 1, "state": "applied", "at": "2026-01-01"}
    channel.put_receipt(Receipt.model_validate(data))
    assert pull_now(seat).sentence == "Release 1 is installed."
    assert not any("Another profile" in line for line in status(seat))


def test_enrolled_with_a_relative_channel_a_seat_pulls_from_anywhere(
    tmp_path: Path, channel: FolderRepository, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "here").mkdir()
    monkeypatch.chdir(tmp_path / "here")
    profile = Profile(tmp_path / "other")
    enrol(profile, "../channel", "North 1")
    monkeypatch.chdir("/")
    assert pull_now(profile).changed


# Releasing to some


def test_those_who_do_not_get_a_release_keep_the_one_they_have(
    channel: FolderRepository, workspace: Workspace
) -> None:
    before = channel.audience()
    number, seats = publish_workspace(workspace, str(place(channel)), NEWS, seats=["South 1"], over=99)
    assert (number, seats) == (2, 1)
    after = channel.audience()
    assert after.seats.keys() == before.seats.keys()
    assert sorted(meant.release for meant in after.seats.values()) == [1, 1, 1, 2]


def test_a_number_that_was_promised_is_kept_or_refused(
    channel: FolderRepository, workspace: Workspace
) -> None:
    publish_workspace(workspace, str(place(channel)), NEWS, over=99)
    with pytest.raises(RimecrestError, match="Release 2 has come in meanwhile") as told:
        publish_workspace(workspace, str(place(channel)), NEWS, expected=2, over=99)
    assert "release as 3" in told.value.way_out
    assert channel.newest() == 2


# At the command line


def rimecrest(*arguments: str) -> Result:
    return CliRunner().invoke(app, arguments)


def test_without_a_profile_it_is_that_of_whoever_is_logged_in(
    tmp_path: Path, channel: FolderRepository
) -> None:
    assert enrolled_here() is None
    done = rimecrest("seat", "enrol", "--channel", str(place(channel)), "--seat", "North 1")
    assert done.exit_code == 0, done.output
    assert enrolled_here() == default_folder()
    assert rimecrest("seat", "pull").output.startswith("Release 1 is installed.")
    assert "Release 1, layers: organisation, department.north." in rimecrest("seat", "status").output


def test_the_channel_of_the_first_release_is_written_into_the_workspace(
    folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(tmp_path)
    done = rimecrest("release", str(folder), "--channel", "out")
    assert "The workspace releases there from now on." in done.output
    assert read_workspace(folder).settings.channel == str(tmp_path / "out")
    monkeypatch.chdir("/")
    assert "Release 2 is in" in rimecrest("release", str(folder)).output


def test_where_a_studio_has_the_workspace_the_release_is_out_and_the_rest_is_told(
    folder: Path, tmp_path: Path
) -> None:
    studio = Keeper(folder)
    studio.open()
    done = rimecrest("release", str(folder), "--channel", str(tmp_path / "out"))
    assert done.exit_code == 0
    assert "Release 1 is in" in done.output
    assert "was not noted in workspace.json" in done.output
    studio.close()
