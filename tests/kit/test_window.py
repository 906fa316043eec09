"""The window of an application: buttons, keys, macros, menus, news, the link."""

from __future__ import annotations

import base64
import json
import os
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent, QInputMethodEvent
from PyQt6.QtNetwork import QLocalSocket
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu, QPushButton
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.fitting import fit_groups, staying
from rimecrest.core.layout.flow import behind, column_widths, flow
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.macro.steps import Ask
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import build_package
from rimecrest.core.release.profile import Installed, Profile
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.core.workspace.edits import Bind, TakeOff, Unbind
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.kit.declare import Declarations
from rimecrest.kit.macros.questions import Question
from rimecrest.kit.window import AppWindow
from rimecrest.link.wire import Reply, Request, Wire, encode
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from tests.programs import CTRL, SHIFT, Grid, Letters

ALT = Qt.KeyboardModifier.AltModifier


def bar(*items: dict[str, Any], edge: str = "top") -> dict[str, Any]:
    return {"toolbars": [{"id": "bar", "title": "Bar", "edge": edge, "items": list(items)}]}


def click(letters: Letters, identity: str) -> None:
    button = letters.window.frame.button(identity)
    assert button is not None
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


# Surfaces


def test_a_button_performs_and_never_takes_the_focus(letters: Letters) -> None:
    letters.use(bar({"id": "bold", "run": "letters:embolden", "args": {"on": "yes"}}))
    letters.type("x")
    letters.do("select-all")
    click(letters, "organisation:bold")
    assert letters.window.executor.read("chosen.bold") == "yes"
    assert QApplication.focusWidget() is letters.document.widget


def test_tooltips_tell_name_purpose_and_the_key_that_works_here(letters: Letters) -> None:
    button = letters.window.frame.button("app:bar-embolden")
    assert button.toolTip() == "Bold\nMake the selected words bold, or what you write next\nKey: Ctrl+B"
    letters.use({"keys": [{"keys": "F9", "in": "writing", "run": "letters:embolden"}]})
    assert letters.window.frame.button("app:bar-embolden").toolTip().endswith("Key: F9")
    letters.use({"keys": [{"keys": "Ctrl+B", "in": "writing", "run": None}]})
    assert "Key" not in letters.window.frame.button("app:bar-embolden").toolTip()


def test_every_button_has_a_name_for_a_screen_reader(letters: Letters) -> None:
    for widget in letters.window.frame.buttons():
        assert widget.accessibleName()


def test_labels_are_literal(letters: Letters) -> None:
    letters.use(bar({"id": "x", "run": "letters:embolden", "label": "Salt & sea", "face": "words"}))
    assert letters.window.frame.button("organisation:x").accessibleName() == "Salt & sea"


def wide_groups(count: int) -> dict[str, Any]:
    """A tab of groups that cannot do without their words."""
    groups = []
    for number in range(count):
        items = [
            {"id": f"i{number}", "run": "letters:bulleted-list", "label": f"Points as they are {number}"}
            | {"face": "words"}
        ]
        groups.append({"id": f"g{number}", "title": f"Group {number}", "items": items})
    return {"tabs": [{"id": "wide", "title": "Wide", "groups": groups}]}


def open_wide(letters: Letters, count: int, width: int) -> Any:
    letters.use(wide_groups(count))
    letters.window.frame.choose_tab("organisation:wide")
    letters.window.resize(width, 600)
    QApplication.processEvents()
    return letters.window.frame._page


def test_where_space_is_short_words_go_before_groups_fold(letters: Letters) -> None:
    frame = letters.window.frame
    letters.window.resize(1000, 600)
    QApplication.processEvents()
    last = "app:item-choose-select-paragraph"
    wide = frame.button(last).width()
    letters.window.resize(560, 600)
    QApplication.processEvents()
    assert frame.unseen() == []
    assert frame.button(last).width() < wide
    assert all(box.right() < frame.width() for _, box in frame.group_rects())


def test_a_group_folds_into_one_button_that_opens_its_items(letters: Letters) -> None:
    page = open_wide(letters, 4, 560)
    folded = [group for group in page.groups if not group.folded.isHidden()]
    assert folded
    assert {item.id for item in page.unseen()} == {i.id for g in folded for i in g.group.items}
    QTest.mouseClick(folded[-1].folded, Qt.MouseButton.LeftButton)
    menu = page.findChild(QMenu)
    assert [action.text().split("\t")[0] for action in menu.actions()] == ["Points as they are 3"]
    menu.actions()[0].trigger()
    menu.close()
    assert letters.document.cursor().currentList() is not None


def test_groups_for_which_there_is_no_room_at_all_go_under_the_more_button(letters: Letters) -> None:
    page = open_wide(letters, 12, 560)
    assert page._more.isVisible()
    QTest.mouseClick(page._more, Qt.MouseButton.LeftButton)
    menu = page.findChild(QMenu)
    words = [action.text().split("\t")[0] for action in menu.actions()]
    assert words
    assert words[-1] == "Points as they are 11"
    boxes = dict(letters.window.frame.group_rects())
    assert boxes["organisation:g11"].width() == 0
    menu.close()


@given(
    st.lists(st.lists(st.one_of(st.none(), st.integers(-1, 1)), max_size=4), min_size=1, max_size=5),
    st.integers(50, 900),
)
def test_nothing_goes_while_there_is_room_and_low_ranks_go_first(
    ranks: list[list[int | None]], room: int
) -> None:
    def width(group: int, bare: frozenset[int]) -> int:
        return 40 + sum(30 if place in bare else 90 for place in range(len(ranks[group])))

    bare, folds = fit_groups(ranks, width, [50] * len(ranks), room)
    total = sum(50 if n in folds else width(n, gone) for n, gone in enumerate(bare))
    if sum(width(n, frozenset()) for n in range(len(ranks))) <= room:
        assert not folds
        assert not any(bare)
    words = [
        r for n, row in enumerate(ranks) for at, r in enumerate(row) if r is not None and at not in bare[n]
    ]
    gone = [row[at] for n, row in enumerate(ranks) for at in bare[n]]
    if words and gone:
        assert max(gone) <= min(words)
    if folds:
        assert not words
    if total > room:
        assert all(n in folds or width(n, bare[n]) <= 50 for n in range(len(ranks)))


@given(st.lists(st.integers(0, 2), max_size=12))
def test_no_two_items_of_a_group_stand_on_one_place(spans: list[int]) -> None:
    cells = flow(spans)
    taken = [
        (cell.column + more, row)
        for cell in cells
        for more in range(max(cell.span, 1))
        for row in ((cell.row,) if cell.span else (0, 1))
    ]
    assert len(taken) == len(set(taken))
    assert behind(cells) not in taken
    assert len(column_widths(cells, [10] * len(cells), 4)) == max((c for c, _ in taken), default=-1) + 1


@pytest.mark.parametrize(
    ("lengths", "collapse", "room", "left"),
    [
        ([10, 10, 10], [0, 0, 0], 30, {0, 1, 2}),
        ([10, 10, 10], [0, 0, 0], 29, {0}),
        ([10, 10, 10], [0, 0, 0], 25, {0}),
        ([10, 10, 10], [0, 0, 1], 26, {2}),
        ([10, 10, 10], [-1, 0, 0], 26, {1}),
        ([10, 10, 10, 10], [0, 0, 0, 0], 36, {0, 1}),
        ([50], [0], 20, set()),
    ],
)
def test_the_last_goes_first_unless_it_is_to_stay_longer(
    lengths: list[int], collapse: list[int], room: int, left: set[int]
) -> None:
    assert staying(lengths, collapse, room, 11) == left


def test_bars_stand_at_all_four_edges(letters: Letters) -> None:
    for edge in ("top", "left", "right", "bottom"):
        letters.use(bar({"id": "x", "run": "letters:embolden"}, edge=edge))
        QApplication.processEvents()
        box = letters.window.frame.rect_of("organisation:x")
        view = letters.window.frame.rect().center()
        assert {
            "top": box.y() < 200,
            "left": box.x() < 100,
            "right": box.x() > view.x(),
            "bottom": box.y() > view.y(),
        }[edge]


def test_slots_lie_between_all_items_of_all_bars(letters: Letters) -> None:
    frame = letters.window.frame
    after = [slot.after for slot in frame.insertion_points() if slot.surface == "app:main"]
    items = [item.id for item in frame.outcome.toolbars[0].items]
    assert after == [None, *items]
    boundaries = [slot.after for slot in frame.insertion_points() if slot.new_group]
    groups = [group for group, _ in frame.group_rects()]
    assert boundaries == [None, *groups]


def test_access_keys_reach_items_that_show(letters: Letters) -> None:
    letters.use(bar({"id": "x", "run": "letters:insert-rule", "access": "R"}))
    letters.type("a")
    letters.press(Qt.Key.Key_R, ALT)
    assert letters.text == "a\n"


# Keys


def test_a_sequence_waits_tells_what_can_follow_and_runs(letters: Letters) -> None:
    letters.press(Qt.Key.Key_J, CTRL)
    assert letters.said.startswith("Ctrl+J, then: ")
    assert "H Line across" in letters.said
    letters.press(Qt.Key.Key_H)
    assert "<hr" in letters.html
    assert letters.text.count("h") == 0


def test_of_what_can_follow_an_opener_the_offices_own_keys_come_first(letters: Letters) -> None:
    keys = [{"keys": "Ctrl+J, Z", "in": "writing", "run": "letters:insert-date"}]
    letters.use({"keys": keys})
    letters.press(Qt.Key.Key_J, CTRL)
    assert letters.said.startswith("Ctrl+J, then: Z Today's date · B ")


def test_a_sequence_that_leads_nowhere_is_told_and_types_nothing(letters: Letters) -> None:
    letters.press(Qt.Key.Key_J, CTRL)
    letters.press(Qt.Key.Key_Z)
    assert letters.said == "Ctrl+J, Z is not for anything here."
    assert letters.text == ""
    letters.press(Qt.Key.Key_J, CTRL)
    letters.press(Qt.Key.Key_Escape)
    letters.type("x")
    assert letters.text == "x"


def test_a_sequence_that_is_not_gone_on_with_is_given_up(
    letters: Letters, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("rimecrest.kit.key_filter.PATIENCE", 30)
    letters.press(Qt.Key.Key_J, CTRL)
    letters.qtbot.waitUntil(lambda: letters.said == "")
    letters.type("t")
    assert letters.text == "t"


def test_the_narrower_context_wins_at_the_key(letters: Letters) -> None:
    letters.do("insert-table")
    letters.press(Qt.Key.Key_Tab)
    assert "\t" not in letters.text
    letters.do("go-to-end")
    letters.press(Qt.Key.Key_Tab)
    assert "\t" in letters.text


def test_a_layer_takes_a_key_over_and_another_away(letters: Letters) -> None:
    letters.use(
        {
            "keys": [
                {"keys": "Ctrl+B", "in": "writing", "run": "letters:insert-date"},
                {"keys": "Ctrl+I", "in": "writing", "run": None},
            ]
        }
    )
    letters.press(Qt.Key.Key_B, CTRL)
    assert "20" in letters.text
    letters.press(Qt.Key.Key_I, CTRL)
    letters.do("select-all")
    assert not letters.document.cursor().charFormat().fontItalic()


def test_a_held_key_repeats_only_what_may_repeat(letters: Letters) -> None:
    from PyQt6.QtGui import QKeyEvent

    letters.type("abc")
    done: list[str] = []
    letters.window.dispatcher.did.connect(lambda command, *_: done.append(command.id))
    for key, modifier in ((Qt.Key.Key_Backspace, Qt.KeyboardModifier.NoModifier), (Qt.Key.Key_B, CTRL)):
        for repeated in (False, True, True):
            event = QKeyEvent(QEvent.Type.KeyPress, key, modifier, "", repeated)
            QApplication.sendEvent(letters.window.windowHandle(), event)
    assert letters.text == ""
    assert done == ["letters:delete-character-before"] * 3 + ["letters:embolden"]


def test_while_an_input_method_composes_keys_are_its_own(letters: Letters) -> None:
    view = letters.document.widget
    QApplication.sendEvent(view, QInputMethodEvent("ni", []))
    letters.press(Qt.Key.Key_T, CTRL)
    letters.press(Qt.Key.Key_J, CTRL)
    assert letters.said == ""
    done = QInputMethodEvent("", [])
    done.setCommitString("你")
    QApplication.sendEvent(view, done)
    assert letters.text == "你"
    letters.press(Qt.Key.Key_J, CTRL)
    assert letters.said.startswith("Ctrl+J, then")
    letters.press(Qt.Key.Key_Escape)


def test_keys_without_a_binding_only_move_the_cursor(letters: Letters) -> None:
    letters.type("ab")
    letters.press(Qt.Key.Key_Left)
    letters.press(Qt.Key.Key_K, CTRL)
    letters.press(Qt.Key.Key_D, CTRL)
    letters.type("x")
    assert letters.text == "axb"
    letters.press(Qt.Key.Key_Left, SHIFT)
    assert letters.window.executor.read("chosen.text") == "x"


# The dispatcher


def test_an_unknown_command_is_told_with_the_nearest(letters: Letters) -> None:
    assert not letters.do("embolded")
    assert "has no command “letters:embolded”. Did you mean “embolden”?" in letters.said


def test_a_setting_that_does_not_fit_is_told(letters: Letters) -> None:
    assert not letters.do("insert-table", rows="many")
    assert letters.said == "Table: rows is a whole number, not “many”."


def test_a_command_declares_the_verbs_it_had() -> None:
    declarations = Declarations("x", "X", "1")
    declarations.command("brighten", "Brighten", about="a", was=("lighten", "whiten"))(lambda doc: None)
    catalogue = declarations.catalogue()
    assert catalogue.renamed_commands == {"x:lighten": "x:brighten", "x:whiten": "x:brighten"}


def test_a_command_of_a_type_nobody_can_write_is_refused_when_it_is_declared() -> None:
    with pytest.raises(TypeError, match="cannot take"):

        @Declarations("x", "X", "1").command("v", "V", about="a")
        def bad(doc: object, of: bytes) -> None: ...


# Macros


def test_a_macro_writes_asks_and_says(letters: Letters) -> None:
    letters.run(
        'ask who "Whom?" choices "Brinholt", "Ovessa"\nwrite "Dear {who}"\nsay "Greeted {who}."', wait=False
    )
    question = letters.window.findChild(Question)
    assert question.windowTitle() == "Test"
    QTest.keyClick(question.fields[0], Qt.Key.Key_Down)
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended) as ended:
        QTest.keyClick(question, Qt.Key.Key_Return)
    assert letters.text == "Dear Ovessa"
    assert ended.args == ["Test", "Greeted Ovessa.", True]
    assert letters.said == "Greeted Ovessa."


def test_a_question_may_have_a_field_with_a_default(letters: Letters) -> None:
    letters.run('ask who "Whom?" default "all"\nwrite "{who}!"', wait=False)
    question = letters.window.findChild(Question)
    QTest.keyClicks(question.fields[0], " of you")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        question.accept()
    assert letters.text == " of you!"


def test_a_question_may_choose_from_a_reading(letters: Letters) -> None:
    letters.type("One")
    letters.do("style-paragraph", to="heading")
    letters.run('ask where "Where?" from headings\nsay "{where}"', wait=False)
    question = letters.window.findChild(Question)
    assert question.answers() == ("One",)
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended) as ended:
        question.accept()
    assert ended.args[1] == "One"


def test_a_form_asks_several_questions_at_once(letters: Letters) -> None:
    form = 'form "Sailing"\n  ask vessel "Which?" choices "Brinholt", "Ovessa"\n  ask quay "Where?"\nend\n'
    body = form + 'write "{vessel}, {quay}"'
    letters.run(body, wait=False)
    question = letters.window.findChild(Question)
    assert len(question.fields) == 2
    QTest.keyClick(question.fields[0], Qt.Key.Key_Down)
    QTest.keyClicks(question.fields[1], "north")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        question.accept()
    assert letters.text == "Ovessa, north"


def test_a_macro_goes_over_the_headings_and_runs_another_as_one_undo(letters: Letters) -> None:
    letters.type("One")
    letters.do("style-paragraph", to="heading")
    letters.press(Qt.Key.Key_Return)
    letters.type("text")
    before = letters.html
    list_all = (
        'macro "List"\nfor letters\nset count = 0\nfor each h in headings\n  set count = count + 1\n'
        '  run "line"\n  write "{count} {h}"\nend\nif count > 0\n  say "{count} listed."\nend\n'
    )
    letters.use({}, list=list_all, line='macro "Line"\nfor letters\ndo new-line\n')
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended) as ended:
        letters.window.dispatcher.perform("macro:list")
    assert ended.args[1] == "1 listed."
    assert letters.text == "One\ntext\n1 One"
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.html == before


@pytest.mark.parametrize(
    "body", ["repeat 90000 times\nend", "set go = yes\nwhile go limit 90000\n  set go = yes\nend"]
)
def test_a_loop_that_does_nothing_leaves_the_window_alive(letters: Letters, body: str) -> None:
    letters.run(body, wait=False)
    assert letters.window.dispatcher.run.name == "Test"
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended) as ended:
        letters.press(Qt.Key.Key_Escape)
    assert "was stopped" in ended.args[1]


def test_a_limit_that_is_reached_takes_everything_back(letters: Letters) -> None:
    letters.type("before")
    said = letters.run('while not here.paragraph is empty limit 5\n  write "x"\nend')
    assert "went round 5 times" in said
    assert letters.text == "before"


@pytest.mark.parametrize("fails", [True, False])
def test_what_leaves_the_document_waits_for_the_last_step(
    letters: Letters, tmp_path: Path, fails: bool
) -> None:
    path = tmp_path / "notice.html"
    last = 'do go-to-heading name="None"' if fails else 'write " after"'
    said = letters.run(f'write "before"\ndo save-as path="{path}"\n{last}')
    assert path.exists() is not fails
    assert letters.text == ("" if fails else "before after")
    if fails:
        assert "All was taken back" in said
    else:
        assert "before after" in path.read_text()


def test_what_could_not_leave_is_told_and_the_writing_stays(letters: Letters, tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    said = letters.run(f'write "x"\ndo save-as path="{tmp_path}/file/notice.html"')
    assert "cannot be written" in said
    assert "one undo takes it back" in said
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.text == ""


def test_what_is_to_leave_is_checked_when_its_step_comes(letters: Letters) -> None:
    said = letters.run('write "x"\ndo follow-link\nwrite "y"')
    assert "There is no link here" in said
    assert letters.text == "xy"


def test_cancelling_a_question_takes_everything_back(letters: Letters) -> None:
    letters.type("before")
    before = letters.html
    letters.run('write "x"\ndo insert-table\nask who "Whom?"\nwrite "{who}"', wait=False)
    letters.qtbot.waitUntil(lambda: letters.window.findChild(Question) is not None)
    assert letters.text != "before"
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended) as ended:
        letters.window.findChild(Question).reject()
    assert ended.args[1] == "Cancelled: nothing was changed."
    assert letters.html == before


def test_an_unmet_need_is_one_sentence_and_nothing_changed(letters: Letters) -> None:
    assert letters.run('write "x"', 'needs chosen.text or say "Choose some words first."\n').startswith(
        "Choose some words first."
    )
    assert letters.run('write "x"', "needs context table\n").startswith("This macro cannot run here.")
    assert letters.text == ""


def test_a_step_that_fails_takes_everything_back_and_names_its_number(letters: Letters) -> None:
    said = letters.run('write "x"\ndo insert-rule\ndo go-to-heading name="None"')
    assert said.startswith("Step 3: The letter has no heading “None”. All was taken back.")
    assert letters.text == ""


def test_a_macro_with_faults_does_not_begin(letters: Letters) -> None:
    letters.use({}, bad='macro "Bad"\nfor letters\ndo embolded\n')
    assert not letters.window.dispatcher.perform("macro:bad")
    assert "cannot run: line 3, column 1" in letters.said
    assert not letters.window.dispatcher.perform("macro:none")
    assert "“none” is not here" in letters.said


def test_a_long_macro_leaves_the_window_alive_and_escape_takes_it_all_back(letters: Letters) -> None:
    letters.type("before")
    body = "\n".join('write "word "' for _ in range(30_000))
    letters.run(body, wait=False)
    assert letters.window.dispatcher.run.name == "Test"
    assert not letters.do("insert-table")
    assert "“Test” is still running" in letters.said
    letters.type("ignored")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended) as ended:
        letters.press(Qt.Key.Key_Escape)
    assert "was stopped" in ended.args[1]
    assert letters.text == "before"
    letters.type("!")
    assert letters.text == "before!"


def test_a_second_macro_waits_its_turn(letters: Letters) -> None:
    letters.run('ask who "Whom?"', wait=False)
    assert not letters.window.dispatcher.perform("macro:test")
    assert "still running" in letters.said
    letters.window.dispatcher.stop_run()
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)


@pytest.mark.parametrize("cancel", [True, False], ids=["cancelled", "finished"])
@pytest.mark.parametrize(
    "name", ["sailing-notice", "settle-pasted-text", "hazard-note", "berth-line", "lost-property"]
)
def test_every_macro_of_the_demo_runs_and_can_be_cancelled(
    letters: Letters, demo: Workspace, name: str, cancel: bool
) -> None:
    text = next(file.text for (_, known), file in demo.macros.items() if known == name)
    letters.type("A letter. ")
    letters.do("highlight")
    letters.type("pasted")
    before = letters.html
    letters.use({}, **{name: text})
    ended: list[str] = []
    letters.window.dispatcher.run_ended.connect(lambda _name, said, _well: ended.append(said))
    assert letters.window.dispatcher.perform(f"macro:{name}"), letters.said
    question = letters.window.findChild(Question)
    if question is None:
        assert name == "settle-pasted-text"
    elif cancel:
        question.reject()
    else:
        question.accept()
    letters.qtbot.waitUntil(lambda: bool(ended))
    asked_and_cancelled = question is not None and cancel
    assert (letters.html == before) is asked_and_cancelled, ended


# Menus


def test_the_right_click_menu_is_that_of_the_narrowest_context(letters: Letters) -> None:
    letters.do("insert-table")
    letters.window._open_menu(QPoint(5, 5))
    menu = letters.window.findChild(QMenu, "context-menu")
    words = [action.text().split("\t")[0] for action in menu.actions() if not action.isSeparator()]
    assert "Row below" in words
    next(action for action in menu.actions() if action.text().startswith("Row below")).trigger()
    menu.close()
    letters.qtbot.waitUntil(lambda: letters.document.table().rows() == 4)


@pytest.mark.parametrize("grid", [False, True])
def test_a_right_click_opens_the_applications_own_menu(qtbot: QtBot, grid: bool) -> None:
    app = Grid(qtbot) if grid else Letters(qtbot)
    view = app.document.widget.cells if grid else app.document.widget
    where = view.viewport().rect().center()
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, where, view.viewport().mapToGlobal(where))
    QApplication.sendEvent(view.viewport(), event)
    menu = app.window.findChild(QMenu, "context-menu")
    assert menu is not None
    assert menu.isVisible()
    assert any("Why does a key" in action.text() for action in menu.actions())
    menu.close()


def test_a_right_click_in_a_table_is_the_tables(letters: Letters) -> None:
    letters.type("Above")
    letters.do("new-line")
    letters.do("insert-table")
    letters.do("go-to-start")
    view = letters.document.widget
    cell = letters.document.widget.document().rootFrame().childFrames()[0].firstCursorPosition()
    where = view.cursorRect(cell).center()
    QTest.mousePress(view.viewport(), Qt.MouseButton.RightButton, pos=where)
    assert "table" in letters.window.executor.live()


# The recording bar


@pytest.mark.parametrize(
    ("keys", "done"),
    [
        (Qt.Key.Key_F5, lambda recorder: recorder.paused),
        (Qt.Key.Key_F6, lambda recorder: len(recorder.steps) == 0),
        (Qt.Key.Key_F7, lambda recorder: any(isinstance(step, Ask) for step in recorder.steps)),
        (Qt.Key.Key_F8, lambda recorder: not recorder.on),
    ],
)
def test_the_recording_bar_is_reached_by_keys(letters: Letters, keys: Qt.Key, done: object) -> None:
    letters.window.recorder.start("Line")
    letters.type("One")
    assert len(letters.window.recorder.steps) == 1
    letters.press(keys, SHIFT)
    assert done(letters.window.recorder)
    if letters.window.recorder.on:
        letters.window.recorder.throw_away()


def test_without_a_recording_these_keys_are_the_layouts(letters: Letters) -> None:
    assert not letters.window.keys.first("Shift+F5")


# Releases and the link


def install(folder: Path, workspace: Workspace, number: int, news: dict[str, str]) -> Profile:
    profile = Profile(folder)
    profile.stage(number, build_package(workspace, number, news, {}))
    stack = ("organisation", "department.freight")
    assignment = Assignment(release=number, stack=stack)
    profile.switch(Installed(release=number, assignment=assignment, before=number - 1))
    return profile


def test_a_running_letter_takes_a_release_over_without_losing_anything(
    letters: Letters, demo: Workspace, tmp_path: Path
) -> None:
    letters.type("Half a word")
    letters.choose(2, 5)
    before = letters.html
    letters.window.profile = install(tmp_path, demo, 3, {"organisation": "Notices are new."})
    assert "Notices are new." in letters.window.take_over(letters.window.profile.stack("letters"))
    assert letters.window.news.isVisible()
    assert "Notices are new." in letters.window.news.text
    assert letters.html == before
    assert letters.window.executor.read("chosen.text") == "lf "
    assert QApplication.focusWidget() is letters.document.widget
    assert "department.freight:freight" in [bar.id for bar in letters.window.frame.outcome.toolbars]
    QTest.mouseClick(letters.window.findChild(QPushButton, "news-fine"), Qt.MouseButton.LeftButton)
    assert not letters.window.news.isVisible()


def test_what_was_lost_or_moved_comes_before_the_news(
    letters: Letters, demo: Workspace, tmp_path: Path
) -> None:
    profile = install(tmp_path, demo, 3, {})
    letters.window.stack.use(profile.stack("letters"))
    without = TakeOff("department.freight", "letters", ("department.freight:table",)).on(demo)
    bound = KeyBinding(keys="Ctrl+J, Q", in_context="writing", run="letters:insert-rule")
    changed = Bind("organisation", "letters", bound).on(without)
    profile = install(tmp_path, changed, 4, {"organisation": "Rules have a key."})
    said = letters.window.take_over(profile.stack("letters"))
    lost, key, news = (said.index(words) for words in ("is no longer on", "Ctrl+J, Q is for", "Rules have"))
    assert lost < key < news
    freed = Unbind("organisation", "letters", "key:writing:Ctrl+J, Q").on(changed)
    profile = install(tmp_path, freed, 5, {})
    assert letters.window.take_over(profile.stack("letters")).startswith("Ctrl+J, Q is no longer for")


@pytest.mark.parametrize("content", [b"not a zip", b""])
def test_a_layout_that_cannot_be_used_leaves_the_one_before_it(
    qtbot: QtBot, tmp_path: Path, demo: Workspace, content: bytes
) -> None:
    profile = install(tmp_path / "seat", demo, 1, {})
    install(tmp_path / "seat", demo, 2, {"organisation": "Notices are new."})
    profile.package_path(2).write_bytes(content)
    window = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(window)
    assert window.stack.state.release == 1
    assert "department.freight:freight" in [bar.id for bar in window.outcome.toolbars]
    assert "Shown is release 1, from before." in window.frame.status.text()
    # What counts was not shown, so its news is still owed.
    assert profile.owes_news("letters")
    assert window.news.text == ""
    window.close()


def test_without_a_written_sentence_the_differences_are_told(
    letters: Letters, demo: Workspace, tmp_path: Path
) -> None:
    letters.window.profile = install(tmp_path, demo, 3, {})
    said = letters.window.take_over(letters.window.profile.stack("letters"))
    assert "“Hazard note” is on the bar Freight." in said
    assert letters.window.take_over(letters.window.profile.stack("letters")) == ""


def test_an_installed_layout_that_cannot_be_read_does_not_keep_a_colleague_from_writing(
    letters: Letters, demo: Workspace, tmp_path: Path
) -> None:
    profile = install(tmp_path, demo, 3, {})
    profile.package_path(3).write_bytes(b"broken")
    window = AppWindow(declarations, LetterDocument, profile)
    letters.qtbot.addWidget(window)
    assert "no package" in window.frame.status.text()
    assert [tab.title for tab in window.frame.outcome.tabs] == ["Write", "Format", "Insert", "Find and print"]


class Peer:
    """A bare client on the socket."""

    def __init__(self, letters: Letters) -> None:
        self.letters = letters
        self.socket = QLocalSocket()
        self.socket.connectToServer(str(letters.window.server.path))
        assert self.socket.waitForConnected(1000)
        self.wire = Wire()
        self.count = 0

    def ask(self, method: str, **params: Any) -> Any:
        self.count += 1
        self.socket.write(encode(Request(self.count, method, params)))
        found: list[Any] = []

        def answered() -> bool:
            found.extend(m for m in self.wire.feed(self.socket.readAll().data()) if not hasattr(m, "method"))
            return bool(found)

        self.letters.qtbot.waitUntil(answered)
        return found[0].result if isinstance(found[0], Reply) else found[0]


def test_the_link_answers(letters: Letters) -> None:
    peer = Peer(letters)
    hello = peer.ask("hello")
    assert (hello["app"], hello["document"], hello["release"]) == ("letters", "New letter", 0)
    assert peer.ask("catalogue")["title"] == "Letters"
    peer.ask("perform", run="letters:insert-table", args={"rows": "2"})
    assert letters.document.table().rows() == 2
    assert peer.ask("read", name="letter.words") == 0
    assert base64.b64decode(peer.ask("picture")).startswith(b"\x89PNG")
    x, _, width, height = peer.ask("where", thing="app:bar-embolden")
    assert x >= 0
    assert width > 0 < height
    assert peer.ask("where", thing="no such thing") is None


def test_the_link_tells_of_files_and_looks_into_one_unseen(letters: Letters, tmp_path: Path) -> None:
    peer = Peer(letters)
    assert peer.ask("files") == []
    one, other = tmp_path / "one.html", tmp_path / "other.html"
    one.write_text("<h1>Lanes</h1><p>Two.</p><h2>Berths</h2>")
    other.write_text("<p>Nothing.</p>")
    letters.do("open", path=str(other))
    assert peer.ask("files") == [str(other)]
    assert peer.ask("look", path=f"'{one}'", reading="headings") == ["Lanes", "Berths"]
    assert peer.ask("hello")["document"] == "other"
    assert len(letters.window.documents.all) == 1
    missing = peer.ask("look", path=str(tmp_path / "none.html"), reading="headings")
    assert "cannot be opened" in missing.message
    unknown = peer.ask("look", path=str(one), reading="sheets")
    assert "cannot tell “sheets”" in unknown.message


def test_the_link_shows_a_draft_and_runs_its_macro(letters: Letters) -> None:
    peer = Peer(letters)
    layout = Layout.model_validate(
        {"app": "letters", "layer": "organisation", **bar({"id": "x", "run": "macro:m"})}
    )
    state = {
        "app": "letters",
        "layouts": [layout.to_data()],
        "macros": {"m": {"layer": "organisation", "text": 'macro "M"\nfor letters\nwrite "hi"\n'}},
    }
    assert peer.ask("draft.show", state=state) is True
    assert letters.window.windowTitle().endswith("trying the draft")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        peer.ask("run", macro="m")
    assert letters.text == "hi"
    click(letters, "organisation:x")
    letters.qtbot.waitUntil(lambda: letters.text == "hihi")


@pytest.mark.parametrize(
    ("method", "params", "says"),
    [
        ("nothing", {}, "no method “nothing”"),
        ("perform", {"run": "letters:none"}, "no command"),
        ("perform", {"wrong": 1}, "the parameters do not fit"),
        ("read", {"name": "none"}, "cannot tell “none”"),
        ("draft.show", {"state": {"layouts": 5}}, "the draft: app"),
        ("layout.reload", {}, "without a profile"),
        ("run", {"macro": "none"}, "is not here"),
        ("document.put", {"id": "../x", "text": 'macro "X"'}, "“../x” cannot be the identity of a macro"),
    ],
)
def test_the_link_refuses_with_a_sentence(
    letters: Letters, method: str, params: dict[str, Any], says: str
) -> None:
    assert says in Peer(letters).ask(method, **params).message


@pytest.mark.parametrize(
    "rubbish", [b"rubbish\n", b'{"jsonrpc": "2.0"}\n', b"\x00\xff\n", json.dumps([1]).encode() + b"\n"]
)
def test_a_peer_that_sends_rubbish_is_dropped_and_others_go_on(letters: Letters, rubbish: bytes) -> None:
    bad, good = Peer(letters), Peer(letters)
    bad.socket.write(rubbish)
    letters.qtbot.waitUntil(lambda: bad.socket.state() == QLocalSocket.LocalSocketState.UnconnectedState)
    assert good.ask("hello")["app"] == "letters"


def test_a_peer_that_sends_nothing_costs_nothing(letters: Letters) -> None:
    silent, good = Peer(letters), Peer(letters)
    assert good.ask("hello")["app"] == "letters"
    silent.socket.abort()
    assert good.ask("hello")["app"] == "letters"


def test_the_socket_is_for_this_user_only_and_goes_with_the_window(letters: Letters) -> None:
    path = letters.window.server.path
    assert path.stat().st_mode & 0o777 == 0o600
    assert path.name == f"letters-{os.getpid()}.sock"
    letters.forget()
    letters.window.close()
    assert not path.exists()


def test_effects_are_declared_where_documents_are_left() -> None:
    commands = declarations.catalogue().by_id
    assert Effect.OPENS_FILES in commands["letters:open"].effects
    assert Effect.DELETES in commands["letters:delete-table"].effects
    assert StackState(app="letters").macro_files() == {}


def test_a_macro_of_an_unknown_maker_does_not_run_and_says_why(letters: Letters) -> None:
    why = "It was made by Ailis, whom your organisation does not vouch for."
    text = 'macro "Foreign"\nfor letters\nwrite "x"\n'
    outer = 'macro "Outer"\nfor letters\nwrite "y"\nrun "foreign"\n'
    letters.window.stack.use(
        StackState(
            app="letters",
            macros={
                "foreign": ShelvedMacro(layer="organisation", text=text, refused=why),
                "outer": ShelvedMacro(layer="organisation", text=outer),
            },
        )
    )
    assert not letters.window.dispatcher.perform("macro:foreign")
    assert letters.said == f"“Foreign” does not run. {why} Ask whoever shares your layouts."
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        letters.window.dispatcher.perform("macro:outer")
    assert why in letters.said
    assert letters.text == ""


def test_a_companion_that_is_a_folder_or_missing_is_a_sentence(letters: Letters) -> None:
    assert not letters.do("open", path="companions/none.html")
    assert "companion companions/none.html is not here" in letters.said
    letters.window.stack.use(
        StackState(app="letters", companions={"a.html": base64.b64encode(b"<p>A</p>").decode()})
    )
    lent = letters.window.documents.lent
    assert lent is not None
    (lent / "folder").mkdir()
    assert not letters.do("open", path="companions/folder")
    assert "is a folder, not a letter" in letters.said
    assert letters.do("open", path=" 'companions/a.html' ")
    assert (letters.text, letters.document.path) == ("A", None)


def test_a_file_that_another_program_changes_in_mid_run_is_read_once(
    letters: Letters, tmp_path: Path
) -> None:
    path = tmp_path / "Tides.html"
    path.write_text("<p>High at six.</p>")
    letters.window.asker.asks.connect(lambda question: (path.write_text("broken \x00"), question.accept()))
    said = letters.run(f'do open path="{path}"\nask x "?" default "1"\nwrite "{{x}}"\ndo save')
    # What was read stays what it was; saving then writes all of it, and the other program's text is gone.
    assert said == ""
    assert letters.text == "1High at six."
    assert "High at six." in path.read_text()


OWN = 'macro "Own line"\nfor letters\n\nwrite "own"\ndo new-line\n'


def test_a_button_runs_steps_of_its_own_as_one_undo(letters: Letters) -> None:
    letters.use(bar({"id": "own", "steps": OWN}, {"id": "bad", "steps": "wrte", "label": "Bad"}))
    button = letters.window.frame.button("organisation:own")
    assert button is not None
    assert button.accessibleName() == "Own line"
    letters.type("before ")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        click(letters, "organisation:own")
    assert letters.text == "before own\n"
    letters.do("undo")
    assert letters.text == "before "
    click(letters, "organisation:bad")
    assert "cannot run" in letters.said


def test_steps_of_a_buttons_own_are_a_grey_line_in_a_recording(letters: Letters) -> None:
    letters.use(bar({"id": "own", "steps": OWN}))
    letters.window.recorder.start("Test")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        click(letters, "organisation:own")
    assert [step.comment for step in letters.window.recorder.steps] == [
        "Not recorded: the steps of a button’s own."
    ]


# Whatever happens in a run, it ends, and leaves nothing behind


def test_a_failed_run_never_saves_what_it_had_queued(letters: Letters, tmp_path: Path) -> None:
    path = tmp_path / "Letter.html"
    letters.do("save-as", path=str(path))
    # What is taken back would be saved as it was: only a file that comes again tells of a save.
    path.unlink()
    said = letters.run('write "x"\ndo save\ndo add-row')
    assert "works in a table only" in said
    assert not path.exists()
    letters.run('write "y"')
    assert not path.exists()
    letters.run("do save")
    assert ">y<" in path.read_text()


def test_what_an_input_method_writes_during_a_run_does_not_enter_the_letter(letters: Letters) -> None:
    letters.run('write "a"\nask who "Whom?"\nwrite "{who}"', wait=False)
    commit = QInputMethodEvent()
    commit.setCommitString("stray")
    QApplication.sendEvent(letters.document.widget, commit)
    question = letters.window.findChild(Question)
    question.fields[0].setText("b")
    with letters.qtbot.waitSignal(letters.window.dispatcher.run_ended):
        question.accept()
    assert letters.text == "ab"


def test_a_run_that_is_taken_back_leaves_the_first_document_in_front(letters: Letters) -> None:
    letters.type("mine")
    first = letters.window.document
    letters.do("new")
    second = letters.window.document
    letters.do("next-document")
    said = letters.run('do new\nwrite "other"\ndo add-row')
    assert "works in a table only" in said
    assert letters.window.document is first
    assert letters.window.documents.widget.currentWidget() is first.widget
    assert letters.window.documents.all == [first, second]
    letters.type("!")
    assert letters.text == "mine!"


def test_a_mistake_inside_a_command_ends_the_run_and_takes_it_back(
    letters: Letters, monkeypatch: pytest.MonkeyPatch
) -> None:
    commands = declarations.commands

    def broken(_doc: object) -> None:
        raise ZeroDivisionError

    monkeypatch.setitem(
        commands, "letters:insert-rule", replace(commands["letters:insert-rule"], function=broken)
    )
    letters.type("before")
    said = letters.run('write "x"\ndo insert-rule')
    assert said.startswith("Step 2: Something went wrong inside (ZeroDivisionError). All was taken back.")
    assert letters.text == "before"
    assert letters.window.dispatcher.run is None
    letters.type("!")
    assert letters.text == "before!"


def test_a_mistake_in_what_was_queued_ends_the_run_and_says_so(
    letters: Letters, monkeypatch: pytest.MonkeyPatch
) -> None:
    commands = declarations.commands

    def broken(_doc: object) -> None:
        raise OSError("no disk")

    monkeypatch.setitem(commands, "letters:save", replace(commands["letters:save"], function=broken))
    said = letters.run('write "x"\ndo save')
    assert "Something went wrong inside (OSError)" in said
    assert "What was written stays" in said
    assert letters.text == "x"
    assert letters.window.dispatcher.run is None


def test_a_command_is_made_ready_once_a_step(letters: Letters, monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[str] = []
    executor = letters.window.executor
    real = executor.ready
    monkeypatch.setattr(executor, "ready", lambda run, args: (asked.append(run), real(run, args))[1])
    letters.run("do insert-rule\ndo new-line")
    assert asked == ["letters:insert-rule", "letters:new-line"]


@pytest.mark.parametrize("then", [Qt.Key.Key_Q, Qt.Key.Key_F24, Qt.Key.Key_Escape])
def test_patience_ends_with_the_sequence(letters: Letters, then: Qt.Key) -> None:
    key = {"keys": "Ctrl+J, Q", "in": "writing", "run": "letters:insert-rule"}
    layout = Layout.model_validate({"app": "letters", "layer": "organisation", "keys": [key]})
    letters.window.stack.use(StackState(app="letters", layouts=(layout,)))
    keys = letters.window.keys
    with letters.qtbot.assertNotEmitted(keys.resolved):
        letters.press(Qt.Key.Key_J, CTRL)
    assert keys.waits
    with letters.qtbot.waitSignal(keys.resolved if then == Qt.Key.Key_Q else keys.waiting):
        letters.press(then)
    assert not keys.waits


# The house's own keys, and the news of what came while no window was open


def test_a_key_that_the_house_keeps_for_itself_is_no_tooltip(letters: Letters, demo: Workspace) -> None:
    layout = {"keys": [{"keys": "Ctrl+J, Q", "in": "writing", "run": "letters:insert-rule"}],
              "toolbars": [{"id": "b", "title": "B",
                            "items": [{"id": "x", "run": "letters:insert-rule"}]}]}  # fmt: skip
    state = StackState(
        app="letters", traits=Traits("gb", "gnome"),
        layouts=(Layout.model_validate({"app": "letters", "layer": "organisation", **layout}),),
    )  # fmt: skip
    letters.window.stack.use(state)
    tip = letters.window.frame.button("organisation:x").toolTip()
    assert "Ctrl+J, Q" in tip
    kept = state.model_copy(update={"reserved": {"gnome": {"Ctrl+J": "locks the doors"}}})
    letters.window.stack.use(kept)
    tip = letters.window.frame.button("organisation:x").toolTip()
    assert "Ctrl+J" not in tip
    verdict = letters.window.why.of_keys(parse_sequence("Ctrl+J, Q"))[0]
    assert not verdict.ok
    assert "locks the doors" in verdict.sentence


def test_news_that_came_while_no_window_was_open_is_told_once(
    qtbot: QtBot, tmp_path: Path, demo: Workspace
) -> None:
    profile = install(tmp_path / "seat", demo, 1, {"organisation": "Notices are new."})
    first = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(first)
    assert "Notices are new." in first.news.text
    second = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(second)
    assert second.news.text == ""
    first.close()
    second.close()


def test_without_a_sentence_the_news_are_what_differs_from_the_release_before(
    qtbot: QtBot, tmp_path: Path, demo: Workspace
) -> None:
    profile = install(tmp_path / "seat", demo, 1, {})
    profile.news_shown("letters", 1)
    bound = KeyBinding(keys="Ctrl+J, Q", in_context="writing", run="letters:insert-rule")
    changed = Bind("organisation", "letters", bound).on(demo)
    profile = install(tmp_path / "seat", changed, 2, {})
    window = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(window)
    assert "Ctrl+J, Q is for" in window.news.text
    window.close()


def test_why_names_layers_as_people_do_on_a_seat(qtbot: QtBot, tmp_path: Path, demo: Workspace) -> None:
    profile = install(tmp_path / "seat", demo, 1, {})
    window = AppWindow(declarations, LetterDocument, profile)
    qtbot.addWidget(window)
    item = next(item for _, item in window.frame.outcome.buttons() if item.layer == "organisation")
    said = " ".join(verdict.sentence for verdict in window.why.of_item(item))
    assert "put there by Everyone" in said
    window.close()


def test_a_submenu_opens_from_the_right_click_menu_and_runs_what_is_in_it(letters: Letters) -> None:
    more = {"id": "more", "submenu": "More & more"}
    inner = {"id": "greet", "run": "macro:greet", "label": "Greet"}
    inserted = [
        {"into": "more", "items": [inner]},
        {"into": "app:menu-text", "after": None, "items": [more]},
    ]
    letters.use({"insert": inserted}, greet='macro "Greet"\nfor letters\n\nwrite "Dear all"\n')
    letters.window._open_menu(QPoint(10, 10))
    menu = letters.window.findChild(QMenu, "context-menu")
    assert menu is not None
    first = menu.actions()[0]
    assert first.text() == "More && more"
    held = first.menu()
    assert held is not None
    assert [action.text() for action in held.actions()] == ["Greet"]
    held.actions()[0].trigger()
    letters.qtbot.waitUntil(lambda: letters.text == "Dear all")
    menu.close()
