"""Formulas: worked out, kept right when cells move, never an exception."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest_standins.grid.book import Book, Cell, cell_name
from rimecrest_standins.grid.formulas import Failure, shown
from rimecrest_standins.grid.reckoner import Reckoner
from rimecrest_standins.grid.references import copied, from_open_formula, renamed, spliced, to_open_formula


def book_of(*rows: str) -> Book:
    """A book with one sheet: cells between bars."""
    book = Book(lambda patch: None)
    for number, row in enumerate(rows):
        for column, written in enumerate(row.split("|")):
            if written.strip():
                book.put(book.sheets[0], number, column, Cell(written.strip()))
    return book


def value(book: Book, row: int = 0, column: int = 0) -> object:
    found = Reckoner(book).value(book.sheets[0], row, column)
    return found.name if isinstance(found, Failure) else found


@pytest.mark.parametrize(
    ("formula", "result"),
    [
        ("=1+2*3", 7.0),
        ("=(1+2)*3", 9.0),
        ("=7-2-1", 4.0),
        ("=8/4/2", 1.0),
        ("=-2*-3", 6.0),
        ("=B1+B2", 30.0),
        ("=sum(B1:B3)", 30.0),
        ("=SUM(B1:B2;5)", 35.0),
        ("=SUM(B1:B2,5)", 35.0),
        ("=COUNT(B1:C9)", 2.0),
        ("=AVERAGE($B$1:B2)", 15.0),
        ("=MIN(B1:B2)+MAX(B1:B2)", 30.0),
        ("=C1", "Brinholt"),
        ("=Z9", 0.0),
        ("=1/0", "#DIV/0!"),
        ("=AVERAGE(Z1:Z3)", "#DIV/0!"),
        ("=C1+1", "#VALUE!"),
        ("=B1:B2", "#VALUE!"),
        ("=NOSUCH(1)", "#NAME?"),
        ("=Other.A1", "#REF!"),
        ("=1+", "no formula"),
        ("=B1 B2", "no formula"),
        ("=" + "(" * 1500, "no formula"),
        ("=" + "-" * 1500 + "1", "no formula"),
        ("=" + "1+" * 3000 + "1", "no formula"),
        ("=A1", "in a circle"),
        ("=SUM(A1:B2)", "in a circle"),
    ],
)
def test_a_formula_has_this_value(formula: str, result: object) -> None:
    assert value(book_of(f"{formula}|10|Brinholt", "|20|")) == result


def test_errors_go_through_to_what_looks_at_them() -> None:
    book = book_of("=B1+1|=C1*2|=1/0", "=SUM(A1:C1)")
    assert [value(book), value(book, 1)] == ["#DIV/0!", "#DIV/0!"]


def test_circles_over_several_cells_are_told_in_each() -> None:
    book = book_of("=B1|=C1|=A1", "=SUM(A1:C1)|5")
    reckoner = Reckoner(book)
    for column in range(3):
        assert reckoner.value(book.sheets[0], 0, column) == Failure("in a circle")
    assert reckoner.value(book.sheets[0], 1, 0) == Failure("in a circle")


def test_a_chain_longer_than_the_stack_is_worked_out() -> None:
    book = book_of("1")
    rows = [{0: Cell(f"=A{n}+1")} for n in range(1, 20_000)]
    book.splice(book.sheets[0], 1, 0, rows)
    assert value(book, 19_999) == 20_000.0


@given(st.text(alphabet="=+-*/().:;,\"'$ABZ19 SUMüé§{", max_size=60))
def test_whatever_is_written_is_worked_out_without_an_exception(text: str) -> None:
    book = book_of(f"={text}|1")
    assert isinstance(shown(Reckoner(book).value(book.sheets[0], 0, 0), "plain"), str)


@pytest.mark.parametrize(
    ("formula", "down", "right", "result"),
    [
        ("=A1+$A1+A$1+$A$1", 2, 1, "=B3+$A3+B$1+$A$1"),
        ('="A1"', 1, 1, '="A1"'),
        ("='Week 3'.A1", 1, 0, "='Week 3'.A2"),
        ("=A1", -1, 0, "=#REF!"),
        ("=SUM1(A1)", 1, 0, "=SUM1(A2)"),
    ],
)
def test_a_copied_formula_looks_as_far_away_as_before(
    formula: str, down: int, right: int, result: str
) -> None:
    assert copied(formula, down, right) == result


def test_rows_put_in_and_taken_out_move_references_of_that_sheet_only() -> None:
    assert spliced("=A1+A5+Other.A5", "Own", "Own", 2, 0, 3) == "=A1+A8+Other.A5"
    assert spliced("=A1+Own.A5", "Other", "Own", 2, 0, 3) == "=A1+Own.A8"
    assert spliced("=A3+A5", "Own", "Own", 2, 1, 0) == "=#REF!+A4"
    assert spliced("=C1", "Own", "Own", 1, 0, 1, columns=True) == "=D1"


def test_a_sheet_that_gets_another_name_is_found_again() -> None:
    assert renamed("=Old.A1+Older.A1", "Old", "New one") == "='New one'.A1+Older.A1"


names = st.builds(cell_name, st.integers(0, 99), st.integers(0, 60))
terms = st.one_of(
    names,
    st.builds("{}:{}".format, names, names).map(lambda block: f"SUM({block})"),
    names.map(lambda name: f"'Week 3'.{name}"),
    st.sampled_from(['"a, [b]"', "12", "$B$2"]),
)


@given(st.lists(terms, min_size=1, max_size=5))
def test_a_formula_comes_back_from_a_file_as_it_was(parts: list[str]) -> None:
    formula = "=" + "+".join(parts)
    assert from_open_formula(to_open_formula(formula)) == formula


def test_files_hold_formulas_as_the_standard_says() -> None:
    assert to_open_formula("=SUM(A1:B2,'Week 3'.C1)") == "of:=SUM([.A1:.B2];['Week 3'.C1])"
    assert from_open_formula("of:=SUM([.A1:.B2];[$'Week 3'.C1])") == "=SUM(A1:B2;'Week 3'.C1)"
    assert from_open_formula("x-other:=SUM([.A1:.B2])") == "=SUM(A1:B2)"
    assert from_open_formula("=SUM([.A1:.B2])") == "=SUM(A1:B2)"
