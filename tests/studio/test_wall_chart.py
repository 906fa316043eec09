"""The wall chart: what is on it, that its text can be selected, and the command that writes it."""

from __future__ import annotations

from html import escape
from html.parser import HTMLParser
from itertools import combinations
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from rimecrest.core.check.run import check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.studio.wall_chart.content import Chart, ChartKey, ChartPart, chart_of
from rimecrest.studio.wall_chart.html import chart_html, write_html
from rimecrest.studio.wall_chart.pages import TALL, WIDE, Text, pages_of, width_of, wrapped
from rimecrest.studio.wall_chart.pdf import write_pdf
from tests.studio.conftest import Studio


@pytest.fixture
def chart(demo: Workspace) -> Chart:
    return chart_of(demo, check(demo), "grid", "department.freight")


def test_the_keys_are_gathered_by_task_and_the_buttons_by_surface(chart: Chart) -> None:
    tasks = {part.title: [line.keys for line in part.lines] for part in chart.tasks}
    assert tasks["Freight"] == ["Ctrl+J, X"]
    assert tasks["Sums"] == ["Ctrl+J, ["]
    assert "Ctrl+S" in tasks["Every day"]
    buttons = {part.title: [line.words for line in part.lines] for part in chart.buttons}
    assert buttons["Freight"] == ["Next overweight", "Close the booking", "Sum"]
    assert chart.title == "Freight desk · Grid"


def test_the_keyboard_has_the_legend_of_the_country(demo: Workspace) -> None:
    german = chart_of(demo, check(demo), "grid", "department.freight", "de")
    assert german.keyboards[0].caps["AD06"].legend == "Z"
    assert "German keyboard" in german.subtitle
    with pytest.raises(RimecrestError, match="no catalogue of “sums”"):
        chart_of(demo, check(demo), "sums", "organisation")


def test_the_page_is_one_html_file_with_all_words_as_text(chart: Chart, tmp_path: Path) -> None:
    write_html(chart, tmp_path / "chart.html")
    text = (tmp_path / "chart.html").read_text()
    assert text.lower().startswith("<!doctype html>")
    assert text.rstrip().endswith("</html>")
    words: list[str] = []
    parser = HTMLParser()
    parser.handle_data = words.append  # type: ignore[method-assign]
    parser.feed(text)
    said = " ".join(words)
    assert chart.title in said
    assert said.count("Next overweight sailing") == 1 + sum(
        line.words == "Next overweight sailing" for part in chart.buttons for line in part.lines
    )
    assert "Next overweight sailing" in said
    assert "Ctrl+J, X" in said
    assert "src=" not in text
    assert "href=" not in text


def test_words_of_the_office_are_never_markup(demo: Workspace) -> None:
    made = chart_of(demo, check(demo), "grid", "department.freight")
    odd = replace(made, title="<b>Freight & co</b>")
    assert ">&lt;b&gt;Freight &amp; co&lt;/b&gt;</h1>" in chart_html(odd)


def test_the_pdf_has_one_page_and_its_text_can_be_selected(
    chart: Chart, tmp_path: Path, qtbot: QtBot
) -> None:
    assert write_pdf(chart, tmp_path / "chart.pdf") == 1
    document = QPdfDocument(None)
    document.load(str(tmp_path / "chart.pdf"))
    assert document.pageCount() == 1
    text = document.getAllText(0).text()
    assert "Next overweight sailing" in text
    assert "Every day" in text
    size = document.pagePointSize(0)
    assert (round(size.width()), round(size.height())) == (842, 595)


def test_the_words_on_a_cap_are_read_at_arms_length(chart: Chart, tmp_path: Path, qtbot: QtBot) -> None:
    write_pdf(chart, tmp_path / "chart.pdf")
    document = QPdfDocument(None)
    document.load(str(tmp_path / "chart.pdf"))
    at = document.getAllText(0).text().index("sailing")
    box = document.getSelectionAtIndex(0, at, len("sailing")).boundingRectangle()
    millimetres = box.height() * 25.4 / 72
    # From the top of the l to the foot of the g: an em and a little less.
    assert 2.4 < millimetres < 4.5


def test_what_something_blocks_is_told_apart_and_on_no_cap(demo: Workspace) -> None:
    made = chart_of(demo, check(demo), "grid", "organisation")
    assert [(line.keys, line.words) for line in made.withheld] == [("Ctrl+J, [", "Week's weights")]
    printed = [line.keys for part in (*made.tasks, *made.buttons) for line in part.lines]
    assert "Ctrl+J, [" not in printed
    assert "Week's weights" not in {cap.words for drawn in made.keyboards for cap in drawn.caps.values()}
    assert "Week&#39;s weights" in chart_html(made)
    # All seats of the freight desk have such a key.
    assert not chart_of(demo, check(demo), "grid", "department.freight").withheld


def test_only_the_part_of_the_keyboard_that_says_something_is_drawn(demo: Workspace) -> None:
    drawn = chart_of(demo, check(demo), "grid", "department.freight").keyboards[0]
    assert "FK01" not in drawn.geometry.caps
    assert "HOME" not in drawn.geometry.caps
    assert drawn.geometry.width == 15
    layout = demo.layout("department.freight", "grid")
    keys = [
        KeyBinding.model_validate({"keys": f"Ctrl+J, {key}", "in": "cell", "run": "macro:next-overweight"})
        for key in ("F7", "Home")
    ]
    more = demo.with_layout(layout.model_copy(update={"keys": (*layout.keys, *keys)}))
    whole = chart_of(more, check(more), "grid", "department.freight").keyboards[0]
    assert {"FK01", "HOME"} <= set(whole.geometry.caps)


def test_the_first_page_is_full_before_a_second_begins(chart: Chart, tmp_path: Path, qtbot: QtBot) -> None:
    many = tuple(ChartKey(f"Ctrl+{n}", f"Word {n}") for n in range(200))
    assert write_pdf(replace(chart, tasks=(ChartPart("Many", many),)), tmp_path / "chart.pdf") > 1
    document = QPdfDocument(None)
    document.load(str(tmp_path / "chart.pdf"))
    first = document.getAllText(0).text()
    # Three columns of what a keyboard leaves, some seventy millimetres with lines of four or five.
    assert first.count("Word ") >= 3 * 13
    ends = document.getSelectionAtIndex(0, first.rindex("Word "), 5).boundingRectangle()
    assert ends.bottom() > 595 - 12 * 72 / 25.4 - 25


def test_many_keys_take_a_second_page(demo: Workspace, tmp_path: Path, qtbot: QtBot) -> None:
    layout = demo.layout("department.freight", "grid")
    keys = tuple(
        KeyBinding.model_validate(
            {"keys": f"Ctrl+Shift+{letter}", "in": "cell", "run": "macro:next-overweight"}
        )
        for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
    )
    full = demo.with_layout(layout.model_copy(update={"keys": (*layout.keys, *keys)}))
    made = chart_of(full, check(full), "grid", "department.freight")
    assert [drawn.title for drawn in made.keyboards] == ["Holding Ctrl and Shift", "After Ctrl+J"]
    assert write_pdf(made, tmp_path / "chart.pdf") == 2


def test_the_button_asks_for_a_file_and_writes_it(
    studio: Studio, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    target = tmp_path / "freight.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    studio.push("place-keys")
    studio.push("make-chart")
    assert target.read_bytes().startswith(b"%PDF")
    assert str(target) in studio.said
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "no" / "x.html"), ""))
    studio.push("make-chart")
    assert "cannot be written" in studio.said or (tmp_path / "no" / "x.html").exists()


def test_everything_stands_on_its_page_and_no_line_on_another(chart: Chart) -> None:
    many = tuple(
        ChartKey(f"Ctrl+{n}", f"Word {n} of a longer sentence", "What it is for. " * 3) for n in range(90)
    )
    pages = pages_of(replace(chart, tasks=(*chart.tasks, ChartPart("Many", many))))
    assert len(pages) > 1
    for page in pages:
        for mark in page.marks:
            assert mark.x >= 0 <= mark.y
            assert mark.x + mark.width <= WIDE + 0.01, mark
        texts = [mark for mark in page.marks if isinstance(mark, Text)]
        assert all(text.y + text.size <= TALL + 2 for text in texts)
        for one, other in combinations(texts, 2):
            apart = one.x + one.width <= other.x + 0.01 or other.x + other.width <= one.x + 0.01
            assert apart or abs(one.y - other.y) >= min(one.size, other.size) * 0.9, (one, other)


def test_both_files_say_the_same_in_the_same_order(chart: Chart, tmp_path: Path, qtbot: QtBot) -> None:
    write_pdf(chart, tmp_path / "chart.pdf")
    document = QPdfDocument(None)
    document.load(str(tmp_path / "chart.pdf"))
    printed = document.getAllText(0).text()
    page = chart_html(chart)
    texts = [mark for one in pages_of(chart) for mark in one.marks if isinstance(mark, Text) and mark.words]
    assert len(texts) > 60
    at = 0
    for text in texts:
        assert text.words in printed.replace("\r\n", "\n"), text
        at = page.index(f">{escape(text.words).replace('&#x27;', '&#39;')}<", at)


def test_what_is_too_long_for_its_line_ends_in_dots() -> None:
    [line] = wrapped("Antidisestablishmentarianism", 20, 3)
    assert line.endswith("…")
    assert width_of(line, 3) <= 20
    assert wrapped("one two three", 1000, 3) == ["one two three"]
    assert wrapped("one two three four five", 12, 3, most=2)[-1].endswith("…")
    assert wrapped("", 10, 3) == []
