"""Expressions of the macro language: as values, as text, and worked out.

Text with `{names}`, numbers, `yes` and `no`, names and readings, comparisons, `contains`, `is empty`,
`and or not`, `+ - * /`. Nothing else: no files, no network, no Python.
"""

from __future__ import annotations

import math
import re
from collections.abc import Generator, Iterator
from typing import Any

from msgspec import Struct

from rimecrest.core.macro.names import names_in
from rimecrest.core.words import tr

Value = str | float | bool | tuple[str, ...]
"""What a name can hold: text, a number, yes or no, a list of texts."""


class Text(Struct, frozen=True):
    """Text in quotes, where `{names}` count."""

    text: str


class Number(Struct, frozen=True):
    """A number as it was written."""

    digits: str


class Flag(Struct, frozen=True):
    on: bool


class Name(Struct, frozen=True):
    """A name that was set, or a reading of the application."""

    name: str


class Unary(Struct, frozen=True):
    """`not` or `-` before an operand, `is empty` behind it."""

    word: str
    operand: Expression


class Binary(Struct, frozen=True):
    word: str
    left: Expression
    right: Expression


Expression = Text | Number | Flag | Name | Unary | Binary

# How tightly each word binds, loosest first: parentheses are written only where they are needed.
_BINDS = {"or": 1, "and": 2, "not": 3, "+": 5, "-": 5, "*": 6, "/": 6, "minus": 7}
_NUMBER = re.compile(r"[+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][+-]?[0-9]{1,4})?", re.ASCII)
_COMPARES = ("=", "<>", "<", ">", "<=", ">=", "contains", "is empty")
_BINDS |= dict.fromkeys(_COMPARES, 4)


def _tightness(expression: Expression) -> int:
    return _BINDS[expression.word] if isinstance(expression, Unary | Binary) else 9


def _within(expression: Expression, least: int) -> str:
    text = expression_text(expression)
    return text if _tightness(expression) >= least else f"({text})"


def expression_text(expression: Expression) -> str:
    """The canonical text of an expression."""
    match expression:
        case Text():
            body = expression.text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n")
            return f'"{body}"'
        case Number():
            return expression.digits
        case Flag():
            return "yes" if expression.on else "no"
        case Name():
            return expression.name
        case Unary():
            if expression.word == "is empty":
                return f"{_within(expression.operand, 5)} is empty"
            if expression.word == "not":
                return f"not {_within(expression.operand, 3)}"
            return f"-{_within(expression.operand, 7)}"
        case Binary():
            binds = _BINDS[expression.word]
            # Comparisons do not follow one another; the others group from the left.
            left = _within(expression.left, 5 if binds == 4 else binds)
            return f"{left} {expression.word} {_within(expression.right, binds + 1)}"


def depth_of(expression: Expression) -> int:
    """How many operations stand within one another, found without recursion."""
    deepest, ahead = 0, [(expression, 1)]
    while ahead:
        part, depth = ahead.pop()
        deepest = max(deepest, depth)
        if isinstance(part, Unary):
            ahead.append((part.operand, depth + 1))
        elif isinstance(part, Binary):
            ahead += [(part.left, depth + 1), (part.right, depth + 1)]
    return deepest


def names_of(expression: Expression) -> Iterator[str]:
    """Every name and reading that an expression refers to, those in texts included."""
    match expression:
        case Name():
            yield expression.name
        case Text():
            yield from names_in(expression.text)
        case Unary():
            yield from names_of(expression.operand)
        case Binary():
            yield from names_of(expression.left)
            yield from names_of(expression.right)
        case _:
            pass


class CannotWorkOut(Exception):
    """An expression has no value: the sentence says why."""


def as_text(value: Value) -> str:
    """A value as it is written into a document."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float | int):
        whole = math.isfinite(value) and value == int(value)
        return str(int(value)) if whole else f"{value:.10g}"
    return ", ".join(value) if isinstance(value, tuple) else value


def as_value(raw: Any) -> Value:
    """What an application answered, as a value of the language."""
    if isinstance(raw, bool | str):
        return raw
    if isinstance(raw, int | float):
        return float(raw)
    if isinstance(raw, list | tuple):
        return tuple(str(each) for each in raw)
    return "" if raw is None else str(raw)


def as_number(value: Value) -> float:
    """Raises CannotWorkOut when the value is no number."""
    if isinstance(value, bool | tuple):
        raise CannotWorkOut(f"“{as_text(value)}” is no number")
    if isinstance(value, str):
        written = value.strip().replace(",", ".")
        if not _NUMBER.fullmatch(written):
            shown = value if len(value) <= 40 else f"{value[:40]}…"
            raise CannotWorkOut(tr("“{shown}” is no number", shown=shown))
        value = float(written)
    return _finite(float(value))


def _finite(number: float) -> float:
    if not math.isfinite(number):
        raise CannotWorkOut(tr("A number has become too large to reckon with"))
    return number


def is_true(value: Value) -> bool:
    """What counts as yes: `yes`, any number but 0, text but none and `no`, a list with something in it."""
    if isinstance(value, str):
        return value not in ("", "no")
    return bool(value)


Values = Generator[Any, Any, Value]


def work_out(expression: Expression, look_up: Any) -> Values:
    """Work an expression out, as a flow.

    Args:
        look_up: makes a flow that yields a name's value; `look_up.filled(text)` one that fills a text.

    Raises:
        CannotWorkOut: a number was wanted where there is none, or something is divided by zero.
    """
    match expression:
        case Text():
            filled: Value = yield from look_up.filled(expression.text)
            return filled
        case Number():
            return _finite(float(expression.digits))
        case Flag():
            return expression.on
        case Name():
            found: Value = yield from look_up.value(expression.name)
            return found
        case Unary():
            value = yield from work_out(expression.operand, look_up)
            if expression.word == "not":
                return not is_true(value)
            if expression.word == "is empty":
                return value in ("", ())
            return -as_number(value)
        case Binary():
            return (yield from _binary(expression, look_up))


def _binary(expression: Binary, look_up: Any) -> Values:
    left = yield from work_out(expression.left, look_up)
    # What decides already is not asked further.
    if expression.word == "and" and not is_true(left):
        return False
    if expression.word == "or" and is_true(left):
        return True
    right = yield from work_out(expression.right, look_up)
    match expression.word:
        case "and" | "or":
            return is_true(right)
        case "contains":
            if isinstance(left, tuple):
                return as_text(right) in left
            return as_text(right) in as_text(left)
        case "+" | "-" | "*" | "/":
            return _calculate(expression.word, as_number(left), as_number(right))
        case _:
            return _compare(expression.word, left, right)


def _calculate(word: str, left: float, right: float) -> float:
    if word == "/" and right == 0:
        raise CannotWorkOut("Something is divided by zero")
    made = {"+": left + right, "-": left - right, "*": left * right, "/": left / (right or 1)}[word]
    return _finite(made)


def _compare(word: str, left: Value, right: Value) -> bool:
    try:
        one: Any = as_number(left)
        other: Any = as_number(right)
    except CannotWorkOut:
        one, other = as_text(left), as_text(right)
    return bool(
        {
            "=": one == other,
            "<>": one != other,
            "<": one < other,
            ">": one > other,
            "<=": one <= other,
            ">=": one >= other,
        }[word]
    )
