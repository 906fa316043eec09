"""The card stands beside its item, as tall as what it says, and keeps its place."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QRect, QSize, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QMenu, QWidget

from rimecrest.core.catalogue.items import Button
from rimecrest.core.keys.bindings import standing
from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.words import shortened
from rimecrest.core.workspace.edits import PutItems, SetFields
from rimecrest.studio.layout.card_place import BEAK, Side, place_card
from rimecrest.studio.shared.sentence_widgets import Word
from tests.studio.conftest import BAR, Studio

HAZARD = "department.freight:hazard-note"
TABLE = "department.freight:table"
LONG = "A label of a hundred characters that somebody pasted by mistake and that goes on and on and on and on"
ROOM = QRect(0, 0, 1200, 700)


@given(
    st.integers(0, 1160),
    st.integers(0, 660),
    st.integers(10, 400),
    st.integers(10, 60),
    st.integers(100, 600),
    st.integers(60, 340),
)
def test_a_card_never_covers_its_item_and_stays_in_the_room(
    x: int, y: int, width: int, height: int, wide: int, tall: int
) -> None:
    item = QRect(x, y, min(width, 1200 - x), min(height, 700 - y))
    place = place_card(item, QSize(wide, tall), ROOM)
    assert not place.box.intersects(item)
    assert ROOM.contains(place.box)
    again = place_card(item.adjusted(0, 0, 30, 0), QSize(wide, tall + 10), ROOM, place)
    if again.side is place.side and place.side in (Side.BELOW, Side.ABOVE):
        assert again.box.left() == place.box.left()


def test_a_card_goes_above_where_there_is_no_room_below() -> None:
    low = place_card(QRect(100, 600, 80, 30), QSize(500, 200), ROOM)
    assert low.side is Side.ABOVE
    assert low.box.bottom() < 600
    beside = place_card(QRect(100, 250, 80, 200), QSize(500, 340), ROOM)
    assert beside.side is Side.RIGHT
    assert beside.box.left() == 180
    assert beside.box.width() == 500 + BEAK


def test_a_card_stands_beside_the_panel_of_its_control_where_it_can() -> None:
    panel, field = QRect(900, 220, 240, 470), QRect(910, 300, 200, 40)
    place = place_card(field, QSize(440, 200), ROOM, around=panel)
    assert place.side is Side.LEFT
    assert not place.box.intersects(panel)
    assert (place.tip.x(), place.tip.y()) == (899, field.center().y())
    assert place.box.top() <= field.center().y() <= place.box.bottom()


def open_card(studio: Studio, item: str) -> QWidget:
    studio.place.open_card(item)
    QApplication.processEvents()
    return studio.place.card


def in_parent(studio: Studio, item: str) -> QRect:
    box = studio.place.stage.frame.rect_of(item)
    return QRect(studio.place.overlay.mapTo(studio.place, box.topLeft()), box.size())


@pytest.mark.parametrize("item", [HAZARD, TABLE])
def test_all_that_the_card_says_is_seen_and_nothing_is_left_over(studio: Studio, item: str) -> None:
    card = open_card(studio, item)
    assert not card.geometry().intersects(in_parent(studio, item))
    words = [word for word in card.findChildren(Word) if word.isVisible()]
    boxes = [QRect(word.mapTo(card, word.rect().topLeft()), word.size()) for word in words]
    assert all(card.rect().adjusted(0, 0, 1, 1).contains(box) for box in boxes)
    assert card.height() - max(box.bottom() for box in boxes) < 60


def test_a_key_that_is_taken_is_said_whole(studio: Studio) -> None:
    open_card(studio, TABLE)
    for keys in ("Ctrl+J, N", "Ctrl+J, O", "Ctrl+S"):
        studio.place.card.offer_key(keys)
        QApplication.processEvents()
        card = studio.place.card
        shown = [word for word in card.findChildren(Word) if word.isVisible()]
        lowest = max(word.mapTo(card, word.rect().bottomLeft()).y() for word in shown)
        assert lowest < card.height()
        assert not card._scroll.verticalScrollBar().isVisible()


def test_a_label_of_a_hundred_characters_hides_no_other_word(studio: Studio) -> None:
    before = {word.objectName() for word in open_card(studio, TABLE).findChildren(Word)}
    fields = {"label": LONG}
    studio.session.do(SetFields("department.freight", "letters", TABLE, fields, "x"))
    card = open_card(studio, TABLE)
    shown = [word for word in card.findChildren(Word) if word.isVisible()]
    assert before <= {word.objectName() for word in shown}
    label = next(word for word in shown if word.objectName() == "card-label")
    assert "…" in label.text()
    assert label.toolTip() == LONG
    studio.push("card-label")
    assert QApplication.focusWidget().text() == LONG


def test_the_card_keeps_its_place_while_words_are_changed(studio: Studio) -> None:
    left = open_card(studio, TABLE).x()
    studio.push("card-label")
    QApplication.focusWidget().clear()
    studio.type("Lanes of vehicles")
    studio.press(Qt.Key.Key_Return)
    assert studio.item(TABLE).label == "Lanes of vehicles"
    assert studio.place.card.x() == left
    assert studio.place.card.isVisible()


def test_escape_closes_the_picture_wall_and_the_card_stays(studio: Studio) -> None:
    open_card(studio, TABLE)
    studio.push("card-picture")
    assert studio.find("picture-chooser").isVisible()
    studio.press(Qt.Key.Key_Escape)
    assert not [w for w in studio.window.findChildren(QWidget, "picture-chooser") if w.isVisible()]
    assert studio.place.card.isVisible()
    studio.press(Qt.Key.Key_Escape)
    assert not studio.place.card.isVisible()
    assert studio.session.edits == 0


def test_the_picture_wall_begins_on_the_picture_the_item_has(studio: Studio) -> None:
    open_card(studio, TABLE)
    studio.push("card-picture")
    assert studio.find("picture-wall").currentItem().toolTip() == "table plus"


def test_a_word_that_is_clicked_while_another_is_typed_opens_its_list(studio: Studio) -> None:
    open_card(studio, HAZARD)
    studio.push("card-label")
    studio.type("Warning")
    studio.push("card-face")
    menu = QApplication.activePopupWidget()
    assert menu is not None
    QTest.keyClick(menu, Qt.Key.Key_W)
    QTest.keyClick(menu, Qt.Key.Key_Return)
    button = studio.session.outcome().button(HAZARD)
    assert (button.label, button.face) == ("Warning", "words")


def test_a_choice_list_begins_on_what_is_chosen(studio: Studio) -> None:
    from rimecrest.studio.shared.choice_list import ChoiceList

    open_card(studio, HAZARD)
    studio.push("card-collapse")
    made = next(w for w in studio.window.findChildren(ChoiceList) if w.isVisible())
    assert made.activeAction().text() == "in order"
    made.close()


def test_a_long_text_is_shortened_in_its_middle() -> None:
    assert shortened("short") == "short"
    made = shortened("one two three four five six seven eight nine ten")
    assert len(made) <= 34
    assert made.startswith("one two")
    assert made.endswith("ten")


# Escape


def test_escape_on_the_key_bed_opens_no_field(studio: Studio) -> None:
    studio.push("place-keys")
    keys = studio.desk.places["Keys"]
    keys.bed.setFocus()
    studio.press(Qt.Key.Key_Escape)
    assert QApplication.focusWidget() is not keys.sheet.give
    assert keys.sheet.give.text() == ""


def test_escape_twice_ends_looking_a_key_up_and_chooses_nothing(studio: Studio) -> None:
    studio.push("place-keys")
    keys = studio.desk.places["Keys"]
    keys.show_keys("Ctrl+J, X")
    before = keys.presenter.key
    keys.listen.setFocus()
    studio.press(Qt.Key.Key_Escape)
    studio.press(Qt.Key.Key_Escape)
    assert not keys.listen.hasFocus()
    assert keys.presenter.key == before


def test_a_button_that_opens_a_file_takes_a_companion_from_a_list(studio: Studio) -> None:
    plan = Button(id="plan", run="letters:open")
    studio.session.do(PutItems("department.freight", "letters", BAR, None, (plan,)))
    QApplication.processEvents()
    studio.click_item("department.freight:plan")
    studio.press(Qt.Key.Key_Space)
    studio.push("card-setting-path")
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    rows = [action.text() for action in menu.actions() if action.text()]
    assert rows[:2] == ["Write or paste a path …\tCtrl+V", "Choose a file …"]
    assert "berth-plan.ods, from companions" in rows
    studio.choose("berth-plan.ods, from companions")
    made = studio.item("department.freight:plan")
    assert isinstance(made, SeenButton)
    assert dict(made.args) == {"path": "companions/berth-plan.ods"}


def test_what_card_foot_and_finder_say_of_a_key_is_what_happens(studio: Studio) -> None:
    """Ctrl+B is Bold's where one writes: the macro gets it there, and so does whoever speaks of it."""
    open_card(studio, HAZARD)
    studio.place.card.offer_key("Ctrl+B")
    QApplication.processEvents()
    assert studio.place.card.said_of_key().startswith("Ctrl+B is the key of Bold (built in) when writing.")
    studio.push("take-over")
    assert studio.said == "Ctrl+B is taken over from Bold."
    workspace, aim = studio.session.workspace, studio.session.aim
    bindings = workspace.outcome(aim.stack(workspace), "letters").bindings
    contexts = workspace.catalogue("letters").context_tree
    winner = standing(bindings, contexts.live(["writing"]), contexts)[parse_sequence("Ctrl+B")]
    assert winner.run == "macro:hazard-note"
    studio.push("place-macros")
    studio.desk.places["Macros"].open(("department.freight", "hazard-note"))
    QApplication.processEvents()
    said = " ".join(w.text() for w in studio.window.findChildren(QLabel) if w.isVisible())
    assert "Freight desk’s key Ctrl+B" in said
    studio.press(Qt.Key.Key_F3)
    studio.type("bold")
    hints = {match.title: match.hint for match in studio.desk.finder._list.entries if match.kind == "command"}
    assert "Ctrl+B" not in hints["Bold"]
