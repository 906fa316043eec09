"""After whatever changes, every cell shows what it would show were all worked out anew."""

from __future__ import annotations

import math
import random

import pytest

from rimecrest_standins.grid import reckoner as reckoner_module
from rimecrest_standins.grid.book import Book, Cell, Look, Rearrange, Row, Sheet, Splice, cell_name
from rimecrest_standins.grid.formulas import Failure, Value
from rimecrest_standins.grid.reckoner import Reckoner
from tests.hostile.seeds import SEED

ROWS, COLUMNS = 200, 5


def made(dice: random.Random) -> str:
    def name() -> str:
        return cell_name(dice.randrange(ROWS), dice.randrange(COLUMNS))

    def block() -> str:
        column, top = dice.randrange(COLUMNS), dice.randrange(ROWS)
        last = min(column + dice.randrange(3), COLUMNS - 1)
        return (
            f"{cell_name(top, column)}:{cell_name(dice.choice((top + dice.randrange(150), 999_999)), last)}"
        )

    kinds = (
        lambda: str(dice.randrange(-99, 99)),
        lambda: "words",
        lambda: "",
        lambda: f"={name()}",
        lambda: f"={name()}+{name()}*2",
        lambda: f"=1/{name()}",
        lambda: f"={dice.choice(('SUM', 'COUNT', 'AVERAGE', 'MIN', 'MAX'))}({block()};{name()})",
        lambda: f"=SUM({block()})",
        lambda: f"='Sheet 2'.{name()}",
    )
    return dice.choice(kinds)()


def same(one: Value, other: Value) -> bool:
    if isinstance(one, float) and isinstance(other, float):
        return math.isclose(one, other, rel_tol=1e-9, abs_tol=1e-9)
    # Where several things are wrong, which of them is told depends on where one begins.
    return one == other or (isinstance(one, Failure) and isinstance(other, Failure))


@pytest.mark.parametrize("number", range(120))
def test_what_is_known_is_what_would_be_worked_out_anew(number: int) -> None:
    dice = random.Random(SEED * 1000 + number)
    undo: list[Splice | Rearrange] = []
    book = Book(undo.append)
    known = Reckoner(book)
    book.touched = known.take
    book.rearrange(lambda shapes: shapes.append((Sheet("Sheet 2"), "Sheet 2", {}, None)))
    for _ in range(dice.randint(4, 14)):
        sheet = dice.choice(book.sheets)
        match dice.randrange(8):
            case 0 | 1 | 2:
                for _ in range(dice.choice((1, 3, 60))):
                    book.put(sheet, dice.randrange(ROWS), dice.randrange(COLUMNS), Cell(made(dice)))
            case 3:
                rows: list[Row] = [
                    {0: Cell(made(dice)), 3: Cell(made(dice))} for _ in range(dice.randrange(70))
                ]
                at = dice.randrange(len(sheet.rows) + 1)
                book.splice(sheet, at, min(dice.randrange(70), len(sheet.rows) - at), rows)
            case 4:
                at = dice.randrange(ROWS)
                book.change(sheet, at, at + 3, 0, 2, lambda cell: Cell(cell.written, Look(form="text")))
            case 5 if undo:
                undo.pop().back()
            case 6:
                book.set_shape(
                    sheet, name=dice.choice(("Sheet 1", "Other")) if sheet is book.sheets[0] else None
                )
            case _:
                book.set_shape(sheet, widths={0: dice.randrange(40, 90)})
        fresh = Reckoner(book)
        for each in book.sheets:
            seen = [(row, column) for row in range(len(each.rows)) for column in range(COLUMNS)]
            for row, column in dice.sample(seen, min(60, len(seen))):
                value, other = known.value(each, row, column), fresh.value(each, row, column)
                assert same(value, other), (cell_name(row, column), each.cell(row, column).written)


@pytest.mark.parametrize("count", [100, 10_000])
def test_a_change_works_out_what_depends_on_it_and_nothing_else(
    monkeypatch: pytest.MonkeyPatch, count: int
) -> None:
    book = Book(lambda _: None)
    sheet = book.sheets[0]
    rows: list[Row] = [
        {0: Cell("1"), 1: Cell(f"=SUM(A$1:A${count})"), 2: Cell(f"=A{n}+1")} for n in range(1, count + 1)
    ]
    book.splice(sheet, 0, 0, rows)
    reckoner = Reckoner(book)
    book.touched = reckoner.take
    for row in range(count):
        reckoner.value(sheet, row, 1), reckoner.value(sheet, row, 2)
    read: list[str] = []
    real = reckoner_module.read_formula
    monkeypatch.setattr(reckoner_module, "read_formula", lambda text: read.append(text) or real(text))
    added: list[object] = []
    cells = reckoner_module._cells
    monkeypatch.setattr(
        reckoner_module, "_cells", lambda *block: (added.append(cell) or cell for cell in cells(*block))
    )
    book.put(sheet, 9, 0, Cell("7"))
    assert [reckoner.value(sheet, row, 2) for row in range(count)].count(8.0) == 1
    assert len(read) <= 2
    assert reckoner.value(sheet, 5, 1) == count + 6.0
    assert len(added) <= 400  # a stretch or two, however long the range is


def test_what_takes_long_goes_on_later_where_it_was() -> None:
    book = Book(lambda _: None)
    sheet = book.sheets[0]
    book.splice(sheet, 0, 0, [{0: Cell("1")}, *({0: Cell(f"=A{n}+1")} for n in range(1, 3_000))])
    reckoner = Reckoner(book)
    assert reckoner.value_until(sheet, 2_999, 0, ends=0) is None
    assert reckoner.value_until(sheet, 0, 0, ends=0) == 1.0
    assert reckoner.value_until(sheet, 2_999, 0, ends=math.inf) == 3_000.0
    assert reckoner.value_until(sheet, 2_999, 0, ends=0) == 3_000.0
