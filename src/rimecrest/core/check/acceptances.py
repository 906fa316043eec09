"""What is kept on purpose: every acceptance with the finding that it silences, or that it silences none."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct

from rimecrest.core.check.findings import Finding
from rimecrest.core.layout.layout import Acceptance
from rimecrest.core.workspace.workspace import Workspace

if TYPE_CHECKING:
    from rimecrest.core.check.run import Checked


class Kept(Struct, frozen=True):
    """An acceptance of one layer's layout; `finding` is None where it has lapsed, or there is nothing any
    more."""

    layer: str
    app: str
    acceptance: Acceptance
    finding: Finding | None


def kept_on_purpose(workspace: Workspace, checked: Checked) -> list[Kept]:
    """Every acceptance of the workspace: those that silence something first, each in the order given."""
    told = {
        (finding.app, finding.kind, tuple(owner.id for owner in finding.owners)): finding
        for finding in (checked.cache.ordered if checked.cache is not None else ())
    }
    found = []
    for (layer, app), layout in workspace.layouts.items():
        for kept in layout.acceptances:
            finding = told.get((app, kept.kind, kept.owners))
            if finding is not None and finding.targets_digest() != kept.targets:
                finding = None
            found.append(Kept(layer, app, kept, finding))
    return sorted(found, key=lambda one: one.finding is None)
