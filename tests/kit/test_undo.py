"""Undo: words, commands, whole macros; exactly themselves, never the writing before."""

from __future__ import annotations

import random

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QTextDocument
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from rimecrest.kit.commands.executor import Executor
from rimecrest.kit.commands.leaving import Agreements
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.documents.open_documents import OpenDocuments
from rimecrest.kit.macros.asking_dialog import DialogAsker
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.shell.theme import LIGHT
from rimecrest.surfaces.painting import Painting
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from tests.programs import CTRL, SHIFT, Letters


def undo(letters: Letters) -> None:
    letters.press(Qt.Key.Key_Z, CTRL)


def redo(letters: Letters) -> None:
    letters.press(Qt.Key.Key_Z, CTRL, SHIFT)


def test_typing_is_taken_back_word_by_word(letters: Letters) -> None:
    letters.type("one two three")
    undo(letters)
    assert letters.text == "one two "
    undo(letters)
    assert letters.text == "one "
    redo(letters)
    assert letters.text == "one two "
    undo(letters)
    undo(letters)
    assert letters.text == ""
    undo(letters)
    assert letters.said.startswith("There is nothing to undo.")


def test_writing_elsewhere_begins_a_new_entry(letters: Letters) -> None:
    letters.type("ab")
    letters.press(Qt.Key.Key_Home)
    letters.type("x")
    undo(letters)
    assert letters.text == "ab"


def test_a_command_is_one_entry_and_does_not_join_the_word_before(letters: Letters) -> None:
    letters.type("word")
    letters.do("insert-table")
    undo(letters)
    assert letters.text == "word"
    undo(letters)
    assert letters.text == ""


def test_a_macro_is_one_entry_that_takes_back_exactly_itself(letters: Letters) -> None:
    letters.type("before")
    before = letters.html
    letters.run(
        'write "after"\ndo embolden on=yes\nwrite "bold"\ndo embolden on=no\ndo new-line\ndo insert-table'
    )
    assert letters.text.startswith("beforeafterbold\n")
    undo(letters)
    assert letters.html == before
    redo(letters)
    assert letters.text.startswith("beforeafterbold\n")
    undo(letters)
    undo(letters)
    assert letters.text == ""


def test_writing_after_a_macro_is_not_taken_back_with_it(letters: Letters) -> None:
    letters.run('write "macro"')
    letters.type("typed")
    undo(letters)
    assert letters.text == "macro"
    undo(letters)
    assert letters.text == ""


def test_undo_brings_the_cursor_back_to_where_it_was(letters: Letters) -> None:
    letters.type("one two")
    letters.do("insert-table")
    undo(letters)
    letters.type("!")
    assert letters.text == "one two!"


@pytest.mark.parametrize("steps", ["do embolden on=yes", 'write "X"', 'do go-to-end\nwrite "X"'])
def test_undo_of_a_macro_brings_back_what_was_selected(letters: Letters, steps: str) -> None:
    letters.type("one two three")
    letters.choose(4, 7)
    letters.run(steps)
    undo(letters)
    assert letters.text == "one two three"
    assert letters.document.cursor().selectedText() == "two"


def test_a_new_entry_forgets_what_was_undone(letters: Letters) -> None:
    letters.type("one ")
    undo(letters)
    letters.type("two ")
    redo(letters)
    assert letters.text == "two "
    assert "nothing to redo" in letters.said


def test_undo_reaches_the_saved_state_and_says_so_in_the_title(letters: Letters) -> None:
    letters.type("x")
    assert letters.window.windowTitle() == "New letter * · Letters"
    undo(letters)
    assert letters.window.windowTitle() == "New letter · Letters"


STEPS = (
    *("new-line", "embolden", "slant", "insert-rule", "insert-table", "insert-note", "leave-note", "enlarge"),
    *(
        "delete-character-before",
        "delete-word-after",
        "points",
        "capitals",
        "select-word",
        "remove-formatting",
        "indent-more",
    ),
    *("add-row", "delete-row", "next-cell", "align-paragraph", "style-paragraph", "go-to-start", "go-to-end"),
    *(
        "add-column",
        "delete-table",
        "insert-tab",
        "break-line",
        "numbered",
        "delete-note",
        "select-paragraph",
    ),
)


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.sampled_from([*STEPS, "!word", "!word"]), max_size=14), st.integers(0, 99))
def test_any_sequence_of_commands_undoes_to_nothing_and_redoes_to_the_same(
    qtbot: QtBot, sequence: list[str], seed: int
) -> None:
    documents = OpenDocuments(LetterDocument)
    document = documents.current
    library = MacroLibrary("letters", documents.kept_macros)
    asker = DialogAsker(QWidget(), lambda: Painting(LIGHT), lambda _reading: [])
    dispatcher = Dispatcher(Executor(declarations, documents), library, Agreements(None), asker)
    chance = random.Random(seed)
    dispatcher.write("First words here.")
    dispatcher.perform("letters:new-line")
    states = [_plain(document.widget.document())]
    for step in sequence:
        if step == "!word":
            dispatcher.write(chance.choice(["word ", "x", "ü. "]))
        else:
            dispatcher.perform(f"letters:{step}")
    states.append(_plain(document.widget.document()))
    count = 0
    while document.undo.undo_label:
        document.undo.undo()
        count += 1
        assert count < 100
    assert document.widget.toPlainText() == ""
    for _ in range(count):
        document.undo.redo()
    assert _plain(document.widget.document()) == states[-1]
    documents.widget.deleteLater()


def _plain(document: QTextDocument) -> str:
    return document.toHtml()


def test_the_property_can_fail(letters: Letters) -> None:
    """Without our blocks Qt joins insertions: the macro's undo would take the word before along."""
    document = QTextDocument()
    from PyQt6.QtGui import QTextCursor

    cursor = QTextCursor(document)
    cursor.insertText("before")
    cursor.insertText("macro")
    document.undo()
    assert document.toPlainText() == ""


def test_a_run_that_failed_leaves_nothing_to_redo(letters: Letters) -> None:
    letters.type("before")
    said = letters.run('write "x"\ndo add-row')
    assert "works in a table only" in said
    assert letters.text == "before"
    redo(letters)
    assert letters.text == "before"


@pytest.mark.parametrize("text", ["ä", "日本", "e\u0301", "a b"])
def test_any_script_is_typed_and_taken_back(letters: Letters, text: str) -> None:
    letters.window.dispatcher.write(text)
    assert letters.text == text
    for _ in range(letters.document.undo.depth):
        undo(letters)
    assert letters.text == ""
