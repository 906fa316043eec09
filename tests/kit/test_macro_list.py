"""“Macros …”: the list of all that can run here, by keys and from the right-click menu."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton

from rimecrest.kit.macros.macro_list import CHANGES, MacroList
from tests.programs import Letters

GREET = 'macro "Greeting"\nabout "Writes a greeting."\nfor letters\n\nwrite "Dear all, "\n'
CLOSE = 'macro "Closing"\nfor letters\n\nwrite "Yours, "\n'


def opened(letters: Letters) -> MacroList:
    letters.use({"keys": [{"keys": "F9", "in": "writing", "run": "macro:greet"}]}, greet=GREET, close=CLOSE)
    letters.press(Qt.Key.Key_F5, Qt.KeyboardModifier.ShiftModifier)
    letters.qtbot.waitUntil(lambda: letters.window.findChild(MacroList) is not None)
    return letters.window.findChildren(MacroList)[-1]


def rows(dialog: MacroList) -> list[str]:
    return [dialog.list.item(n).text() for n in range(dialog.list.count())]


def test_it_names_each_macro_with_its_purpose_its_shelf_and_its_key(letters: Letters) -> None:
    dialog = opened(letters)
    assert rows(dialog) == ["Closing\neverybody’s", "Greeting\nWrites a greeting.   everybody’s · F9"]
    dialog.reject()


def test_a_word_finds_one_and_enter_runs_it(letters: Letters) -> None:
    dialog = opened(letters)
    QTest.keyClicks(dialog.field, "greeting")
    assert [row.split("\n")[0] for row in rows(dialog)] == ["Greeting"]
    QTest.keyClick(dialog.field, Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "Dear all, ")
    assert not dialog.isVisible()


def test_the_arrows_choose_from_the_field(letters: Letters) -> None:
    dialog = opened(letters)
    QTest.keyClick(dialog.field, Qt.Key.Key_Down)
    assert dialog.list.currentItem().text().startswith("Greeting")
    QTest.keyClick(dialog.field, Qt.Key.Key_Up)
    QTest.keyClick(dialog.field, Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "Yours, ")


def test_a_word_that_nothing_has_leaves_nothing_to_run(letters: Letters) -> None:
    dialog = opened(letters)
    QTest.keyClicks(dialog.field, "zebra")
    assert rows(dialog) == []
    assert not dialog.go.isEnabled()
    QTest.keyClick(dialog.field, Qt.Key.Key_Return)
    QTest.keyClick(dialog.field, Qt.Key.Key_Escape)
    QApplication.processEvents()
    assert letters.text == ""
    assert not dialog.isVisible()


def test_a_macro_put_into_the_document_is_in_it(letters: Letters) -> None:
    letters.document.put_macro("own", 'macro "Own one"\nfor letters\n\nwrite "x"\n')
    dialog = opened(letters)
    assert any(row == "Own one\nin this document" for row in rows(dialog))
    dialog.reject()


def test_what_the_studio_does_is_offered_for_macros_on_shelves_only(letters: Letters) -> None:
    letters.document.put_macro("mine", CLOSE.replace("Closing", "Mine"))
    dialog = opened(letters)
    assert dialog.findChildren(QPushButton, "macro-edit") == []
    told: list[tuple[str, str]] = []
    dialog.offer_changes(lambda what, macro: told.append((what, macro)))
    buttons = {what: dialog.findChild(QPushButton, f"macro-{what}") for what in CHANGES}
    QTest.keyClicks(dialog.field, "mine")
    assert not any(button.isEnabled() for button in buttons.values())
    dialog.field.clear()
    QTest.keyClicks(dialog.field, "greet")
    QTest.mouseClick(buttons["place"], Qt.MouseButton.LeftButton)
    assert told == [("place", "greet")]
    assert not dialog.isVisible()
