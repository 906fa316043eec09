"""The seat's agent: real folders, real processes; killed between any two things it does."""

from __future__ import annotations

import json
import socket
import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import Any

import pytest

from rimecrest.channel import FolderChannel, open_channel
from rimecrest.channel.publish import publish_workspace
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout import KeyBinding
from rimecrest.core.release import Profile, audience_of, build_package
from rimecrest.core.workspace import Bind, Workspace, apply
from rimecrest.link import (
    Failure,
    Notice,
    PeerMisbehaved,
    Reply,
    Request,
    Wire,
    encode,
    listening,
    runtime_folder,
    socket_path,
)
from rimecrest.link import wire as wire_module
from rimecrest.seat import carry_out, enrol, pull, pull_now, status
from rimecrest.seat.pull import Wish
from rimecrest.seat.running import Line, LinkRefused, tell_running

NEWS = {"organisation": "Greeting is new."}


@pytest.fixture
def channel(tmp_path: Path, workspace: Workspace) -> FolderChannel:
    made = FolderChannel(tmp_path / "channel")
    made.publish(1, build_package(workspace, 1, NEWS, {}), audience_of(workspace, 1))
    return made


@pytest.fixture
def seat(tmp_path: Path, channel: FolderChannel) -> Profile:
    profile = Profile(tmp_path / "profile")
    enrol(profile, str(channel.folder), "North 1")
    return profile


def next_release(channel: FolderChannel, workspace: Workspace, number: int = 2) -> None:
    channel.publish(number, build_package(workspace, number, NEWS, {}), audience_of(workspace, number))


def test_a_seat_enrols_pulls_and_reports(seat: Profile, channel: FolderChannel) -> None:
    assert "Nothing is installed yet" in status(seat)[-1]
    pulled = pull_now(seat)
    assert (pulled.release, pulled.changed) == (1, True)
    assert seat.stack("notes").news == "Greeting is new."
    receipts, ignored = channel.receipts()
    assert [(r.release, r.state) for r in receipts] == [(1, "applied")]
    assert ignored == 0
    assert "Release 1, layers: organisation, department.north." in status(seat)


def test_a_second_pull_has_nothing_to_do(seat: Profile) -> None:
    pull_now(seat)
    assert pull_now(seat).changed is False


def test_a_seat_that_nobody_listed_cannot_enrol(tmp_path: Path, channel: FolderChannel) -> None:
    with pytest.raises(RimecrestError, match="has no seat “West 1”"):
        enrol(Profile(tmp_path / "p"), str(channel.folder), "West 1")


def test_a_seat_that_is_left_out_keeps_what_it_has(
    seat: Profile, channel: FolderChannel, workspace: Workspace
) -> None:
    pull_now(seat)
    channel.publish(2, build_package(workspace, 2, NEWS, {}), audience_of(workspace, 2, ["South 1"]))
    assert pull_now(seat).sentence == "Nothing is meant for this seat yet."
    assert seat.stack("notes").release == 1


def test_a_channel_out_of_reach_is_told_and_nothing_changes(seat: Profile, channel: FolderChannel) -> None:
    pull_now(seat)
    channel.folder.rename(channel.folder.with_name("gone"))
    with pytest.raises(RimecrestError, match=r"audience.json cannot be read"):
        pull_now(seat)
    assert seat.stack("notes").release == 1


def test_a_package_that_is_not_whole_is_refused_and_reported(
    seat: Profile, channel: FolderChannel, workspace: Workspace
) -> None:
    pull_now(seat)
    next_release(channel, workspace)
    path = channel.folder / "releases" / "2.rimepack"
    path.write_bytes(path.read_bytes()[:300])
    with pytest.raises(RimecrestError, match="truncated"):
        pull_now(seat)
    assert seat.stack("notes").release == 1
    assert [(r.release, r.state) for r in channel.receipts()[0]] == [(1, "applied"), (2, "failed")]
    path.write_bytes(build_package(workspace, 2, NEWS, {}))
    assert pull_now(seat).changed


def test_a_package_under_another_number_is_refused(
    seat: Profile, channel: FolderChannel, workspace: Workspace
) -> None:
    channel.publish(2, build_package(workspace, 7, NEWS, {}), audience_of(workspace, 2))
    with pytest.raises(RimecrestError, match="says it is release 7"):
        pull_now(seat)


def test_an_older_release_offered_as_new_is_refused(
    seat: Profile, channel: FolderChannel, workspace: Workspace
) -> None:
    old = (channel.folder / "audience.json").read_text()
    next_release(channel, workspace)
    pull_now(seat)
    (channel.folder / "audience.json").write_text(old)
    with pytest.raises(RimecrestError, match="offers release 1, but release 2 is here"):
        pull_now(seat)


class Killed(BaseException):
    """Stands for the power going."""


def test_killed_before_any_of_its_steps_a_seat_is_whole_and_the_next_pull_goes_on(
    seat: Profile, channel: FolderChannel, workspace: Workspace
) -> None:
    pull_now(seat)
    next_release(channel, workspace)
    enrolment = seat.enrolment()
    current = seat.current_path.read_text()
    steps: list[type] = []
    carry_out(pull(enrolment.id), seat, enrolment, channel, lambda wish: steps.append(type(wish)))
    assert len(steps) == 8
    for count in range(len(steps)):
        seat.current_path.write_text(current)
        seen = 0

        def kill(wish: Wish, at: int = count) -> None:
            nonlocal seen
            if seen == at:
                raise Killed
            seen += 1

        with pytest.raises(Killed):
            carry_out(pull(enrolment.id), seat, enrolment, channel, kill)
        assert seat.stack("notes").release in (1, 2)
        assert seat.installed() is not None
        pull_now(seat)
        assert seat.stack("notes").release == 2


def test_killed_as_a_process_while_pulling_again_and_again_a_seat_is_always_whole(
    seat: Profile, channel: FolderChannel, workspace: Workspace
) -> None:
    pull_now(seat)
    for number in range(2, 6):
        next_release(channel, workspace, number)
        process = subprocess.Popen(
            [sys.executable, "-m", "rimecrest", "seat", "pull", "--profile", str(seat.folder)]
        )
        time.sleep(0.08 * number)  # somewhere in the middle; wherever it is, the seat has to be whole
        process.kill()
        process.wait()
        assert seat.stack("notes").release in range(1, number + 1)
    pull_now(seat)
    assert seat.stack("notes").release == 5


def test_forged_oversized_and_misplaced_receipts_are_counted_and_ignored(channel: FolderChannel) -> None:
    folder = channel.folder / "receipts" / "abc"
    folder.mkdir(parents=True)
    good = {
        "format": "rimecrest.receipt/1",
        "seat": "abc",
        "release": 1,
        "state": "applied",
        "at": "2026-11-23",
    }
    (folder / "1.json").write_text(json.dumps(good))
    (folder / "2.json").write_text(json.dumps({**good, "seat": "other"}))
    (folder / "3.json").write_text("rubbish")
    (folder / "4.json").write_bytes(b" " * 70_000)
    (folder / "5.json").write_text(json.dumps({**good, "state": "perhaps"}))
    receipts, ignored = channel.receipts()
    assert [receipt.seat for receipt in receipts] == ["abc"]
    assert ignored == 4


def test_a_number_is_published_once(channel: FolderChannel, workspace: Workspace) -> None:
    with pytest.raises(RimecrestError, match="is there already"):
        next_release(channel, workspace, 1)
    assert channel.newest() == 1


@pytest.mark.parametrize("address", ["{}", "file://{}", ' "{}" ', "'{}'"])
def test_an_address_may_be_a_path_a_file_address_or_in_quotes(tmp_path: Path, address: str) -> None:
    assert open_channel(address.format(tmp_path)).folder == tmp_path


def test_an_address_of_another_kind_is_refused() -> None:
    with pytest.raises(RimecrestError, match="is no folder"):
        open_channel("https://example.org/x")


def test_publishing_is_shut_while_a_finding_blocks_and_numbers_go_up(
    tmp_path: Path, workspace: Workspace
) -> None:
    address = str(tmp_path / "out")
    assert publish_workspace(workspace, address, {}) == (1, 4)
    assert publish_workspace(workspace, address, {}, ["North 1"]) == (2, 1)
    bad, _ = apply(workspace, Bind("department.north", "notes", KeyBinding(keys="F9", run="macro:none")))
    with pytest.raises(RimecrestError, match="One finding blocks the release: F9 runs the macro"):
        publish_workspace(bad, address, {})
    with pytest.raises(RimecrestError, match="No seat is listed"):
        publish_workspace(workspace, address, {}, [])
    assert open_channel(address).newest() == 2


def test_an_audience_that_is_broken_is_told(channel: FolderChannel) -> None:
    (channel.folder / "audience.json").write_text("{")
    with pytest.raises(RimecrestError, match=r"audience.json, line 1"):
        channel.audience()


# The link, without an application: messages, and peers that misbehave.


@pytest.mark.parametrize(
    "message", [Request(1, "hello", {"a": [1]}), Notice("x"), Reply(2, {"ok": True}), Failure(3, "No.")]
)
def test_messages_are_read_as_they_were_written_in_any_pieces(message: Any) -> None:
    wire, data = Wire(), encode(message) * 2
    got = [found for index in range(len(data)) for found in wire.feed(data[index : index + 1])]
    assert got == [message, message]


@pytest.mark.parametrize(
    "line",
    [
        b"rubbish\n",
        b"[]\n",
        b"\xff\xfe\n",
        b'{"jsonrpc":"1.0","id":1,"method":"x"}\n',
        b'{"jsonrpc":"2.0","id":"x","method":"x"}\n',
        b'{"jsonrpc":"2.0","id":1,"method":5}\n',
        b'{"jsonrpc":"2.0","id":1,"method":"x","params":[1]}\n',
        b'{"jsonrpc":"2.0","id":1}\n',
        b"[" * 50_000 + b"\n",
    ],
)
def test_what_is_no_message_is_told_as_misbehaviour(line: bytes) -> None:
    with pytest.raises(PeerMisbehaved):
        Wire().feed(line)


def test_a_line_without_an_end_is_misbehaviour(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(wire_module, "LONGEST_LINE", 100)
    with pytest.raises(PeerMisbehaved, match="without an end"):
        Wire().feed(b"x" * 101)


def test_the_folder_of_sockets_is_for_this_user_only() -> None:
    assert runtime_folder().stat().st_mode & 0o777 == 0o700


def test_sockets_of_dead_applications_are_taken_away() -> None:
    dead = socket_path("letters", 4_000_000)
    dead.touch()
    assert listening("letters") == []
    assert not dead.exists()


def _server(path: Path, answer: bytes | None) -> socket.socket:
    """A peer that answers every request with the same bytes, or with nothing."""
    server = socket.socket(socket.AF_UNIX)
    server.bind(str(path))
    server.listen()

    def serve() -> None:
        connection, _ = server.accept()
        with connection:
            connection.recv(4096)
            if answer is None:
                connection.recv(4096)
            else:
                connection.sendall(answer)

    threading.Thread(target=serve, daemon=True).start()
    return server


@pytest.mark.parametrize(
    ("answer", "says"),
    [
        (b"rubbish\n", "not JSON"),
        (None, "timed out"),
        (b"", "hung up"),
        (encode(Failure(1, "Not now.")), "Not now."),
    ],
)
def test_an_application_that_answers_badly_is_left_alone(
    tmp_path: Path, answer: bytes | None, says: str
) -> None:
    import os

    path = socket_path("letters", os.getpid())
    server = _server(path, answer)
    with Line(path, timeout=0.3) as line, pytest.raises(LinkRefused, match=says):
        line.ask("hello")
    server.close()
    path.unlink()


def test_nobody_listening_means_nobody_told(tmp_path: Path) -> None:
    assert tell_running(tmp_path) == 0
    with pytest.raises(LinkRefused, match="does not listen"):
        Line(tmp_path / "none.sock")
