"""Calculate cell values, recalculating a formula only when something it depends on has changed.

Dependencies are recorded while a formula is calculated. Ranges are summed in stretches of rows, and each
stretch is summed once for all the formulas that use it. The cost of a change is therefore proportional to the
number of formulas that depend on it, not to the number of formulas or the length of the ranges.
"""

from __future__ import annotations

import math
import time
from collections import defaultdict
from collections.abc import Iterator
from itertools import zip_longest
from typing import Any

from msgspec import Struct, field

from rimecrest_standins.grid.book import EMPTY, NO_CELLS, Book, Cell, Rearrange, Row, Sheet, Splice
from rimecrest_standins.grid.formulas import (
    CIRCLE,
    DIVIDED,
    FUNCTIONS,
    NO_NAME,
    NO_REFERENCE,
    UNREADABLE,
    WRONG_KIND,
    Call,
    Failure,
    Number,
    Operation,
    Range,
    Reference,
    Text,
    Value,
    as_number,
    finite,
    parts_of,
    plain_value,
    read_formula,
)

STRETCH = 64
"""Rows per stretch: roughly the square root of the length of a long range."""
MOST_CHANGES = 20_000
"""If more cells than this change at once, forget everything instead."""
Key = tuple[Sheet, int, int]
"""A cell. Row -1 stands for the end of the sheet."""
Stretch = tuple[Sheet, int, int, int]
"""A stretch of rows: sheet, number of the stretch, first and last column."""
Block = tuple[Sheet, int, int, int, int]
"""A range: sheet, top, left, bottom and right."""
Node = Key | Stretch | Block


class Totals(Struct, frozen=True):
    """Totals of the numbers in some cells; `failure` is the first error value among them."""

    count: int = 0
    sum: float = 0.0
    least: float = math.inf
    most: float = -math.inf
    failure: Failure | None = None

    def and_(self, other: Totals) -> Totals:
        return Totals(
            self.count + other.count,
            self.sum + other.sum,
            min(self.least, other.least),
            max(self.most, other.most),
            self.failure or other.failure,
        )

    def of(self, function: str) -> Value:
        """Return the result of one of `FUNCTIONS`."""
        match function:
            case "SUM":
                return self.sum
            case "COUNT":
                return float(self.count)
            case "AVERAGE":
                return self.sum / self.count if self.count else DIVIDED
            case "MIN":
                return self.least if self.count else 0.0
        return self.most if self.count else 0.0


class _Work(Struct):
    """A calculation in progress: a stack of nodes to calculate, and the nodes already begun."""

    stack: list[Node]
    begun: set[Node] = field(default_factory=set)


class Reckoner:
    """Values of the cells of a book. It must be told about every change to the book."""

    def __init__(self, book: Book) -> None:
        self._book = book
        self._known: dict[Key, Value] = {}
        self._totals: dict[Node, Totals] = {}
        """Totals of ranges, and of the stretches that lie completely inside one."""
        self._readers: defaultdict[Node, set[Node]] = defaultdict(set)
        """Formulas that use a cell or range; ranges that overlap a stretch."""
        self._spans: defaultdict[tuple[Sheet, int], set[tuple[int, int]]] = defaultdict(set)
        """First and last columns in use for a stretch number of a sheet."""
        self._work: _Work | None = None
        """Interrupted calculation, to be continued later."""

    # Changes

    def forget(self) -> None:
        """Forget all values."""
        for known in (self._known, self._totals, self._readers, self._spans):
            known.clear()
        self._work = None

    def take(self, patch: Splice | Rearrange, old: tuple[Row, ...] = (), new: tuple[Row, ...] = ()) -> None:
        """Update after a patch that replaced the rows `old` with the rows `new`."""
        if isinstance(patch, Rearrange):
            if [shape[:2] for shape in patch.before] != [shape[:2] for shape in patch.after]:
                self.forget()
            return
        at_end = patch.at + len(new) == len(patch.sheet.rows)
        if len(old) != len(new) and not at_end:  # what stands below is somewhere else now
            self.forget()
            return
        changed = [
            (patch.sheet, patch.at + row, column)
            for row, (before, after) in enumerate(zip_longest(old, new, fillvalue=NO_CELLS))
            for column in before.keys() | after.keys()
            if _other(before.get(column, EMPTY), after.get(column, EMPTY))
        ]
        if len(old) != len(new):
            changed.append((patch.sheet, -1, 0))
        if len(changed) > MOST_CHANGES:
            self.forget()
        else:
            self._changed(changed)

    def _changed(self, cells: list[Key]) -> None:
        """Forget everything that depends on these cells, directly or indirectly."""
        self._work = None
        for key in cells:
            self._known.pop(key, None)
        ahead: list[Node] = [*cells]
        while ahead:
            node = ahead.pop()
            readers = self._readers.pop(node, set())
            for stretch in self._stretches_at(*node) if len(node) == 3 else ():
                self._totals.pop(stretch, None)
                readers |= self._readers.pop(stretch, set())
            ahead += (each for each in readers if self._forgotten(each))

    def _stretches_at(self, sheet: Sheet, row: int, column: int) -> Iterator[Stretch]:
        number = row // STRETCH
        for left, right in self._spans.get((sheet, number), ()):
            if left <= column <= right:
                yield sheet, number, left, right

    def _forgotten(self, node: Node) -> bool:
        """Forget a value or the totals of a range. Return True if they were known."""
        known = self._known.pop(node, None) if len(node) == 3 else self._totals.pop(node, None)
        return known is not None

    # Values

    def value(self, sheet: Sheet, row: int, column: int) -> Value:
        """Return the value of a cell: a number, a text or an error value."""
        cell = sheet.cell(row, column)
        if not cell.is_formula:
            return plain_value(cell)
        key = (sheet, row, column)
        if key not in self._known:
            self._go_on(_Work([key]), math.inf)
        return self._known[key]

    def value_until(self, sheet: Sheet, row: int, column: int, ends: float) -> Value | None:
        """Return the value, or None if it is not known by `ends` (monotonic clock); continue later."""
        cell = sheet.cell(row, column)
        if not cell.is_formula:
            return plain_value(cell)
        key = (sheet, row, column)
        while key not in self._known:
            self._work = self._work or _Work([key])
            if not self._go_on(self._work, ends):
                return None
            self._work = None
        return self._known[key]

    def _go_on(self, work: _Work, ends: float) -> bool:
        """Calculate until `ends` (monotonic clock). Return True if nothing is left to do."""
        # Use our own stack: chains of formulas can be longer than Python's call stack.
        stack, begun = work.stack, work.begun
        while stack:
            if time.monotonic() > ends:
                return False
            node = stack[-1]
            if self._is_known(node):
                begun.discard(stack.pop())
            elif node in begun:
                self._keep(node)
            else:
                begun.add(node)
                for need in self._needs(node):
                    if need in begun and not self._is_known(need):
                        self._keep(need, CIRCLE)
                    elif not self._is_known(need):
                        stack.append(need)
        return True

    def _is_known(self, node: Node) -> bool:
        return node in self._known or node in self._totals

    def _keep(self, node: Node, circle: Failure | None = None) -> None:
        if len(node) == 3:
            self._known[node] = circle or self._result(node)
        elif circle is not None:
            self._totals[node] = Totals(failure=circle)
        else:
            self._totals[node] = self._of_range(*node) if len(node) == 5 else self._added(*_rows_of(*node))

    def _needs(self, node: Node) -> Iterator[Node]:
        """Yield the nodes that a node depends on, and record the dependencies."""
        if len(node) == 4:
            yield from _formulas(*_rows_of(*node))
        elif len(node) == 5:
            yield from self._needs_of_range(node)
        else:
            own, row, column = node
            for part in parts_of(read_formula(own.cell(row, column).written)):
                sheet = self._sheet(own, part.sheet)
                if sheet is None:
                    continue
                looked_at = _node_of(sheet, part)
                self._readers[looked_at].add(node)
                if isinstance(part, Range) or sheet.cell(part.row, part.column).is_formula:
                    yield looked_at

    def _needs_of_range(self, node: Block) -> Iterator[Node]:
        sheet, _, left, bottom, right = node
        if bottom >= len(sheet.rows):
            self._readers[sheet, -1, 0].add(node)
        for number, piece, whole in _stretches(*node):
            stretch = (sheet, number, left, right)
            self._spans[sheet, number].add((left, right))
            self._readers[stretch].add(node)
            if whole:
                yield stretch
            else:
                yield from _formulas(sheet, piece)

    def _sheet(self, own: Sheet, name: str) -> Sheet | None:
        return self._book.sheet(name) if name else own

    def _known_value(self, sheet: Sheet, row: int, column: int, cell: Cell) -> Value:
        return self._known.get((sheet, row, column), CIRCLE) if cell.is_formula else plain_value(cell)

    # Working out

    def _result(self, key: Key) -> Value:
        tree = read_formula(key[0].cell(key[1], key[2]).written)
        try:
            found = self._evaluate(key[0], tree)
        except RecursionError:
            return UNREADABLE
        return 0.0 if found == "" and isinstance(tree, Reference) else found

    def _evaluate(self, own: Sheet, tree: Any) -> Value:
        match tree:
            case Failure():
                return tree
            case Number() | Text():
                return finite(tree.value)
            case Reference():
                sheet = self._sheet(own, tree.sheet)
                if sheet is None:
                    return NO_REFERENCE
                return self._known_value(sheet, tree.row, tree.column, sheet.cell(tree.row, tree.column))
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
        return finite(
            {
                "+": lambda: left + right,
                "-": lambda: left - right,
                "*": lambda: left * right,
                "/": lambda: left / right,
            }[operation.sign]()
        )

    def _call(self, own: Sheet, call: Call) -> Value:
        if call.name not in FUNCTIONS:
            return NO_NAME
        found = Totals()
        for argument in call.arguments:
            if isinstance(argument, Range):
                sheet = self._sheet(own, argument.sheet)
                if sheet is None:
                    return NO_REFERENCE
                found = found.and_(self._totals[_node_of(sheet, argument)])
            else:
                value = as_number(self._evaluate(own, argument))
                if isinstance(value, Failure):
                    return found.failure or value
                found = found.and_(Totals(1, value, value, value))
        return found.failure or finite(found.of(call.name))

    def _of_range(self, sheet: Sheet, top: int, left: int, bottom: int, right: int) -> Totals:
        found = Totals()
        for number, piece, whole in _stretches(sheet, top, left, bottom, right):
            known = self._totals[sheet, number, left, right] if whole else self._added(sheet, piece)
            found = found.and_(known)
        return found

    def _added(self, sheet: Sheet, block: Range) -> Totals:
        # In a range only numbers count; texts and empty cells are passed over (6.3.7).
        numbers: list[float] = []
        for row, column, cell in _cells(sheet, block):
            value = self._known_value(sheet, row, column, cell)
            if isinstance(value, Failure):
                return Totals(failure=value)
            if isinstance(value, float):
                numbers.append(value)
        if not numbers:
            return Totals()
        return Totals(len(numbers), float(sum(numbers)), min(numbers), max(numbers))


def _other(before: Cell, after: Cell) -> bool:
    """Return True if the value of a cell may differ."""
    return before.written != after.written or before.look.form != after.look.form


def _node_of(sheet: Sheet, part: Reference | Range) -> Key | Block:
    if isinstance(part, Reference):
        return sheet, part.row, part.column
    return sheet, part.top, part.left, part.bottom, part.right


def _rows_of(sheet: Sheet, number: int, left: int, right: int) -> tuple[Sheet, Range]:
    """Return a stretch as a range."""
    return sheet, Range("", number * STRETCH, left, (number + 1) * STRETCH - 1, right)


def _stretches(
    sheet: Sheet, top: int, left: int, bottom: int, right: int
) -> Iterator[tuple[int, Range, bool]]:
    """Yield each stretch that a range overlaps: its number, the overlap, and whether it is complete."""
    for number in range(top // STRETCH, min(bottom, len(sheet.rows) - 1) // STRETCH + 1):
        first, last = number * STRETCH, (number + 1) * STRETCH - 1
        piece = Range("", max(first, top), left, min(last, bottom), right)
        yield number, piece, top <= first and last <= bottom


def _cells(sheet: Sheet, block: Range) -> Iterator[tuple[int, int, Cell]]:
    """Yield the cells of a range that are not empty."""
    for row in range(block.top, min(block.bottom + 1, len(sheet.rows))):
        for column, cell in sheet.rows[row].items():
            if block.left <= column <= block.right:
                yield row, column, cell


def _formulas(sheet: Sheet, block: Range) -> Iterator[Key]:
    if sheet.formulas:
        for row, column, cell in _cells(sheet, block):
            if cell.is_formula:
                yield sheet, row, column
