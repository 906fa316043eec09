"""Workbooks from outside, and cells far out: bounded before they are believed."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest_standins.grid.book import MOST_COLUMNS, MOST_ROWS, Book, Cell, Sheet, cell_name
from rimecrest_standins.grid.files import MOST_UNPACKED, csv_text, read_csv, read_spreadsheet
from rimecrest_standins.grid.formulas import read_formula
from rimecrest_standins.grid.reckoner import Reckoner
from rimecrest_standins.grid.references import (
    copied,
    from_open_formula,
    renamed,
    split_reference,
    to_open_formula,
)
from rimecrest_standins.grid.spreadsheet_writing import spreadsheet_bytes
from tests.programs import Grid


def content_of(inner: str) -> str:
    spaces = " ".join(
        f'xmlns:{name}="urn:oasis:names:tc:opendocument:xmlns:{space}:1.0"'
        for name, space in (("office", "office"), ("table", "table"), ("text", "text"), ("style", "style"))
    )
    tag = "office:document-content"
    return f'<?xml version="1.0"?><{tag} {spaces} office:version="1.3">{inner}</{tag}>'


def sheet_of(rows: str, styles: str = "") -> str:
    sheet = f'<table:table table:name="S">{rows}</table:table>'
    body = f"<office:body><office:spreadsheet>{sheet}</office:spreadsheet></office:body>"
    return content_of(f"<office:automatic-styles>{styles}</office:automatic-styles>{body}")


def workbook(path: Path, content: str | bytes) -> Path:
    """An .ods with this content.xml, otherwise sound."""
    with zipfile.ZipFile(io.BytesIO(spreadsheet_bytes([Sheet("S")], Reckoner(Book(print))))) as sound:
        parts = {name: sound.read(name) for name in sound.namelist()}
    parts["content.xml"] = content.encode() if isinstance(content, str) else content
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in parts.items():
            archive.writestr(name, data)
    return path


def one_cell(attributes: str, words: str = "x") -> str:
    cell = f"<table:table-cell {attributes}><text:p>{words}</text:p></table:table-cell>"
    return f"<table:table-row>{cell}</table:table-row>"


# What a file says of itself


ODD = {
    "width": (sheet_of(one_cell(""), '<style:style style:name="co1" style:family="table-column">'
              '<style:table-column-properties style:column-width="abccm"/></style:style>'), "x"),
    "repeated abc": (sheet_of(one_cell('table:number-columns-repeated="abc"')), "x"),
    "repeated less than once": (sheet_of(one_cell('table:number-columns-repeated="-3"')), "x"),
    "infinite": (sheet_of(one_cell('office:value-type="float" office:value="INF"', "∞")), "∞"),
    "no number": (sheet_of(one_cell('office:value-type="float" office:value="²"', "²")), "²"),
    "percent": (sheet_of(one_cell('office:value-type="percentage" office:value="nan"', "n")), "n"),
    "huge": (sheet_of(one_cell(f'office:value-type="float" office:value="{"9" * 400}"', "9…")), "9…"),
}  # fmt: skip


@pytest.mark.parametrize(("content", "shows"), ODD.values(), ids=ODD.keys())
def test_an_odd_value_is_read_as_its_words(tmp_path: Path, content: str, shows: str) -> None:
    sheet = read_spreadsheet(workbook(tmp_path / "a.ods", content)).sheets[0]
    assert sheet.cell(0, 0).written == shows


def test_ten_thousand_million_repeated_cells_are_not_believed(tmp_path: Path) -> None:
    many = 'table:number-columns-repeated="10000000000"'
    rows = one_cell(many).replace("-row>", '-row table:number-rows-repeated="10000000000">', 1)
    content = sheet_of(rows + one_cell(""))
    opened = read_spreadsheet(workbook(tmp_path / "a.ods", content))
    assert opened.lost == ("rows beyond the last that fits",)
    wide = sheet_of("".join(one_cell(many, f"{n}") for n in range(400)))
    opened = read_spreadsheet(workbook(tmp_path / "b.ods", wide))
    assert "rows beyond the last that fits" in opened.lost
    assert 0 < opened.sheets[0].height < 400


def test_what_unpacks_to_far_more_is_told_before_it_is_unpacked(tmp_path: Path) -> None:
    path = workbook(tmp_path / "a.ods", b" " * (MOST_UNPACKED + 1))
    assert path.stat().st_size < 2_000_000
    with pytest.raises(RimecrestError, match="holds 256 MiB when unpacked"):
        read_spreadsheet(path)


def test_nesting_without_end_is_told(tmp_path: Path) -> None:
    deep = "<text:span>" * 30_000 + "x" + "</text:span>" * 30_000
    with pytest.raises(RimecrestError, match="no OpenDocument spreadsheet, or is damaged"):
        read_spreadsheet(workbook(tmp_path / "a.ods", sheet_of(one_cell("", deep))))


def test_entities_that_double_are_told(tmp_path: Path) -> None:
    doubling = "".join(f'<!ENTITY e{n + 1} "&e{n};&e{n};">' for n in range(40))
    content = sheet_of(one_cell("", "&e40;")).replace(
        "?>", f'?><!DOCTYPE x [<!ENTITY e0 "xx">{doubling}]>', 1
    )
    with pytest.raises(RimecrestError, match="no OpenDocument spreadsheet, or is damaged"):
        read_spreadsheet(workbook(tmp_path / "a.ods", content))


ROWS = sheet_of("".join(one_cell("", f"row {n}") for n in range(1000)))


@settings(max_examples=40)
@given(st.floats(0.1, 0.999))
def test_a_file_that_was_cut_off_is_refused_not_half_read(
    tmp_path_factory: pytest.TempPathFactory, share: float
) -> None:
    folder = tmp_path_factory.mktemp("cut")
    cut = ROWS.encode()[: int(len(ROWS) * share)]
    with pytest.raises(RimecrestError):
        read_spreadsheet(workbook(folder / "a.ods", cut))
    whole = workbook(folder / "b.ods", ROWS).read_bytes()
    (folder / "c.ods").write_bytes(whole[: int(len(whole) * share)])
    with pytest.raises(RimecrestError):
        read_spreadsheet(folder / "c.ods")


@pytest.mark.parametrize("content", ['a,"' + "x" * 200_000, "a\0b\n" * 3, '"' * 150_001])
def test_values_that_cannot_be_read_are_told_or_read(grid: Grid, tmp_path: Path, content: str) -> None:
    path = tmp_path / "a.csv"
    path.write_text(content)
    if not grid.window.dispatcher.perform("grid:open", {"path": str(path)}):
        assert "cannot be read" in grid.said


# Formulas


NASTY = st.lists(
    st.sampled_from(
        ["'", '"', "''", '""', "[", "]", ".", "$", "A", "A1", "(", ")", ":", "=", "'a", "!", " "]
    ),
    max_size=60,
).map("".join)


@settings(max_examples=300)
@given(NASTY, st.integers(1, 60))
def test_no_formula_takes_longer_than_its_length(piece: str, times: int) -> None:
    """A pattern that tries every way to split what it read would not come back from these."""
    for text in (piece * times, "'" * times + piece, piece + '"' * times, "['" * times + piece):
        formula = f"={text}"[:4000]
        read_formula(formula)
        copied(formula, 1, 1)
        renamed(formula, "a", "b")
        to_open_formula(formula)
        from_open_formula(f"of:{formula}")
        split_reference(formula)


@pytest.mark.parametrize("formula", ["=" + '"' * 61, "=" + "'" * 61, "=['" + "''" * 60, "=" + "'a''" * 60])
def test_sixty_quotes_are_read_at_once(formula: str) -> None:
    from_open_formula(f"of:{formula}")
    to_open_formula(formula)
    read_formula(formula)


@pytest.mark.parametrize(
    "formula",
    ["=A1*10", "=SUM(A1:A9)", "=A1*A1", "=1/(A1*A1)", "=AVERAGE(A1;A1)", "=-A1*A1", "=" + "9" * 400],
)
def test_what_becomes_too_large_is_an_error_value_and_the_workbook_is_saved(
    grid: Grid, tmp_path: Path, formula: str
) -> None:
    huge = "1" + "0" * 299
    for row in range(1, 10):
        grid.go(f"A{row}")
        grid.do("insert-values", text=huge)
    grid.go("B1")
    grid.do("insert-values", text=formula)
    path = tmp_path / "a.ods"
    grid.do("save-as", path=str(path))
    grid.do("save-values", path=str(tmp_path / "a.csv"))
    assert read_spreadsheet(path).sheets[0].cell(0, 1).written.startswith("=")


# Cells far out


def far_out(grid: Grid, row: int, column: int) -> None:
    grid.go(cell_name(row, column))
    grid.do("insert-values", text="x")


def test_a_cell_in_the_last_row_and_column_is_saved_and_read_back(grid: Grid, tmp_path: Path) -> None:
    far_out(grid, MOST_ROWS - 1, MOST_COLUMNS - 1)
    path = tmp_path / "a.ods"
    grid.do("save-as", path=str(path))
    assert path.stat().st_size < 20_000
    sheet = read_spreadsheet(path).sheets[0]
    assert (sheet.height, sheet.breadth) == (MOST_ROWS, MOST_COLUMNS)
    assert sheet.cell(MOST_ROWS - 1, MOST_COLUMNS - 1).written == "x"


def test_as_values_its_rows_end_at_their_last_cell() -> None:
    sheet, book = Sheet("S"), Book(print)
    sheet._replace(0, 0, [{0: Cell("a")}] + [{}] * 999 + [{MOST_COLUMNS - 1: Cell("x")}])
    text = csv_text(sheet, Reckoner(book))
    assert len(text) < 30_000
    assert read_csv(text)[0].cell(1000, MOST_COLUMNS - 1).written == "x"


def test_on_paper_too_many_cells_are_told_and_a_block_of_them_comes_out(grid: Grid, tmp_path: Path) -> None:
    far_out(grid, 2000, 1000)
    assert not grid.window.dispatcher.perform("grid:make-pdf", {"path": str(tmp_path / "a.pdf")})
    assert "2,003,001 cells are too many for paper. Select the cells" in grid.said
    assert not (tmp_path / "a.pdf").exists()
    grid.go(cell_name(1990, 998))
    grid.do("select-block", down="10", right="2")
    grid.do("make-pdf", path=str(tmp_path / "a.pdf"))
    assert (tmp_path / "a.pdf").stat().st_size < 100_000


@settings(max_examples=60)
@given(
    st.dictionaries(
        st.tuples(st.integers(0, 30), st.integers(0, 12)),
        st.sampled_from(["a", "1", "=A1", "2%"]),
        max_size=12,
    ),
    st.dictionaries(st.integers(0, 20), st.integers(20, 300), max_size=4),
)
def test_whatever_stands_where_is_read_back_as_it_was(
    tmp_path_factory: pytest.TempPathFactory, cells: dict[tuple[int, int], str], widths: dict[int, int]
) -> None:
    sheet = Sheet("S")
    height = max((row for row, _ in cells), default=-1) + 1
    rows: list[dict[int, Cell]] = [{} for _ in range(height)]
    for (row, column), written in cells.items():
        rows[row][column] = Cell(written)
    sheet._replace(0, 0, rows)
    sheet.widths = dict(widths)
    book = Book(print)
    book.sheets = [sheet]
    path = tmp_path_factory.mktemp("back") / "a.ods"
    path.write_bytes(spreadsheet_bytes([sheet], Reckoner(book)))
    again = read_spreadsheet(path).sheets[0]
    assert [dict(row) for row in again.rows] == rows
    assert again.widths.keys() == widths.keys()
    assert all(abs(again.widths[at] - width) <= 1 for at, width in widths.items())
