"""Going through the steps of a macro, those in blocks included."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from rimecrest.core.macro.steps import Block, Comment, If, Macro, Statement

Path = tuple[int, ...]
"""The indices that lead to a step, from the outermost block inwards; those behind an `else` count on.

Places that are no step end in a mark: `FIRST` in a block, its `OTHERWISE`, its `END`.
"""
FIRST, OTHERWISE, END = -1, -2, -3
"""Behind a block's path: before its first step, the line of its `else`, the line that ends it."""


def inner_steps(block: Block) -> tuple[Statement, ...]:
    """The steps in a block; those behind an `else` follow those before it."""
    return (*block.steps, *(block.otherwise or ())) if isinstance(block, If) else block.steps


def every_step(steps: Iterable[Statement]) -> Iterator[Statement]:
    """Every step, in the order it is written, muted ones included."""
    for step in steps:
        yield step
        if isinstance(step, Block):
            yield from every_step(inner_steps(step))


def step_numbers(macro: Macro) -> dict[int, int]:
    """Line → the number of the step that begins there, as people count: from 1, comments left out."""
    steps = (step for step in every_step(macro.steps) if not isinstance(step, Comment))
    return {step.line: number for number, step in enumerate(steps, 1)}


def walk(macro: Macro) -> Iterator[tuple[Path, Statement]]:
    """Every step with its path, in the order it is written, muted ones included."""

    def inner(steps: tuple[Statement, ...], path: Path) -> Iterator[tuple[Path, Statement]]:
        for index, step in enumerate(steps):
            yield (*path, index), step
            if isinstance(step, Block):
                yield from inner(inner_steps(step), (*path, index))

    yield from inner(macro.steps, ())


def written(macro: Macro) -> Iterator[tuple[Path, Statement]]:
    """Every line that a macro's steps are written in, with its path: steps, `OTHERWISE` and `END` of blocks.

    A mark comes with the block that it belongs to.
    """

    def inner(steps: tuple[Statement, ...], path: Path, first: int = 0) -> Iterator[tuple[Path, Statement]]:
        for index, step in enumerate(steps, first):
            here = (*path, index)
            yield here, step
            if isinstance(step, Block):
                yield from inner(step.steps, here)
                if isinstance(step, If) and step.otherwise is not None:
                    yield (*here, OTHERWISE), step
                    yield from inner(step.otherwise, here, len(step.steps))
                yield (*here, END), step

    yield from inner(macro.steps, ())


def step_at(macro: Macro, path: Path) -> Statement | None:
    return next((step for known, step in walk(macro) if known == path), None)
