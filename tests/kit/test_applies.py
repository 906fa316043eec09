"""A layout for some documents only: it comes and goes with the document that is worked in."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import Qt

from rimecrest.kit.documents.file_document import in_a_file
from tests.programs import CTRL, Grid, Letters

LAYOUT: dict[str, Any] = {
    "applies": {"templates": ["notice"]},
    "toolbars": [{"id": "bar", "title": "Bar", "items": [{"id": "rule", "run": "letters:insert-rule"}]}],
    "keys": [{"keys": "Ctrl+J", "in": "writing", "run": "macro:greet"}],
}
GREET = 'macro "Greet"\nfor letters\n\nwrite "Dear all"\n'


def bars(letters: Letters) -> list[str]:
    return [bar.id for bar in letters.window.outcome.toolbars if bar.layer == "organisation"]


@pytest.fixture
def template(letters: Letters, tmp_path: Path) -> Path:
    """A file that letters begin from."""
    path = tmp_path / "notice.html"
    letters.type("Notice")
    assert letters.do("save-as", path=str(path)), letters.said
    return path


def test_surfaces_and_keys_come_with_a_letter_made_from_the_template(
    letters: Letters, template: Path
) -> None:
    letters.use(LAYOUT, greet=GREET)
    assert bars(letters) == []
    letters.press(Qt.Key.Key_J, CTRL)
    assert letters.text == "Notice"
    assert letters.do("new-from", path=str(template)), letters.said
    assert bars(letters) == ["organisation:bar"]
    letters.press(Qt.Key.Key_J, CTRL)
    letters.qtbot.waitUntil(lambda: "Dear all" in letters.window.document.widget.toPlainText())
    assert letters.do("next-document")
    assert bars(letters) == []
    assert letters.do("next-document")
    assert bars(letters) == ["organisation:bar"]


def test_a_saved_letter_still_knows_its_template(letters: Letters, template: Path, tmp_path: Path) -> None:
    letters.use(LAYOUT, greet=GREET)
    assert letters.do("new-from", path=str(template)), letters.said
    assert in_a_file(letters.window.document).path is None
    mine, sent = tmp_path / "mine.html", tmp_path / "sent.html"
    assert letters.do("save-as", path=str(mine)), letters.said
    assert letters.do("save-for-sending", path=str(sent)), letters.said
    assert "rimecrest-template" not in sent.read_text("utf-8")
    assert letters.do("close")
    assert letters.do("open", path=str(mine)), letters.said
    assert in_a_file(letters.window.document).template == "notice"
    assert bars(letters) == ["organisation:bar"]
    assert letters.do("open", path=str(sent)), letters.said
    assert bars(letters) == []


def test_a_letter_from_a_template_is_not_thrown_away_by_the_next_one(
    letters: Letters, template: Path
) -> None:
    assert letters.do("new-from", path=str(template)), letters.said
    assert letters.do("new"), letters.said
    assert [document.template for document in map(in_a_file, letters.window.documents.all)].count(
        "notice"
    ) == 1


def test_a_letter_saved_into_a_folder_has_what_is_for_that_folder(letters: Letters, tmp_path: Path) -> None:
    letters.use({**LAYOUT, "applies": {"folders": [str(tmp_path / "freight")]}}, greet=GREET)
    assert bars(letters) == []
    (tmp_path / "freight").mkdir()
    letters.type("x")
    assert letters.do("save-as", path=str(tmp_path / "freight" / "a.html")), letters.said
    assert bars(letters) == ["organisation:bar"]
    assert letters.do("save-as", path=str(tmp_path / "b.html")), letters.said
    assert bars(letters) == []


def test_a_workbook_keeps_what_it_was_made_from(grid: Grid, tmp_path: Path) -> None:
    template = tmp_path / "sailing-sheet.ods"
    grid.type("1")
    assert grid.do("save-as", path=str(template)), grid.said
    assert grid.do("new-from", path=str(template)), grid.said
    mine = tmp_path / "mine.ods"
    assert grid.do("save-as", path=str(mine)), grid.said
    assert grid.do("close")
    assert grid.do("open", path=str(mine)), grid.said
    assert in_a_file(grid.window.document).template == "sailing-sheet"
