"""Going through the steps of a macro, those in blocks included."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from rimecrest.core.macro.steps import Block, Comment, If, Macro, Statement


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
