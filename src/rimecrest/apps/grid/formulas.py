"""Formulas: read and worked out.

Understood is a small subset of OpenFormula (OASIS OpenDocument 1.3, part 4): `+ - * /`, SUM, COUNT, AVERAGE,
MIN and MAX over ranges, references to other sheets. Whatever cannot be worked out is an error value in its
cell, named as in the standard (section 4.6), and never an exception.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator
from functools import lru_cache
from pathlib import Path
from typing import Any

from lark import Lark, Token, Transformer
from lark.exceptions import LarkError
from msgspec import Struct

from rimecrest.apps.grid.book import Book, Cell, Sheet, column_of
from rimecrest.apps.grid.references import REFERENCE, sheet_name
from rimecrest.core.words import tr

LONGEST = 2_000
"""Characters of a formula that is worked out at most."""


class Failure(Struct, frozen=True):
    """An error value."""

    name: str


DIVIDED = Failure("#DIV/0!")
WRONG_KIND = Failure("#VALUE!")
NO_REFERENCE = Failure("#REF!")
TOO_LARGE = Failure("#NUM!")
NO_NAME = Failure("#NAME?")
CIRCLE = Failure(tr("in a circle"))
UNREADABLE = Failure(tr("no formula"))

Value = float | str | Failure
Key = tuple[Sheet, int, int]


class Number(Struct, frozen=True):
    value: float


class Text(Struct, frozen=True):
    value: str


class Reference(Struct, frozen=True):
    """One cell; `sheet` empty: of the formula's own sheet."""

    sheet: str
    row: int
    column: int


class Range(Struct, frozen=True):
    """A block of cells, its edges included."""

    sheet: str
    top: int
    left: int
    bottom: int
    right: int


class Operation(Struct, frozen=True):
    sign: str
    left: Any
    right: Any


class Call(Struct, frozen=True):
    name: str
    arguments: tuple[Any, ...]


def _reference(token: Token) -> Reference:
    found = REFERENCE.fullmatch(str(token))
    assert found is not None  # the grammar's token is the same pattern
    return Reference(sheet_name(found["sheet"]), int(found["row"]) - 1, column_of(found["column"]))


class _Build(Transformer[Token, Any]):
    def start(self, children: list[Any]) -> Any:
        return children[0]

    def number(self, children: list[Any]) -> Number:
        return Number(float(children[0]))

    def text(self, children: list[Any]) -> Text:
        return Text(str(children[0])[1:-1].replace('""', '"'))

    def reference(self, children: list[Any]) -> Reference:
        return _reference(children[0])

    def range(self, children: list[Any]) -> Range:
        one, other = _reference(children[0]), _reference(children[1])
        rows, columns = sorted((one.row, other.row)), sorted((one.column, other.column))
        return Range(one.sheet, rows[0], columns[0], rows[1], columns[1])

    def call(self, children: list[Any]) -> Call:
        return Call(str(children[0]).upper(), tuple(child for child in children[1:] if child is not None))

    def plus(self, children: list[Any]) -> Operation:
        return Operation("+", *children)

    def less(self, children: list[Any]) -> Operation:
        return Operation("-", *children)

    def times(self, children: list[Any]) -> Operation:
        return Operation("*", *children)

    def over(self, children: list[Any]) -> Operation:
        return Operation("/", *children)

    def minus(self, children: list[Any]) -> Operation:
        return Operation("-", Number(0.0), children[0])


@lru_cache(maxsize=1)
def _grammar() -> Lark:
    text = Path(__file__).with_name("formula.lark").read_text("utf-8")
    return Lark(text, parser="lalr", transformer=_Build(), maybe_placeholders=False)


@lru_cache(maxsize=20_000)
def read_formula(written: str) -> Any:
    """The formula as a tree; a Failure when it cannot be read."""
    if len(written) > LONGEST:
        return UNREADABLE
    if "#REF!" in written:
        return NO_REFERENCE
    try:
        return _grammar().parse(written)
    except (LarkError, RecursionError):
        return UNREADABLE


def parts_of(tree: Any) -> Iterator[Reference | Range]:
    """The references and ranges in a formula's tree."""
    ahead = [tree]
    while ahead:
        part = ahead.pop()
        if isinstance(part, Reference | Range):
            yield part
        elif isinstance(part, Operation):
            ahead += [part.left, part.right]
        elif isinstance(part, Call):
            ahead += part.arguments


_NUMBER = re.compile(r"\s*-?[0-9]+(\.[0-9]+)?\s*(%?)\s*\Z")


def plain_value(cell: Cell) -> float | str:
    """What a cell without a formula holds: a number where it reads as one."""
    written = cell.written
    if cell.look.form == "text":
        return written
    found = _NUMBER.match(written)
    if found is None or len(written) > 300:
        return written
    number = float(written.strip().rstrip("% "))
    if not math.isfinite(number):
        return written
    return number / 100 if found[2] else number


class Reckoner:
    """Works out what cells show. `forget` after every change of the book."""

    def __init__(self, book: Book) -> None:
        self._book = book
        self._known: dict[Key, Value] = {}

    def forget(self) -> None:
        self._known.clear()

    def value(self, sheet: Sheet, row: int, column: int) -> Value:
        """The value of a cell: a number, a text, or an error value."""
        cell = sheet.cell(row, column)
        if not cell.is_formula:
            return plain_value(cell)
        key = (sheet, row, column)
        if key not in self._known:
            self._work_out(key)
        return self._known[key]

    def _work_out(self, wanted: Key) -> None:
        # What a formula needs is worked out before it, on a stack of our own: chains of formulas are longer
        # than Python's.
        stack: list[Key] = [wanted]
        begun: set[Key] = set()
        while stack:
            key = stack[-1]
            if key in self._known:
                begun.discard(stack.pop())
                continue
            tree = read_formula(key[0].cell(key[1], key[2]).written)
            if key in begun:
                self._known[key] = self._result(key[0], tree)
                continue
            begun.add(key)
            for need in self._needs(key[0], tree):
                if need in begun and need not in self._known:
                    self._known[need] = CIRCLE
                elif need not in self._known:
                    stack.append(need)

    def _needs(self, own: Sheet, tree: Any) -> Iterator[Key]:
        """The formulas that a formula looks at."""
        for part in parts_of(tree):
            sheet = self._sheet(own, part.sheet)
            if sheet is None or not sheet.formulas:
                continue
            if isinstance(part, Reference):
                if sheet.cell(part.row, part.column).is_formula:
                    yield sheet, part.row, part.column
                continue
            for row, column, cell in self._block(sheet, part):
                if cell.is_formula:
                    yield sheet, row, column

    def _sheet(self, own: Sheet, name: str) -> Sheet | None:
        return self._book.sheet(name) if name else own

    @staticmethod
    def _block(sheet: Sheet, block: Range) -> Iterator[tuple[int, int, Cell]]:
        for row in range(block.top, min(block.bottom + 1, len(sheet.rows))):
            for column, cell in sheet.rows[row].items():
                if block.left <= column <= block.right:
                    yield row, column, cell

    def _known_value(self, sheet: Sheet, row: int, column: int) -> Value:
        cell = sheet.cell(row, column)
        return self._known.get((sheet, row, column), CIRCLE) if cell.is_formula else plain_value(cell)

    def _result(self, own: Sheet, tree: Any) -> Value:
        try:
            found = self._evaluate(own, tree)
        except RecursionError:
            return UNREADABLE
        return 0.0 if found == "" and isinstance(tree, Reference) else found

    def _evaluate(self, own: Sheet, tree: Any) -> Value:
        match tree:
            case Failure():
                return tree
            case Number() | Text():
                return _finite(tree.value)
            case Reference():
                sheet = self._sheet(own, tree.sheet)
                return NO_REFERENCE if sheet is None else self._known_value(sheet, tree.row, tree.column)
            case Range():
                return WRONG_KIND
            case Operation():
                return self._operate(own, tree)
            case Call():
                return self._call(own, tree)
        return UNREADABLE

    def _operate(self, own: Sheet, operation: Operation) -> Value:
        left = as_number(self._evaluate(own, operation.left))
        if isinstance(left, Failure):
            return left
        right = as_number(self._evaluate(own, operation.right))
        if isinstance(right, Failure):
            return right
        if operation.sign == "/" and right == 0:
            return DIVIDED
        return _finite(
            {
                "+": lambda: left + right,
                "-": lambda: left - right,
                "*": lambda: left * right,
                "/": lambda: left / right,
            }[operation.sign]()
        )

    def _call(self, own: Sheet, call: Call) -> Value:
        function = _FUNCTIONS.get(call.name)
        if function is None:
            return NO_NAME
        numbers: list[float] = []
        for argument in call.arguments:
            if isinstance(argument, Range):
                sheet = self._sheet(own, argument.sheet)
                if sheet is None:
                    return NO_REFERENCE
                # In a range only numbers count; texts and empty cells are passed over (6.3.7).
                for row, column, _ in self._block(sheet, argument):
                    value = self._known_value(sheet, row, column)
                    if isinstance(value, Failure):
                        return value
                    if isinstance(value, float):
                        numbers.append(value)
            else:
                value = as_number(self._evaluate(own, argument))
                if isinstance(value, Failure):
                    return value
                numbers.append(value)
        return _finite(function(numbers))


def _finite(value: Value) -> Value:
    return TOO_LARGE if isinstance(value, float) and not math.isfinite(value) else value


def as_number(value: Value) -> float | Failure:
    if isinstance(value, str):
        return 0.0 if value == "" else WRONG_KIND
    return value


_FUNCTIONS: dict[str, Callable[[list[float]], Value]] = {
    "SUM": lambda numbers: float(sum(numbers)),
    "COUNT": lambda numbers: float(len(numbers)),
    "AVERAGE": lambda numbers: sum(numbers) / len(numbers) if numbers else DIVIDED,
    "MIN": lambda numbers: min(numbers, default=0.0),
    "MAX": lambda numbers: max(numbers, default=0.0),
}


def shown(value: Value, form: str) -> str:
    """A value as its cell shows it."""
    if isinstance(value, Failure):
        return value.name
    if isinstance(value, str):
        return value
    match form:
        case "whole":
            return f"{value:,.0f}"
        case "hundredths":
            return f"{value:,.2f}"
        case "percent":
            return f"{value * 100:g} %"
    return str(int(value)) if value == int(value) and abs(value) < 1e15 else f"{value:.10g}"
