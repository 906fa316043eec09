"""Messages from templates: their fields, the seat's signature once, at its place; text blocks."""

from __future__ import annotations

import base64
from datetime import datetime
from pathlib import Path

import pytest
from platformdirs import user_data_dir
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from rimecrest.kit.documents.name_list import NameList
from rimecrest.kit.macros.questions import Question
from rimecrest_standins.post.message_parts import Written, build
from tests.programs import CTRL, Post

SIGNATURE = "<p><b>Ailis Tarn</b><br>Passenger care</p>"
SIGNED = "-- \nAilis Tarn\nPassenger care"


def eml(html: str, to: str = "", subject: str = "") -> str:
    written = Written("someone@else.example", to, "", subject, "plain", html)
    return build(written, datetime(2026, 11, 1), draft=True).as_string()


def lend(post: Post, **files: str) -> None:
    encoded = {
        name.replace("__", "."): base64.b64encode(text.encode()).decode() for name, text in files.items()
    }
    post.window.stack.use(post.window.stack.state.model_copy(update={"companions": encoded}))


def form(post: Post) -> Question:
    def open_forms() -> list[Question]:
        return [one for one in post.window.findChildren(Question, "template-fields") if one.isVisible()]

    post.qtbot.waitUntil(lambda: bool(open_forms()))
    return open_forms()[0]


@pytest.fixture
def signed(post: Post) -> Post:
    post.own_signature(SIGNATURE)
    return post


def test_a_new_message_has_the_signature_below_an_empty_line(signed: Post) -> None:
    signed.do("new")
    assert signed.text == f"\n{SIGNED}"
    assert not signed.message.modified()
    signed.do("go-to-part", name="text")
    signed.type("Hello")
    assert signed.text == f"Hello\n{SIGNED}"
    signed.do("insert-signature")
    assert signed.text == f"Hello\n{SIGNED}"


@pytest.mark.parametrize(
    "body",
    [
        pytest.param("<p>Dear all,</p><p>[[Signature]]</p>", id="its place is named"),
        pytest.param("<p>Dear all,</p>", id="no place is named"),
        pytest.param("<p>Dear all,</p><p>-- </p><p>Somebody else</p><p>Berth desk</p>", id="another’s"),
        pytest.param("<p>Dear all,</p><p>[[signature]]</p><p>[[ Signature ]]</p>", id="named twice"),
    ],
)
def test_a_template_takes_the_seats_signature_once(signed: Post, body: str) -> None:
    lend(signed, note__eml=eml(body))
    signed.do("new-from-template", name="note")
    QApplication.processEvents()
    text = signed.text
    assert text.count("Ailis Tarn") == 1
    assert text.count("--") == 1
    assert "Somebody else" not in text
    assert "[[" not in text
    assert text.index("Dear all") < text.index("-- ") < text.index("Ailis Tarn")


def test_the_signature_stands_where_the_template_says(signed: Post) -> None:
    lend(signed, note__eml=eml("<p>Dear all,</p><p>[[Signature]]</p><p>P.S. Mind the tide.</p>"))
    signed.do("new-from-template", name="note")
    text = signed.text
    assert text.index("Dear all") < text.index("Ailis Tarn") < text.index("P.S.")


def test_a_seat_without_a_signature_keeps_what_the_template_has(post: Post) -> None:
    lend(post, note__eml=eml("<p>Dear all,</p><p>-- </p><p>Passenger care</p><p>[[Signature]]</p>"))
    post.do("new-from-template", name="note")
    assert "Passenger care" in post.text
    assert "[[" not in post.text


def test_a_template_of_ones_own_keeps_the_place_and_not_the_signature(signed: Post) -> None:
    signed.do("new")
    signed.do("set-to", to="[[Passenger]]")
    signed.do("set-subject", to="Your [[Sailing = 08:25]]")
    signed.do("go-to-part", name="text")
    signed.type("We are sorry.")
    signed.do("save-template", name="sorry")
    content = (Path(user_data_dir("rimecrest")) / "templates" / "sorry.eml").read_text()
    assert "Ailis Tarn" not in content
    assert "[[Signature]]" in content
    assert signed.text == f"We are sorry.\n{SIGNED}"  # the message itself stays signed
    signed.message.saved()
    signed.do("close")
    # Somebody else on this seat, later.
    signed.own_signature("<p>Bram Holm</p>")
    signed.do("new-from-template", name="sorry")
    passenger, sailing = form(signed).fields
    QTest.keyClicks(passenger, "Kaia <kaia@mail.vessry.example>")
    sailing.setFocus()
    QTest.keyClick(sailing, Qt.Key.Key_Return)
    signed.qtbot.waitUntil(lambda: signed.read("subject") == "Your 08:25")
    assert signed.message.field("to") == "Kaia <kaia@mail.vessry.example>"
    assert signed.text == "We are sorry.\n-- \nBram Holm"
    assert signed.read("fields") == []
    # The answers are one step of undo, also those above the text.
    signed.do("undo")
    assert signed.message.field("to") == "[[Passenger]]"


def test_the_fields_of_a_template_are_asked_and_the_signature_is_none_of_them(signed: Post) -> None:
    lend(signed, note__eml=eml("<p>On [[Day: date]]</p><p>[[Signature]]</p>", to="[[Whom]]"))
    signed.do("new-from-template", name="note")
    assert signed.read("fields") == ["Whom", "Day"]
    assert len(form(signed).fields) == 2


def test_a_draft_that_is_opened_again_is_not_signed_twice(signed: Post) -> None:
    signed.do("new")
    signed.do("set-subject", to="x")
    signed.do("save")
    signed.do("close")
    signed.do("go-to-folder", name="Drafts")
    signed.do("edit-again")
    assert signed.text.count("Ailis Tarn") == 1


def test_a_reply_is_signed_above_what_it_quotes(signed: Post) -> None:
    signed.do("choose-message", name="Berths of the week")
    signed.do("reply")
    text = signed.text
    assert text.count("-- ") == 1
    assert text.index("Ailis Tarn") < text.index("Runa Skarv <runa")


def test_what_is_indented_above_the_signature_is_no_quotation(signed: Post) -> None:
    signed.do("new")
    signed.do("go-to-part", name="text")
    signed.type("Further in")
    signed.do("indent-more")
    signed.do("insert-signature")
    assert signed.text == f"Further in\n{SIGNED}"


def test_the_signature_is_made_of_chosen_words_and_keeps_its_look(post: Post) -> None:
    post.do("new")
    post.do("go-to-part", name="text")
    assert not post.do("insert-signature")
    assert "no signature yet" in post.said
    post.do("embolden")
    post.type("Ailis")
    post.choose("Ailis")
    post.do("keep-signature")
    post.message.saved()
    post.do("close")
    post.do("new")
    assert post.text == "\n-- \nAilis"
    post.choose("Ailis")
    assert post.read("chosen.bold") == "yes"


def test_a_macro_begins_from_a_template_and_fills_it(signed: Post) -> None:
    lend(signed, late__eml=eml("<p>The [[Sailing]] was late.</p><p>[[Signature]]</p>", "[[To]]", "Late"))
    body = 'do new-from-template name="late"\ndo fill-fields values="Sailing=08:25; To=x@y.example"\n'
    companions = signed.window.stack.state.companions
    signed.use({}, test=f'macro "Test"\nfor post\n{body}')
    signed.window.stack.use(signed.window.stack.state.model_copy(update={"companions": companions}))
    with signed.qtbot.waitSignal(signed.window.dispatcher.run_ended, timeout=10_000):
        assert signed.window.dispatcher.perform("macro:test"), signed.said
    assert signed.text == f"The 08:25 was late.\n{SIGNED}"
    assert signed.message.field("to") == "x@y.example"
    assert not signed.window.findChildren(Question, "template-fields")


def test_a_button_lists_the_templates(post: Post) -> None:
    item = {"id": "t", "run": "post:new-from-template", "label": "From a template"}
    post.use({"toolbars": [{"id": "mine", "title": "Mine", "edge": "top", "items": [item]}]})
    lend(post, late__eml=eml("<p>Late</p>"), berth__eml=eml("<p>Berth</p>"))
    assert post.read("templates") == ["berth", "late"]
    button = post.window.frame.button("organisation:t")
    assert button is not None
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    post.qtbot.waitUntil(lambda: bool(post.window.findChildren(NameList)))
    chooser = post.window.findChildren(NameList)[-1]
    QTest.keyClick(chooser.field, "l")
    QTest.keyClick(chooser.field, Qt.Key.Key_Return)
    post.qtbot.waitUntil(lambda: post.window.document is not post.box)
    assert post.text == "Late"


def test_a_block_goes_in_at_the_cursor_as_it_looks(post: Post) -> None:
    lend(post, gap__block__html="<p>Mind <b>the gap</b>.</p>")
    post.do("new")
    post.do("set-subject", to="x")
    post.do("go-to-part", name="text")
    post.type("Please: ")
    post.do("insert-block", name="gap")
    assert post.text == "Please: Mind the gap."
    post.choose("the gap")
    assert post.read("chosen.bold") == "yes"
    print(post.message.undo.undo_label, post.message.undo.depth, post.message.part)
    post.press(Qt.Key.Key_Z, CTRL)
    print(post.said)
    assert post.text == "Please: "
