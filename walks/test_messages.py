"""The jobs of whoever writes messages: from a template on a button, with fields; a text block by key.

The specialist puts the button on the bar in the studio; then a colleague of Passenger care uses it in Post.
"""

from __future__ import annotations

from collections.abc import Callable

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QLineEdit
from tests.programs import CTRL, Post

from rimecrest.kit.commands.command_finder import CommandFinder
from rimecrest.kit.documents.name_list import NameList
from rimecrest.kit.macros.questions import Question
from rimecrest.studio.shared.edit_target import EditTarget
from walks.desk import Worker
from walks.hands import ENTER, Hands

AtMost = Callable[[int], None]
CARE = "department.care"
BAR = "department.care:care"
SIGNED = "-- \nAilis Tarn"


@pytest.fixture
def at_post(hands: Hands) -> Hands:
    """The studio at Passenger care's layer of Post, the caret behind the first item of its bar."""
    hands.studio.session.aim_at(EditTarget(CARE, "post", "Care 1", 1024))
    return hands


@pytest.fixture
def later_post(request: pytest.FixtureRequest) -> Callable[[Hands], Worker]:
    """A window of Post, of a colleague with a signature, opened when it is wanted."""

    def begin(hands: Hands) -> Worker:
        post: Post = request.getfixturevalue("post")
        post.own_signature("<p>Ailis Tarn</p>")
        post.window.activateWindow()
        post.box.widget.setFocus()
        worker = Worker(hands, post)
        worker.draft(CARE)
        return worker

    return begin


def _shown(worker: Worker, kind: type) -> NameList | Question:
    """A question of the window, once it is there."""
    window = worker.program.window
    worker.program.qtbot.waitUntil(lambda: any(one.isVisible() for one in window.findChildren(kind)))
    return next(one for one in window.findChildren(kind) if one.isVisible())


def _take(worker: Worker, words: str) -> None:
    """Letters of the template's name, and Enter: one gesture."""
    chooser = _shown(worker, NameList)
    worker.hands.gestures += 1
    QTest.keyClicks(chooser.field, words)
    QTest.keyClick(chooser.field, ENTER)


def _fill(worker: Worker) -> None:
    """The passenger by the first letters, Tab, the sailing typed over and Enter: three gestures."""
    form = _shown(worker, Question)
    passenger, sailing, _day, _reason = form.fields
    assert isinstance(passenger, QComboBox)
    assert isinstance(sailing, QLineEdit)
    passenger.setFocus()
    worker.hands.gestures += 1
    QTest.keyClicks(passenger, "Kaia")
    worker.hands.gestures += 1
    QTest.keyClick(passenger, Qt.Key.Key_Tab)
    QApplication.processEvents()
    worker.hands.gestures += 1
    QTest.keyClick(sailing, Qt.Key.Key_A, CTRL)
    QTest.keyClicks(sailing, "06:40")
    QTest.keyClick(sailing, ENTER)


def _is_written(worker: Worker) -> None:
    post = worker.program
    assert isinstance(post, Post)
    post.qtbot.waitUntil(lambda: len(post.window.documents.all) == 2 and "[[" not in post.text)
    assert post.message.field("to") == "Kaia Voe <kaia.voe@mail.vessry.example>"
    assert post.read("subject").startswith("The 06:40 of ")
    assert post.text.count(SIGNED) == 1
    assert post.text.endswith(SIGNED)


def test_message_from_a_template_on_a_button_by_mouse(
    at_post: Hands, at_most: AtMost, later_post: Callable[[Hands], Worker]
) -> None:
    hands = at_post
    at_most(9)
    hands.click(hands.studio.slot(BAR, "department.care:late-running-reply").caret.center())
    hands.type("message from a template")
    worker = later_post(hands)
    worker.push("New message from a template")
    _take(worker, "late")
    _fill(worker)
    _is_written(worker)


def test_message_from_a_template_on_a_button_by_keys(
    at_post: Hands, at_most: AtMost, later_post: Callable[[Hands], Worker]
) -> None:
    """The same command gets a key besides its button: F3 finds it by a word as well."""
    hands = at_post
    at_most(9)
    hands.studio.place.overlay.caret.put(hands.studio.slot(BAR, "department.care:late-running-reply"))
    hands.studio.place.overlay.setFocus()
    hands.type("message from a template")
    worker = later_post(hands)
    worker.press(Qt.Key.Key_F3)
    finder = _shown(worker, CommandFinder)
    hands.gestures += 1
    QTest.keyClicks(finder.field, "new message from")
    QTest.keyClick(finder.field, ENTER)
    _take(worker, "late")
    _fill(worker)
    _is_written(worker)


def _has_the_block(post: Post) -> None:
    assert post.text.startswith("Mind the quay. Boards are wet in the morning")
    post.choose("Mind the quay.")
    assert post.read("chosen.bold") == "yes"


def test_text_block_into_a_reply_by_key(
    at_post: Hands, at_most: AtMost, later_post: Callable[[Hands], Worker]
) -> None:
    at_most(7)
    worker = later_post(at_post)
    worker.behind(Qt.Key.Key_R)
    worker.behind(Qt.Key.Key_Q)
    assert isinstance(worker.program, Post)
    _has_the_block(worker.program)


def test_text_block_into_a_new_message_by_key(
    at_post: Hands, at_most: AtMost, later_post: Callable[[Hands], Worker]
) -> None:
    at_most(7)
    worker = later_post(at_post)
    worker.press(Qt.Key.Key_N, CTRL)
    for _ in range(3):
        worker.press(Qt.Key.Key_Tab)
    worker.behind(Qt.Key.Key_Q)
    assert isinstance(worker.program, Post)
    _has_the_block(worker.program)
