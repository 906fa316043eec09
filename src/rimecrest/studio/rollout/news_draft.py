"""A draft of what colleagues will read: the differences of the workspace to the newest release."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.compare import Difference, compare, whats_new
from rimecrest.core.release import Assignment, Package, released_stack
from rimecrest.core.workspace import ORGANISATION, Workspace


def draft_news(workspace: Workspace, package: Package, number: int) -> dict[str, str]:
    """What is new since a release: layer → what its colleagues read, beside what those beneath it read.

    Everyone's is there always; nothing is where the release cannot be read.
    """
    found: dict[str, str] = {}
    said: set[str] = set()
    for layer in workspace.layers:
        stack = workspace.stack_up_to(layer)
        new: dict[str, Difference] = {}
        for app in workspace.catalogues:
            try:
                state = released_stack(package, Assignment(release=number, stack=stack), app)
            except RimecrestError:
                return {}
            before = state.outcome(workspace.catalogue(app))
            for each in compare(before, workspace.outcome(stack, app), workspace.targets(stack, app)):
                if each.sentence not in said:
                    new.setdefault(each.sentence, each)
        if layer == ORGANISATION:
            # A department's colleagues have what everyone has, and are told it once.
            said |= new.keys()
        if new:
            found[layer] = whats_new(list(new.values()))
    return found or {ORGANISATION: whats_new([])}
