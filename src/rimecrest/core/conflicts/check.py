"""Running all rules over a workspace, again only where an edit could have changed their answer."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Any

from rimecrest.core.conflicts.audience import Audience
from rimecrest.core.conflicts.findings import Finding, worst_first
from rimecrest.core.conflicts.item_rules import ITEM_RULES, LayerView, out_of_reach, unreadable
from rimecrest.core.conflicts.key_rules import KeyTable, key_findings
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True)
class Checked:
    """The findings of one workspace, worst first, and what was kept to make the next check quick."""

    findings: tuple[Finding, ...] = ()
    kept: dict[tuple[str, ...], tuple[tuple[Any, ...], tuple[Finding, ...]]] = field(default_factory=dict)

    def of(self, layer: str, app: str) -> list[Finding]:
        """The findings that can be mended in one layer of one application."""
        return [f for f in self.findings if (f.layer, f.app) == (layer, app) or f.kind == "unreadable"]


def check(workspace: Workspace, before: Checked | None = None) -> Checked:
    """All findings of a workspace that are not accepted.

    Args:
        workspace: what to check.
        before: the check of an earlier state of the same workspace. Parts whose inputs are the very same
            objects are taken over from it.
    """
    old = before.kept if before else {}
    kept: dict[tuple[str, ...], tuple[tuple[Any, ...], tuple[Finding, ...]]] = {}
    audience = Audience(workspace)
    shared = (workspace.settings, workspace.people, workspace.macros)

    def part(key: tuple[str, ...], inputs: tuple[Any, ...], findings: Iterable[Finding]) -> None:
        known = old.get(key)
        if (
            known
            and len(known[0]) == len(inputs)
            and all(a is b for a, b in zip(known[0], inputs, strict=True))
        ):
            kept[key] = known
        else:
            kept[key] = (inputs, tuple(findings))

    for app, catalogue in workspace.catalogues.items():
        layouts = tuple(workspace.layouts.get((layer, app)) for layer in workspace.layers)
        part(("keys", app), (*shared, catalogue, *layouts), _keys(workspace, app, audience))
        for layer, layout in zip(workspace.layers, layouts, strict=True):
            view = LayerView(workspace, app, layer, audience)
            part(("macros", app, layer), (*shared, catalogue, layout), out_of_reach(view))
            if layout is not None:
                beneath = tuple(workspace.layouts.get((name, app)) for name in workspace.stack_up_to(layer))
                part(("items", app, layer), (*shared, catalogue, *beneath), _items(view))
    part(("files",), (workspace.broken,), unreadable(workspace))
    found = [finding for _, findings in kept.values() for finding in findings]
    return Checked(tuple(worst_first(_not_accepted(workspace, _merged(found)))), kept)


def _keys(workspace: Workspace, app: str, audience: Audience) -> Iterable[Finding]:
    # A generator: the table is only built when the part's inputs changed.
    yield from key_findings(KeyTable(workspace, app, audience))


def _items(view: LayerView) -> Iterable[Finding]:
    for rule in ITEM_RULES:
        yield from rule(view)


def _merged(findings: Iterable[Finding]) -> list[Finding]:
    """One finding for each thing, with the seats of all."""
    found: dict[Any, Finding] = {}
    for finding in findings:
        known = found.get(finding.key)
        if known is None:
            found[finding.key] = finding
        else:
            seats = tuple(dict.fromkeys((*known.seats, *finding.seats)))
            found[finding.key] = replace(known, seats=seats)
    return list(found.values())


def _not_accepted(workspace: Workspace, findings: list[Finding]) -> Iterable[Finding]:
    accepted = {
        (app, acceptance.kind, acceptance.owners, acceptance.targets)
        for (_, app), layout in workspace.layouts.items()
        for acceptance in layout.acceptances
    }
    for finding in findings:
        owners = tuple(owner.id for owner in finding.owners)
        if (finding.app, finding.kind, owners, finding.targets_digest()) not in accepted:
            yield finding
