"""One way to resolve a finding, and what every remedy looks at to make it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.run import Checked
from rimecrest.core.layout import Acceptance, KeyBinding
from rimecrest.core.workspace.edits import Accept, Edit
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True)
class Fix:
    """One way to resolve a finding. `asks_reason`: the edit wants a reason first."""

    label: str
    edit: Edit | None
    finding: Finding
    asks_reason: bool = False

    def with_reason(self, reason: str) -> Edit:
        """The edit, with the reason where it wants one."""
        if not self.asks_reason:
            assert self.edit is not None
            return self.edit
        finding = self.finding
        owners = tuple(owner.id for owner in finding.owners)
        kept = Acceptance(kind=finding.kind, owners=owners, targets=finding.targets_digest(), why=reason)
        return Accept(finding.layer, finding.app, kept)


@dataclass(frozen=True)
class Case:
    """A finding in its workspace; `checked` is the check of it where it is at hand: free keys are quicker."""

    finding: Finding
    workspace: Workspace
    checked: Checked | None = None

    def key_of(self, owner: Owner) -> KeyBinding | None:
        """The stored key of an owner; None for an item, or the application's own key."""
        layout = self.workspace.layouts.get((owner.layer, self.finding.app))
        local = owner.id.removeprefix(f"{owner.layer}:")
        return next((key for key in layout.keys if key.identity == local), None) if layout else None

    @cached_property
    def mine(self) -> tuple[Owner, KeyBinding] | None:
        """The key that gives way or goes elsewhere, with its owner; None when there is none to move.

        Of two in one layer the later one does; else the one in the layer where it is to be mended. Of two
        that are one keystroke it is the one that the finding is told at.
        """
        movable = [owner for owner in self.finding.owners if self.key_of(owner) is not None]
        if not movable:
            return None
        here = [owner for owner in movable if owner.layer == self.finding.layer]
        owner = movable[0] if self.finding.kind == "same-stroke" else (here or movable)[-1]
        key = self.key_of(owner)
        assert key is not None
        return owner, key

    @property
    def about_target(self) -> bool:
        """Whether it is about what is run, wherever its keys are, and not about one sequence."""
        return self.finding.where.startswith("macro:")


Maker = Callable[[Case], Iterator[Fix]]
"""How the fixes of one kind are made; none where this kind of fix is no answer to the case."""
