"""Grid after a change: what it costs follows the formulas that depend on it, not those that are there."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

DEPENDENT, OTHERS, ROWS = 10, 20_000, 3_000
Comparison = tuple[str, str, Callable[[], object], Callable[[], object]]


def _book(rows: list[dict[int, str]]) -> tuple[Any, Any]:
    from rimecrest_standins.grid.book import Book, Cell
    from rimecrest_standins.grid.reckoner import Reckoner

    book = Book(lambda _patch: None)
    cells = [{column: Cell(written) for column, written in row.items()} for row in rows]
    book.splice(book.sheets[0], 0, 0, cells)
    reckoner = Reckoner(book)
    book.touched = reckoner.take
    return book, reckoner


def _changing(rows: list[dict[int, str]], shown: range) -> Callable[[], object]:
    from rimecrest_standins.grid.book import Cell

    book, reckoner = _book(rows)
    sheet = book.sheets[0]
    for row in range(len(rows)):
        reckoner.value(sheet, row, 1)
    numbers = iter(range(1, 1_000_000))

    def change() -> None:
        book.put(sheet, 0, 0, Cell(str(next(numbers))))
        for row in shown:
            reckoner.value(sheet, row, 1)

    return change


def comparisons() -> Iterator[Comparison]:
    """A change, and what that is held against."""
    few = [{0: "1", 1: "=A1*2"} for _ in range(DEPENDENT)]
    many = few + [{0: str(n), 1: f"=A{n + DEPENDENT + 1}+1"} for n in range(OTHERS)]
    shown = range(DEPENDENT)
    yield (
        f"a change that {DEPENDENT} of {OTHERS:,} formulas look at",
        f"the same with those {DEPENDENT} alone",
        _changing(many, shown),
        _changing(few, shown),
    )
    sums = [{0: "1", 1: f"=SUM(A1:A{ROWS})"} for _ in range(ROWS)]
    references = [{0: "1", 1: "=A1+1"} for _ in range(ROWS)]
    yield (
        f"a change in {ROWS:,} sums of {ROWS:,} rows",
        f"in {ROWS:,} formulas of one cell",
        _changing(sums, range(ROWS)),
        _changing(references, range(ROWS)),
    )
