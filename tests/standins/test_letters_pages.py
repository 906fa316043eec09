"""Letters' pages, the space on them, tables that are asked for, and a selection that is kept."""

from __future__ import annotations

import gc
from pathlib import Path

import pytest
from PyQt6.QtCore import QSizeF, Qt
from PyQt6.QtGui import QTextDocument, QTextFormat
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QDialogButtonBox, QSpinBox

from rimecrest.kit.macros.sounds import Sounds
from rimecrest_standins.letters.pages import PAGE_HEIGHT, PagesDialog
from tests.programs import CTRL, Letters

BREAK = QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore


def on_pages(letters: Letters) -> QTextDocument:
    """The letter as it is laid out on pages of the printed height."""
    document = letters.document.widget.document().clone()
    assert document is not None
    document.setPageSize(QSizeF(640, PAGE_HEIGHT))
    return document


def test_a_heading_stands_in_the_middle_of_its_page(letters: Letters) -> None:
    letters.window.dispatcher.write("Before.\nNorth quay\nAfter.")
    letters.choose(10, 10)
    letters.do("centre-on-page")
    document = on_pages(letters)
    layout = document.documentLayout()
    assert layout is not None
    boxes = [layout.blockBoundingRect(document.findBlockByNumber(number)) for number in range(3)]
    assert [int(box.top() // PAGE_HEIGHT) for box in boxes] == [0, 1, 2]
    middle = boxes[1].center().y() - PAGE_HEIGHT
    assert abs(middle - PAGE_HEIGHT / 2) < PAGE_HEIGHT / 10
    assert document.findBlockByNumber(1).blockFormat().alignment() == Qt.AlignmentFlag.AlignHCenter
    letters.do("undo")
    assert letters.document.widget.document().findBlockByNumber(1).blockFormat().topMargin() == 0


def test_what_is_last_in_the_letter_is_centred_with_a_page_behind_it(letters: Letters) -> None:
    letters.window.dispatcher.write("North quay")
    letters.do("centre-on-page")
    assert letters.document.widget.document().blockCount() == 2


def test_every_section_begins_a_page_and_not_any_more(letters: Letters) -> None:
    for style, words in (("text", "Dear"), ("heading", "One"), ("text", "a"), ("heading", "Two")):
        letters.do("style-paragraph", to=style)
        letters.window.dispatcher.write(words)
        letters.do("new-line")

    def begins() -> list[str]:
        found, block = [], letters.document.widget.document().begin()
        while block.isValid():
            if block.blockFormat().pageBreakPolicy() & BREAK:
                found.append(block.text())
            block = block.next()
        return found

    letters.do("headings-begin-pages")
    assert begins() == ["One", "Two"]
    letters.do("headings-begin-pages", on="flip")
    assert begins() == []
    letters.do("new")
    assert not letters.do("headings-begin-pages")
    assert "begins with a heading" in letters.said


def test_space_before_a_paragraph_is_in_points(letters: Letters) -> None:
    letters.window.dispatcher.write("one\ntwo")
    letters.do("space-before", to="18")
    block = letters.document.widget.document().lastBlock()
    assert block.blockFormat().topMargin() == pytest.approx(24)
    assert block.previous().blockFormat().topMargin() == 0


def test_a_table_asks_for_its_rows_and_columns(letters: Letters) -> None:
    letters.press(Qt.Key.Key_J, CTRL)
    letters.press(Qt.Key.Key_T)
    dialog = letters.window.findChild(QDialog, "table-size")
    assert dialog is not None
    rows = dialog.findChild(QSpinBox, "table-rows")
    assert rows is not None
    QTest.keyClicks(rows, "5")
    row = dialog.findChild(QDialogButtonBox)
    assert row is not None
    assert letters.document.table() is None
    QTest.mouseClick(row.button(QDialogButtonBox.StandardButton.Ok), Qt.MouseButton.LeftButton)
    table = letters.document.table()
    assert table is not None
    assert (table.rows(), table.columns()) == (5, 3)


def test_a_table_that_is_given_up_leaves_the_letter_as_it_was(letters: Letters) -> None:
    letters.window.recorder.start("T")
    letters.window.dispatcher.perform("letters:insert-table", by_hand=True)
    dialog = letters.window.findChild(QDialog, "table-size")
    assert dialog is not None
    dialog.reject()
    assert letters.document.table() is None
    assert letters.window.recorder.stop() == ""


def test_the_pages_are_seen_beside_one_another(letters: Letters) -> None:
    letters.window.dispatcher.write("one\ntwo")
    letters.do("break-page")
    letters.do("show-pages")
    window = letters.window.findChild(QDialog, "pages")
    assert window is not None
    assert isinstance(window, PagesDialog)
    gc.collect()
    letters.qtbot.waitUntil(lambda: window.view.pageCount() == 2)
    letters.qtbot.waitUntil(lambda: window.view.zoomFactor() < 0.7)
    assert not window.grab().isNull()
    window.close()


def test_a_kept_selection_is_gone_back_to_though_the_letter_changed(letters: Letters) -> None:
    letters.window.dispatcher.write("one two three")
    assert not letters.do("back-to-selection")
    assert "Nothing was kept" in letters.said
    letters.choose(4, 7)
    before = letters.html
    letters.do("keep-selection")
    assert letters.html == before
    letters.do("go-to-start")
    letters.type("Dear ")
    letters.do("back-to-selection")
    assert letters.read("chosen.text") == "two"


def test_a_macro_keeps_a_selection_and_comes_back(letters: Letters) -> None:
    letters.window.dispatcher.write("one two three")
    letters.choose(4, 7)
    letters.run('do keep-selection\ndo go-to-start\nwrite "x"\ndo back-to-selection\ndo embolden on=yes')
    assert letters.read("chosen.text") == "two"
    assert letters.read("chosen.bold") == "yes"
    assert QApplication.activeModalWidget() is None


def test_a_macro_is_never_asked_for_the_size_of_a_table(letters: Letters) -> None:
    letters.run("do insert-table")
    table = letters.document.table()
    assert table is not None
    assert (table.rows(), table.columns()) == (3, 3)


def test_an_end_is_heard_unless_the_seat_has_it_off(
    letters: Letters, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    heard: list[bool] = []
    monkeypatch.setattr(QApplication, "beep", lambda: heard.append(True))
    letters.document.documents.sounds = Sounds(tmp_path)
    assert letters.run('say "Done." aloud') == "Done."
    assert letters.run('stop "Enough." aloud') == "Enough."
    assert len(heard) == 2
    letters.run('say "Quiet."')
    letters.do("macro-sounds", on="no")
    assert "not heard" in letters.said
    letters.run('say "Done." aloud')
    assert len(heard) == 2
    assert not Sounds(tmp_path).on
    assert letters.read("macro-sounds") == "no"


def test_a_run_that_is_taken_back_is_not_heard(letters: Letters, monkeypatch: pytest.MonkeyPatch) -> None:
    heard: list[bool] = []
    monkeypatch.setattr(QApplication, "beep", lambda: heard.append(True))
    letters.run('say "x" aloud\ndo add-row')
    assert heard == []
