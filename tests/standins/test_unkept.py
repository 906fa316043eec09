"""What a file has and an application does not keep is said when it opens, and is still there afterwards."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import pytest

from tests.programs import Grid, Letters

SPACES = " ".join(
    f'xmlns:{short}="urn:oasis:names:tc:opendocument:xmlns:{name}:1.0"'
    for short, name in (
        *(("office", "office"), ("table", "table"), ("text", "text"), ("style", "style"), ("form", "form")),
        *(("fo", "xsl-fo-compatible"), ("draw", "drawing"), ("dc", "dublin"), ("script", "script")),
    )
)
CELL = '<table:table-cell office:value-type="string"><text:p>Berth</text:p></table:table-cell>'


def spreadsheet(
    path: Path, row: str = CELL, sheet: str = "", body: str = "", style: str = "", **parts: str
) -> Path:
    """An OpenDocument spreadsheet with one row, and something more."""
    content = (
        f'<?xml version="1.0"?><office:document-content {SPACES} office:version="1.3">'
        f"<office:automatic-styles>{style}</office:automatic-styles><office:body><office:spreadsheet>{body}"
        f'<table:table table:name="Plan">{sheet}<table:table-column/><table:table-row>{row}</table:table-row>'
        "</table:table></office:spreadsheet></office:body></office:document-content>"
    )
    kind = "application/vnd.oasis.opendocument.spreadsheet"
    listed = (
        '<?xml version="1.0"?>'
        '<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0">'
        f'<manifest:file-entry manifest:full-path="/" manifest:media-type="{kind}"/>'
        '<manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>'
        "</manifest:manifest>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("mimetype", kind)
        archive.writestr("content.xml", content)
        archive.writestr("META-INF/manifest.xml", listed)
        for name, text in parts.items():
            archive.writestr(name.replace("__", "/"), text)
    path.write_bytes(out.getvalue())
    return path


FEATURES = {
    "a drawing": ({"sheet": "<table:shapes><draw:rect/></table:shapes>"}, "drawings"),
    "a chart": (
        {"row": CELL.replace("</table", "<draw:frame><draw:object/></draw:frame></table", 1)},
        "charts",
    ),
    "validation": (
        {
            "body": '<table:content-validations><table:content-validation table:name="v"/>'
            "</table:content-validations>"
        },
        "rules for what may be entered",
    ),
    "merged cells": (
        {"row": CELL.replace("office:value", 'table:number-columns-spanned="2" office:value', 1)},
        "merged",
    ),
    "a link": ({"row": CELL.replace("Berth", "<text:a>Berth</text:a>")}, "links in cells"),
    "words of one cell": ({"row": CELL.replace("Berth", "B<text:span>e</text:span>rth")}, "part of a cell"),
    "a named range": (
        {"body": "<table:named-expressions><table:named-range/></table:named-expressions>"},
        "named ranges",
    ),
    "a pivot table": ({"body": "<table:data-pilot-tables/>"}, "pivot"),
    "hidden rows": ({"sheet": '<table:table-column table:visibility="collapse"/>'}, "hidden"),
    "protection": (
        {"row": CELL.replace("office:value", 'table:protected="true" office:value', 1)},
        "protection",
    ),
    "form controls": ({"body": "<office:forms><form:form/></office:forms>"}, "form controls"),
    "tracked changes": ({"body": "<table:tracked-changes/>"}, "tracked changes"),
    "font sizes": (
        {
            "style": '<style:style style:name="big" style:family="table-cell">'
            '<style:text-properties fo:font-size="20pt"/></style:style>',
            "row": CELL.replace("office:value", 'table:style-name="big" office:value', 1),
        },
        "formatting",
    ),
    "macros of another program": ({"Basic__Standard__Module1.xml": "<x/>"}, "macros of other programs"),
    "an element that no table mentions": ({"body": "<table:label-ranges/>"}, "label-ranges"),
}


@pytest.mark.parametrize("name", FEATURES)
def test_a_workbook_says_what_it_cannot_keep_and_saves_beside_the_original(
    grid: Grid,
    tmp_path: Path,
    name: str,
) -> None:
    more, words = FEATURES[name]
    path = spreadsheet(tmp_path / "plan.ods", **more)
    before = path.read_bytes()
    assert grid.do("open", path=str(path))
    assert words in grid.said
    assert grid.do("set-cell", to="Quay")
    assert grid.do("save")
    assert path.read_bytes() == before
    assert (tmp_path / "plan (edited).ods").is_file()
    assert "beside" in grid.said


def test_a_workbook_of_which_all_is_kept_is_saved_where_it_is(grid: Grid, tmp_path: Path) -> None:
    path = spreadsheet(tmp_path / "plan.ods")
    assert grid.do("open", path=str(path))
    assert "Not kept" not in grid.said
    assert grid.do("set-cell", to="Quay")
    assert grid.do("save")
    assert [each.name for each in tmp_path.iterdir()] == ["plan.ods"]


def test_what_grid_saved_itself_is_kept_whole(grid: Grid, tmp_path: Path) -> None:
    path = tmp_path / "own.ods"
    grid.fill("Berth Vessel\n1 Ovessa")
    for verb in ("select-all", "embolden", "draw-borders", "write-note"):
        grid.do(verb)
    assert grid.do("save-as", path=str(path))
    assert grid.do("open", path=str(path))
    assert "Not kept" not in grid.said


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ("<form><input></form>", "form fields"),
        ("<script>x</script>", "scripts"),
        ('<img src="picture.png">', "pictures in other files"),
        ("<svg></svg>", "drawings"),
        ("<!-- a remark -->", "comments"),
        ("<video></video>", "video"),
        ("<marquee>x</marquee>", "marquee"),
    ],
)
def test_a_letter_says_what_it_cannot_keep_and_saves_beside_the_original(
    letters: Letters,
    tmp_path: Path,
    body: str,
    words: str,
) -> None:
    path = tmp_path / "notice.html"
    path.write_text(f"<html><body><p>Sailing</p>{body}</body></html>")
    before = path.read_bytes()
    assert letters.do("open", path=str(path))
    assert words in letters.said
    letters.type("x")
    assert letters.do("save")
    assert path.read_bytes() == before
    assert (tmp_path / "notice (edited).html").is_file()


def test_what_letters_saved_itself_is_kept_whole(letters: Letters, tmp_path: Path) -> None:
    path = tmp_path / "own.html"
    letters.type("Sailing")
    for verb in ("select-all", "embolden"):
        letters.do(verb)
    assert letters.do("insert-table", rows="2", columns="2")
    assert letters.do("save-as", path=str(path))
    assert letters.do("open", path=str(path))
    assert "Not kept" not in letters.said
