"""Formulas, read, and the values that cells have.

Understood is a small subset of OpenFormula (OASIS OpenDocument 1.3, part 4): `+ - * /`, SUM, COUNT, AVERAGE,
MIN and MAX over ranges, references to other sheets. Whatever cannot be worked out is an error value in its
cell, named as in the standard (section 4.6), and never an exception.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path
from typing import Any

from lark import Lark, Token, Transformer
from lark.exceptions import LarkError
from msgspec import Struct

from rimecrest.core.words import tr
from rimecrest_standins.grid.book import Cell, column_of
from rimecrest_standins.grid.references import REFERENCE, sheet_name

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


FUNCTIONS = ("AVERAGE", "COUNT", "MAX", "MIN", "SUM")


def understood(written: str) -> bool:
    """Whether a formula can be read, and has no function but ours."""
    ahead = [read_formula(written)]
    while ahead:
        part = ahead.pop()
        if isinstance(part, Failure) or (isinstance(part, Call) and part.name not in FUNCTIONS):
            return False
        if isinstance(part, Operation):
            ahead += [part.left, part.right]
        elif isinstance(part, Call):
            ahead += part.arguments
    return True


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


def finite(value: Value) -> Value:
    return TOO_LARGE if isinstance(value, float) and not math.isfinite(value) else value


def as_number(value: Value) -> float | Failure:
    if isinstance(value, str):
        return 0.0 if value == "" else WRONG_KIND
    return value


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
