"""The Macros place: shelves, steps and text are one; faults, names, deleting, undo."""

from __future__ import annotations

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QTextCursor
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QApplication,
    QComboBox,
    QFileDialog,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)
from PyQt6.sip import isdeleted
from pytestqt.qtbot import QtBot

from rimecrest.core.bundle.bundle import read_bundle
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.sentences import sentence
from rimecrest.core.macro.step_tree import walk
from rimecrest.core.macro.steps import WriteText
from rimecrest.core.signing import MakerKey, fingerprint
from rimecrest.core.workspace.edits import PutPanel
from rimecrest.core.workspace.file_edits import PutMacro, Vouch
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.studio.macros.caret import step_as_written
from rimecrest.studio.macros.export_dialog import ExportDialog
from rimecrest.studio.macros.import_dialog import TakeIn
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.macros.shelves import Shelved
from rimecrest.studio.macros.step_painting import FAULT
from rimecrest.studio.shared.marks import Mark
from rimecrest.studio.shared.own_name import own_name
from rimecrest.studio.shared.sentence_widgets import InlineField
from rimecrest.studio.shared.session import own_folder
from rimecrest.surfaces.removal import show_page
from tests.studio.conftest import ALT, CTRL, SHIFT, Studio

NOTICE = ("organisation", "sailing-notice")


@pytest.fixture
def place(studio: Studio) -> MacrosPlace:
    studio.press(Qt.Key.Key_1, CTRL)
    studio.qtbot.waitUntil(lambda: studio.desk.places["Macros"].isVisible())
    studio.push("macro organisation/sailing-notice")
    studio.push("show-text")
    return studio.desk.places["Macros"]


def rows(place: MacrosPlace) -> list[str]:
    return [place.steps.item(index).text() for index in range(place.steps.count())]


def saved(studio: Studio, key: tuple[str, str] = NOTICE) -> str:
    return read_workspace(studio.folder).macros[key].text


def write(studio: Studio, place: MacrosPlace, text: str) -> None:
    """Type at the end of the text, and let it rest."""
    place.text.setFocus()
    cursor = place.text.textCursor()
    cursor.movePosition(QTextCursor.MoveOperation.End)
    place.text.setTextCursor(cursor)
    studio.type(text)
    studio.press(Qt.Key.Key_Return)
    wanted = place.text.toPlainText()
    studio.qtbot.waitUntil(lambda: saved(studio, place.now or NOTICE) == wanted, timeout=10_000)


def test_the_steps_read_as_sentences(studio: Studio, place: MacrosPlace) -> None:
    assert rows(place)[:6] == [
        "Ask ⟨vessel⟩ “Which vessel?” from Brinholt, Ovessa, Quessel",
        "New line",
        "Heading",
        "Align: centre",
        "Bold: yes",
        "Write “Notice to passengers of ⟨vessel⟩”",
    ]
    assert place.text.toPlainText() == saved(studio)


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("do insert-table rows=2 columns=3", "Table: rows 2, columns 3"),
        ("do unheard-of", "unheard-of"),
        ('write "{{a}}\\n{b}"', "Write “{a} ↵ ⟨b⟩”"),
        ('ask a "?" from headings default "x"', "Ask ⟨a⟩ “?” from headings, else “x”"),
        ('form "F"', "Ask together, on one form “F”"),
        ("set a = 1 + 2", "Remember ⟨a⟩ as 1 + 2"),
        ("if a is empty", "If a is empty"),
        ("repeat 3 times", "Do this 3 times"),
        ("for each h in headings", "For each ⟨h⟩ in headings"),
        ("while a limit 1000", "As long as a, at most 1,000 times"),
        ('run "other"', "Run the macro “other”"),
        ('say "hi"', "Say “hi”"),
        ("stop", "Stop"),
        ('stop "x"', "Stop, and say “x”"),
        ("# a remark", "# a remark"),
    ],
)
def test_each_kind_of_step_has_its_sentence(line: str, words: str) -> None:
    from rimecrest_standins.letters.letters import declarations

    catalogue: Catalogue = declarations.catalogue()
    macro, _ = parse_macro(f"do undo\n{line}\n")
    assert sentence(macro.steps[1], catalogue) == words


def test_the_shelves_tell_effects_keys_and_use(studio: Studio, place: MacrosPlace) -> None:
    names = {row.text(): row.accessibleName() for row in place.shelves._rows.values()}
    assert names["Settle pasted text"] == "Settle pasted text: edits · 1 button · Ctrl+J, Y"
    assert names["Sailing notice"] == "Sailing notice: edits · on no bar or key yet"
    assert len(names) == 13
    studio.session.aim_at(replace(studio.session.aim, app="grid"))
    QApplication.processEvents()
    names = {row.text(): row.accessibleName() for row in place.shelves._rows.values()}
    assert names["Settle pasted text"] == "Settle pasted text: Letters · edits · 1 button · Ctrl+J, Y"


def test_steps_are_muted_moved_doubled_and_taken_out_with_keys(studio: Studio, place: MacrosPlace) -> None:
    place.steps.setFocus()
    place.steps.choose((1,))
    studio.press(Qt.Key.Key_Space)
    assert "~ do new-line" in saved(studio)
    assert place.steps.path() == (1,)
    studio.press(Qt.Key.Key_Up, ALT)
    assert rows(place)[0] == "New line"
    assert place.steps.path() == (0,)
    studio.press(Qt.Key.Key_D, CTRL)
    assert rows(place)[:2] == ["New line", "New line"]
    studio.press(Qt.Key.Key_Delete)
    studio.press(Qt.Key.Key_Delete)
    assert rows(place)[0].startswith("Ask")
    for _ in range(5):
        studio.session.undo()
    assert studio.session.undo_label == ""
    assert rows(place)[1] == "New line"
    assert "~ do new-line" not in saved(studio)


def test_what_is_typed_in_the_text_is_saved_when_it_rests_and_shows_as_steps(
    studio: Studio, place: MacrosPlace
) -> None:
    write(studio, place, 'say "Done."')
    assert rows(place)[-1] == "Say “Done.”"
    assert saved(studio).endswith('say "Done."\n')


def test_going_elsewhere_saves_what_was_typed_last(studio: Studio, place: MacrosPlace) -> None:
    place.text.setFocus()
    place.text.moveCursor(QTextCursor.MoveOperation.End)
    studio.type("stop")
    studio.push("place-layout")
    assert saved(studio).endswith("stop\n")


def test_a_line_that_rests_before_its_end_gets_no_second_one(studio: Studio, place: MacrosPlace) -> None:
    place.text.setFocus()
    place.text.moveCursor(QTextCursor.MoveOperation.End)
    studio.type('say "Done."')
    place.text.flush()
    assert saved(studio).endswith('say "Done."\n')
    studio.press(Qt.Key.Key_Return)
    place.text.flush()
    assert saved(studio).endswith('say "Done."\n')


def test_faults_are_marked_in_both_and_told(studio: Studio, place: MacrosPlace) -> None:
    write(studio, place, "do embolded")
    assert "has no command “embolded”. Did you mean “embolden”?" in place.sheet.fault.text()
    assert place.steps.item(place.steps.count() - 1).data(FAULT)
    assert len(place.text.extraSelections()) == 1
    write(studio, place, "wrte")
    assert len(place.text.extraSelections()) == 2
    place.steps.choose((0,))
    place.steps.setFocus()
    before = saved(studio)
    studio.press(Qt.Key.Key_Space)
    assert "Mend the text first" in studio.said
    assert saved(studio) == before


def test_undo_in_the_text_is_the_studios(studio: Studio, place: MacrosPlace) -> None:
    before = saved(studio)
    write(studio, place, "stop")
    assert QApplication.focusWidget() is place.text
    studio.press(Qt.Key.Key_Z, CTRL)
    studio.qtbot.waitUntil(lambda: place.text.toPlainText() == before)
    studio.press(Qt.Key.Key_Z, CTRL | SHIFT)
    studio.qtbot.waitUntil(lambda: place.text.toPlainText().endswith("stop\n"))


def test_choosing_a_step_goes_to_its_line_in_the_text(studio: Studio, place: MacrosPlace) -> None:
    place.steps.setFocus()
    place.steps.choose((2, 2))
    assert place.text.textCursor().block().text().strip().startswith('write "Notice')


def test_a_new_name_keeps_what_runs_the_macro(studio: Studio, place: MacrosPlace) -> None:
    place.open(("department.freight", "hazard-note"))
    studio.push("macro-title")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Danger note")
    studio.press(Qt.Key.Key_Return)
    assert 'macro "Danger note"' in saved(studio, ("department.freight", "hazard-note"))
    assert "Freight desk’s Freight" in place.sheet.used.text()
    assert not [f for f in studio.session.checked.findings if "Danger" in f.sentence and f.kind == "gone"]


def test_a_name_that_is_taken_is_refused_with_a_free_one(studio: Studio, place: MacrosPlace) -> None:
    studio.push("macro-title")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("hazard note")
    studio.press(Qt.Key.Key_Return)
    assert "There is a macro “hazard note” already; “hazard note 2” is free." in studio.said
    assert 'macro "Sailing notice"' in saved(studio)


def test_the_purpose_is_changed_in_place(studio: Studio, place: MacrosPlace) -> None:
    studio.push("macro-about")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Begins a notice.")
    studio.press(Qt.Key.Key_Return)
    assert 'about "Begins a notice."' in saved(studio)


@pytest.mark.parametrize("beneath", ["finding", "macro department.freight/hazard-note"])
def test_what_is_pressed_outlives_the_field_that_the_press_ends(
    studio: Studio, place: MacrosPlace, beneath: str
) -> None:
    studio.push("findings-elsewhere")
    finding = studio.find("findings").findChild(Mark)
    studio.push("macro-about")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("!")
    pressed = finding if beneath == "finding" else studio.find(beneath)
    gone: list[bool] = []
    wire = QApplication.instance().focusChanged.connect(lambda: gone.append(isdeleted(pressed)))
    at = pressed.mapTo(studio.window, pressed.rect().center())
    QTest.mousePress(studio.window.windowHandle(), Qt.MouseButton.RightButton, pos=at)
    QApplication.instance().focusChanged.disconnect(wire)
    assert 'about "!"' in saved(studio)
    assert gone
    assert not any(gone)
    assert isdeleted(pressed)


def test_a_page_that_goes_passes_its_focus_to_no_other_widget(qtbot: QtBot) -> None:
    window, area, page = QWidget(), QScrollArea(), QLineEdit()
    rows = QVBoxLayout(window)
    button = QPushButton("Macros")
    rows.addWidget(button)
    rows.addWidget(area)
    show_page(area, page)
    qtbot.addWidget(window)
    with qtbot.waitActive(window):
        window.show()
    page.setFocus()
    assert page.hasFocus()
    show_page(area, QWidget())
    assert not button.hasFocus()


def test_a_new_macro_stands_on_the_aimed_shelf_and_asks_its_name(studio: Studio, place: MacrosPlace) -> None:
    studio.push("macro-new")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Lane slip")
    studio.press(Qt.Key.Key_Return)
    assert place.now == ("department.freight", "lane-slip")
    assert 'macro "Lane slip"' in saved(studio, ("department.freight", "lane-slip"))
    studio.push("macro-new")
    studio.press(Qt.Key.Key_Escape)
    assert place.now == ("department.freight", "new-macro")


def test_deleting_says_what_ran_it_and_undo_brings_it_back(studio: Studio, place: MacrosPlace) -> None:
    place.open(("department.freight", "hazard-note"))
    studio.push("macro-delete")
    assert "“Hazard note” is deleted. It was run by Freight desk’s Freight" in studio.said
    assert any(f.kind == "gone" for f in studio.session.findings())
    studio.session.undo()
    assert ("department.freight", "hazard-note") in read_workspace(studio.folder).macros
    assert not any(f.kind == "gone" for f in studio.session.findings())


def test_a_change_by_another_program_shows_at_once(studio: Studio, place: MacrosPlace) -> None:
    path = studio.folder / "macros/organisation/sailing-notice.steps"
    path.write_text(path.read_text() + 'say "From elsewhere."\n')
    studio.qtbot.waitUntil(lambda: rows(place)[-1] == "Say “From elsewhere.”", timeout=5000)
    assert place.text.toPlainText().endswith('say "From elsewhere."\n')


def test_the_shelves_are_walked_by_keyboard(studio: Studio, place: MacrosPlace) -> None:
    first = next(iter(place.shelves._rows.values()))
    first.setFocus()
    studio.press(Qt.Key.Key_Down)
    assert QApplication.focusWidget() is list(place.shelves._rows.values())[1]
    studio.press(Qt.Key.Key_Return)
    assert place.now == list(place.shelves._rows)[1]


# Words and steps changed where they stand


@pytest.fixture
def sheet(studio: Studio) -> MacrosPlace:
    """The place with the trial beside the steps, and the notice open."""
    studio.press(Qt.Key.Key_1, CTRL)
    studio.push("macro organisation/sailing-notice")
    studio.desk.places["Macros"].steps.setFocus()
    return studio.desk.places["Macros"]


def test_the_macro_that_is_opened_is_whole_in_the_shelf(studio: Studio, sheet: MacrosPlace) -> None:
    studio.window.resize(1024, 640)
    QApplication.processEvents()
    rows = [row for row in studio.window.findChildren(Shelved) if row.isVisible()]
    last = max(rows, key=lambda row: row.mapTo(studio.window, QPoint()).y())
    layer, identity = last.objectName().removeprefix("macro ").split("/")
    sheet.open((layer, identity))
    QApplication.processEvents()
    assert last.visibleRegion().boundingRect() == last.rect()


def click_word(studio: Studio, place: MacrosPlace, path: tuple[int, ...], field: str) -> None:
    box = next(box for box in place.steps.fields(place.steps.row_of(path)) if box.piece.field == field)
    QTest.mouseClick(place.steps.viewport(), Qt.MouseButton.LeftButton, pos=box.rect.center().toPoint())
    QApplication.processEvents()


def write_instead(studio: Studio) -> None:
    """Take the row of a list that opens a field."""
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    menu.setActiveAction(next(action for action in menu.actions() if action.text().startswith("Write")))
    QTest.keyClick(menu, Qt.Key.Key_Return)
    QApplication.processEvents()


def rewrite(studio: Studio, text: str) -> None:
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type(text)
    studio.press(Qt.Key.Key_Return)


def test_a_text_is_changed_where_it_stands(studio: Studio, sheet: MacrosPlace) -> None:
    click_word(studio, sheet, (2, 2), "text")
    rewrite(studio, "To all of {vessel}")
    assert 'write "To all of {vessel}"' in saved(studio)
    assert rows(sheet)[5] == "Write “To all of ⟨vessel⟩”"
    assert sheet.steps.path() == (2, 2)


def test_a_choice_is_a_list_of_what_fits(studio: Studio, sheet: MacrosPlace) -> None:
    click_word(studio, sheet, (2, 0), "setting to")
    studio.choose("right")
    assert "do align-paragraph to=right" in saved(studio)


def test_a_setting_that_was_not_given_shows_on_the_chosen_step(studio: Studio, sheet: MacrosPlace) -> None:
    studio.session.do(PutMacro(*NOTICE, 'macro "N"\nfor letters\n\ndo insert-table\ndo highlight\n'))
    sheet.steps.choose((0,))
    click_word(studio, sheet, (0,), "setting rows")
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return)
    assert "do insert-table rows=5" in saved(studio)
    click_word(studio, sheet, (0,), "setting rows")
    rewrite(studio, "900")
    assert "Rows lies from 1 to 60" in studio.said
    assert "do insert-table rows=5" in saved(studio)
    sheet.steps.choose((1,))
    click_word(studio, sheet, (1,), "setting to")
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    next(action for action in menu.actions() if "pale blue" in action.text()).trigger()
    menu.close()
    assert 'do highlight to="#E0EEF3"' in saved(studio)


def test_a_path_is_cleaned_and_one_out_of_reach_is_told(studio: Studio, sheet: MacrosPlace) -> None:
    studio.session.do(PutMacro(*NOTICE, 'macro "N"\nfor letters\n\ndo open path="/srv/a.html"\n'))
    click_word(studio, sheet, (0,), "setting path")
    write_instead(studio)
    rewrite(studio, " 'file:///srv/Tide table.html' ")
    assert 'path="/srv/Tide table.html"' in saved(studio)
    click_word(studio, sheet, (0,), "setting path")
    write_instead(studio)
    rewrite(studio, '"/home/support/tides.html"')
    assert "No colleague can reach “/home/support/tides.html”" in studio.said
    assert sheet.presenter.faults(sheet.presenter.file())[0].kind == "reach"


def test_a_condition_that_cannot_be_read_is_refused(studio: Studio, sheet: MacrosPlace) -> None:
    studio.session.do(PutMacro(*NOTICE, 'macro "N"\nfor letters\n\nif chosen.words > 3\n  stop\nend\n'))
    click_word(studio, sheet, (0,), "condition")
    rewrite(studio, "chosen.words >")
    assert "cannot be worked out" in studio.said
    click_word(studio, sheet, (0,), "condition")
    rewrite(studio, "chosen.words > 5")
    assert "if chosen.words > 5" in saved(studio)


def test_enter_changes_the_first_word_and_escape_leaves_it(studio: Studio, sheet: MacrosPlace) -> None:
    before = saved(studio)
    sheet.steps.choose((2, 2))
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_Escape)
    assert saved(studio) == before
    assert QApplication.focusWidget() is sheet.steps


def test_what_was_typed_before_escape_comes_back_with_undo(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((2, 2))
    studio.press(Qt.Key.Key_Return)
    field = QApplication.focusWidget()
    now = field.text()
    studio.type("Fenders are out")
    studio.press(Qt.Key.Key_Escape)
    assert field.text() == now
    studio.press(Qt.Key.Key_Z, CTRL)
    assert field.text() == "Fenders are out"
    studio.press(Qt.Key.Key_Escape)
    studio.press(Qt.Key.Key_Escape)
    assert QApplication.focusWidget() is sheet.steps


def test_a_text_at_the_caret_comes_back_with_undo_after_escape(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((0,))
    studio.type('"Dear all')
    studio.press(Qt.Key.Key_Escape)
    assert sheet.caret.text() == ""
    studio.press(Qt.Key.Key_Z, CTRL)
    studio.press(Qt.Key.Key_Return)
    assert 'write "Dear all"' in saved(studio)


# The caret between steps


def test_a_command_is_typed_and_put_in_behind_the_chosen_step(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((1,))
    studio.type("tabl")
    assert sheet.caret.candidates.entries[0].title == "Table"
    studio.press(Qt.Key.Key_Return)
    assert "do new-line\ndo insert-table\npart" in saved(studio)
    assert sheet.steps.path() == (2,)


def test_a_step_that_needs_a_setting_asks_for_it_at_once(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((0,))
    studio.type("go to a hea")
    studio.press(Qt.Key.Key_Return)
    studio.type("North")
    studio.press(Qt.Key.Key_Return)
    assert 'do go-to-heading name="North"' in saved(studio)


def test_text_in_quotes_is_written_and_a_word_makes_a_block(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((0,))
    studio.type('"Dear all')
    studio.press(Qt.Key.Key_Return)
    assert 'write "Dear all"' in saved(studio)
    studio.press(Qt.Key.Key_Escape)
    studio.type("repeat")
    studio.press(Qt.Key.Key_Down)
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_Escape)
    assert "repeat 2 times\nend" in saved(studio)
    studio.type("stop")
    studio.press(Qt.Key.Key_Return)
    assert "repeat 2 times\n  stop\nend" in saved(studio)


def test_escape_leaves_the_caret_without_a_step(studio: Studio, sheet: MacrosPlace) -> None:
    before = saved(studio)
    studio.type("bold")
    studio.press(Qt.Key.Key_Escape)
    assert saved(studio) == before
    assert QApplication.focusWidget() is sheet.steps


def test_the_first_step_of_an_empty_macro_is_typed(studio: Studio, sheet: MacrosPlace) -> None:
    studio.push("macro-new")
    studio.press(Qt.Key.Key_Escape)
    assert "put in here" in sheet.sheet.hint.text()
    studio.type("settle")
    studio.press(Qt.Key.Key_Return)
    assert 'run "settle-pasted-text"' in saved(studio, sheet.now or NOTICE)


# Several steps


def test_steps_are_dragged_to_another_place(studio: Studio, sheet: MacrosPlace) -> None:
    view = sheet.steps.viewport()
    start = sheet.steps.visualItemRect(sheet.steps.item(1)).center()
    end = sheet.steps.visualItemRect(sheet.steps.item(0)).topLeft() + QPoint(20, 3)
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for step in range(1, 6):
        QTest.mouseMove(view, start + (end - start) * step / 5)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
    assert rows(sheet)[:2] == ["New line", "Ask ⟨vessel⟩ “Which vessel?” from Brinholt, Ovessa, Quessel"]
    assert sheet.steps.path() == (0,)


def test_steps_are_cut_and_put_into_another_macro(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((2,))
    studio.press(Qt.Key.Key_X, CTRL)
    assert "part" not in saved(studio)
    assert QApplication.clipboard().text().startswith('part "Heading"\n  do align-paragraph to=centre\n')
    studio.push("macro department.freight/hazard-note")
    sheet.steps.setFocus()
    sheet.steps.choose((0,))
    studio.press(Qt.Key.Key_V, CTRL)
    assert 'default "3"\npart "Heading"\n' in saved(studio, ("department.freight", "hazard-note"))
    QApplication.clipboard().setText("no step at all")
    studio.press(Qt.Key.Key_V, CTRL)
    assert "What was copied is no step" in studio.said


def test_steps_are_gathered_in_a_part_that_gets_a_name(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((3,))
    studio.press(Qt.Key.Key_Down, SHIFT)
    studio.press(Qt.Key.Key_G, CTRL)
    rewrite(studio, "Close")
    text = saved(studio)
    assert 'part "Close"\n  do new-line\n  do align-paragraph to=left\nend' in text


def test_a_text_is_asked_for_from_now_on(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((5,))
    studio.press(Qt.Key.Key_K, CTRL)
    assert 'ask text "What to write?" default "Sailings of {vessel} may' in saved(studio)


def test_several_steps_are_muted_and_taken_out_together(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.steps.choose((3,))
    studio.press(Qt.Key.Key_Down, SHIFT)
    studio.press(Qt.Key.Key_Space)
    assert "~ do new-line\n~ do align-paragraph to=left" in saved(studio)
    studio.press(Qt.Key.Key_Delete)
    assert "do align-paragraph to=left" not in saved(studio)


def test_words_are_offered_while_the_text_is_written(studio: Studio, place: MacrosPlace) -> None:
    place.text.setFocus()
    place.text.moveCursor(QTextCursor.MoveOperation.End)
    studio.type("do emb")
    assert place.text.offered is not None
    assert [entry.id for entry in place.text.offered.entries] == ["embolden"]
    studio.press(Qt.Key.Key_Tab)
    studio.type(" on=")
    assert [entry.id for entry in place.text.offered.entries] == ["flip", "no", "yes"]
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return)
    assert place.text.toPlainText().rstrip("\n").endswith("do embolden on=yes")
    assert not place.text.offered.isVisible()


@pytest.mark.parametrize("line", ["set changed = no", "do embolden on=", "if here.w"])
def test_enter_ends_the_line_and_takes_no_word_that_no_arrow_has_chosen(
    studio: Studio, place: MacrosPlace, line: str
) -> None:
    place.text.setFocus()
    place.text.moveCursor(QTextCursor.MoveOperation.End)
    studio.type(line)
    assert place.text.offered is not None
    assert place.text.offered.isVisible()
    assert place.text.offered.current() is None
    studio.press(Qt.Key.Key_Return)
    assert not place.text.offered.isVisible()
    assert place.text.toPlainText().endswith(f"{line}\n")


# Shelves and handing over


def hand_over(studio: Studio, place: MacrosPlace, path: Path) -> Path:
    place.open(("department.freight", "hazard-note"))
    place.bundles.export_to(path, [place.presenter.file()])
    assert f"“Hazard note” is in {path}, signed by" in studio.said
    return path


def test_a_macro_goes_to_my_own_shelf_and_back(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.open(("department.freight", "weather-box"))
    studio.push("macro-move")
    studio.choose("Mine")
    assert sheet.now == ("mine", "weather-box")
    assert ("department.freight", "weather-box") not in read_workspace(studio.folder).macros
    assert (own_folder() / "macros/weather-box.steps").is_file()
    studio.push("macro-copy")
    studio.choose("Everyone")
    assert ("organisation", "weather-box-2") in read_workspace(studio.folder).macros
    assert "mine/weather-box" in [f"{layer}/{name}" for layer, name in sheet.shelves._rows]


def test_moving_away_what_is_used_says_who_cannot_see_it_any_more(studio: Studio, sheet: MacrosPlace) -> None:
    sheet.open(("department.freight", "hazard-note"))
    studio.push("macro-move")
    studio.choose("Berth desk")
    assert "Freight desk’s Freight cannot see it there any more" in studio.said
    studio.session.undo()
    assert ("department.freight", "hazard-note") in read_workspace(studio.folder).macros


def test_a_bundle_shows_what_it_holds_before_it_is_taken_in(
    studio: Studio, sheet: MacrosPlace, tmp_path: Path
) -> None:
    path = hand_over(studio, sheet, tmp_path / "note.crestpack")
    studio.session.do(
        PutMacro("department.freight", "hazard-note", 'macro "Hazard note"\nfor letters\n\nstop\n')
    )
    sheet.bundles.import_from(path)
    dialog = sheet.findChild(TakeIn)
    words = [label.text() for label in dialog.findChildren(QLabel)]
    assert "1 macro of" in words[0]
    assert "does not know this maker" in words[1]
    assert any("for Letters · may: edits · that name is taken here" in word for word in words)
    read = dialog.findChild(QLabel, "steps hazard-note")
    assert not read.isVisible()
    studio.push("read hazard-note")
    assert read.isVisible()
    assert "Write “Hazardous goods, class ⟨class⟩”" in read.text()
    studio.push("import-cancel")
    assert "hazard-note-2" not in [name for _, name in studio.session.workspace.macros]
    sheet.bundles.import_from(path)
    studio.push("import-go")
    assert sheet.now == ("department.freight", "hazard-note-2")
    assert sheet.presenter.file().name == "Hazard note 2"
    assert "does not run · " in sheet.shelves._rows[sheet.now].accessibleName()
    studio.session.undo()
    assert ("department.freight", "hazard-note-2") not in studio.session.workspace.macros


def test_vouching_for_a_maker_and_replacing(studio: Studio, sheet: MacrosPlace, tmp_path: Path) -> None:
    path = hand_over(studio, sheet, tmp_path / "note.crestpack")
    studio.session.do(
        PutMacro("department.freight", "hazard-note", 'macro "Hazard note"\nfor letters\n\nstop\n')
    )
    sheet.bundles.import_from(path)
    dialog = [each for each in sheet.findChildren(TakeIn) if each.isVisible()][-1]
    public = MakerKey.of_profile(own_folder() / "maker.pem", "").public
    assert fingerprint(public) in dialog.findChild(QLabel, "fingerprint").text()
    dialog.vouch.click()
    dialog.findChild(QComboBox, "existing hazard-note").setCurrentText("replace the one here")
    studio.push("import-go")
    workspace = studio.session.workspace
    assert "insert-note" in workspace.macros["department.freight", "hazard-note"].text
    assert not workspace.refused(("department.freight", "hazard-note"))
    assert sheet.sheet.maker.text().startswith("made by ")
    studio.push("macro-maker")
    studio.choose(f"No longer vouch for {own_name()}: nothing they made runs")
    assert studio.session.workspace.refused(("department.freight", "hazard-note"))
    assert sheet.sheet.maker.text().endswith(": does not run")
    studio.push("macro-maker")
    studio.choose(f"Vouch for {own_name()}: their fingerprint is {fingerprint(public)}")
    assert not studio.session.workspace.refused(("department.freight", "hazard-note"))


def test_a_macro_from_outside_that_was_changed_runs_once_it_is_made_ones_own(
    studio: Studio, sheet: MacrosPlace, tmp_path: Path
) -> None:
    key = ("department.freight", "hazard-note")
    path = hand_over(studio, sheet, tmp_path / "note.crestpack")
    studio.session.do(PutMacro(*key, 'macro "Hazard note"\nfor letters\n\nstop\n'))
    sheet.bundles.import_from(path)
    dialog = [each for each in sheet.findChildren(TakeIn) if each.isVisible()][-1]
    dialog.vouch.click()
    dialog.findChild(QComboBox, "existing hazard-note").setCurrentText("replace the one here")
    studio.push("import-go")
    assert not studio.session.workspace.refused(key)
    text = studio.session.workspace.macros[key].text
    studio.session.do(PutMacro(*key, text + 'write "more"\n'))
    assert studio.session.workspace.refused(key) == f"It has changed since {own_name()} signed it."
    assert sheet.sheet.maker.text().endswith("and changed since: does not run")
    studio.push("macro-maker")
    studio.choose(f"Make it my own: it runs, and no longer says that {own_name()} made it")
    assert not studio.session.workspace.refused(key)
    assert not sheet.sheet.maker.isVisible()
    studio.session.undo()
    assert studio.session.workspace.refused(key)


def test_a_known_name_with_another_key_is_told(studio: Studio, sheet: MacrosPlace, tmp_path: Path) -> None:
    path = hand_over(studio, sheet, tmp_path / "note.crestpack")
    studio.session.do(
        PutMacro("department.freight", "hazard-note", 'macro "Hazard note"\nfor letters\n\nstop\n')
    )
    studio.session.do(Vouch(own_name(), "0" * 64))
    sheet.bundles.import_from(path)
    dialog = [each for each in sheet.findChildren(TakeIn) if each.isVisible()][-1]
    assert "but this is another key" in dialog.findChild(QLabel, "fingerprint").text()
    studio.push("import-go")
    assert studio.session.workspace.refused(("department.freight", "hazard-note-2"))


@pytest.mark.parametrize(
    ("content", "says"), [(b"", "no package"), (b"PK\x05\x06" + b"\0" * 18, "no release.json")]
)
def test_a_file_that_is_no_bundle_is_told(
    studio: Studio, sheet: MacrosPlace, tmp_path: Path, content: bytes, says: str
) -> None:
    path = tmp_path / "x.crestpack"
    path.write_bytes(content)
    sheet.bundles.import_from(path)
    assert says in studio.said
    sheet.bundles.import_from(tmp_path / "none.crestpack")
    assert "cannot be read" in studio.said


# A field belongs to a step of a macro

CLOSING = ("department.freight", "close-the-booking")
HAZARD = ("department.freight", "hazard-note")


@pytest.fixture
def closing(studio: Studio, sheet: MacrosPlace) -> MacrosPlace:
    studio.push("macro department.freight/close-the-booking")
    return sheet


def test_a_word_field_writes_into_its_own_macro_when_another_is_chosen(
    studio: Studio, closing: MacrosPlace
) -> None:
    path = next(p for p, step in walk(closing.presenter.file().macro) if isinstance(step, WriteText))
    hazard = saved(studio, HAZARD)
    click_word(studio, closing, path, "text")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Gone aboard")
    studio.push("macro department.freight/hazard-note")
    assert closing.now == HAZARD
    assert "is kept in “Close the booking”" in studio.said
    assert not [field for field in closing.findChildren(InlineField, "word-field") if field.isVisible()]
    studio.type("x")
    studio.press(Qt.Key.Key_Escape)
    assert saved(studio, HAZARD) == hazard
    assert 'write "Gone aboard"' in saved(studio, CLOSING)


def test_a_name_field_names_its_own_macro_when_another_is_chosen(
    studio: Studio, closing: MacrosPlace
) -> None:
    hazard = saved(studio, HAZARD)
    studio.push("macro-title")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Booking closed")
    studio.push("macro department.freight/hazard-note")
    assert 'macro "Booking closed"' in saved(studio, CLOSING)
    assert saved(studio, HAZARD) == hazard


def test_a_word_field_ends_when_its_step_becomes_another_one(studio: Studio, closing: MacrosPlace) -> None:
    path = next(p for p, step in walk(closing.presenter.file().macro) if isinstance(step, WriteText))
    click_word(studio, closing, path, "text")
    studio.type("half a wo")
    other = 'macro "Close the booking"\nfor letters\n\n' + "do new-line\n" * 8
    studio.session.do(PutMacro(*CLOSING, other))
    studio.qtbot.waitUntil(lambda: "“half a wo” was not written" in studio.said)
    assert not [field for field in closing.findChildren(InlineField, "word-field") if field.isVisible()]
    assert saved(studio, CLOSING) == other


def test_a_word_field_ends_when_its_macro_is_deleted(studio: Studio, closing: MacrosPlace) -> None:
    path = next(p for p, step in walk(closing.presenter.file().macro) if isinstance(step, WriteText))
    click_word(studio, closing, path, "text")
    studio.type("half a wo")
    studio.session.do(PutMacro(*CLOSING, None))
    studio.qtbot.waitUntil(lambda: "“half a wo” was not written" in studio.said)
    studio.session.undo()
    assert "half a wo" not in saved(studio, CLOSING)


def test_going_to_another_place_keeps_the_word_that_is_typed(studio: Studio, closing: MacrosPlace) -> None:
    path = next(p for p, step in walk(closing.presenter.file().macro) if isinstance(step, WriteText))
    click_word(studio, closing, path, "text")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Gone aboard")
    studio.press(Qt.Key.Key_2, CTRL)
    assert 'write "Gone aboard"' in saved(studio, CLOSING)


# Characters that nobody sees

UNSEEN = " 5\u00a0km\u202f"


def test_a_word_keeps_its_blanks_and_no_break_spaces_and_shows_them_by_name(
    studio: Studio, sheet: MacrosPlace
) -> None:
    click_word(studio, sheet, (2, 2), "text")
    studio.press(Qt.Key.Key_A, CTRL)
    QApplication.clipboard().setText(UNSEEN)
    studio.press(Qt.Key.Key_V, CTRL)
    studio.press(Qt.Key.Key_Return)
    assert f'write "{UNSEEN}"' in saved(studio)
    assert rows(sheet)[5] == "Write “ 5[no-break space]km[narrow no-break space]”"


def test_the_text_view_keeps_no_break_spaces(studio: Studio, place: MacrosPlace) -> None:
    place.text.setFocus()
    place.text.moveCursor(QTextCursor.MoveOperation.End)
    QApplication.clipboard().setText(f'write "{UNSEEN}"\n')
    studio.press(Qt.Key.Key_V, CTRL)
    place.text.flush()
    assert saved(studio).endswith(f'write "{UNSEEN}"\n')
    assert place.text.written() == saved(studio)


def test_a_text_with_the_sign_of_a_new_line_in_it_keeps_both(studio: Studio, sheet: MacrosPlace) -> None:
    studio.session.do(PutMacro(*NOTICE, 'macro "N"\nfor letters\n\nwrite "a↵b\\nc"\n'))
    click_word(studio, sheet, (0,), "text")
    studio.press(Qt.Key.Key_End)
    studio.type("!")
    studio.press(Qt.Key.Key_Return)
    assert 'write "a↵b\\nc!"' in saved(studio)


BRANCHES = 'macro "Branches"\nfor letters\n\nif yes\n  write "a"\n  write "b"\nend\nsay "c"\n'


@pytest.fixture
def branches(studio: Studio, place: MacrosPlace) -> MacrosPlace:
    studio.session.do(PutMacro(*NOTICE, BRANCHES))
    place.steps.setFocus()
    return place


def body(studio: Studio) -> list[str]:
    return [line.strip() for line in saved(studio).splitlines()[3:]]


def test_the_branches_and_the_end_of_a_condition_are_lines_of_their_own(
    studio: Studio, branches: MacrosPlace
) -> None:
    assert rows(branches) == ["If yes", "Write “a”", "Write “b”", "End of the condition", "Say “c”"]
    branches.steps.choose((0, 0))
    studio.type("otherwise")
    studio.press(Qt.Key.Key_Return)
    assert rows(branches)[1:4] == ["Write “a”", "Otherwise", "Write “b”"]
    assert body(studio) == ["if yes", 'write "a"', "else", 'write "b"', "end", 'say "c"']
    assert branches.steps.path() == (0, -2)
    studio.type("new line")
    studio.press(Qt.Key.Key_Return)
    assert body(studio)[2:4] == ["else", "do new-line"]
    branches.steps.choose((0, -2))
    studio.press(Qt.Key.Key_Delete)
    assert body(studio) == ["if yes", 'write "a"', "end", 'say "c"']


def test_behind_the_end_of_a_block_a_step_stands_behind_the_block(
    studio: Studio, branches: MacrosPlace
) -> None:
    branches.steps.choose((0, -3))
    for key, held in ((Qt.Key.Key_Delete, []), (Qt.Key.Key_Up, [ALT]), (Qt.Key.Key_G, [CTRL])):
        studio.press(key, *held)
    assert body(studio) == ["if yes", 'write "a"', 'write "b"', "end", 'say "c"']
    studio.type("new line")
    studio.press(Qt.Key.Key_Return)
    assert body(studio)[3:5] == ["end", "do new-line"]


def test_a_step_is_dragged_between_the_branches(studio: Studio, branches: MacrosPlace) -> None:
    studio.session.do(PutMacro(*NOTICE, BRANCHES.replace('  write "b"', 'else\n  write "b"')))
    steps = branches.steps
    start = steps.visualItemRect(steps.item(1)).center()
    end = steps.visualItemRect(steps.item(3)).topLeft() + QPoint(20, 3)
    view = steps.viewport()
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(view, start + QPoint(0, 20))
    QTest.mouseMove(view, end)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
    assert body(studio)[:4] == ["if yes", "else", 'write "a"', 'write "b"']


def test_an_otherwise_needs_a_condition(studio: Studio, branches: MacrosPlace) -> None:
    branches.steps.choose((1,))
    studio.type("otherwise")
    studio.press(Qt.Key.Key_Return)
    assert "stands in an “If”" in studio.said
    assert "else" not in body(studio)


def test_a_whole_shelf_is_exported_by_a_name_that_people_know(
    studio: Studio, sheet: MacrosPlace, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "freight.crestpack"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    sheet.open(("department.freight", "hazard-note"))
    studio.push("macro-export")
    dialog = next(each for each in sheet.findChildren(ExportDialog) if each.isVisible())
    assert [file.id for file in dialog.files()] == ["hazard-note"]
    shelf = dialog.shelves.findItems("Freight desk", Qt.MatchFlag.MatchExactly)[0]
    dialog.shelves.setCurrentItem(shelf)
    dialog.shelves.setFocus()
    QTest.keyClick(dialog.shelves, Qt.Key.Key_Space)
    freight = {name for layer, name in studio.session.workspace.macros if layer == "department.freight"}
    assert {file.id for file in dialog.files()} == freight
    dialog.maker.selectAll()
    QTest.keyClick(dialog.maker, Qt.Key.Key_Delete)
    go = dialog.findChild(QWidget, "export-go")
    assert not go.isEnabled()
    QTest.keyClicks(dialog.maker, "Ailis of the freight desk")
    QTest.mouseClick(go, Qt.MouseButton.LeftButton)
    bundle = read_bundle(path.read_bytes(), path.name)
    assert bundle.maker == "Ailis of the freight desk"
    assert freight <= set(bundle.macros)
    assert f"{len(freight)} macros" in studio.said
    assert own_name() == "Ailis of the freight desk"


@pytest.mark.parametrize(
    ("typed", "line"),
    [
        (
            'do replace-formatting look="linked" by="no link"',
            'do replace-formatting look="linked" by="no link"',
        ),
        ("set was = letter.words", "set was = letter.words"),
        ("while not at-end limit 10", "while not at-end limit 10\nend"),
    ],
)
def test_a_whole_line_is_taken_as_it_is_written(
    studio: Studio, sheet: MacrosPlace, typed: str, line: str
) -> None:
    studio.session.do(PutMacro(*NOTICE, 'macro "N"\nfor letters\n\ndo undo\n'))
    sheet.steps.choose((0,))
    sheet.steps.setFocus()
    studio.type(typed)
    studio.press(Qt.Key.Key_Return)
    assert saved(studio).endswith(f"do undo\n{line}\n")


@pytest.mark.parametrize("typed", ["bold", "do bald", "set was", "new line"])
def test_words_are_searched_for(typed: str) -> None:
    assert step_as_written(typed) == ""


def test_the_open_macro_is_given_a_key_by_its_word_or_by_keys(studio: Studio, sheet: MacrosPlace) -> None:
    def keys() -> list[str]:
        return [
            key.keys for key in studio.saved("department.freight").keys if key.run == "macro:sailing-notice"
        ]

    studio.push("macro-key")
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    rows = [action.text() for action in menu.actions()]
    assert rows[-1] == "Press it …"
    QTest.keyClick(menu, Qt.Key.Key_Return)
    assert keys() == [rows[0]]
    sheet.steps.setFocus()
    studio.press(Qt.Key.Key_K, CTRL | SHIFT)
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    QTest.keyClicks(menu, "press")
    QTest.keyClick(menu, Qt.Key.Key_Return)
    QApplication.processEvents()
    studio.press(Qt.Key.Key_J, CTRL)
    studio.press(Qt.Key.Key_T)
    assert set(keys()) == {"Ctrl+J, T"}
    assert studio.said == "Ctrl+J, T is taken over from Table."
    studio.press(Qt.Key.Key_K, CTRL | SHIFT)
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    assert menu.activeAction().text() == "Ctrl+J, T"
    QTest.keyClicks(menu, "none")
    QTest.keyClick(menu, Qt.Key.Key_Return)
    assert keys() == []


def test_the_steps_on_a_panel_that_comes_along_can_be_read_first(
    studio: Studio, sheet: MacrosPlace, tmp_path: Path
) -> None:
    field = {"id": "vessel", "field": "Vessel", "on": {"change": {"steps": 'write "{panel.vessel}"\n'}}}
    panel = Panel.model_validate({"id": "lanes", "title": "Lanes", "items": [field]})
    studio.session.do(PutPanel("department.freight", "letters", panel))
    asking = 'macro "Asking"\nfor letters\n\nask panel "lanes"\nwrite "{panel.lanes.vessel}"\n'
    studio.session.do(PutMacro("department.freight", "asking", asking))
    sheet.open(("department.freight", "asking"))
    path = tmp_path / "asking.crestpack"
    file = studio.session.workspace.macros["department.freight", "asking"]
    sheet.bundles.export_to(path, [file])
    sheet.bundles.import_from(path)
    dialog = sheet.findChild(TakeIn)
    read = dialog.findChild(QLabel, "steps panel lanes 1")
    assert not read.isVisible()
    studio.push("read panel lanes 1")
    assert read.isVisible()
    assert read.text() == "Write “⟨panel.vessel⟩”"
    studio.push("import-cancel")
