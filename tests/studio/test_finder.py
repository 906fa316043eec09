"""The finder finds whatever there is, says where it sits, its key, its use, goes there or has it put."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from rimecrest.core.search import FAR, Match, Search
from rimecrest.core.workspace.file_edits import PutPicture
from tests.studio.conftest import BAR, NONE, SHIFT, Studio
from tests.studio.test_pictures import png

TABLE = "department.freight:table"


def look_for(studio: Studio, text: str) -> list[Match]:
    studio.press(Qt.Key.Key_F3)
    studio.desk.finder.clear()
    studio.type(text)
    return list(studio.desk.finder._list.entries)


def first(studio: Studio, text: str, kind: str) -> Match:
    return next(match for match in look_for(studio, text) if match.kind == kind)


def go_to(studio: Studio, match: Match, held: Qt.KeyboardModifier = NONE) -> None:
    entries = studio.desk.finder._list.entries
    for _ in range(entries.index(match)):
        studio.press(Qt.Key.Key_Down)
    studio.press(Qt.Key.Key_Return, held)


def test_a_command_says_where_it_sits_its_key_and_its_use(studio: Studio) -> None:
    hint = first(studio, "print", "command").hint
    assert "Letters" in hint
    assert "Ctrl+P" in hint
    assert "in 30 days" in first(studio, "hazard note", "macro").hint


@pytest.mark.parametrize(("words", "kind", "held"), [("notices", "surface", "organisation:notices")])
def test_a_tab_is_brought_to_the_fore_and_held(studio: Studio, words: str, kind: str, held: str) -> None:
    match = first(studio, words, kind)
    assert match.hint == "tab · Letters"
    go_to(studio, match)
    assert studio.place.overlay.caret.held == held
    assert studio.place.overlay.hasFocus()


def test_a_finding_is_gone_to_wherever_it_is(studio: Studio) -> None:
    match = first(studio, "weekly-timetable", "finding")
    assert match.hint.startswith("error · Quay offices")
    go_to(studio, match)
    assert studio.session.aim.layer == "department.quay"
    assert studio.place.overlay.caret.chosen()


def test_a_picture_is_found_shown_where_it_is_and_given_to_the_chosen_button(studio: Studio) -> None:
    studio.click_item(TABLE)
    go_to(studio, first(studio, "ferry", "picture"), SHIFT)
    assert studio.item(TABLE).picture == "set:ferry"  # type: ignore[union-attr]
    studio.press(Qt.Key.Key_Escape)
    go_to(studio, first(studio, "ferry", "picture"))
    assert studio.place.overlay.caret.chosen() == [TABLE]
    studio.session.do(PutPicture("quay.png", png()))
    assert first(studio, "quay", "picture").hint in ("picture of your own", "picture")


def test_a_picture_goes_to_nothing_where_no_button_is_chosen(studio: Studio) -> None:
    go_to(studio, first(studio, "anchor", "picture"), SHIFT)
    assert "Choose the button that shall have the picture first." in studio.said
    assert studio.session.edits == 0


def test_a_command_is_dragged_out_of_the_list_onto_a_bar(studio: Studio) -> None:
    match = first(studio, "superscript", "command")
    data = studio.desk.finder.travels(match)
    assert data is not None
    studio.press(Qt.Key.Key_Escape)
    slot = studio.slot(after=TABLE)
    spot, held = slot.caret.center(), Qt.MouseButton.LeftButton
    copy, overlay = Qt.DropAction.CopyAction, studio.place.overlay
    QApplication.sendEvent(overlay, QDragEnterEvent(spot, copy, data, held, NONE))
    QApplication.sendEvent(overlay, QDropEvent(QPointF(spot), copy, data, held, NONE))
    added = studio.session.outcome().row(BAR)
    assert added is not None
    at = [item.id for item in added.items].index(TABLE)
    assert added.items[at + 1].run == "letters:superscript"  # type: ignore[union-attr]


def test_a_row_is_taken_when_the_button_goes_up_and_drawn_away_when_it_moves(studio: Studio) -> None:
    look_for(studio, "superscript")
    rows = studio.desk.finder._list
    away: list[Match] = []
    rows.dragged.disconnect()
    rows.dragged.connect(away.append)
    spot = QPoint(60, rows._rows_top() + 15)
    QTest.mousePress(rows, Qt.MouseButton.LeftButton, NONE, spot)
    assert rows.isVisible()
    QTest.mouseMove(rows, spot + QPoint(0, 60))
    QTest.mouseRelease(rows, Qt.MouseButton.LeftButton, NONE, spot + QPoint(0, 60))
    assert [match.kind for match in away] == ["command"]
    assert rows.isVisible()
    QTest.mouseClick(rows, Qt.MouseButton.LeftButton, NONE, spot)
    assert not rows.isVisible()


def test_what_is_only_a_picture_is_told_to_be_no_command(studio: Studio) -> None:
    look_for(studio, "submarine") or look_for(studio, "lighthouse")
    assert "Letters has no command like that" in studio.desk.finder._list.caption


ENTRIES = [
    Match("command", "1", "Add a row below", more="insert line"),
    Match("command", "2", "Row height", more="how tall rows are"),
    Match("command", "3", "Sailing notice", more="tells passengers what was cancelled"),
]


def ids(found: list[Match]) -> list[str]:
    return [match.id for match in found]


def test_words_are_found_in_any_order_and_by_their_beginnings() -> None:
    search = Search(ENTRIES)
    assert ids(search.having("below row"))[0] == "1"
    assert ids(search.having("row")) == ["2", "1"]
    assert ids(search.having("not sai")) == ["3"]
    assert ids(search.having("line")) == ["1"]
    assert ids(search.having("cancelled passengers")) == ["3"]
    assert ids(search.having("eigh")) == ["2"]
    assert search.having("rows zebra") == []


def test_slips_in_several_words_are_forgiven() -> None:
    search = Search(ENTRIES)
    assert ids(search.find("saling notcie")) == ["3"]
    assert ids(search.nearest("hieght", 5, FAR))[0] == "2"
    assert search.find("zzzz qqqq") == []
    assert ids(search.all()) == ["1", "2", "3"]
