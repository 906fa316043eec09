"""*As it was* on the stage: points of what was, shown in place of today, brought back whole or in part."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QMessageBox

from rimecrest.core.layout.seen import Outcome
from rimecrest.core.workspace.edits import SetFields, TakeOff
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.studio.history.sheet import HistorySheet
from rimecrest.studio.history.times import when
from tests.studio.conftest import BAR, CTRL, Studio
from tests.studio.test_finder import go_to, look_for

HERE = ("department.freight", "letters")
TABLE = "department.freight:table"
NUMBERED = "department.freight:numbered"
NOTE = ("department.freight", "hazard-note")
DAY = 86_400.0


def shown(studio: Studio) -> Outcome:
    seen = studio.place.stage.frame.outcome
    assert seen is not None
    return seen


@pytest.fixture
def changed(studio: Studio) -> Studio:
    """The table was renamed yesterday, and the numbered list taken off today."""
    history = studio.session.history
    today = history.clock()
    history.clock = lambda: today - DAY
    studio.session.do(SetFields(*HERE, TABLE, {"label": "Lanes"}, "call it Lanes"))
    history.clock = lambda: today
    studio.session.do(TakeOff(*HERE, (NUMBERED,)))
    return studio


@pytest.fixture
def sheet(changed: Studio) -> HistorySheet:
    changed.click_slot(after=TABLE)
    changed.press(Qt.Key.Key_F8)
    found = changed.find("history")
    assert isinstance(found, HistorySheet)
    return found


def rows(sheet: HistorySheet) -> list[str]:
    found = (sheet.list.item(at) for at in range(sheet.list.count()))
    return [row.text() for row in found if row is not None]


def test_it_lists_when_and_what_newest_first(changed: Studio, sheet: HistorySheet) -> None:
    assert sheet.scope.words == "Freight desk’s Letters"
    first, last = rows(sheet)
    assert first.startswith("yesterday ")
    assert first.endswith("call it Lanes")
    assert last == "before the oldest change kept"


def test_each_point_shows_on_the_stage_and_f7_turns_to_today(changed: Studio, sheet: HistorySheet) -> None:
    assert shown(changed).item(NUMBERED) is not None
    assert NUMBERED in changed.place.overlay.shown.framed
    assert shown(changed).item(TABLE).label == "Lanes"  # type: ignore[union-attr]
    changed.press(Qt.Key.Key_Down)
    assert shown(changed).item(TABLE).label != "Lanes"  # type: ignore[union-attr]
    changed.place.overlay.setFocus()
    changed.press(Qt.Key.Key_F7)
    assert shown(changed).item(NUMBERED) is None
    changed.press(Qt.Key.Key_F7)
    assert shown(changed).item(NUMBERED) is not None
    sheet.list.setFocus()
    changed.press(Qt.Key.Key_Escape)
    assert not sheet.isVisible()
    assert shown(changed).item(NUMBERED) is None
    assert changed.session.edits == 2


def test_enter_brings_the_layout_back_and_undo_takes_that_back(changed: Studio, sheet: HistorySheet) -> None:
    changed.press(Qt.Key.Key_Return)
    assert changed.item(NUMBERED) is not None
    assert changed.item(TABLE).label == "Lanes"  # type: ignore[union-attr]
    assert "undo takes that back" in changed.said
    changed.press(Qt.Key.Key_Z, CTRL)
    assert changed.item(NUMBERED) is None


def test_one_thing_of_it_is_put_back_by_itself(changed: Studio, sheet: HistorySheet) -> None:
    changed.press(Qt.Key.Key_Down)
    changed.push("history-thing-0")
    assert changed.item(NUMBERED) is not None
    assert changed.item(TABLE).label == "Lanes"  # type: ignore[union-attr]
    assert sheet.isVisible()


def test_a_bar_that_is_held_is_what_comes_back(changed: Studio) -> None:
    changed.click(changed.place.overlay.box_of(BAR).center())  # type: ignore[union-attr]
    assert changed.place.overlay.caret.held == BAR
    changed.press(Qt.Key.Key_F8)
    sheet = changed.find("history")
    assert isinstance(sheet, HistorySheet)
    assert sheet.scope.thing == BAR
    changed.press(Qt.Key.Key_Return)
    assert changed.item(NUMBERED) is not None


def test_of_an_item_what_is_offered_is_that_item_then_its_bar(changed: Studio) -> None:
    changed.click_item(TABLE)
    changed.press(Qt.Key.Key_F8)
    sheet = changed.find("history")
    assert isinstance(sheet, HistorySheet)
    assert [scope.thing for scope in sheet.scopes] == [TABLE, BAR, "", ""]
    # Before the newest change the item was as it is: there is nothing of it to bring back.
    assert not sheet.put_back.isEnabled()
    told = sheet.findChild(QLabel, "history-told")
    assert told is not None
    assert "“Lanes” is the same." in told.text()
    changed.press(Qt.Key.Key_Return)
    assert sheet.isVisible()
    assert changed.session.edits == 2
    changed.press(Qt.Key.Key_Down)
    assert sheet.put_back.isEnabled()
    changed.press(Qt.Key.Key_Return)
    assert changed.item(TABLE).label != "Lanes"  # type: ignore[union-attr]
    assert changed.item(NUMBERED) is None
    assert changed.session.history.points([sheet.scope.path])[0].label == "“Lanes” as it was"


def test_everything_can_be_brought_back_and_a_moment_named(changed: Studio, sheet: HistorySheet) -> None:
    changed.push("history-name")
    changed.type("Before the season")
    changed.press(Qt.Key.Key_Return)
    changed.session.do(PutMacro(*NOTE, None))
    changed.push("history-of")
    changed.choose("everything")
    named = next(at for at, row in enumerate(rows(sheet)) if "Before the season" in row)
    sheet.list.setCurrentRow(named)
    changed.push("history-back")
    assert NOTE in read_workspace(changed.folder).macros
    assert changed.item(NUMBERED) is None


def test_what_forgets_is_found_only_by_that_word(studio: Studio) -> None:
    assert not [match for match in look_for(studio, "hazard") if match.kind == "forget"]
    assert [match.title for match in look_for(studio, "forget hazard")][:1] == [
        "Forget Hazard note for good …"
    ]


def test_strokes_of_one_chooser_are_one_point_and_what_was_undone_says_so(studio: Studio) -> None:
    for words in ("A", "B"):
        studio.session.do(SetFields(*HERE, TABLE, {"label": words}, "drawn"), joined="x")
    studio.session.undo()
    studio.session.do(TakeOff(*HERE, (NUMBERED,)))
    studio.press(Qt.Key.Key_F8)
    sheet = studio.find("history")
    assert isinstance(sheet, HistorySheet)
    labels = [row.partition("   ")[2] for row in rows(sheet)]
    assert labels == ["undone: drawn", "drawn", ""]


def test_with_nothing_kept_it_says_so(studio: Studio) -> None:
    studio.press(Qt.Key.Key_F8)
    sheet = studio.find("history")
    assert isinstance(sheet, HistorySheet)
    assert rows(sheet) == []
    studio.press(Qt.Key.Key_Return)
    assert studio.session.edits == 0


def test_an_earlier_macro_comes_back(studio: Studio) -> None:
    before = studio.session.workspace.macros[NOTE].text
    studio.session.do(PutMacro(*NOTE, 'macro "Hazard note"\nfor letters\n\nstop\n'))
    studio.push("place-macros")
    studio.desk.places["Macros"].open(NOTE)
    studio.push("macro-earlier")
    QApplication.processEvents()
    menu = QApplication.activePopupWidget()
    assert menu is not None
    QTest.keyClick(menu, Qt.Key.Key_Return)
    assert studio.session.workspace.macros[NOTE].text == before
    studio.push("macro-earlier")
    assert QApplication.activePopupWidget() is not None


@pytest.mark.parametrize("sure", [True, False])
def test_a_colleague_is_forgotten_only_when_one_is_sure(
    studio: Studio, monkeypatch: pytest.MonkeyPatch, sure: bool
) -> None:
    name = studio.session.workspace.people[3].name
    words = "Forget it" if sure else "Keep it"

    def answer(box: QMessageBox) -> int:
        assert "no undo brings it back" in box.informativeText()
        next(button for button in box.buttons() if button.text() == words).click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", answer)
    match = next(match for match in look_for(studio, f"forget {name}") if match.kind == "forget")
    go_to(studio, match)
    names = {seat.name for seat in read_workspace(studio.folder).people}
    assert (name in names) is not sure
    if sure:
        studio.session.undo()
        assert name not in {seat.name for seat in studio.session.workspace.people}
        assert name.encode() not in (studio.folder / ".rimecrest/history.db").read_bytes()


def test_times_are_said_as_people_say_them() -> None:
    noon = 1_790_000_000.0
    assert when(noon, noon + 60).startswith("today ")
    assert when(noon - DAY, noon).startswith("yesterday ")
    assert when(noon - 9 * DAY, noon).startswith("2026-09-")
