"""Changing a macro step by step: mute, move, double, take out, put in, gather.

A step is named by its path: the indices that lead to it, from the outermost block inwards. The steps behind
an `else` count on after those before it. Every function returns a new macro; a path that leads nowhere
changes nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial

from msgspec.structs import replace

from rimecrest.core.macro.record import asking
from rimecrest.core.macro.step_tree import END, FIRST, OTHERWISE, Path, step_at, walk
from rimecrest.core.macro.steps import Block, If, Macro, Part, Statement

Row = tuple[Statement, ...]


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
        return (*steps[: rest[0]], made, *steps[rest[0] + 1 :])  # type: ignore[arg-type]  # a step of any kind

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
    """Take a step out; an `OTHERWISE` goes with the steps behind it."""
    if path[-1:] == (OTHERWISE,):
        return _change_if(macro, path[:-1], lambda step: replace(step, otherwise=None, else_comment=""))
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


def _change_if(macro: Macro, path: Path, change: Callable[[If], If]) -> Macro:
    return change_step(macro, path, lambda step: change(step) if isinstance(step, If) else step)


def change_step(macro: Macro, path: Path, change: Callable[[Statement], Statement]) -> Macro:
    """Put another step in a step's place."""
    return _change(macro, path, lambda row, at: (*row[:at], change(row[at]), *row[at + 1 :]))


def put_in(macro: Macro, path: Path, steps: Row) -> Macro:
    """Put steps behind the step at a path, or at a place that a mark names; () is before the first one."""
    if not path:
        return replace(macro, steps=(*steps, *macro.steps))
    if path[-1] == END:
        path = path[:-1]
    if path[-1] == OTHERWISE:
        return _change_if(
            macro, path[:-1], lambda step: replace(step, otherwise=(*steps, *(step.otherwise or ())))
        )
    if path[-1] == FIRST:

        def within(step: Statement) -> Statement:
            assert isinstance(step, Block)
            return replace(step, steps=(*steps, *step.steps))

        found = step_at(macro, path[:-1])
        return change_step(macro, path[:-1], within) if isinstance(found, Block) else macro
    return _change(macro, path, lambda row, at: (*row[: at + 1], *steps, *row[at + 1 :]))


def with_otherwise(macro: Macro, behind: Path) -> tuple[Macro, Path] | None:
    """Give the innermost `if` around a place an `else` there: the steps that follow in it stand behind that.

    Args:
        behind: as for `put_in`; first in an `if` means behind all its steps.

    Returns:
        The macro and the path of the `OTHERWISE`; None where no `if` without one is around the place.
    """
    for length in range(len(behind) - 1, 0, -1):
        step = step_at(macro, behind[:length])
        if not isinstance(step, If) or step.otherwise is not None:
            continue
        at = behind[length]
        count = len(step.steps) if at in (FIRST, END) else at + 1
        made = replace(step, steps=step.steps[:count], otherwise=step.steps[count:])
        return _change(macro, behind[:length], partial(_exchanged, made)), (*behind[:length], OTHERWISE)
    return None


def _exchanged(made: Statement, row: Row, at: int) -> Row:
    return (*row[:at], made, *row[at + 1 :])


def where_put(macro: Macro, behind: Path) -> Path:
    """The path that the first of the steps has that are put in there."""
    if not behind:
        return (0,)
    if behind[-1] == OTHERWISE:
        block = step_at(macro, behind[:-1])
        return (*behind[:-1], len(block.steps) if isinstance(block, Block) else 0)
    if behind[-1] == END:
        behind = behind[:-1]
    return (*behind[:-1], behind[-1] + 1)


def outermost(paths: Iterable[Path]) -> list[Path]:
    """The paths in order, without those that lie within another one."""
    kept: list[Path] = []
    for path in sorted(set(paths)):
        if not any(path[: len(known)] == known for known in kept):
            kept.append(path)
    return kept


def steps_of(macro: Macro, paths: Iterable[Path]) -> Row:
    """The steps at these paths, in order."""
    known = dict(walk(macro))
    return tuple(known[path] for path in outermost(paths) if path in known)


def take_all_out(macro: Macro, paths: Iterable[Path]) -> Macro:
    for path in reversed(outermost(paths)):
        macro = take_out(macro, path)
    return macro


def carry(macro: Macro, paths: Iterable[Path], behind: Path) -> Macro:
    """Move steps behind another one (see `put_in`); into themselves they cannot go."""
    moved = outermost(paths)
    if behind[-1:] == (END,):
        behind = behind[:-1]
    if any(behind[: len(path)] == path for path in moved):
        return macro
    row = steps_of(macro, moved)
    # Put in first, so that the place is still where it was said; what moves on by that is taken out there.
    made = put_in(macro, behind, row)
    if made == macro:
        return macro
    shift = len(row)
    *at_now, first = where_put(macro, behind)
    at = tuple(at_now)
    for path in reversed(moved):
        level = len(at)
        if path[:level] == at and len(path) > level and path[level] >= first:
            path = (*path[:level], path[level] + shift, *path[level + 1 :])
        made = take_out(made, path)
    return made


def gather(macro: Macro, paths: Iterable[Path], title: str) -> Macro:
    """Gather steps that stand in one row into a part, where the first of them stood."""
    chosen = outermost(paths)
    if not chosen or len({path[:-1] for path in chosen}) > 1:
        return macro
    part = Part(title, steps=steps_of(macro, chosen))
    first = chosen[0]
    rest = take_all_out(macro, chosen[1:])
    return change_step(rest, first, lambda _: part)


def ask_for(macro: Macro, path: Path) -> Macro:
    """Ask for the text of a step, each time the macro runs; a step without one stays as it is."""
    return _change(macro, path, lambda row, at: asking(row, at) or row)
