"""Every character that a person can type survives: in the document, the file, the recording, the steps."""

from __future__ import annotations

from pathlib import Path

from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st
from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import WriteText
from tests.programs import Grid, Letters

TYPED = st.text(
    # Object replacement characters stand for pictures; nobody has a key for one.
    st.characters(exclude_categories=("Cc", "Cs", "Cn", "Co", "Zl", "Zp"), exclude_characters="\ufffc"),
    min_size=1,
    max_size=8,
)
UNSEEN = "12\u00a0km\u202f\u00ad\u200b\u200d\u2060"


def type_in(program: Letters | Grid, text: str) -> None:
    """Press keys with these texts, wherever the focus is."""
    for character in text:
        press = QKeyEvent(QEvent.Type.KeyPress, 0, Qt.KeyboardModifier.NoModifier, character)
        QApplication.sendEvent(QApplication.focusWidget(), press)


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(TYPED)
@example(UNSEEN)
def test_what_is_typed_in_a_letter_is_there_recorded_and_saved(
    letters: Letters, tmp_path: Path, text: str
) -> None:
    letters.window.documents.fresh()
    letters.document.widget.setFocus()
    letters.window.recorder.start("Typing")
    type_in(letters, text)
    assert letters.text == text
    recorded = letters.window.recorder.stop()
    steps = [step for step in parse_macro(recorded)[0].steps if isinstance(step, WriteText)]
    assert "".join(step.text for step in steps).replace("{{", "{").replace("}}", "}") == text
    for name in ("letter.html", "letter.txt"):
        letters.document.write_to(tmp_path / name)
        letters.document.open_path(tmp_path / name)
        assert letters.text == text
        assert letters.read("letter.text") == text
    assert letters.run(f"do select-all\n{body(recorded)}") == ""
    assert letters.text == text
    letters.forget()


def body(recorded: str) -> str:
    return "\n".join(line for line in recorded.splitlines() if line.startswith("write"))


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(TYPED)
@example(UNSEEN)
def test_what_is_typed_in_a_cell_is_there_and_saved(grid: Grid, tmp_path: Path, text: str) -> None:
    text = f"x{text}"  # what begins with = is a formula
    grid.window.documents.fresh()
    grid.document.widget.cells.setFocus()
    type_in(grid, text)
    assert grid.do("confirm")
    assert grid.document.here.written == text
    grid.document.write_to(tmp_path / "book.ods")
    grid.document.open_path(tmp_path / "book.ods")
    assert grid.document.here.written == text
    grid.forget()


def test_what_is_typed_in_a_note_is_kept(grid: Grid) -> None:
    grid.do("write-note")
    type_in(grid, UNSEEN)
    grid.do("keep-note")
    assert grid.document.here.note == UNSEEN


@given(TYPED)
@example(UNSEEN)
@example("a\u2028b\u2029c")
def test_text_goes_into_a_macro_and_back(text: str) -> None:
    written = format_macro(parse_macro("stop\n")[0]).replace("stop", f"write {quoted(text)}")
    macro, faults = parse_macro(written)
    assert not faults
    assert format_macro(macro) == written


def quoted(text: str) -> str:
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'


def test_what_is_copied_keeps_its_no_break_spaces(letters: Letters, qtbot: QtBot) -> None:
    type_in(letters, "5\u00a0km")
    letters.do("select-all")
    letters.do("copy")
    assert QApplication.clipboard().text() == "5\u00a0km"
    QApplication.clipboard().clear()
