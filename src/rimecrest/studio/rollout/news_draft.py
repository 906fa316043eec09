"""A draft of what colleagues will read: the differences of the workspace to the newest release."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.compare import compare, whats_new
from rimecrest.core.release import Assignment, Package, released_stack
from rimecrest.core.words import counted
from rimecrest.core.workspace import Workspace

TOLD = 3
"""Differences that are told one by one."""


def draft_news(workspace: Workspace, package: Package, number: int) -> str:
    """What is new since a release, over all layers and applications; empty where it cannot be read."""
    said: dict[str, None] = {}
    for layer in workspace.layers:
        stack = workspace.stack_up_to(layer)
        for app in workspace.catalogues:
            try:
                state = released_stack(package, Assignment(release=number, stack=stack), app)
            except RimecrestError:
                return ""
            before = state.outcome(workspace.catalogue(app))
            for found in compare(before, workspace.outcome(stack, app), workspace.targets(stack, app)):
                said.setdefault(found.sentence)
    words = list(said)
    more = f" And {counted(len(words) - TOLD, 'more change')}." if len(words) > TOLD else ""
    return " ".join(words[:TOLD]) + more if words else whats_new([])
