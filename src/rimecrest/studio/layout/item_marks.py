"""Which items of the stage a finding is about, and the gravest of each."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from rimecrest.core.check import Finding, Weight
from rimecrest.core.check.kinds import KINDS
from rimecrest.core.layout import Outcome
from rimecrest.core.workspace.give_key import Target


def marks_of(outcome: Outcome | None, findings: Iterable[Finding]) -> dict[str, Weight]:
    """Item → how grave the gravest finding about it is."""
    rank = {weight: place for place, weight in enumerate(Weight)}
    marks: dict[str, Weight] = {}
    items = list(outcome.buttons()) if outcome else []
    known = {item.id for _, item in items}
    running: dict[tuple[str, Target], set[str]] = {}
    for _, item in items:
        running.setdefault((item.layer, item.target), set()).add(item.id)
    for finding in findings:
        for name in _items_of(finding, known, running):
            if name not in marks or rank[finding.weight] < rank[marks[name]]:
                marks[name] = finding.weight
    return marks


def _items_of(finding: Finding, known: set[str], running: Mapping[tuple[str, Target], set[str]]) -> set[str]:
    """The items that a finding is about: named by it, or running what one of its bindings runs.

    Args:
        known: the identities of all items.
        running: of each layer and target, the items that run it.
    """
    found = {owner.id for owner in finding.owners} & known
    if KINDS[finding.kind].marks_targets:
        for owner in finding.owners:
            if owner.layer == finding.layer:
                found |= running.get((finding.layer, (owner.run, owner.args)), set())
    return found
