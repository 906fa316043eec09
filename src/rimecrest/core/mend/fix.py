"""One way to resolve a finding."""

from __future__ import annotations

from msgspec import Struct

from rimecrest.core.check.findings import Finding
from rimecrest.core.layout.layout import Acceptance
from rimecrest.core.workspace.edits import Accept, Edit


class Fix(Struct, frozen=True):
    """One way to resolve a finding.

    Without an edit it is kept on purpose: with the reason that stands ready, else with one that is asked for.
    """

    label: str
    edit: Edit | None
    finding: Finding
    ready: str = ""

    @property
    def asks_reason(self) -> bool:
        """Whether somebody has to say first why it is right."""
        return self.edit is None and not self.ready

    def with_reason(self, reason: str, since: str = "", by: str = "") -> Edit:
        """The edit, with the reason where it wants one.

        Args:
            since: the day, as YYYY-MM-DD, and
            by: the name of whoever keeps it; both only where it is kept on purpose.
        """
        if self.edit is not None:
            return self.edit
        finding = self.finding
        kept = Acceptance(
            kind=finding.kind,
            owners=tuple(owner.id for owner in finding.owners),
            targets=finding.targets_digest(),
            why=reason or self.ready,
            since=since,
            by=by,
        )
        return Accept(finding.layer, finding.app, kept)
