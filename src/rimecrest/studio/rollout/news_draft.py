"""A draft of what colleagues will read: the differences of the workspace to the newest release."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.compare import Difference, compare, whats_new
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import Package
from rimecrest.core.release.stack import StackState
from rimecrest.core.release.stack_sources import released_stack
from rimecrest.core.workspace.layer_ids import ORGANISATION
from rimecrest.core.workspace.workspace import Workspace


def count_changes(workspace: Workspace, package: Package | None, number: int) -> int:
    """How many things a release would change for somebody."""
    drafted = _changes(workspace, package, number)
    return sum(len(sentences) for sentences in drafted.values()) if drafted is not None else 0


def draft_news(workspace: Workspace, package: Package | None, number: int) -> dict[str, str]:
    """What is new since a release: layer → what its colleagues read, beside what those beneath it read.

    Empty where nothing is new, or if the release cannot be read.

    Args:
        package: of the release; None before the first one, which is compared with the bare applications.
    """
    drafted = _changes(workspace, package, number)
    if drafted is None:
        return {}
    return {layer: whats_new(list(new.values())) for layer, new in drafted.items() if new}


def _changes(
    workspace: Workspace, package: Package | None, number: int
) -> dict[str, dict[str, Difference]] | None:
    """Layer -> sentence -> what is new for it; None if the release cannot be read."""
    found: dict[str, dict[str, Difference]] = {}
    said: set[str] = set()
    for layer in workspace.layers:
        stack = workspace.stack_up_to(layer)
        new: dict[str, Difference] = {}
        for app in workspace.catalogues:
            state = StackState(app=app)
            try:
                if package is not None:
                    state = released_stack(package, Assignment(release=number, stack=stack), app)
            except RimecrestError:
                return None
            before = state.outcome(workspace.catalogue(app))
            for each in compare(before, workspace.outcome(stack, app), workspace.targets(stack, app)):
                if each.sentence not in said:
                    new.setdefault(each.sentence, each)
        if layer == ORGANISATION:
            # A department's colleagues have what everyone has, and are told it once.
            said |= new.keys()
        found[layer] = new
    return found
