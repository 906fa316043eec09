"""Panels in an application: fields keep what is written, changes run, macros read, switches show and hide."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt
from PyQt6.QtGui import QEnterEvent, QFocusEvent, QImage, QPainter, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QCheckBox, QPushButton
from pytestqt.qtbot import QtBot

from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.keys.focus_keys import kept_by_field
from rimecrest.core.layout.layout import Layout
from rimecrest.core.release.profile import Profile
from rimecrest.core.release.stack import StackState
from rimecrest.kit.macros.questions import PanelQuestion
from rimecrest.kit.remote.trial import LinkAsker
from rimecrest.kit.window import AppWindow
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.panel_button import PanelButton
from rimecrest.surfaces.panel_controls import ControlView, PanelChoice, PanelField, PanelList, Words
from rimecrest.surfaces.titles import draw_title
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from tests.programs import CTRL, SHIFT, Letters

WRITES = 'macro "W"\nfor letters\n\nwrite "{panel.vessel}, "\n'
CONTROLS: list[dict[str, Any]] = [
    {"id": "why", "text": "Type the vessel."},
    {"id": "vessel", "field": "Vessel", "on": {"change": {"steps": WRITES}}},
    {"id": "heading", "choice": "Heading", "from": "headings"},
    {"id": "late", "tick": "Late", "on": {"change": {"run": "macro:late"}}},
    {"id": "go", "run": "macro:go", "label": "Go"},
]
LATE = 'macro "L"\nfor letters\n\nif panel.lanes.late = "yes"\n  write "late"\nelse\n  write "in time"\nend\n'
GO = 'macro "G"\nfor letters\n\nwrite "Vessel {panel.lanes.vessel}"\n'


def lay(letters: Letters, *controls: dict[str, Any], **fields: Any) -> None:
    panel = {"id": "lanes", "title": "Lanes", "items": list(controls) or CONTROLS, **fields}
    letters.use({"panels": [panel]}, late=LATE, go=GO)
    QApplication.processEvents()


def view(letters: Letters, name: str) -> ControlView:
    widget = letters.window.frame.button(f"organisation:{name}")
    assert isinstance(widget, ControlView)
    return widget


def field(letters: Letters, name: str = "vessel") -> PanelField:
    found = view(letters, name).findChild(PanelField)
    assert found is not None
    return found


def write(letters: Letters, text: str, end: Qt.Key = Qt.Key.Key_Return) -> None:
    box = field(letters)
    box.setFocus()
    box.selectAll()
    for character in text:
        QTest.keyClick(letters.window.windowHandle(), character)
    QTest.keyClick(letters.window.windowHandle(), end)
    QApplication.processEvents()


def test_a_field_runs_its_steps_when_its_value_is_settled_and_never_at_each_letter(letters: Letters) -> None:
    lay(letters)
    write(letters, "Ovessa")
    letters.qtbot.waitUntil(lambda: letters.text == "Ovessa, ")
    field(letters).setFocus()
    QTest.keyClick(letters.window.windowHandle(), Qt.Key.Key_Return)
    QApplication.processEvents()
    assert letters.text == "Ovessa, "


def test_escape_leaves_the_field_as_it_was_and_gives_the_keys_back(letters: Letters) -> None:
    lay(letters)
    write(letters, "Quessel", Qt.Key.Key_Escape)
    assert field(letters).text() == ""
    assert letters.text == ""
    assert letters.document.widget.hasFocus()


def test_a_tick_box_and_a_button_run_macros_that_read_the_panel(letters: Letters) -> None:
    lay(letters)
    tick = view(letters, "late").findChild(QCheckBox)
    assert tick is not None
    QTest.mouseClick(tick, Qt.MouseButton.LeftButton, pos=QPoint(8, tick.height() // 2))
    letters.qtbot.waitUntil(lambda: letters.text == "late")
    assert letters.read("panel.lanes.late") == "yes"
    button = letters.window.frame.button("organisation:go")
    write(letters, "Brinholt", Qt.Key.Key_Tab)
    letters.qtbot.waitUntil(lambda: letters.text.startswith("lateBrinholt, "))
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    letters.qtbot.waitUntil(lambda: letters.text.endswith("Vessel Brinholt"))


def test_a_choice_from_a_reading_is_filled_as_it_opens(letters: Letters) -> None:
    lay(letters)
    letters.type("North quay")
    assert letters.do("style-paragraph", to="heading"), letters.said
    choice = view(letters, "heading").findChild(PanelChoice)
    assert choice is not None
    assert choice.count() == 0
    choice.refill()
    assert [choice.itemText(n) for n in range(choice.count())] == ["North quay"]


def test_a_choice_whose_entry_is_gone_shows_none_and_the_wheel_never_chooses(letters: Letters) -> None:
    lay(letters, {"id": "size", "choice": "Size", "choices": ["small", "large"]})
    choice = view(letters, "size").findChild(PanelChoice)
    assert choice is not None
    assert letters.read("panel.lanes.size") == ""
    at = QPointF(5, 5)
    down, none = QPoint(0, -120), Qt.KeyboardModifier.NoModifier
    wheel = QWheelEvent(
        at, choice.mapToGlobal(at), QPoint(), down, Qt.MouseButton.NoButton, none,
        Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(choice, wheel)
    assert letters.read("panel.lanes.size") == ""
    choice.put("large")
    assert letters.read("panel.lanes.size") == "large"
    choice.put("huge")
    assert letters.read("panel.lanes.size") == ""


WROTE = 'macro "H"\nfor letters\n\nwrite "{panel.heads}!"\n'


def with_headings(letters: Letters) -> PanelList:
    """A letter of two headings, and a panel with a list of them."""
    lay(letters, {"id": "heads", "list": "Headings", "from": "headings", "on": {"change": {"steps": WROTE}}})
    for words in ("North quay", "South quay"):
        letters.type(words)
        assert letters.do("style-paragraph", to="heading"), letters.said
        letters.do("next-line")
        letters.press(Qt.Key.Key_Return)
    found = view(letters, "heads").findChild(PanelList)
    assert found is not None
    return found


def entries(box: PanelList) -> list[str]:
    return [item.text() for row in range(box.count()) if (item := box.item(row)) is not None]


def test_a_list_follows_the_document_by_itself(letters: Letters) -> None:
    box = with_headings(letters)
    letters.qtbot.waitUntil(lambda: entries(box) == ["North quay", "South quay"])
    assert letters.do("select-all")
    assert letters.do("style-paragraph", to="text"), letters.said
    letters.qtbot.waitUntil(lambda: entries(box) == [])


def test_entries_that_cannot_be_read_are_told_once(letters: Letters) -> None:
    lay(letters, {"id": "heads", "list": "Headings", "from": "heading"})
    assert "heading" in letters.said
    letters.window.frame.say("")
    letters.type("Dear ")
    QApplication.processEvents()
    assert letters.said == ""


def test_each_click_on_an_entry_of_a_list_runs_also_a_second_one(letters: Letters) -> None:
    box = with_headings(letters)
    letters.qtbot.waitUntil(lambda: box.count() == 2)
    row = box.visualItemRect(box.item(1)).center()
    QTest.mouseClick(box.viewport(), Qt.MouseButton.LeftButton, pos=row)
    letters.qtbot.waitUntil(
        lambda: letters.text.count("South quay!") == 1 and letters.window.dispatcher.run is None
    )
    QTest.mouseClick(box.viewport(), Qt.MouseButton.LeftButton, pos=row)
    letters.qtbot.waitUntil(lambda: letters.text.count("South quay!") == 2)
    assert letters.read("panel.lanes.heads") == "South quay"


def test_arrows_only_go_through_a_list_enter_chooses_and_escape_goes_back(letters: Letters) -> None:
    box = with_headings(letters)
    letters.qtbot.waitUntil(lambda: box.count() == 2)
    before = letters.text
    box.setFocus()
    window = letters.window.windowHandle()
    QTest.keyClick(window, Qt.Key.Key_Home)
    QTest.keyClick(window, Qt.Key.Key_Down)
    QApplication.processEvents()
    assert (letters.text, letters.read("panel.lanes.heads")) == (before, "")
    QTest.keyClick(window, Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text.count("South quay!") == 1)
    box.setFocus()
    QTest.keyClick(window, Qt.Key.Key_Up)
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert letters.document.widget.hasFocus()
    assert letters.read("panel.lanes.heads") == "South quay"
    box.setFocus()
    QTest.keyClick(window, Qt.Key.Key_Home)
    assert box.currentRow() == 0
    letters.document.widget.setFocus()
    assert box.currentRow() == 1


def test_what_is_written_stays_across_a_release_while_the_control_stands(letters: Letters) -> None:
    lay(letters)
    field(letters).put("Ovessa")
    renamed = [dict(CONTROLS[0], text="Another text"), *CONTROLS[1:]]
    lay(letters, *renamed)
    assert field(letters).text() == "Ovessa"
    lay(letters, CONTROLS[0])
    assert letters.window.frame.panels.values() == {}


def test_typing_in_a_field_reaches_the_field_and_hotkeys_still_work(letters: Letters) -> None:
    lay(letters)
    letters.type("Dear ")
    field(letters).setFocus()
    write(letters, "Ov", Qt.Key.Key_Tab)
    letters.qtbot.waitUntil(lambda: letters.text == "Dear Ov, ")
    field(letters).setFocus()
    QTest.keyClick(letters.window.windowHandle(), Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    # Undo of the field, not of the letter.
    assert letters.text == "Dear Ov, "


@pytest.mark.parametrize(
    ("keys", "own"),
    [
        ("A", True),
        ("Shift+A", True),
        ("Left", True),
        ("Ctrl+V", False),
        ("Shift+Insert", False),
        ("F9", False),
        ("Ctrl+S", False),
    ],
)
def test_which_keys_a_field_has_for_itself(keys: str, own: bool) -> None:
    assert kept_by_field(parse_sequence(keys)[0]) is own


def test_a_panel_that_shows_by_its_button_is_shut_at_first_and_its_value_is_the_first_one(
    letters: Letters,
) -> None:
    lay(letters, dict(CONTROLS[1], value="Ovessa"), shown=False)
    assert letters.window.frame.panels.values() == {}
    assert letters.read("panel.lanes.vessel") == "Ovessa"
    switch = letters.window.findChild(QPushButton, "switch organisation:lanes")
    assert switch is not None
    QTest.mouseClick(switch, Qt.MouseButton.LeftButton)
    assert letters.window.frame.panels.values() == {"organisation:vessel": "Ovessa"}


def test_which_panels_are_open_is_kept_on_the_seat(qtbot: QtBot, tmp_path: Path) -> None:
    profile = Profile(tmp_path)
    window = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(window)
    data = {"id": "lanes", "title": "Lanes", "items": [{"id": "t", "text": "x"}]}
    layout = Layout.model_validate({"app": "letters", "layer": "organisation", "panels": [data]})
    state = StackState(app="letters", layouts=(layout,))
    window.stack.use(state)
    window.frame.turn_panel("organisation:lanes")
    assert json.loads((tmp_path / "panels-letters.json").read_text()) == {"organisation:lanes": False}
    window.close()
    second = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(second)
    second.stack.use(state)
    assert second.frame.panel_heads() == []
    (tmp_path / "panels-letters.json").write_text("nonsense")
    third = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(third)
    third.stack.use(state)
    assert [name for name, _ in third.frame.panel_heads()] == ["organisation:lanes"]
    for made in (second, third):
        made.close()


@pytest.mark.parametrize("edge", ["left", "right", "top", "bottom"])
def test_panels_stand_at_each_edge_and_leave_the_document_room(letters: Letters, edge: str) -> None:
    lay(letters, edge=edge)
    frame = letters.window.frame
    frame.settle()
    head = dict(frame.panel_heads())["organisation:lanes"]
    document = frame.centre_rect()
    assert document.width() > 100 < document.height()
    there = {
        "left": head.right() <= document.left(),
        "right": head.left() >= document.right(),
        "top": head.bottom() <= document.top(),
        "bottom": head.top() >= document.bottom(),
    }
    assert there[edge]


def test_two_hundred_controls_scroll_and_labels_of_all_kinds_are_whole(letters: Letters) -> None:
    words = ["", "x" * 300, "שלום לך", "e\u0301a\u0308", "A & B"]
    many = [{"id": f"c{n}", "text": words[n % 5] or " "} for n in range(200)]
    lay(letters, *many)
    frame = letters.window.frame
    frame.settle()
    assert frame.height() < 900
    assert view(letters, "c4").item.caption == "A & B"


def test_a_name_that_is_too_long_ends_within_its_box(letters: Letters) -> None:
    image = QImage(200, 30, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    draw_title(painter, QRectF(10, 0, 100, 30), "Vehicle lanes of all the quays", 12)
    painter.end()
    inked = {x for x in range(200) for y in range(30) if image.pixelColor(x, y).lightness() < 200}
    assert 60 < max(inked) <= 110


def test_steps_of_a_maker_for_whom_nobody_vouches_any_more_do_not_run(letters: Letters) -> None:
    theirs = {"steps": WRITES, "made_by": "ab"}
    lay(letters, {"id": "vessel", "field": "Vessel", "on": {"change": theirs}})
    write(letters, "Ovessa")
    assert letters.text == ""
    assert (
        "“Vessel” does not run: somebody made it whom your organisation does not vouch for." in letters.said
    )
    letters.window.stack.use(letters.window.stack.state.model_copy(update={"makers": ("ab",)}))
    QApplication.processEvents()
    write(letters, "Brinholt")
    letters.qtbot.waitUntil(lambda: letters.text == "Brinholt, ")


def steps_of(text: str) -> dict[str, str]:
    return {"steps": f'macro "S"\nfor letters\n\n{text}\n'}


def test_each_event_of_a_control_runs_what_it_names_and_nothing_else(letters: Letters) -> None:
    on = {"enter": steps_of('write "in "'), "leave": steps_of('write "out "')}
    on |= {"click": steps_of('write "click "'), "double": steps_of('write "twice "')}
    words = {"id": "why", "text": "Click me", "on": {"click": steps_of('write "told "')}}
    lay(letters, words, {"id": "vessel", "field": "Vessel", "on": on}, {"id": "lane", "field": "Lane"})
    box, other = field(letters), field(letters, "lane")
    box.setFocus(Qt.FocusReason.TabFocusReason)
    letters.qtbot.waitUntil(lambda: letters.text == "in ")
    other.setFocus(Qt.FocusReason.TabFocusReason)
    letters.qtbot.waitUntil(lambda: letters.text == "in out ")
    other.setFocus(Qt.FocusReason.PopupFocusReason)
    label = view(letters, "why").findChild(Words)
    assert label is not None
    QTest.mouseClick(label, Qt.MouseButton.LeftButton)
    letters.qtbot.waitUntil(lambda: letters.text == "in out told ")
    label.setFocus()
    QTest.keyClick(letters.window.windowHandle(), Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "in out told told ")


def test_a_click_runs_once_and_a_window_that_is_left_is_no_field_that_is_left(letters: Letters) -> None:
    on = {"leave": steps_of('write "out "'), "click": steps_of('write "click "')}
    lay(letters, {"id": "vessel", "field": "Vessel", "on": on})
    box = field(letters)
    box.setFocus()
    QTest.mouseClick(box, Qt.MouseButton.LeftButton)
    letters.qtbot.waitUntil(lambda: letters.text == "click ")
    for reason in (Qt.FocusReason.ActiveWindowFocusReason, Qt.FocusReason.PopupFocusReason):
        QApplication.sendEvent(box, QFocusEvent(QEvent.Type.FocusOut, reason))
    QApplication.processEvents()
    assert letters.text == "click "


def button(letters: Letters, name: str = "do") -> PanelButton:
    widget = letters.window.frame.button(f"organisation:{name}")
    assert isinstance(widget, PanelButton)
    return widget


def test_a_button_of_a_panel_has_its_click_and_the_events_that_it_names(letters: Letters) -> None:
    on = {"enter": steps_of('write "in "'), "leave": steps_of('write "out "')}
    on |= {"double": steps_of('write "twice "')}
    go = {"id": "do", "label": "Go", **steps_of('write "click "'), "on": on}
    lay(letters, {"id": "vessel", "field": "Vessel"}, go)
    mouse = Qt.MouseButton.LeftButton
    QTest.mouseClick(button(letters), mouse)
    letters.qtbot.waitUntil(lambda: letters.text == "click ")
    QTest.mouseDClick(button(letters), mouse)
    QTest.mouseRelease(button(letters), mouse)
    letters.qtbot.waitUntil(lambda: "twice " in letters.text)
    QApplication.processEvents()
    assert letters.text == "click twice "
    field(letters).setFocus()
    letters.press(Qt.Key.Key_Tab)
    letters.qtbot.waitUntil(lambda: letters.text.endswith("in "))
    assert button(letters).hasFocus()
    letters.press(Qt.Key.Key_Backtab)
    letters.qtbot.waitUntil(lambda: letters.text.endswith("in out "))


@pytest.mark.parametrize("key", [Qt.Key.Key_Return, Qt.Key.Key_Space])
def test_a_button_of_a_panel_is_pressed_by_keys_until_escape(letters: Letters, key: Qt.Key) -> None:
    go = {"id": "do", "label": "Go", **steps_of('write "click "')}
    lay(letters, {"id": "vessel", "field": "Vessel"}, go)
    field(letters).setFocus()
    letters.press(Qt.Key.Key_Tab)
    letters.press(key)
    letters.qtbot.waitUntil(lambda: letters.text == "click ")
    letters.press(key)
    letters.qtbot.waitUntil(lambda: letters.text == "click click ")
    letters.press(Qt.Key.Key_Escape)
    assert not button(letters).hasFocus()
    letters.press(Qt.Key.Key_X)
    assert letters.text == "click click x"


def test_a_button_that_only_a_double_click_uses_is_pressed_by_a_key_as_well(letters: Letters) -> None:
    go = {"id": "do", "label": "Go", "run": "", "on": {"double": steps_of('write "twice "')}}
    lay(letters, {"id": "vessel", "field": "Vessel"}, go)
    QTest.mouseClick(button(letters), Qt.MouseButton.LeftButton)
    field(letters).setFocus()
    letters.press(Qt.Key.Key_Tab)
    letters.press(Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "twice ")
    letters.press(Qt.Key.Key_Escape)
    assert not button(letters).hasFocus()


def test_quick_clicks_on_a_button_without_a_double_click_are_two(letters: Letters) -> None:
    lay(letters, {"id": "do", "label": "Go", **steps_of('write "click "')})
    QTest.mouseClick(button(letters), Qt.MouseButton.LeftButton)
    letters.qtbot.waitUntil(lambda: letters.text == "click " and letters.window.dispatcher.run is None)
    QTest.mouseDClick(button(letters), Qt.MouseButton.LeftButton)
    QTest.mouseRelease(button(letters), Qt.MouseButton.LeftButton)
    letters.qtbot.waitUntil(lambda: letters.text == "click click ")


def test_a_pointer_that_rests_on_a_button_does_what_it_names(letters: Letters) -> None:
    go = {"id": "do", "label": "Go", **steps_of('write "no"'), "on": {"point": steps_of('say "Saves."')}}
    lay(letters, go)
    widget = button(letters)
    centre = QPointF(widget.rect().center())
    QApplication.sendEvent(widget, QEnterEvent(centre, centre, QPointF(widget.mapToGlobal(centre))))
    letters.qtbot.waitUntil(lambda: letters.said == "Saves.")
    assert letters.text == ""


def point_at(letters: Letters, name: str) -> None:
    widget = view(letters, name)
    centre = QPointF(widget.rect().center())
    QApplication.sendEvent(widget, QEnterEvent(centre, centre, QPointF(widget.mapToGlobal(centre))))


def test_a_pointer_that_rests_runs_only_what_changes_nothing(letters: Letters) -> None:
    tells = {"point": steps_of('say "Mind the weight."')}
    writes = {"point": steps_of('write "no"')}
    lay(
        letters,
        {"id": "lane", "field": "Lane", "on": tells},
        {"id": "vessel", "field": "Vessel", "on": writes},
    )
    point_at(letters, "lane")
    letters.qtbot.waitUntil(lambda: letters.said == "Mind the weight.")
    point_at(letters, "vessel")
    letters.qtbot.waitUntil(lambda: "does not run when pointed at" in letters.said)
    assert letters.text == ""
    widget = view(letters, "lane")
    letters.window.frame.say("")
    point_at(letters, "lane")
    QApplication.sendEvent(widget, QEvent(QEvent.Type.Leave))
    letters.qtbot.wait(700)
    assert letters.said == ""


def test_a_panel_that_is_opened_by_its_button_runs_what_it_names(letters: Letters) -> None:
    lay(letters, *CONTROLS, on={"open": steps_of('say "Lanes of {panel.vessel}."')})
    assert letters.said == ""
    letters.window.frame.turn_panel("organisation:lanes")
    QApplication.processEvents()
    assert letters.said == ""
    letters.window.frame.turn_panel("organisation:lanes")
    letters.qtbot.waitUntil(lambda: letters.said == "Lanes of .")


ASKS = 'macro "A"\nfor letters\n\nwrite "To "\nask panel "lanes"\nwrite "{panel.lanes.vessel}"\n'


def asked(letters: Letters, text: str = ASKS) -> PanelQuestion:
    """A panel is open as a question, by a macro that a key or button began."""
    panel = {"id": "lanes", "title": "Lanes", "items": CONTROLS}
    letters.use({"panels": [panel]}, late=LATE, go=GO, asks=text)
    QApplication.processEvents()
    assert letters.window.dispatcher.perform("macro:asks"), letters.said
    # The run goes on in slices: on a busy machine the question comes with a later one.
    letters.qtbot.waitUntil(lambda: letters.window.findChild(PanelQuestion) is not None)
    question = letters.window.findChild(PanelQuestion)
    assert question is not None
    return question


def fill(question: PanelQuestion, text: str, end: Qt.Key) -> None:
    box = question.view.findChild(PanelField)
    assert box is not None
    QTest.keyClicks(box, text)
    QTest.keyClick(box, end)
    QApplication.processEvents()


def test_a_macro_asks_with_a_panel_and_reads_the_answers(letters: Letters) -> None:
    question = asked(letters)
    assert not question.view.findChildren(ItemButton)
    fill(question, "Ovessa", Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "To Ovessa")
    assert field(letters).text() == "Ovessa"


def test_cancel_leaves_panel_and_letter_as_they_were(letters: Letters) -> None:
    question = asked(letters)
    letters.window.frame.panels.put_values({"organisation:vessel": "Quessel"})
    fill(question, "Ovessa", Qt.Key.Key_Escape)
    letters.qtbot.waitUntil(lambda: "Cancelled" in letters.said)
    assert letters.text == ""
    assert field(letters).text() == "Quessel"


def test_a_run_that_fails_after_the_answer_gives_the_panel_back_what_it_had(letters: Letters) -> None:
    question = asked(letters, ASKS + "set x = 1 / 0\n")
    fill(question, "Ovessa", Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    assert letters.text == ""
    assert field(letters).text() == ""


def test_stopping_the_macro_takes_the_question_away(letters: Letters) -> None:
    asked(letters)
    letters.window.dispatcher.stop_run()
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    assert letters.text == ""


def test_a_shut_panel_keeps_what_was_written_and_macros_read_it(letters: Letters) -> None:
    lay(letters)
    write(letters, "Brinholt")
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    letters.window.frame.turn_panel("organisation:lanes")
    assert letters.read("panel.lanes.vessel") == "Brinholt"
    letters.window.frame.turn_panel("organisation:lanes")
    assert field(letters).text() == "Brinholt"


def test_a_trial_asks_what_a_panel_asks_over_the_link(letters: Letters) -> None:
    told: list[tuple[str, Any]] = []
    asker = LinkAsker(lambda method, params: told.append((method, params)), lambda _reading: ["North quay"])
    panel = {"id": "lanes", "title": "Lanes", "items": CONTROLS}
    letters.use({"panels": [panel]})
    held = letters.window.panels.asked("lanes")
    assert held is not None
    answers: list[Any] = []
    asker.ask_panel("A", held, answers.append)
    ((method, params),) = told
    assert (method, params["title"]) == ("trial.asks", "Lanes")
    assert [q["prompt"] for q in params["questions"]] == ["Vessel", "Heading", "Late"]
    assert [q["choices"] for q in params["questions"]] == [[], ["North quay"], ["yes", "no"]]
    asker.answer(("Ovessa", "North quay", "yes"))
    names = [f"organisation:{name}" for name in ("vessel", "heading", "late")]
    assert answers == [dict(zip(names, ("Ovessa", "North quay", "yes"), strict=True))]


def press(letters: Letters, key: Qt.Key, *held: Qt.KeyboardModifier) -> None:
    modifiers = Qt.KeyboardModifier.NoModifier
    for each in held:
        modifiers |= each
    QTest.keyClick(letters.window.windowHandle(), key, modifiers)
    QApplication.processEvents()


def test_the_editing_keys_of_a_field_are_commands_of_its_context(letters: Letters) -> None:
    lay(letters, {"id": "vessel", "field": "Vessel"})
    letters.type("In the letter")
    box = field(letters)
    box.setFocus()
    for character in "Ovessa north":
        QTest.keyClick(letters.window.windowHandle(), character)
    assert letters.window.executor.catalogue.by_id["letters:field-cut"].context == "field"
    press(letters, Qt.Key.Key_Left, CTRL, SHIFT)
    assert box.selectedText() == "north"
    press(letters, Qt.Key.Key_X, CTRL)
    assert box.text() == "Ovessa "
    press(letters, Qt.Key.Key_Z, CTRL)
    assert box.text() == "Ovessa north"
    press(letters, Qt.Key.Key_Z, CTRL, SHIFT)
    assert box.text() == "Ovessa "
    press(letters, Qt.Key.Key_V, CTRL)
    assert box.text() == "Ovessa north"
    press(letters, Qt.Key.Key_Backspace, CTRL)
    press(letters, Qt.Key.Key_A, CTRL)
    assert box.selectedText() == "Ovessa "
    press(letters, Qt.Key.Key_Left, CTRL)
    press(letters, Qt.Key.Key_Delete, CTRL)
    assert (box.text(), letters.text) == ("", "In the letter")
    letters.window.document.widget.setFocus()
    assert not letters.do("field-copy")
    assert "works in a field of a panel only" in letters.said


def test_in_a_field_keys_of_the_document_do_nothing_and_those_of_its_own_context_do(letters: Letters) -> None:
    keys = [
        {"keys": "Ctrl+J", "in": "writing", "run": "macro:late"},
        {"keys": "Ctrl+K", "in": "field", "run": "macro:go"},
        {"keys": "Ctrl+L", "in": "anywhere", "run": "macro:go"},
    ]
    panel = {"id": "lanes", "title": "Lanes", "items": CONTROLS}
    letters.use({"panels": [panel], "keys": keys}, late=LATE, go=GO)
    field(letters).setFocus()
    press(letters, Qt.Key.Key_J, CTRL)
    assert letters.text == ""
    press(letters, Qt.Key.Key_K, CTRL)
    letters.qtbot.waitUntil(lambda: letters.text == "Vessel ")
    press(letters, Qt.Key.Key_L, CTRL)
    letters.qtbot.waitUntil(lambda: letters.text == "Vessel Vessel ")
    letters.window.document.widget.setFocus()
    press(letters, Qt.Key.Key_K, CTRL)
    assert letters.text == "Vessel Vessel "
    press(letters, Qt.Key.Key_J, CTRL)
    letters.qtbot.waitUntil(lambda: letters.text.endswith("in time"))


def test_what_is_edited_in_a_field_is_no_step_of_a_recording(letters: Letters) -> None:
    lay(letters, {"id": "vessel", "field": "Vessel"})
    letters.window.recorder.start("R")
    field(letters).setFocus()
    QTest.keyClick(letters.window.windowHandle(), "x")
    press(letters, Qt.Key.Key_A, CTRL)
    press(letters, Qt.Key.Key_C, CTRL)
    assert letters.window.recorder.steps == ()


def test_a_panel_that_opens_itself_opens_once(letters: Letters) -> None:
    opens = {"open": {"run": "macro:asks"}}
    panel = {"id": "lanes", "title": "Lanes", "items": CONTROLS, "shown": False, "on": opens}
    letters.use({"panels": [panel]}, late=LATE, go=GO, asks=ASKS)
    letters.window.frame.turn_panel("organisation:lanes")
    letters.qtbot.waitUntil(lambda: letters.window.findChild(PanelQuestion) is not None)
    (question,) = letters.window.findChildren(PanelQuestion)
    fill(question, "Ovessa", Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "To Ovessa")
    QApplication.processEvents()
    assert letters.window.dispatcher.run is None
    assert not [q for q in letters.window.findChildren(PanelQuestion) if q.isVisible()]


def test_of_two_panels_with_one_id_macros_read_the_lower_layers_and_both_show(letters: Letters) -> None:
    data = {"app": "letters", "panels": [{"id": "lanes", "title": "Lanes", "items": [CONTROLS[1]]}]}
    layers = ("organisation", "department.freight")
    layouts = tuple(Layout.model_validate({**data, "layer": layer}) for layer in layers)
    letters.window.stack.use(StackState(app="letters", layouts=layouts))
    assert len(letters.window.frame.panel_heads()) == 2
    values = {"organisation:vessel": "Ovessa", "department.freight:vessel": "Quessel"}
    letters.window.frame.panels.put_values(values)
    assert letters.read("panel.lanes.vessel") == "Ovessa"
    reversed_ = tuple(layout.model_copy(update={"panels": layout.panels}) for layout in layouts)
    letters.window.stack.use(StackState(app="letters", layouts=reversed_))
    assert letters.window.frame.panels.values() == values
