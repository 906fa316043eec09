"""Undo after a crash: the saves of the studio that was cut off made its stacks of undo again."""

from __future__ import annotations

from rimecrest.core.workspace.edits import Restore
from rimecrest.core.workspace.past import restoring
from rimecrest.studio.shared.history import OUTSIDE, REDO, UNDO, Save

Stack = list[Restore]


def taken_up(save: Save, undo: Stack, redo: Stack) -> tuple[Stack, Stack]:
    """The stacks after one more of the saves, oldest first.

    Raises:
        RimecrestError: what was before it cannot be read any more.
    """
    back = restoring(save.before, save.label)
    if save.kind == OUTSIDE:
        # An undo would put whole files back over what the other program wrote.
        return [], []
    if save.kind == UNDO:
        return undo[:-1], [*redo, back]
    if save.kind == REDO:
        return [*undo, back], redo[:-1]
    if not save.before:
        return undo, redo  # a point with a name
    return [*undo, back], []
