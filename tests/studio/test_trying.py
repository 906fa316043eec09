"""Try it: a real application as a process, following the draft; and peers that misbehave."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtNetwork import QLocalServer, QLocalSocket
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.items import Button
from rimecrest.core.workspace.edits import PutItems, SetFields
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line
from rimecrest.link.wire import Failure, Notice, Reply, encode
from rimecrest.studio.shared.link_client import LinkClient
from tests.studio.conftest import BAR, Studio

FREIGHT = ("department.freight", "letters")


def connect(studio: Studio) -> Line:
    studio.qtbot.waitUntil(lambda: bool(listening("letters")), timeout=15_000)
    return Line(listening("letters")[0])


def seen(line: Line, thing: str) -> bool:
    return line.ask("where", thing=thing) is not None


def test_the_application_shows_the_draft_and_follows_it_live(studio: Studio) -> None:
    studio.push("try-it")
    assert "Starting Letters on a scratch profile" in studio.said
    line = connect(studio)
    studio.qtbot.waitUntil(lambda: seen(line, f"{BAR.split(':')[0]}:hazard-note"), timeout=15_000)
    item = Button(id="fresh", run="macro:sailing-notice")
    studio.session.do(PutItems(*FREIGHT, BAR, None, (item,)))
    studio.qtbot.waitUntil(lambda: seen(line, "department.freight:fresh"), timeout=5000)
    studio.session.do(SetFields(*FREIGHT, "department.freight:fresh", {"label": "Heads", "face": "words"}))
    studio.qtbot.waitUntil(lambda: seen(line, "Heads"), timeout=5000)
    studio.session.undo()
    studio.session.undo()
    studio.qtbot.waitUntil(lambda: not seen(line, "department.freight:fresh"), timeout=5000)
    assert "rimecrest-scratch-" in line.ask("hello")["profile"]
    studio.push("try-it")
    assert "runs already: its window has the draft" in studio.said
    assert line.ask("raise") is True


def test_the_stage_shows_the_running_applications_document(studio: Studio) -> None:
    studio.push("try-it")
    pictured = []
    studio.desk.preview.pictured.connect(pictured.append)
    studio.qtbot.waitUntil(lambda: bool(pictured), timeout=15_000)
    assert not studio.place.stage.document._picture.isNull()


def test_a_macro_is_run_in_the_real_application_and_how_it_ended_is_told(studio: Studio) -> None:
    studio.push("place-macros")
    place = studio.desk.places["Macros"]
    text = 'macro "Hello"\nabout "Says hello."\nfor letters\nwrite "Hello"\nsay "Said it."\n'
    studio.session.do(PutMacro("department.care", "hello", text))
    place.open(("department.care", "hello"))
    studio.push("macro-run")
    assert studio.session.aim.layer == "department.care"
    studio.qtbot.waitUntil(lambda: "“Hello”: Said it." in studio.said, timeout=20_000)
    line = Line(listening("letters")[0])
    assert line.ask("read", name="letter.text") == "Hello"
    told = studio.desk.preview.told
    with studio.qtbot.waitSignal(told, timeout=10_000, check_params_cb=lambda said: "Said it." in said):
        studio.push("macro-run")
    assert line.ask("read", name="letter.text") == "HelloHello"
    studio.session.do(PutMacro("department.care", "hello", text + "do embolded\n"))
    studio.push("macro-run")
    assert "“Hello” cannot run: line 6" in studio.said
    assert line.ask("read", name="letter.text") == "HelloHello"


def test_what_is_tried_ends_with_the_studio(studio: Studio) -> None:
    studio.push("try-it")
    line = connect(studio)
    line.ask("perform", run="letters:insert-table")
    pid = studio.desk.preview._scratch._process.processId()
    studio.window.close()
    assert not Path(f"/proc/{pid}").exists()


def test_an_application_that_is_closed_is_told_and_can_be_tried_again(studio: Studio) -> None:
    studio.push("try-it")
    line = connect(studio)
    studio.qtbot.waitUntil(lambda: seen(line, "department.freight:hazard-note"), timeout=15_000)
    studio.desk.preview._scratch._process.terminate()
    studio.qtbot.waitUntil(lambda: "Letters was closed." in studio.said, timeout=10_000)
    studio.push("try-it")
    again = connect(studio)
    studio.qtbot.waitUntil(lambda: seen(again, "department.freight:hazard-note"), timeout=15_000)


class BadPeer:
    """Listens like an application and answers as it is told."""

    def __init__(self, path: Path) -> None:
        self.server = QLocalServer()
        assert self.server.listen(str(path))
        self.connections: list[QLocalSocket] = []
        self.server.newConnection.connect(
            lambda: self.connections.append(self.server.nextPendingConnection())
        )

    def send(self, data: bytes) -> None:
        self.connections[0].write(data)
        self.connections[0].flush()


@pytest.fixture
def peers(qtbot: QtBot, tmp_path: Path) -> tuple[BadPeer, LinkClient]:
    path = tmp_path / "letters-1.sock"
    bad = BadPeer(path)
    client = LinkClient(path)
    with qtbot.waitSignal(client.connected):
        client.open()
    qtbot.waitUntil(lambda: bool(bad.connections))
    return bad, client


def test_an_application_that_sends_rubbish_is_dropped(
    qtbot: QtBot, peers: tuple[BadPeer, LinkClient]
) -> None:
    bad, client = peers
    with qtbot.waitSignal(client.gone, timeout=3000):
        bad.send(b"rubbish\n")


def test_answers_refusals_and_notices_reach_whoever_waits(
    qtbot: QtBot, peers: tuple[BadPeer, LinkClient]
) -> None:
    bad, client = peers
    answers: list[object] = []
    client.ask("hello", {}, answers.append)
    client.ask("read", {"name": "x"}, answers.append)
    bad.send(encode(Reply(1, "good")))
    qtbot.waitUntil(lambda: answers == ["good"])
    with qtbot.waitSignal(client.refused) as refused:
        bad.send(encode(Failure(2, "Not that.")))
    assert refused.args == ["Not that."]
    with qtbot.waitSignal(client.noticed) as noticed:
        bad.send(encode(Notice("run.ended", {"macro": "x"})))
    assert noticed.args == ["run.ended", {"macro": "x"}]
    assert answers == ["good"]


def test_an_answer_to_nothing_is_passed_over(qtbot: QtBot, peers: tuple[BadPeer, LinkClient]) -> None:
    bad, client = peers
    bad.send(encode(Reply(99, "what?")) + encode(Notice("still", {})))
    with qtbot.waitSignal(client.noticed):
        pass
