"""The finder of the application: any command or macro by a word, run by Enter, or why it cannot run."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from rimecrest.kit.commands.command_finder import CommandFinder
from rimecrest.kit.macros.availability import why_not
from tests.programs import Letters

NOTE = 'macro "Hazard note"\nabout "Sets the goods apart"\nfor letters\n\nwrite "Mind the goods."\n'
NEEDY = (
    'macro "In a table"\nfor letters\n'
    'needs context table or say "Put the cursor into a table."\n\nwrite "x"\n'
)
BROKEN = 'macro "Broken"\nfor letters\n\ndo no-such-thing\n'


def open_finder(letters: Letters, text: str = "") -> CommandFinder:
    QApplication.processEvents()
    QTest.keyClick(letters.window.windowHandle(), Qt.Key.Key_F3)
    letters.qtbot.waitUntil(lambda: bool(letters.window.findChildren(CommandFinder)))
    finder = letters.window.findChildren(CommandFinder)[-1]
    letters.qtbot.waitUntil(finder.isVisible)
    for character in text:
        QTest.keyClick(finder.field, character)
    QApplication.processEvents()
    return finder


def titles(finder: CommandFinder) -> list[str]:
    rows = (finder.list.item(at) for at in range(finder.list.count()))
    return [row.text().partition("\n")[0] for row in rows if row is not None]


def row(finder: CommandFinder, title: str) -> str:
    rows = (finder.list.item(at) for at in range(finder.list.count()))
    return next(row.text() for row in rows if row is not None and row.text().startswith(f"{title}\n"))


def test_a_command_is_found_by_a_word_with_its_key_and_run_by_enter(letters: Letters) -> None:
    letters.type("words")
    letters.press(Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    finder = open_finder(letters, "bold")
    assert titles(finder)[0] == "Bold"
    assert "Ctrl+B" in row(finder, "Bold")
    QTest.keyClick(finder.field, Qt.Key.Key_Return)
    assert not finder.isVisible()
    assert letters.read("chosen.bold") == "yes"


def test_a_macro_is_found_by_its_purpose_and_run(letters: Letters) -> None:
    letters.use({}, note=NOTE)
    finder = open_finder(letters, "apart goods")
    assert titles(finder) == ["Hazard note"]
    assert "macro" in row(finder, "Hazard note")
    QTest.keyClick(finder.field, Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "Mind the goods.")


def test_what_cannot_run_says_why_and_changes_nothing(letters: Letters) -> None:
    letters.use({}, needy=NEEDY, broken=BROKEN)
    finder = open_finder(letters, "in a table")
    assert "Not now: Put the cursor into a table." in row(finder, "In a table")
    QTest.keyClick(finder.field, Qt.Key.Key_Return)
    assert finder.isVisible()
    assert finder.told.text() == "“In a table” cannot run now. Put the cursor into a table."
    assert letters.text == ""
    finder.field.setText("broken")
    assert "Not now: Has faults" in row(finder, "Broken")
    finder.field.setText("row below")
    below = next(title for title in titles(finder) if "below" in title)
    assert "Not now: Works in a table only." in row(finder, below)
    QTest.keyClick(finder, Qt.Key.Key_Escape)
    assert not finder.isVisible()


def test_what_does_not_exist_is_told_with_the_nearest(letters: Letters) -> None:
    finder = open_finder(letters, "itlaic")
    assert finder.told.text() == "Letters has no command like that. The nearest:"
    assert titles(finder)[0] == "Italic"
    finder.field.setText("qqqqqqqq")
    assert titles(finder) == []
    assert finder.told.text() == "Letters has no command like that."
    QTest.keyClick(finder.field, Qt.Key.Key_Return)
    assert finder.isVisible()
    finder.reject()


def test_arrows_choose_from_the_field_and_it_is_no_step_of_a_recording(letters: Letters) -> None:
    letters.window.recording.turn()
    finder = open_finder(letters, "b")
    QTest.keyClick(finder.field, Qt.Key.Key_Down)
    assert finder.list.currentRow() == 1
    QTest.keyClick(finder.field, Qt.Key.Key_Up)
    assert finder.list.currentRow() == 0
    QTest.keyClick(finder, Qt.Key.Key_Escape)
    assert letters.window.recorder.steps == ()


def test_why_not_is_empty_for_what_can_run(letters: Letters) -> None:
    letters.use({}, note=NOTE)
    window = letters.window
    for run in ("letters:embolden", "letters:save", "macro:note"):
        assert why_not(window.executor, window.library, run) == ""
    assert why_not(window.executor, window.library, "macro:gone") == "It does not exist here."
    assert why_not(window.executor, window.library, "letters:gone") == "It does not exist here."
