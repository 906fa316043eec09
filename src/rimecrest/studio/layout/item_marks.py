"""Which items of the stage a finding is about, and the gravest of each."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeVar

from rimecrest.core.check.findings import Finding
from rimecrest.core.check.kinds import KINDS, Weight
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.workspace.give_key import Target

Marked = TypeVar("Marked")

_RANK = {weight: rank for rank, weight in enumerate(Weight)}


def marks_of(outcome: Outcome | None, findings: Iterable[Finding]) -> dict[str, Weight]:
    """Item → how grave the gravest finding about it is.

    A finding is about the items that it names, and about those that run what one of its bindings runs.
    """
    items = [item for _, item in outcome.buttons()] if outcome else []
    known = {item.id for item in items}
    marks: dict[str, Weight] = {}
    running: dict[tuple[str, Target], Weight] = {}
    """Layer and target of bindings → the same."""
    for finding in findings:
        for owner in finding.owners:
            if owner.id in known:
                _mark(marks, owner.id, finding.weight)
            if KINDS[finding.kind].marks_targets and owner.layer == finding.layer:
                _mark(running, (owner.layer, (owner.run, owner.args)), finding.weight)
    if running:
        for item in items:
            weight = running.get((item.layer, item.target))
            if weight is not None:
                _mark(marks, item.id, weight)
    return marks


def _mark(marks: dict[Marked, Weight], thing: Marked, weight: Weight) -> None:
    if thing not in marks or _RANK[weight] < _RANK[marks[thing]]:
        marks[thing] = weight
