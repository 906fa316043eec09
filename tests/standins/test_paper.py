"""A sheet on paper: every cell's words come out, once, whatever its size; numbers stand at the right."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPageSize, QPdfWriter
from PyQt6.QtPdf import QPdfDocument
from pytestqt.qtbot import QtBot

from rimecrest_standins.grid.paper import Printed, SheetOnPaper
from tests.programs import Grid


def on_paper(path: Path, sheet: SheetOnPaper) -> QPdfDocument:
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    sheet.print(writer)
    del writer
    return opened(path)


def opened(path: Path) -> QPdfDocument:
    document = QPdfDocument(None)
    assert document.load(str(path)) is QPdfDocument.Error.None_
    return document


def words(document: QPdfDocument) -> list[str]:
    return [word for page in range(document.pageCount()) for word in document.getAllText(page).text().split()]


def test_all_rows_and_columns_come_out_on_as_many_pages_as_they_need(qtbot: QtBot, tmp_path: Path) -> None:
    rows = [[Printed(f"r{row}c{column}") for column in range(40)] for row in range(120)]
    document = on_paper(tmp_path / "a.pdf", SheetOnPaper("Week", rows))
    assert Counter(words(document)) == Counter(["Week", *(cell.words for row in rows for cell in row)])
    assert document.pageCount() >= 6
    # Down one part of the columns first, then the next.
    assert "r119c0" in document.getAllText(2).text()


def test_long_words_go_on_in_the_next_line(qtbot: QtBot, tmp_path: Path) -> None:
    long = " ".join(f"word{number}" for number in range(300))
    document = on_paper(tmp_path / "a.pdf", SheetOnPaper("Week", [[Printed(long), Printed("x")]]))
    assert words(document) == ["Week", *long.split(), "x"]
    assert document.pageCount() == 1


WORDS = st.sampled_from(["", "a", "Ovessa", "12 345", "x" * 40, "y" * 300])


@settings(max_examples=25)
@given(
    st.lists(
        st.lists(st.sampled_from(["", "a", "Ovessa", "12 345", "x" * 40]), min_size=3, max_size=3),
        max_size=30,
    )
)
def test_nothing_is_lost(tmp_path_factory: object, qapp: object, rows: list[list[str]]) -> None:
    folder = tmp_path_factory.mktemp("paper")  # type: ignore[attr-defined]
    sheet = SheetOnPaper("Week", [[Printed(cell) for cell in row] for row in rows])
    found = "".join(words(on_paper(folder / "a.pdf", sheet)))
    expected = "Week" + "".join("".join(cell.split()) for row in rows for cell in row)
    assert Counter(found) == Counter(expected)


def test_numbers_stand_at_the_right_and_words_at_the_left(grid: Grid, tmp_path: Path) -> None:
    grid.fill("Ovessa\n7\n")
    grid.do("make-pdf", path=str(tmp_path / "a.pdf"))
    document = opened(tmp_path / "a.pdf")
    text = document.getAllText(0).text()

    def place(word: str) -> QRectF:
        return document.getSelectionAtIndex(0, text.index(word), len(word)).boundingRectangle()

    assert place("Ovessa").left() < place("7").left()
    assert abs(place("7").right() - place("Ovessa").right()) < 3
