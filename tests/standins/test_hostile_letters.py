"""Letters from outside: nothing they name is read, nothing in them hangs the window."""

from __future__ import annotations

import base64
import os
import struct
import zlib
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QMimeData, QSize
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import RimecrestError
from rimecrest_standins.formatted_text.html_bounds import DEEPEST, DEEPEST_TABLES, check_page
from rimecrest_standins.formatted_text.text_bounds import MOST_UNBROKEN
from rimecrest_standins.formatted_text.view import picture_in
from rimecrest_standins.letters.carried_reader import read_carried
from rimecrest_standins.letters.pages import PagesDialog
from tests.programs import Letters

PINK = QColor(255, 0, 200)
DOT = (
    "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP4z8BwHwAFAAH/q842iQAAAABJRU5E"
    "rkJggg=="
)


def pink_picture(path: Path) -> Path:
    image = QImage(200, 200, QImage.Format.Format_RGB32)
    image.fill(PINK)
    assert image.save(str(path))
    return path


def pink_in(image: QImage) -> bool:
    points = ((x, y) for x in range(0, image.width(), 9) for y in range(0, image.height(), 9))
    return any(image.pixelColor(x, y) == PINK for x, y in points)


def opened(letters: Letters, folder: Path, page: str) -> None:
    (folder / "letter.html").write_text(page)
    letters.do("open", path=str(folder / "letter.html"))
    letters.window.resize(900, 700)
    letters.window.show()


NAMED = [
    '<p><img src="{path}" width="150" height="150"></p>',
    '<p><img src="file://{path}" width="150" height="150"></p>',
    '<p><img src="pink.png" width="150" height="150"></p>',
    '<body background="{path}"><p>x</p></body>',
    '<table background="{path}"><tr><td>x</td></tr></table>',
    '<table style="background-image: url({path})"><tr><td background="{path}">x</td></tr></table>',
    '<p style="background-image: url(file://{path})">x</p>',
    '<ul style="list-style-image: url({path})"><li>x</li></ul>',
]


@pytest.mark.parametrize("page", NAMED)
def test_a_picture_that_a_letter_names_is_not_read_on_the_screen_on_pages_or_paper(
    letters: Letters, tmp_path: Path, page: str
) -> None:
    path = pink_picture(tmp_path / "pink.png")
    opened(letters, tmp_path, page.format(path=path))
    assert not pink_in(letters.document.widget.grab().toImage())
    pages = PagesDialog(letters.document.widget.document(), "x", letters.window)
    pages.show()
    QApplication.processEvents()
    assert not pink_in(pages.grab().toImage())
    pages.close()
    letters.do("make-pdf", path=str(tmp_path / "x.pdf"))
    paper = QPdfDocument(None)
    paper.load(str(tmp_path / "x.pdf"))
    assert not pink_in(paper.render(0, QSize(800, 1100)))


def test_a_picture_in_the_letter_itself_is_shown(letters: Letters, tmp_path: Path) -> None:
    opened(letters, tmp_path, f'<p><img src="{DOT}" width="150" height="150"></p>')
    image = letters.document.widget.grab().toImage()
    white = QColor("white")
    assert any(image.pixelColor(x, 60) != white for x in range(60, 200, 5))


@pytest.mark.parametrize("rule", ['@import "{path}";', '@import url("file://{path}");'])
def test_a_style_sheet_that_a_letter_names_is_not_read(letters: Letters, tmp_path: Path, rule: str) -> None:
    path = tmp_path / "style.css"
    path.write_text("p { color: #ff00c8 }")
    linked = f'<link rel="stylesheet" type="text/css" href="{path}">'
    page = f"<head>{linked}<style>{rule.format(path=path)}</style></head><p>Dear all</p>"
    opened(letters, tmp_path, page)
    letters.choose(2, 2)
    assert letters.document.cursor().charFormat().foreground().color() != PINK


def test_a_pipe_or_an_endless_device_that_a_letter_names_does_not_hang(
    letters: Letters, tmp_path: Path
) -> None:
    os.mkfifo(tmp_path / "pipe")
    for name in (tmp_path / "pipe", Path("/dev/zero")):
        head = f'<head><link rel="stylesheet" type="text/css" href="{name}"></head>'
        body = f'<body background="{name}"><p><img src="{name}">Dear all</p></body>'
        opened(letters, tmp_path, head + body)
        letters.document.widget.grab()
    assert "Dear all" in letters.text


BEYOND = "<table><tr><td>" * (DEEPEST_TABLES + 1) + "x"


def test_pasted_it_is_refused_as_well(letters: Letters) -> None:
    data = QMimeData()
    data.setHtml(BEYOND)
    QApplication.clipboard().setMimeData(data)
    assert not letters.window.dispatcher.perform("letters:paste")
    assert "tables within one another" in letters.said
    QApplication.clipboard().clear()


def test_a_plain_text_with_an_endless_word_is_shown_in_pieces_and_the_file_stays(
    letters: Letters, tmp_path: Path
) -> None:
    path = tmp_path / "letter.txt"
    path.write_text("x" * (MOST_UNBROKEN + 1))
    letters.do("open", path=str(path))
    assert letters.text.replace(" ", "") == path.read_text()
    assert "Not kept of “letter”" in letters.said
    letters.type("y")
    letters.do("save")
    assert path.read_text() == "x" * (MOST_UNBROKEN + 1)


WITHIN = {
    "unclosed paragraphs": "<p>x" * 2000,
    "unclosed items": "<ul>" + "<li>x" * 2000 + "</ul>",
    "unclosed cells": "<table>" + "<tr><td>x<td>y" * 500 + "</table>",
    "line breaks": "x<br>" * 2000,
    "deep": "<div>" * (DEEPEST - 1) + "x",
    "tables": "<table><tr><td>" * DEEPEST_TABLES + "x",
    "long": "<p>" + "word " * 20_000 + "</p>",
    "ends of nothing": "</p></b></table>" * 500 + "x",
    "marked": "<![foo[x]]><p>x</p><![CDATA[y]]><!foo>",
}


@pytest.mark.parametrize("page", WITHIN.values(), ids=WITHIN.keys())
def test_what_is_only_untidy_is_shown(letters: Letters, tmp_path: Path, page: str) -> None:
    opened(letters, tmp_path, page)
    assert "x" in letters.text or "word" in letters.text


PIECES = st.sampled_from(
    (
        *(
            "<",
            ">",
            "</",
            "<!",
            "<![",
            "<!--",
            "--",
            "]]>",
            "<p>",
            "</p>",
            "<table>",
            "<td",
            " colspan=",
            "'",
        ),
        *(
            '"',
            "&",
            "&#",
            "x",
            "script",
            "<script>",
            "</script",
            "\0",
            "é",
            "<?",
            "?>",
            "=",
            "9" * 30,
            "[foo[",
        ),
    )
)


@given(st.lists(PIECES, max_size=40).map("".join))
def test_any_page_is_read_or_refused_by_a_sentence(page: str) -> None:
    try:
        check_page(page)
    except RimecrestError as error:
        assert "This text has more than" in str(error)  # noqa: PT017 (most pages are read)
    read_carried(page)


BOMB = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">'
    '<g id="a0"><rect/></g>'
    + "".join(f'<g id="a{n + 1}">' + f'<use xlink:href="#a{n}"/>' * 10 + "</g>" for n in range(12))
    + '<use xlink:href="#a12"/></svg>'
)


@pytest.mark.parametrize(
    "address",
    [
        "data:image/svg+xml," + BOMB.replace("#", "%23").replace('"', "'"),
        "data:image/png;base64,AAAA",
        "data:image/png;base64,%%%",
        "data:image/png;base64," + "A" * 100_000,
        "data:text/html,<p>x</p>",
        "data:,",
        "data:",
        "http://127.0.0.1:9/x.png",
        "//host/share/x.png",
        "qrc:/x.png",
    ],
)
def test_what_is_no_picture_of_pixels_in_the_letter_is_an_empty_frame(
    letters: Letters, tmp_path: Path, address: str
) -> None:
    opened(letters, tmp_path, f'<p><img src="{address}">Dear all</p>')
    letters.document.widget.grab()
    assert "Dear all" in letters.text


def test_a_picture_of_too_many_pixels_is_told_by_its_header(letters: Letters, tmp_path: Path) -> None:
    def chunk(kind: bytes, data: bytes) -> bytes:
        checked = kind + data
        return struct.pack(">I", len(data)) + checked + struct.pack(">I", zlib.crc32(checked))

    header = struct.pack(">IIBBBBB", 20_000, 20_000, 1, 0, 0, 0, 0)
    body = zlib.compress(b"\0" * (20_000 * 2_501))
    png = b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", body) + chunk(b"IEND", b"")
    assert picture_in("data:image/png;base64," + base64.b64encode(png).decode()) is None
