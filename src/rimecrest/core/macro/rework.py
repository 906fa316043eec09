"""Changing a macro step by step: mute, move, double, take out.

A step is named by its path: the indices that lead to it, from the outermost block inwards. The steps behind
an `else` count on after those before it. Every function returns a new macro; a path that leads nowhere
changes nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from rimecrest.core.macro.steps import Block, If, Macro, Statement

Path = tuple[int, ...]
Row = tuple[Statement, ...]


def walk(macro: Macro) -> Iterator[tuple[Path, Statement]]:
    """Every step with its path, in the order it is written, muted ones included."""

    def inner(steps: Row, path: Path) -> Iterator[tuple[Path, Statement]]:
        for index, step in enumerate(steps):
            yield (*path, index), step
            if isinstance(step, Block):
                yield from inner(_all_of(step), (*path, index))

    yield from inner(macro.steps, ())


def _all_of(block: Block) -> Row:
    return (*block.steps, *(block.otherwise or ())) if isinstance(block, If) else block.steps


def step_at(macro: Macro, path: Path) -> Statement | None:
    return next((step for known, step in walk(macro) if known == path), None)


def _change(macro: Macro, path: Path, change: Callable[[Row, int], Row]) -> Macro:
    """Change the row that a step stands in; `change` gets the row and the step's index in it."""
    if not path or step_at(macro, path) is None:
        return macro

    def inner(steps: Row, rest: Path) -> Row:
        if len(rest) == 1:
            return change(steps, rest[0])
        block = steps[rest[0]]
        assert isinstance(block, Block)
        made = _in_block(block, rest[1:])
        return (*steps[: rest[0]], made, *steps[rest[0] + 1 :])  # type: ignore[arg-type]

    def _in_block(block: Block, rest: Path) -> Block:
        count = len(block.steps)
        if rest[0] < count:
            return replace(block, steps=inner(block.steps, rest))
        assert isinstance(block, If)
        return replace(block, otherwise=inner(block.otherwise or (), (rest[0] - count, *rest[1:])))

    return replace(macro, steps=inner(macro.steps, path))


def mute(macro: Macro, path: Path) -> Macro:
    """Mute a step, or let it sound again."""
    return _change(
        macro, path, lambda row, at: (*row[:at], replace(row[at], muted=not row[at].muted), *row[at + 1 :])
    )


def take_out(macro: Macro, path: Path) -> Macro:
    return _change(macro, path, lambda row, at: (*row[:at], *row[at + 1 :]))


def double(macro: Macro, path: Path) -> Macro:
    """Put a copy of a step behind it."""
    return _change(macro, path, lambda row, at: (*row[: at + 1], row[at], *row[at + 1 :]))


def move(macro: Macro, path: Path, by: int) -> Macro:
    """Move a step up (-1) or down (1) within its row; at the end of the row it stays."""

    def moved(row: Row, at: int) -> Row:
        target = at + by
        if not 0 <= target < len(row):
            return row
        rest = [*row[:at], *row[at + 1 :]]
        rest.insert(target, row[at])
        return tuple(rest)

    return _change(macro, path, moved)
