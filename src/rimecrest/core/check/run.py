"""Running all rules over a workspace, again only where an edit could have changed their answer.

Findings are kept by part, a scope of `rules.RULES` each: one sequence of one application, one layer of one
application, one sequence or macro over all applications, one application, the estate. An edit of layouts or
macros runs the parts that it touches; anything else runs all. Either way the result is the same: a property
test holds it.
"""

from __future__ import annotations

from bisect import bisect_left, insort
from collections.abc import Iterable, Iterator, Mapping
from types import MappingProxyType

from msgspec import Struct

from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.check.findings import Finding, order
from rimecrest.core.check.index import KeyIndex
from rimecrest.core.check.item_rules import LayerView
from rimecrest.core.check.macro_faults import MacroFaults
from rimecrest.core.check.rules import (
    AcrossRule,
    ApplicationRule,
    EstateRule,
    LayerRule,
    SequenceRule,
    rules_of,
)
from rimecrest.core.check.table import EstateView, KeyTable
from rimecrest.core.check.use_rules import MUCH
from rimecrest.core.layout.layout import SHOWN, Acceptance, Layout
from rimecrest.core.layout.panel_readings import PREFIX
from rimecrest.core.macro.step_tree import walk
from rimecrest.core.macro.steps import Run
from rimecrest.core.values import PartlyCompared
from rimecrest.core.workspace.layer_ids import ORGANISATION
from rimecrest.core.workspace.workspace import Workspace

SEQUENCE_RULES: tuple[SequenceRule, ...] = rules_of(SequenceRule)
LAYER_RULES: tuple[LayerRule, ...] = rules_of(LayerRule)
ACROSS_RULES: tuple[AcrossRule, ...] = rules_of(AcrossRule)
APPLICATION_RULES: tuple[ApplicationRule, ...] = rules_of(ApplicationRule)
ESTATE_RULES: tuple[EstateRule, ...] = rules_of(EstateRule)

Part = tuple[str, ...]


class _Parts:
    """The findings by part, and which parts were gone through again."""

    def __init__(self, found: Mapping[Part, tuple[Finding, ...]] = MappingProxyType({})) -> None:
        self.found = dict(found)
        self.again: set[Part] = set()

    def put(self, part: Part, findings: Iterable[Finding]) -> None:
        """What a part has to say now."""
        if found := tuple(findings):
            if found == self.found.get(part):
                return  # the same is said again: what it was said with stays, and where it stands
            self.found[part] = found
        elif part not in self.found:
            return  # as most parts of a well-kept estate: nothing to say, as before
        else:
            del self.found[part]
        self.again.add(part)


class CheckCache(Struct, frozen=True):
    """What one check leaves for the next."""

    workspace: Workspace
    estate: EstateView
    faults: MacroFaults
    tables: dict[str, KeyTable]
    parts: dict[Part, tuple[Finding, ...]]
    ordered: list[Finding]
    """All findings, accepted ones too, worst first."""
    acceptances: dict[tuple[str, str], tuple[Acceptance, ...]]
    """(layer, application) → what is accepted there, where anything is."""


class Checked(PartlyCompared, frozen=True):
    """The findings of one workspace, worst first, and what was kept to make the next check quick."""

    aside = frozenset({"cache"})

    findings: tuple[Finding, ...] = ()
    cache: CheckCache | None = None

    def of(self, layer: str, app: str) -> list[Finding]:
        """The findings that can be mended in one layer of one application."""
        return [f for f in self.findings if (f.layer, f.app) == (layer, app) or f.kind == "unreadable"]


def check(workspace: Workspace, before: Checked | None = None) -> Checked:
    """All findings of a workspace that are not accepted.

    Args:
        workspace: what to check.
        before: the check of an earlier state of the same workspace; what its edits did not touch is kept.
    """
    old = before.cache if before else None
    if old is not None and _same_ground(workspace, old):
        cache = _again(workspace, old)
    else:
        cache = _afresh(workspace)
    return Checked(tuple(_not_accepted(cache)), cache)


def _same_ground(workspace: Workspace, old: CheckCache) -> bool:
    was = old.workspace
    return (
        workspace.settings.same_rules(was.settings)
        and workspace.people is was.people
        and workspace.catalogues is was.catalogues
        and workspace.habits is was.habits
        and workspace.companions is was.companions
        and workspace.broken is was.broken
    )


def _afresh(workspace: Workspace) -> CheckCache:
    estate, faults = EstateView(workspace), MacroFaults(workspace)
    tables: dict[str, KeyTable] = {}
    parts = _Parts()
    for app, catalogue in workspace.catalogues.items():
        counts = workspace.habits.counts.items()
        watched = frozenset(target for (a, target), count in counts if a == app and count.uses >= MUCH)
        index = KeyIndex(estate.aliases, estate.audience.profiles, catalogue.plain_verbs, watched)
        index.add_own(catalogue)
        for level, layer in enumerate(workspace.layers, start=1):
            layout = workspace.layouts.get((layer, app))
            if layout is not None:
                index.add_layer(level, layout, layout.keys)
        tables[app] = KeyTable(workspace, app, estate, index, faults)
    for app, table in tables.items():
        _buckets(table, table.index.buckets, parts)
        for layer in workspace.layers:
            parts.put(("items", app, layer), _items(workspace, app, layer, estate, faults))
    shared = _several(tables)
    _across(tables, shared, {run for table in tables.values() for run in table.index.sequences}, parts)
    for app, table in tables.items():
        parts.put(("application", app), _of_application(table))
    _estate(workspace, estate, parts)
    ordered = sorted((finding for found in parts.found.values() for finding in found), key=order)
    given = {at: layout.acceptances for at, layout in workspace.layouts.items() if layout.acceptances}
    return CheckCache(workspace, estate, faults, tables, parts.found, ordered, given)


def _estate(
    workspace: Workspace,
    estate: EstateView,
    parts: _Parts,
    only_of_layouts: bool = False,
) -> None:
    for of_layouts in (True,) if only_of_layouts else (True, False):
        rules = [rule for rule in ESTATE_RULES if rule.of_layouts is of_layouts]
        part = ("estate", "layouts") if of_layouts else ("estate",)
        parts.put(part, (finding for rule in rules for finding in rule.find(workspace, estate)))


def _several(tables: dict[str, KeyTable]) -> set[str]:
    """The sequences that more than one application has."""
    seen: set[str] = set()
    several: set[str] = set()
    for table in tables.values():
        texts = table.index.buckets.keys()
        several |= seen & texts
        seen |= texts
    return several


def _buckets(table: KeyTable, texts: Iterable[str], parts: _Parts) -> None:
    buckets = table.index.buckets
    rules = [(rule.find, rule.where(table)) for rule in SEQUENCE_RULES if not rule.silent(table)]
    everywhere = [find for find, where in rules if where is buckets]
    somewhere = [(find, where) for find, where in rules if where is not buckets]
    for text in texts:
        if text in buckets:
            found: list[Finding] = []
            for find in everywhere:
                found += find(table, text)
            for find, where in somewhere:
                if text in where:
                    found += find(table, text)
            parts.put(("keys", table.app, text), found)


def _items(
    workspace: Workspace, app: str, layer: str, estate: EstateView, faults: MacroFaults
) -> Iterator[Finding]:
    layout = workspace.layouts.get((layer, app))
    if (layout is None or _bare(layout)) and not faults.out_of_reach(layer):
        return
    view = LayerView(workspace, app, layer, estate.audience, faults)
    for rule in LAYER_RULES:
        yield from rule.find(view)


def _of_application(table: KeyTable) -> Iterator[Finding]:
    return (finding for rule in APPLICATION_RULES for finding in rule.find(table))


def _surfaces(layout: Layout | None) -> tuple[object, ...]:
    """The parts of a layout that the rules about items look at."""
    return () if layout is None else tuple(getattr(layout, name) for name in SHOWN)


def _bare(layout: Layout) -> bool:
    return not any(_surfaces(layout)) and layout.applies.everywhere


def _across(
    tables: dict[str, KeyTable],
    texts: Iterable[str],
    runs: Iterable[str],
    parts: _Parts,
) -> None:
    if len(tables) < 2:
        return
    macros = [run for run in runs if run.startswith("macro:")]
    for rule in ACROSS_RULES:
        for name in texts if rule.of == "sequence" else macros:
            parts.put(("across", name), rule.find(tables, name))


def _again(workspace: Workspace, old: CheckCache) -> CheckCache:  # noqa: C901  one part after the other
    """The same as `_afresh`, from what an earlier check left."""
    was, estate, faults = old.workspace, old.estate, old.faults
    tables, parts = dict(old.tables), _Parts(old.parts)
    touched: dict[str, set[str]] = {app: set() for app in tables}
    layers: set[tuple[str, str]] = set()
    runs: set[str] = set()
    changed_layouts = list(_changed_layouts(workspace, was))
    panels = any(_panels(before) is not _panels(after) for _, before, after in changed_layouts)
    if panels or workspace.macros is not was.macros:
        faults = MacroFaults(workspace, old.faults)
        runs = {f"macro:{name}" for name in _changed_macros(workspace, was, panels)}
        for app, table in tables.items():
            tables[app] = KeyTable(workspace, app, estate, table.index, faults)
            touched[app] |= {text for run in runs for text in table.index.sequences.get(run, ())}
    others = workspace.companions is not was.companions or workspace.pictures is not was.pictures
    if faults is not old.faults or others:
        # Items run macros, open companions and show pictures.
        layers |= {(layer, app) for app in tables for layer in workspace.layers}
    for (layer, app), before, after in changed_layouts:
        if app not in tables or layer not in workspace.layers:
            continue
        level = workspace.layers.index(layer) + 1
        old_index = tables[app].index
        index, texts = old_index.changed(level, before, after)
        tables[app] = tables[app].with_index(index, workspace)
        touched[app] |= texts
        runs |= {c.run for known in (old_index, index) for text in texts for c in known.claims(text) if c.run}
        layers |= {(name, app) for name in _seeing(workspace, layer, before, after)}
    of_application = {app for (_, app), _, _ in changed_layouts} & tables.keys()
    if faults is not old.faults:
        of_application |= tables.keys()
    for app, changed in touched.items():
        table = tables[app]
        if not changed:
            tables[app] = table.with_index(table.index, workspace)
            continue
        near = changed | {other for text in changed for other in table.index.near(text)}
        if app in workspace.habits.known_apps:
            near |= {other for text in changed for other in estate.slips(text)}
        _buckets(table, near, parts)
        of_application.add(app)
    for app in of_application:
        parts.put(("application", app), _of_application(tables[app]))
    for layer, app in layers:
        parts.put(("items", app, layer), _items(workspace, app, layer, estate, faults))
    _across(tables, {text for texts in touched.values() for text in texts}, runs, parts)
    _estate(workspace, estate, parts, only_of_layouts=True)
    changed_acceptances = {at: after.acceptances if after else () for at, _, after in changed_layouts}
    given = {at: given for at, given in {**old.acceptances, **changed_acceptances}.items() if given}
    return CheckCache(workspace, estate, faults, tables, parts.found, _reordered(old, parts), given)


def _seeing(workspace: Workspace, layer: str, before: Layout | None, after: Layout | None) -> tuple[str, ...]:
    """The layers whose items may look different: this one, and those above where its surfaces changed."""
    same = list(map(id, _surfaces(before))) == list(map(id, _surfaces(after)))
    return workspace.layers if layer == ORGANISATION and not same else (layer,)


def _panels(layout: Layout | None) -> tuple[Panel, ...] | None:
    """The panels of a layout, to be compared by what they are in memory; None where it has none."""
    return layout.panels or None if layout is not None else None


def _changed_macros(workspace: Workspace, was: Workspace, panels: bool) -> set[str]:
    """The macros that became others, and those whose faults may have changed.

    These are all that run a macro and, where `panels` are others, all that read one.
    """
    found = set()
    for key in {**was.macros, **workspace.macros}:
        before, after = was.macros.get(key), workspace.macros.get(key)
        file = after or before
        if before is not after or (
            file is not None
            and (
                (panels and PREFIX in file.text) or any(isinstance(step, Run) for _, step in walk(file.macro))
            )
        ):
            found.add(key[1])
    return found


def _changed_layouts(
    workspace: Workspace, was: Workspace
) -> Iterator[tuple[tuple[str, str], Layout | None, Layout | None]]:
    if workspace.layouts is was.layouts:
        return
    old, new = was.layouts, workspace.layouts
    # An estate has hundreds of layouts; nearly every edit changes one, and leaves all where they stand.
    if len(old) == len(new):
        pairs = [(a, b) for a, b in zip(old.values(), new.values(), strict=True) if a is not b]
        places = [(before.layer, before.app) for before, _ in pairs]
        if all(
            old.get(place) is before and new.get(place) is after
            for place, (before, after) in zip(places, pairs, strict=True)
        ):
            yield from ((place, *pair) for place, pair in zip(places, pairs, strict=True))
            return
    for place in {**old, **new}:
        if old.get(place) is not new.get(place):
            yield place, old.get(place), new.get(place)


def _reordered(old: CheckCache, parts: _Parts) -> list[Finding]:
    ordered = list(old.ordered)
    for part in parts.again:
        # No two findings are equal in their order, so each is found where it belongs.
        for finding in old.parts.get(part, ()):
            del ordered[bisect_left(ordered, order(finding), key=order)]
    for part in parts.again:
        for finding in parts.found.get(part, ()):
            insort(ordered, finding, key=order)
    return ordered


def _not_accepted(cache: CheckCache) -> Iterable[Finding]:
    if not cache.acceptances:
        return cache.ordered
    accepted: dict[tuple[str, str], set[tuple[tuple[str, ...], str]]] = {}
    for (_, app), given in cache.acceptances.items():
        for one in given:
            accepted.setdefault((app, one.kind), set()).add((one.owners, one.targets))
    return [f for f in cache.ordered if not _accepted(f, accepted.get((f.app, f.kind), set()))]


def _accepted(finding: Finding, accepted: set[tuple[tuple[str, ...], str]]) -> bool:
    if not accepted:
        return False
    return (tuple(owner.id for owner in finding.owners), finding.targets_digest()) in accepted
