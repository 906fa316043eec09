"""The Macros place: shelves, steps and text are one; faults, names, deleting, undo."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QTextCursor
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.macro import parse_macro
from rimecrest.core.macro.sentences import sentence
from rimecrest.core.workspace import read_workspace
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.macros.steps import FAULT
from tests.studio.conftest import ALT, CTRL, SHIFT, Studio

NOTICE = ("organisation", "sailing-notice")


@pytest.fixture
def place(studio: Studio) -> MacrosPlace:
    studio.press(Qt.Key.Key_1, CTRL)
    studio.qtbot.waitUntil(lambda: studio.desk.macros.isVisible())
    studio.push("macro organisation/sailing-notice")
    studio.push("show-text")
    return studio.desk.macros


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
    studio.qtbot.waitUntil(lambda: saved(studio, place.now or NOTICE) == wanted, timeout=3000)


def test_the_steps_read_as_sentences(studio: Studio, place: MacrosPlace) -> None:
    assert rows(place)[:6] == [
        "Ask ⟨vessel⟩ “Which vessel?” from Ailsa, Corran, Tern",
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
    from rimecrest.apps.letters.letters import declarations

    catalogue: Catalogue = declarations.catalogue()
    macro, _ = parse_macro(f"do undo\n{line}\n")
    assert sentence(macro.steps[1], catalogue) == words


def test_the_shelves_tell_effects_keys_and_use(studio: Studio, place: MacrosPlace) -> None:
    names = {row.text(): row.accessibleName() for row in place.shelves._rows.values()}
    assert names["Settle pasted text"] == "Settle pasted text: edits · 1 button · Ctrl+J, Y"
    assert names["Sailing notice"] == "Sailing notice: edits · on nothing yet"
    assert len(names) == 11


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


def test_faults_are_marked_in_both_and_told(studio: Studio, place: MacrosPlace) -> None:
    write(studio, place, "do embolded")
    assert "has no command “embolded”. Did you mean “embolden”?" in place._fault.text()
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
    assert "Freight desk's Freight" in place._used.text()
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


def test_a_new_macro_stands_on_the_aimed_shelf_and_asks_its_name(studio: Studio, place: MacrosPlace) -> None:
    studio.push("macro-new")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Lane slip")
    studio.press(Qt.Key.Key_Return)
    assert place.now == ("department.freight", "new-macro")
    assert 'macro "Lane slip"' in saved(studio, ("department.freight", "new-macro"))
    studio.push("macro-new")
    studio.press(Qt.Key.Key_Escape)
    assert place.now == ("department.freight", "new-macro-2")


def test_deleting_says_what_ran_it_and_undo_brings_it_back(studio: Studio, place: MacrosPlace) -> None:
    place.open(("department.freight", "hazard-note"))
    studio.push("macro-delete")
    assert "“Hazard note” is deleted. It was run by Freight desk's Freight" in studio.said
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
