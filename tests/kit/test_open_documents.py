"""Several documents in one window, and macros that touch more than one."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton, QWidget

from tests.programs import CTRL, Letters


@pytest.fixture
def other(tmp_path: Path) -> Path:
    path = tmp_path / "Tides.html"
    path.write_text("<h1>North quay</h1><p>High at six.</p><h1>Fish quay</h1><p>High at seven.</p>")
    return path


def titles(letters: Letters) -> list[str]:
    return [document.title() for document in letters.window.documents.all]


def row(letters: Letters) -> QWidget:
    found = letters.window.findChild(QWidget, "documents")
    assert found is not None
    return found


def test_a_second_document_leaves_the_first_as_it_is(letters: Letters, other: Path) -> None:
    letters.type("mine")
    assert not row(letters).isVisible()
    letters.do("open", path=str(other), heading="Fish quay")
    assert titles(letters) == ["New letter *", "Tides"]
    assert letters.window.executor.read("here.paragraph") == "Fish quay"
    assert row(letters).isVisible()
    letters.press(Qt.Key.Key_Tab, CTRL)
    assert letters.text == "mine"


def test_an_untouched_document_makes_room(letters: Letters, other: Path) -> None:
    letters.do("open", path=str(other))
    assert titles(letters) == ["Tides"]


def test_a_file_that_is_open_is_gone_to(letters: Letters, other: Path) -> None:
    letters.type("mine")
    letters.do("open", path=str(other))
    letters.do("go-to-document", name="New letter")
    letters.do("open", path=f'"{other}"')
    assert titles(letters) == ["New letter *", "Tides"]
    assert letters.window.document.title() == "Tides"


def test_a_click_on_a_name_works_in_that_document_and_typing_goes_there(
    letters: Letters, other: Path
) -> None:
    letters.type("mine")
    letters.do("open", path=str(other))
    first = row(letters).findChildren(QPushButton)[0]
    QTest.mouseClick(first, Qt.MouseButton.LeftButton)
    letters.type("!")
    assert letters.text == "mine!"


def test_closing_the_last_document_leaves_an_empty_one(letters: Letters, other: Path) -> None:
    letters.do("open", path=str(other))
    letters.do("close")
    assert titles(letters) == ["New letter"]
    assert letters.text == ""


def test_a_template_is_copied_and_never_written_over(letters: Letters, other: Path) -> None:
    letters.do("new-from", path=str(other))
    assert "High at six." in letters.text
    assert letters.document.path is None
    assert titles(letters) == ["New letter"]


def test_a_name_that_is_not_open_is_told_with_those_that_are(letters: Letters) -> None:
    assert not letters.do("go-to-document", name="Lanes")
    assert "Open are: “New letter”." in letters.said


ACROSS = 'write "one"\ndo open path="{path}"\nwrite "two"\n'


def test_a_macro_across_documents_is_one_undo(letters: Letters, other: Path) -> None:
    letters.type("mine ")
    letters.run(ACROSS.format(path=other))
    assert letters.text.startswith("twoNorth quay")
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.text.startswith("North quay")
    letters.do("go-to-document", name="New letter")
    assert letters.text == "mine "
    letters.do("redo")
    assert letters.text == "mine one"
    letters.do("next-document")
    assert letters.text.startswith("twoNorth quay")


def test_undo_refuses_when_another_document_was_edited_since(letters: Letters, other: Path) -> None:
    letters.run(ACROSS.format(path=other))
    letters.type("!")
    letters.do("go-to-document", name="New letter")
    assert not letters.do("undo")
    assert "also changed “Tides”, which has been edited since" in letters.said
    assert letters.text == "one"
    letters.do("next-document")
    letters.do("undo")
    letters.do("undo")
    letters.do("next-document")
    assert letters.text == ""


@pytest.mark.parametrize("end", ["do add-row", 'do go-to-heading name="None"'])
def test_a_failure_takes_everything_back_and_closes_what_was_opened(
    letters: Letters, other: Path, end: str
) -> None:
    letters.type("mine")
    said = letters.run(ACROSS.format(path=other) + 'do new\nwrite "three"\n' + end)
    assert "All was taken back." in said
    assert titles(letters) == ["New letter *"]
    assert letters.text == "mine"


def test_closing_in_a_macro_waits_for_its_last_step(letters: Letters, other: Path) -> None:
    letters.do("open", path=str(other))
    letters.run('do close\nsay "closed"')
    assert titles(letters) == ["New letter"]
