"""The seat's agent: real folders, real processes; killed between any two things it does."""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from filelock import FileLock

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.model import dump_record
from rimecrest.core.release.audience import audience_of
from rimecrest.core.release.package import build_package, read_package, zipped
from rimecrest.core.release.profile import Owed, Profile
from rimecrest.core.workspace.edits import Bind, apply
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.link import wire as wire_module
from rimecrest.link.addresses import listening, runtime_folder, socket_path
from rimecrest.link.line import Line, LinkRefused
from rimecrest.link.wire import Failure, Notice, PeerMisbehaved, Reply, Request, Wire, encode
from rimecrest.rollout.agent import carry_out, enrol, pull_now, status
from rimecrest.rollout.folder import LOCK, FolderRepository, open_repository
from rimecrest.rollout.publish import publish_workspace
from rimecrest.rollout.pull import TellRunning, Wish, pull
from rimecrest.rollout.running import tell_running

NEWS = {"organisation": "Greeting is new."}


@pytest.fixture
def channel(tmp_path: Path, workspace: Workspace) -> FolderRepository:
    made = FolderRepository(tmp_path / "channel")
    made.publish(1, build_package(workspace, 1, NEWS, {}), audience_of(workspace, 1))
    return made


@pytest.fixture
def seat(tmp_path: Path, channel: FolderRepository) -> Profile:
    profile = Profile(tmp_path / "profile")
    enrol(profile, str(tmp_path / "channel"), "North 1")
    return profile


def next_release(channel: FolderRepository, workspace: Workspace, number: int = 2) -> None:
    channel.publish(number, build_package(workspace, number, NEWS, {}), audience_of(workspace, number))


def test_a_seat_enrols_pulls_and_reports(seat: Profile, channel: FolderRepository) -> None:
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


def test_a_seat_that_nobody_listed_cannot_enrol(tmp_path: Path, channel: FolderRepository) -> None:
    with pytest.raises(RimecrestError, match="has no seat “West 1”"):
        enrol(Profile(tmp_path / "p"), str(channel.places()[0]), "West 1")


def test_a_seat_that_is_left_out_keeps_what_it_has(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    pull_now(seat)
    channel.publish(2, build_package(workspace, 2, NEWS, {}), audience_of(workspace, 2, ["South 1"]))
    assert pull_now(seat).sentence == "Nothing is meant for this seat yet."
    assert seat.stack("notes").release == 1


def test_a_channel_out_of_reach_is_told_and_nothing_changes(seat: Profile, channel: FolderRepository) -> None:
    pull_now(seat)
    channel.places()[0].rename(channel.places()[0].with_name("gone"))
    with pytest.raises(RimecrestError, match=r"audience.json cannot be read"):
        pull_now(seat)
    assert seat.stack("notes").release == 1


def test_a_package_that_is_not_whole_is_refused_and_reported(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    pull_now(seat)
    next_release(channel, workspace)
    path = channel.places()[0] / "releases" / "2.crestpack"
    path.write_bytes(path.read_bytes()[:300])
    with pytest.raises(RimecrestError, match="damaged or changed since"):
        pull_now(seat)
    assert seat.stack("notes").release == 1
    assert [(r.release, r.state) for r in channel.receipts()[0]] == [(1, "applied"), (2, "failed")]
    path.write_bytes(build_package(workspace, 2, NEWS, {}))
    assert pull_now(seat).changed


def test_a_package_under_another_number_is_refused(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    channel.publish(2, build_package(workspace, 7, NEWS, {}), audience_of(workspace, 2))
    with pytest.raises(RimecrestError, match="says it is release 7"):
        pull_now(seat)


def test_an_older_release_offered_as_new_is_refused(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    old = (channel.places()[0] / "audience.json").read_text()
    next_release(channel, workspace)
    pull_now(seat)
    (channel.places()[0] / "audience.json").write_text(old)
    with pytest.raises(RimecrestError, match="offers release 1, but release 2 is here"):
        pull_now(seat)


class Window:
    """A running application of a profile: a socket that answers, and remembers what it took over."""

    def __init__(self, profile: Profile) -> None:
        self._profile = profile
        self.took: list[int] = []
        """The release that counted each time it was told to take over."""
        self._server = socket.socket(socket.AF_UNIX)
        self.path = socket_path("notes", os.getpid())
        self.path.unlink(missing_ok=True)
        self._server.bind(str(self.path))
        self._server.listen()
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    def _serve(self) -> None:
        while True:
            try:
                connection, _ = self._server.accept()
            except OSError:
                return
            with connection:
                wire = Wire()
                while data := connection.recv(4096):
                    for message in wire.feed(data):
                        assert isinstance(message, Request)
                        connection.sendall(encode(Reply(message.id, self._answer(message.method))))

    def _answer(self, method: str) -> Any:
        if method == "hello":
            return {"profile": str(self._profile.folder.resolve())}
        assert method == "layout.reload"
        self.took.append(self._profile.stack("notes").release)
        return ""

    def close(self) -> None:
        self._server.shutdown(socket.SHUT_RDWR)
        self._server.close()
        self.path.unlink(missing_ok=True)


@pytest.fixture
def window(seat: Profile) -> Iterator[Window]:
    made = Window(seat)
    yield made
    made.close()


def everything(seat: Profile, channel: FolderRepository, window: Window) -> dict[str, Any]:
    """All that a pull leaves: on the seat, in its windows, in the channel."""
    installed = seat.installed()
    # One that was killed may have sent a receipt twice; its profile's number is its own.
    besides = {"at": "", "report": 0, "profile": ""}
    receipts = [receipt.model_copy(update=besides) for receipt in channel.receipts()[0]]
    return {
        "installed": installed,
        "packages": sorted(path.name for path in (seat.folder / "releases").iterdir()),
        "news": seat.stack("notes").news if seat.owes_news("notes") else "",
        "windows": sorted(set(window.took)),
        "receipts": receipts,
    }


class Killed(BaseException):
    """Stands for the power going."""


def test_killed_before_any_of_its_steps_the_next_pull_ends_as_one_that_was_not_killed(
    tmp_path: Path, channel: FolderRepository, workspace: Workspace
) -> None:
    def run(name: str, kill_at: int | None) -> tuple[dict[str, Any], int]:
        folder = tmp_path / name
        shutil.copytree(channel.places()[0], folder / "channel")
        here = FolderRepository(folder / "channel")
        seat = Profile(folder / "profile")
        enrol(seat, str(folder / "channel"), "North 1")
        window = Window(seat)
        pull_now(seat)
        next_release(here, workspace)
        steps = 0

        def before(_wish: Wish) -> None:
            nonlocal steps
            if steps == kill_at:
                raise Killed
            steps += 1

        enrolment = seat.enrolment()
        if kill_at is None:
            carry_out(pull(enrolment.id), seat, enrolment, here, before)
        else:
            with pytest.raises(Killed):
                carry_out(pull(enrolment.id), seat, enrolment, here, before)
            # Whole either way: the old release or the new one.
            assert seat.stack("notes").release in (1, 2)
            pull_now(seat)
        window.close()
        return everything(seat, here, window), steps

    whole, steps = run("whole", None)
    assert steps == 10
    assert whole["windows"] == [1, 2]
    assert [(r.release, r.state, r.told) for r in whole["receipts"]] == [(1, "applied", 1), (2, "applied", 1)]
    assert whole["installed"].owed == Owed()
    assert whole["news"] == "Greeting is new."
    for count in range(steps):
        assert run(f"killed-{count}", count)[0] == whole, f"killed before step {count}"


PULL = """
import os, signal, sys
from pathlib import Path
from rimecrest.rollout.folder import open_repository
from rimecrest.core.release.profile import Profile
from rimecrest.rollout.agent import carry_out
from rimecrest.rollout.pull import pull
seat, left = Profile(Path(sys.argv[1])), int(sys.argv[2])
def before(_):
    global left
    if left == 0:
        os.kill(os.getpid(), signal.SIGKILL)
    left -= 1
enrolment = seat.enrolment()
carry_out(pull(enrolment.id), seat, enrolment, open_repository(enrolment.channel), before)
"""


@pytest.mark.long
def test_killed_as_a_process_again_and_again_a_seat_is_always_whole(
    seat: Profile, channel: FolderRepository, workspace: Workspace
) -> None:
    pull_now(seat)
    for number, count in enumerate((2, 4, 5, 6, 8), start=2):
        next_release(channel, workspace, number)
        ended = subprocess.run([sys.executable, "-c", PULL, str(seat.folder), str(count)], check=False)
        assert ended.returncode == -signal.SIGKILL
        assert seat.stack("notes").release in range(1, number + 1)
    pull_now(seat)
    assert seat.stack("notes").release == 6
    installed = seat.installed()
    assert installed is not None
    assert not installed.owed.anything


def test_a_receipt_that_could_not_be_sent_is_sent_by_the_next_pull(
    seat: Profile, channel: FolderRepository, window: Window
) -> None:
    (channel.places()[0] / "receipts").write_text("a file where a folder belongs")
    with pytest.raises(RimecrestError, match="cannot be written"):
        pull_now(seat)
    assert seat.stack("notes").release == 1
    (channel.places()[0] / "receipts").unlink()
    assert pull_now(seat).sentence == "Release 1 is here already."
    [receipt] = channel.receipts()[0]
    assert (receipt.state, receipt.told) == ("applied", 1)
    assert receipt.assigned is not None
    assert receipt.assigned.stack == ("organisation", "department.north")


def test_windows_are_told_of_what_counts_although_the_channel_is_out_of_reach(
    seat: Profile, channel: FolderRepository, window: Window
) -> None:
    def cut(wish: Wish) -> None:
        if isinstance(wish, TellRunning):
            raise Killed

    enrolment = seat.enrolment()
    with pytest.raises(Killed):
        carry_out(pull(enrolment.id), seat, enrolment, channel, cut)
    assert window.took == []
    channel.places()[0].rename(channel.places()[0].with_name("gone"))
    with pytest.raises(RimecrestError):
        pull_now(seat)
    assert window.took == [1]


def test_the_news_of_a_release_is_owed_to_each_application_once(seat: Profile) -> None:
    assert not seat.owes_news("notes")
    pull_now(seat)
    assert seat.owes_news("notes")
    seat.news_shown("notes", 1)
    assert not seat.owes_news("notes")
    assert seat.owes_news("sheets")
    (seat.folder / "shown.json").write_text("rubbish")
    assert seat.owes_news("notes")


def test_forged_oversized_and_misplaced_receipts_are_counted_and_ignored(channel: FolderRepository) -> None:
    folder = channel.places()[0] / "receipts" / "abc"
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


def test_a_number_is_published_once(channel: FolderRepository, workspace: Workspace) -> None:
    with pytest.raises(RimecrestError, match="Release 1 is there already"):
        next_release(channel, workspace, 1)
    assert channel.newest() == 1


def test_of_those_who_release_at_once_one_does_and_the_others_are_told(
    channel: FolderRepository, workspace: Workspace
) -> None:
    together = threading.Barrier(8)

    def release(seats: int) -> str:
        audience = audience_of(workspace, 2, [seat.seat for seat in workspace.people[: seats % 4 + 1]])
        content = build_package(workspace, 2, {"organisation": str(seats)}, {})
        together.wait()
        try:
            FolderRepository(channel.places()[0]).publish(2, content, audience)
        except RimecrestError as error:
            return str(error)
        return f"{seats} did"

    with ThreadPoolExecutor(8) as pool:
        said = list(pool.map(release, range(8)))
    (done,) = [sentence for sentence in said if sentence.endswith("did")]
    others = {sentence for sentence in said if sentence != done}
    assert others == {"Release 2 is there already. Look at what was released, then release as 3."}
    winner = int(done.split()[0])
    assert read_package(channel.package(2), "2").release.news["organisation"] == str(winner)
    assert len([a for a in channel.audience().seats.values() if a.release == 2]) == winner % 4 + 1


def test_who_releases_while_another_does_is_told_to_wait(
    channel: FolderRepository, workspace: Workspace, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("rimecrest.rollout.folder.PATIENCE", 0.01)
    with (
        FileLock(channel.places()[0] / LOCK),
        pytest.raises(RimecrestError, match="Somebody else is releasing into"),
    ):
        next_release(channel, workspace)
    next_release(channel, workspace)
    assert channel.newest() == 2


@pytest.mark.parametrize(
    ("name", "size", "says"),
    [
        ("a\\b.ods", 1, "the path “companions/a\\\\b.ods” leads out"),
        ("plan.bin", 70 << 20, "holds more than 64 MiB"),
    ],
)
def test_what_no_seat_could_take_is_told_and_not_released(
    tmp_path: Path, workspace: Workspace, name: str, size: int, says: str
) -> None:
    with pytest.raises(RimecrestError, match=f"No seat could take this release: .*{says}"):
        publish_workspace(workspace.with_companion(name, bytes(size)), str(tmp_path / "out"), {}, over=99)
    assert open_repository(str(tmp_path / "out")).newest() == 0
    assert not (tmp_path / "out").exists()


@pytest.mark.parametrize(
    ("name", "content", "says"),
    [
        ("layouts/organisation/notes.json", b"{", "layouts/organisation/notes.json, line 1"),
        ("layouts/organisation/notes.json", b'{"format": "rimecrest.layout/9"}', "rimecrest.layout/9"),
        ("layouts/organisation/notes.json", b"[" * 100_000, "nested too deeply"),
        ("macros/organisation/greeting.steps", b"\xff", "it is not UTF-8 text"),
        ("macros/organisation/.steps", b"macro", "cannot be the identity of a macro"),
    ],
)
def test_a_package_whose_parts_cannot_be_used_is_refused_before_the_switch(
    seat: Profile, channel: FolderRepository, workspace: Workspace, name: str, content: bytes, says: str
) -> None:
    """Its digests are right: whoever made it made it so."""
    pull_now(seat)
    files = dict(read_package(build_package(workspace, 2, NEWS, {}), "2").files)
    release = read_package(build_package(workspace, 2, NEWS, {}), "2").release
    files[name] = content
    digests = {path: hashlib.sha256(each).hexdigest() for path, each in files.items()}
    manifest = dump_record(release.model_copy(update={"files": digests}), "release")
    made = zipped({**files, "release.json": manifest.encode()})
    channel.publish(2, made, audience_of(workspace, 2))
    with pytest.raises(RimecrestError, match="Release 2") as told:
        pull_now(seat)
    assert says in told.value.sentence
    installed = seat.installed()
    assert installed is not None
    assert installed.release == 1
    failed = [receipt for receipt in channel.receipts()[0] if receipt.state == "failed"]
    assert says in failed[0].reason


@pytest.mark.parametrize("address", ["{}", "file://{}", ' "{}" ', "'{}'"])
def test_an_address_may_be_a_path_a_file_address_or_in_quotes(tmp_path: Path, address: str) -> None:
    assert open_repository(address.format(tmp_path)).places() == (tmp_path,)


def test_an_address_of_another_kind_is_refused() -> None:
    with pytest.raises(RimecrestError, match="is no folder"):
        open_repository("https://example.org/x")


def test_publishing_is_shut_while_a_finding_blocks_and_numbers_go_up(
    tmp_path: Path, workspace: Workspace
) -> None:
    address = str(tmp_path / "out")
    assert publish_workspace(workspace, address, {}, over=99) == (1, 4)
    assert publish_workspace(workspace, address, {}, ["North 1"], over=99) == (2, 1)
    bad, _ = apply(workspace, Bind("department.north", "notes", KeyBinding(keys="F9", run="macro:none")))
    with pytest.raises(RimecrestError, match="1 finding blocks the release: F9 runs the macro"):
        publish_workspace(bad, address, {}, over=99)
    with pytest.raises(RimecrestError, match="No seat is listed"):
        publish_workspace(workspace, address, {}, [], over=99)
    assert open_repository(address).newest() == 2


def test_an_audience_that_is_broken_is_told(channel: FolderRepository) -> None:
    (channel.places()[0] / "audience.json").write_text("{")
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
