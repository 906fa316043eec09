"""What every remedy looks at to make a fix: a finding in its workspace."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cached_property

from msgspec import Struct

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.run import Checked, check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.mend.fix import Fix
from rimecrest.core.workspace.workspace import Workspace


class Case(Struct, frozen=True, dict=True):
    """A finding in its workspace, with the check that it comes from."""

    finding: Finding
    workspace: Workspace
    checked: Checked

    def mends(self, fix: Fix) -> bool:
        """Whether a fix removes the finding and brings none of the same weight or a graver one."""
        if fix.edit is None:
            return True
        try:
            after = check(fix.edit.on(self.workspace), self.checked)
        except RimecrestError:
            return False
        mine = self.finding
        if any(other.key == mine.key for other in after.findings):
            return False
        return not any(
            not other.weight.lighter_than(mine.weight) and _place(other) not in self._told
            for other in after.findings
        )

    @cached_property
    def _told(self) -> set[tuple[str, ...]]:
        """Where something of a kind is told already: of three on one key, two are not a new finding."""
        return {_place(finding) for finding in self.checked.findings}

    def key_of(self, owner: Owner) -> KeyBinding | None:
        """The stored key of an owner; None for an item, or the application's own key."""
        layout = self.workspace.layouts.get((owner.layer, self.finding.app))
        local = owner.id.removeprefix(f"{owner.layer}:")
        return next((key for key in layout.keys if key.identity == local), None) if layout else None

    @cached_property
    def mine(self) -> tuple[Owner, KeyBinding] | None:
        """The key that gives way or goes elsewhere, with its owner; None when there is none to move.

        If one sequence begins others it is the opener; of two in one layer the later one; otherwise the one
        in the layer of the finding. Of two that are one keystroke it is the one that the finding is told at.
        """
        movable = [owner for owner in self.finding.owners if self.key_of(owner) is not None]
        if not movable:
            return None
        here = [owner for owner in movable if owner.layer == self.finding.layer]
        owner = movable[0] if self.finding.kind in ("same-stroke", "prefix") else (here or movable)[-1]
        key = self.key_of(owner)
        assert key is not None
        return owner, key

    @property
    def about_target(self) -> bool:
        """Whether it is about what is run, wherever its keys are, and not about one sequence."""
        return self.finding.where.startswith("macro:")


def _place(finding: Finding) -> tuple[str, ...]:
    return finding.kind, finding.app, finding.where, finding.context, finding.layer


Maker = Callable[[Case], Iterator[Fix]]
"""How the fixes of one kind are made; none where this kind of fix is no answer to the case."""
