"""The demo's messages: the late-running reply from its bar and by key, the berth change from its panel."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox

from rimecrest.core.release.stack_sources import draft_stack
from rimecrest.core.workspace.folder import open_workspace
from rimecrest.kit.commands.command_finder import CommandFinder
from rimecrest.kit.macros.questions import PanelQuestion, Question
from rimecrest.surfaces.panel_controls import PanelField
from tests.programs import CTRL, Post

SIGNED = "-- \nAilis Tarn"


@pytest.fixture
def signed(post: Post) -> Post:
    post.own_signature("<p>Ailis Tarn</p>")
    return post


def use(post: Post, demo_folder: Path, department: str) -> None:
    post.window.take_over(
        draft_stack(open_workspace(demo_folder / "vessry"), ("organisation", department), "post")
    )
    QApplication.processEvents()


def asked(post: Post, kind: type) -> Question | PanelQuestion:
    post.qtbot.waitUntil(lambda: any(one.isVisible() for one in post.window.findChildren(kind)))
    return next(one for one in post.window.findChildren(kind) if one.isVisible())


def answer_late(post: Post) -> None:
    form = asked(post, Question)
    sailing, reason = form.fields
    sailing.setText("06:40")
    assert isinstance(reason, QComboBox)
    reason.setCurrentText("fog")
    with post.qtbot.waitSignal(post.window.dispatcher.run_ended, timeout=10_000):
        form.accept()
    assert post.message.field("to") == "Kaia Voe <kaia.voe@mail.vessry.example>"
    assert post.text.count(SIGNED) == 1
    assert post.text.endswith(SIGNED)
    assert "late because of fog" in post.text
    assert "[[" not in post.text
    assert post.message.part == "text"


def test_late_running_reply_from_its_bar(signed: Post, demo_folder: Path) -> None:
    use(signed, demo_folder, "department.care")
    signed.do("choose-message", name="Late on Monday")
    button = signed.window.frame.button("department.care:late-running-reply")
    assert button is not None
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    answer_late(signed)


def test_late_running_reply_by_key_and_sent(signed: Post, demo_folder: Path) -> None:
    use(signed, demo_folder, "department.care")
    signed.do("choose-message", name="Late on Monday")
    signed.press(Qt.Key.Key_J, CTRL)
    signed.press(Qt.Key.Key_L)
    answer_late(signed)
    signed.do("send")
    (message,) = signed.sent()
    assert message["To"] == "Kaia Voe <kaia.voe@mail.vessry.example>"
    assert message["Subject"].startswith("The 06:40 of 20")
    assert "Ailis Tarn" in message.get_body(("plain",)).get_content()  # type: ignore[union-attr]


def berth_change(post: Post) -> None:
    assert post.read("subject") == "Berth change: Ovessa"
    assert post.message.field("to") == "quay@vessry.example"
    assert post.message.field("copy") == "freight@vessry.example"
    assert post.text.startswith("Ovessa berths at South from the 10:10 on.")
    assert post.text.count(SIGNED) == 1


def fill(panel: PanelField, vessel: QComboBox, berth: QComboBox) -> None:
    vessel.setCurrentText("Ovessa")
    berth.setCurrentText("South")
    QTest.keyClicks(panel, "10:10")


def test_berth_change_from_its_panel(signed: Post, demo_folder: Path) -> None:
    use(signed, demo_folder, "department.berth")
    frame = signed.window.frame
    vessel, berth = [box for box in signed.window.findChildren(QComboBox) if box.isVisible()]
    field = next(box for box in signed.window.findChildren(PanelField) if box.isVisible())
    fill(field, vessel, berth)
    button = frame.button("department.berth:write")
    assert button is not None
    with signed.qtbot.waitSignal(signed.window.dispatcher.run_ended, timeout=10_000):
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    berth_change(signed)


def test_berth_change_by_key_asks_with_the_panel(signed: Post, demo_folder: Path) -> None:
    use(signed, demo_folder, "department.berth")
    signed.press(Qt.Key.Key_J, CTRL)
    signed.press(Qt.Key.Key_B)
    question = asked(signed, PanelQuestion)
    vessel, berth = question.findChildren(QComboBox)[:2]
    field = question.findChildren(PanelField)[-1]
    with signed.qtbot.waitSignal(signed.window.dispatcher.run_ended, timeout=10_000):
        fill(field, vessel, berth)
        QTest.keyClick(field, Qt.Key.Key_Return)
    berth_change(signed)


def test_the_finder_says_that_it_can_run(signed: Post, demo_folder: Path) -> None:
    """A macro that reads what a panel holds is without fault there too."""
    use(signed, demo_folder, "department.berth")
    signed.press(Qt.Key.Key_F3)
    signed.qtbot.waitUntil(lambda: bool(signed.window.findChildren(CommandFinder)))
    finder = signed.window.findChildren(CommandFinder)[-1]
    QTest.keyClicks(finder.field, "berth change")
    assert "Not now" not in (finder.list.item(0).text() + finder.list.item(0).toolTip())
