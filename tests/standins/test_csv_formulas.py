"""What looks like a formula in a CSV file: kept as text where we know none, written as text for others."""

from __future__ import annotations

import csv
import io
import math
import random

import pytest

from rimecrest_standins.grid.book import Book, Cell, Look
from rimecrest_standins.grid.files import csv_text, read_csv, run_elsewhere
from rimecrest_standins.grid.reckoner import Reckoner
from tests.hostile.seeds import SEED

BEGINS = ("=", "@", "+", "-", "\t", "\r", "==", "=-", "+ ", "=+")
BODIES = (
    'HYPERLINK("http://vessry.example","x")', "cmd|'/C calc'!A0", "SUM(1+1)", "1+1", "2+3", "A1", "words",
    "IMPORT(A1)", "1,5", "12 %", "49 30 1234", "", "(1", "SUM(A1:A3)", "1;2", "é", '"x"',
)  # fmt: skip


def texts(number: int) -> list[str]:
    dice = random.Random(SEED * 1000 + number)
    return [dice.choice((*BEGINS, "", "7")) + dice.choice(BODIES) for _ in range(20)]


@pytest.mark.parametrize("number", range(50))
def test_what_is_no_formula_of_ours_comes_back_as_it_was(number: int) -> None:
    out = io.StringIO()
    unknown = [each for each in texts(number) if each.startswith("=") and ("cmd" in each or "HYPER" in each)]
    csv.writer(out).writerows([each, "7"] for each in (*unknown, "=HYPERLINK(1)", "=cmd|'x'!A0"))
    (sheet,) = read_csv(out.getvalue())
    book = Book(lambda _: None, sheets=[sheet])
    assert csv_text(sheet, Reckoner(book)) == out.getvalue()
    assert not any(cell.is_formula for row in sheet.rows for cell in row.values())


def test_a_formula_of_ours_is_one() -> None:
    (sheet,) = read_csv('"=SUM(A2:A3)"\n1\n2\n')
    assert sheet.formulas == 1


def is_number(text: str) -> bool:
    plain = text[1:].replace(",", ".").rstrip("% ").strip()
    try:
        return not plain or math.isfinite(float(plain))
    except ValueError:
        return False


@pytest.mark.parametrize("number", range(100))
def test_as_text_nothing_begins_as_a_formula_elsewhere(number: int) -> None:
    written = [each for each in texts(number) if each]
    book = Book(lambda _: None)
    look = Look(form="text")
    book.splice(book.sheets[0], 0, 0, [{0: Cell(each, look), 1: Cell("-7")} for each in written])
    sheet = book.sheets[0]
    runs = [each[0] in "=@\t\r" or (each[0] in "+-" and not is_number(each)) for each in written]
    expected = [[f"'{each}" if run else each, "-7"] for each, run in zip(written, runs, strict=True)]
    made = csv_text(sheet, Reckoner(book), as_text=True)
    assert list(csv.reader(io.StringIO(made, newline=""))) == expected
    assert run_elsewhere(sheet) == [f"A{row}" for row, run in enumerate(runs, 1) if run]


def test_a_formula_that_makes_such_a_text_is_named() -> None:
    book = Book(lambda _: None)
    book.splice(book.sheets[0], 0, 0, [{0: Cell('="=1+1"'), 1: Cell("=SUM(1)")}])
    assert run_elsewhere(book.sheets[0]) == ["A1"]
    assert csv_text(book.sheets[0], Reckoner(book), as_text=True) == "'=1+1,1\r\n"
