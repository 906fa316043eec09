"""A finding: one thing the checks have to say."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from typing import Any

from msgspec import Struct

from rimecrest.core.check.kinds import KINDS, Weight

EVERYDAY = 1_000_000_000
"""Gravity of a finding about a command that every colleague uses without looking."""

_ORDER = {weight: index for index, weight in enumerate(Weight)}


class Owner(Struct, frozen=True):
    """One side of a finding: an item or binding (`id`) of a layer, what it runs, and its name for people."""

    id: str
    layer: str
    run: str | None
    name: str
    args: tuple[tuple[str, str], ...] = ()


class Finding(Struct, frozen=True):
    """One thing the checks have to say.

    `where` is a sequence or an identity; `subject` the words the sentence begins with; `layer` the layer in
    which it can be mended; `gravity` sorts findings of one weight: uses a month of what is displaced, or
    EVERYDAY.
    """

    kind: str
    app: str
    layer: str
    where: str
    subject: str
    rest: str
    owners: tuple[Owner, ...] = ()
    winner: Owner | None = None
    context: str = ""
    seats: tuple[str, ...] = ()
    gravity: int = 0
    own: bool = False
    """Whether it is about the application's own bindings alone: of them a finding only tells."""

    @property
    def weight(self) -> Weight:
        """How much it matters."""
        if self.own:
            return Weight.TELLS
        kind = KINDS[self.kind]
        return kind.everyday if kind.everyday and self.gravity == EVERYDAY else kind.weight

    @property
    def sentence(self) -> str:
        return f"{self.subject} {self.rest}"

    @property
    def key(self) -> tuple[str, str, str, str, tuple[str, ...]]:
        """Two findings with one key are about the same thing."""
        return self.kind, self.app, self.where, self.context, tuple(owner.id for owner in self.owners)

    def targets_digest(self) -> str:
        """Digest of what its owners run: an acceptance lapses when it changes."""
        text = "\n".join(f"{owner.id} {owner.run} {owner.args}" for owner in self.owners)
        return hashlib.sha256(text.encode()).hexdigest()[:16]

    def to_data(self, fixes: Iterable[str] = ()) -> dict[str, Any]:
        """The finding as `rimecrest check --json` prints it."""
        return {
            "kind": self.kind,
            "weight": self.weight.value,
            "application": self.app,
            "where": self.where,
            "context": self.context,
            "owners": [{"layer": owner.layer, "name": owner.name, "run": owner.run} for owner in self.owners],
            "winner": self.winner.name if self.winner else None,
            "seats": list(self.seats),
            "sentence": self.sentence,
            "fixes": list(fixes),
        }


def order(finding: Finding) -> tuple[int, int, str, str, str, str, str, tuple[str, ...], str]:
    """Sort key: by weight, then graver ones, then by where they are. No two findings are equal in it."""
    owners = tuple([owner.id for owner in finding.owners])
    return (
        _ORDER[finding.weight],
        -finding.gravity,
        finding.app,
        finding.kind,
        finding.where,
        finding.layer,
        finding.context,
        owners,
        finding.rest,
    )
