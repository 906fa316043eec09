"""Letters opens what it saved, and of what is beyond its bounds it shows the words.

The bounds are a twentieth of what they are, so that a test beyond them takes no longer.
"""

from __future__ import annotations

import random
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, Qt
from PyQt6.QtWidgets import QApplication

from rimecrest_standins.formatted_text import bounds, html_bounds, text_bounds
from tests.hostile.seeds import SEED
from tests.programs import Letters

SMALL = {
    "LONGEST_TEXT": 20_000,
    "MOST_LINES": 400,
    "LONGEST_LINE": 6_000,
    "MOST_UNBROKEN": 3_000,
    "MOST_CELLS": 200,
}


@pytest.fixture(autouse=True)
def small_bounds(monkeypatch: pytest.MonkeyPatch) -> None:
    for name, bound in SMALL.items():
        for module in (text_bounds, html_bounds, bounds):
            monkeypatch.setattr(module, name, bound, raising=hasattr(module, name))


PIECES = (
    lambda dice: "x" * dice.choice((10, 999, 1_500, 2_999, 3_500)),
    lambda dice: "word " * dice.choice((5, 100, 1_300)),
    lambda dice: "a line\n" * dice.choice((3, 90, 390, 500)),
    lambda dice: "漢字かな混じり文" * dice.choice((5, 300, 700)),
    lambda dice: "aB3/+x9Q" * dice.choice((100, 370, 400)),
    lambda dice: "\u00a0" * dice.choice((3, 2_000)),
    lambda dice: "<table>&amp;" * 20,
)


def pasted(letters: Letters, text: str, page: bool) -> None:
    data = QMimeData()
    data.setText(text)
    if page:
        cells = "".join(f"<td><b>{word}</b></td>" for word in text.split()[:12]) or "<td>x</td>"
        data.setHtml(f"<p>{text}</p><table>{f'<tr>{cells}</tr>' * (len(text) % 30)}</table>")
    QApplication.clipboard().setMimeData(data)
    letters.do("paste")
    QApplication.clipboard().clear()


@pytest.mark.parametrize("number", range(100))
def test_what_was_written_here_opens_here_again(letters: Letters, tmp_path: Path, number: int) -> None:
    dice = random.Random(SEED * 1000 + number)
    document = letters.document
    for _ in range(dice.randint(1, 12)):
        text = dice.choice(PIECES)(dice)
        before, depth = letters.text, document.undo.depth
        letters.window.frame.say("")
        match dice.randrange(6):
            case 0:
                document.page.typed.emit(text)
            case 1 | 2:
                pasted(letters, text, page=dice.random() < 0.5)
            case 3:
                letters.do("insert-table", rows=str(dice.randint(1, 30)), columns=str(dice.randint(1, 12)))
            case 4:
                letters.do("embolden")
            case _:
                letters.do("select-all")
                letters.do(dice.choice(("copy", "cut", "embolden", "capitals")))
                if dice.random() < 0.8:
                    letters.press(Qt.Key.Key_End)
        if "A text has at most" in letters.said:
            assert (letters.text, document.undo.depth) == (before, depth)
    text = letters.text
    path = tmp_path / "letter.html"
    letters.do("save-as", path=str(path))
    assert path.exists()
    again = tmp_path / "again.html"
    again.write_bytes(path.read_bytes())
    letters.do("open", path=str(again))
    assert letters.document.path == again
    assert letters.document.unkept == ()
    # The toolkit's own reading puts an empty line beside some tables.
    assert letters.text.split() == text.split()


BEYOND = {
    "characters": "<p>" + "word " * 5_000 + "</p>",
    "lines": "<p>line</p>" * 401,
    "a line": "<p>" + "word " * 1_300 + "</p>",
    "a word": "<p>" + "x" * 3_001 + "</p>",
    "a word of pieces": "<p>" + "<b>x</b>" * 3_001 + "</p>",
    "cells": "<table><tr>" + "<td>cell</td>" * 201 + "</tr></table>",
    "spans": "<table>" + '<tr><td colspan="50">cell</td></tr>' * 5 + "</table>",
    "tables": "<table><tr><td>" * 8 + "cell" + "</td></tr></table>" * 8,
    "styles": "<style>" + "p b { color: red }\n" * 6_000 + "</style>" + "<p>word</p>" * 2_000,
    "open comments": "<!-- " * 3_000 + "word",
    "open marks": "<a " * 3_000 + "word",
    "deep": "<div>" * 20_000 + "word",
}


@pytest.mark.parametrize("page", BEYOND.values(), ids=BEYOND.keys())
def test_of_what_is_beyond_a_bound_the_words_are_shown_and_the_file_stays(
    letters: Letters, tmp_path: Path, page: str
) -> None:
    path = tmp_path / "letter.html"
    path.write_text(page)
    letters.do("open", path=str(path))
    letters.document.widget.grab()
    assert any(word in letters.text for word in ("word", "line", "xxx", "cell"))
    assert "Not kept of “letter”: its look (this text has more than " in letters.said
    letters.do("select-all")
    letters.type("Mine")
    letters.do("save")
    assert path.read_text() == page
    assert "Mine" in (tmp_path / "letter (edited).html").read_text()


def test_a_letter_of_too_many_elements_is_saved_and_says_what_opening_it_will_show(
    letters: Letters, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for module in (text_bounds, html_bounds):
        monkeypatch.setattr(module, "MOST_ELEMENTS", 60)
    path = tmp_path / "letter.html"
    letters.do("save-as", path=str(path))
    letters.document.page.typed.emit("word word")
    letters.do("insert-table", rows="9", columns="9")
    letters.do("save")
    assert "Opened again, it shows its words without their look." in letters.said
    other = tmp_path / "again.html"
    other.write_bytes(path.read_bytes())
    letters.do("open", path=str(other))
    assert letters.text.startswith("word word")
    assert "its look (this text has more than 60 elements)" in letters.said
    letters.type("x")
    letters.do("save")
    assert other.read_bytes() == path.read_bytes()


def test_a_letter_that_is_beyond_a_bound_can_be_made_less(
    letters: Letters, monkeypatch: pytest.MonkeyPatch
) -> None:
    letters.document.page.typed.emit("word\n" * 20)
    monkeypatch.setattr(bounds, "MOST_LINES", 5)
    letters.type("x")
    assert "A text has at most 5 lines." in letters.said
    letters.do("delete-character-before")
    assert letters.text == "word\n" * 19 + "word"
