"""The rules that need to know what is used, or what another application of the same colleagues does.

1. slip: a key next to a destructive or sending one with the same modifiers, both used often: expected slips a
   month = uses × the probability of hitting the neighbour. Tells.
2. no key, much used: a target used often that no layer gives a key. Tells.
3. key, never used: a shared key whose target was counted for thirty days, and nobody used it. Tells. What
   has no line in use.csv has not been counted for so long yet.
4. two meanings: one sequence does different things in two applications of the same colleagues; one macro has
   different keys in them. Tells.

(docs/conflicts.md, "Findings".)
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from msgspec import Struct

from rimecrest.core.catalogue.surfaces import runs_of
from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.index import NOTHING, Claim
from rimecrest.core.check.table import KeyTable, Meaning
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.macro.steps import Run
from rimecrest.core.remembered import Remembered
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.layer_ids import ORGANISATION

OFTEN = 20
"""Uses in thirty days, of all colleagues together, from which a key is used often: once a working day."""
MUCH = 200
"""Uses in thirty days from which something much used should have a key: about ten a working day."""
SLIPS = 0.5
"""Expected slips in thirty days that are worth telling: one in two months."""


def slip(table: KeyTable, text: str) -> Iterator[Finding]:
    habits = table.workspace.habits
    dangerous = [claim for claim in table.index.claims(text) if table.danger(claim.run)]
    for claim in dangerous:
        if (habits.uses(table.app, claim.run) or 0) < OFTEN:
            continue
        worst: tuple[float, str, Claim, tuple[str, ...]] | None = None
        for beside in table.estate.slips(text):
            chance = table.estate.slips(beside).get(text, 0.0)
            for rival in table.index.claims(beside):
                uses = habits.uses(table.app, rival.run) or 0
                if (
                    uses < OFTEN
                    or rival.run == claim.run
                    or claim.level == rival.level == 0
                    or not table.relation(claim.context, rival.context)
                    or uses * chance < SLIPS
                ):
                    continue
                seats = table.seats(claim, rival)
                if seats is not None and (worst is None or uses * chance > worst[0]):
                    worst = (uses * chance, beside, rival, seats)
        if worst is None:
            continue
        expected, beside, rival, seats = worst
        does = table.danger(claim.run)
        yield Finding(
            kind="slip",
            app=table.app,
            layer=table.levels[max(claim.level, rival.level)],
            where=text,
            subject=text,
            rest=(
                tr(
                    "for {name}, which {does}, is close to {beside} for {rival}: expect about "
                    "{number} a month.",
                    name=table.name(claim.run),
                    does=does,
                    beside=beside,
                    rival=table.name(rival.run),
                    number=counted(max(1, round(expected)), "slip"),
                )
            ),
            owners=(table.owner(claim), table.owner(rival)),
            context=claim.context,
            seats=seats,
        )


def never_used(table: KeyTable, text: str) -> Iterator[Finding]:
    habits = table.workspace.habits
    for claim in table.index.claims(text):
        count = habits.counts.get((table.app, claim.run or ""))
        if claim.level and count is not None and count.counted and not count.uses:
            rest = tr("for {name} is a key for what nobody used in 30 days.", name=table.name(claim.run))
            yield table.finding("never-used", text, claim, rest)


def much_used(table: KeyTable) -> Iterator[Finding]:
    """Targets of one application that are used much and have no key at all."""
    habits = table.workspace.habits
    wanted = {
        target: count
        for (app, target), count in habits.counts.items()
        if app == table.app and count.uses >= MUCH
    }
    if not wanted:
        return
    for target, count in wanted.items():
        face = table.targets.face(target)
        texts = table.index.sequences.get(target, ())
        keyed = any(claim.run == target for text in texts for claim in table.index.claims(text))
        if keyed or not face.exists:
            continue
        layer = next(
            (layer for layer, name in table.workspace.macros if f"macro:{name}" == target), ORGANISATION
        )
        basis = "used" if count.counted else tr("by your estimate used")
        yield Finding(
            kind="no-key",
            app=table.app,
            layer=layer,
            where=target,
            subject=face.name,
            rest=tr(
                "is {basis} {number} in 30 days and has no key.",
                basis=basis,
                number=counted(count.uses, "time"),
            ),
            owners=(Owner(target, layer, target, face.name),),
            seats=table.audience.seats(frozenset((layer,))) or (),
        )


def faulty_unused(table: KeyTable) -> Iterator[Finding]:
    """faulty-unused: macros of one application that cannot run, or do nothing, and that nothing runs."""
    idle = [
        (layer, file, tr("cannot run, and nothing runs it: {fault}.", fault=str(fault).rstrip(".")))
        for layer, file, fault in table.macro_faults.broken(table.app)
    ]
    idle += [
        (file.layer, file, tr("has no steps, and nothing runs it."))
        for file in table.workspace.macros.values()
        if file.macro.application == table.app
        and not (file.macro.steps or file.faults or file.macro.unfinished)
    ]
    if not idle:
        return
    layouts = table.workspace.layouts.items()
    used = {run for (_, app), layout in layouts if app == table.app for run in runs_of_items(layout)}
    used |= {
        f"macro:{step.macro}"
        for file in table.workspace.macros.values()
        for step in file.macro.live_steps()
        if isinstance(step, Run)
    }
    for layer, file, rest in idle:
        run = f"macro:{file.id}"
        texts = table.index.sequences.get(run, ())
        if run in used or any(claim.run == run for text in texts for claim in table.index.claims(text)):
            continue
        yield Finding(
            kind="faulty-unused",
            app=table.app,
            layer=layer,
            where=run,
            subject=f"“{file.name}”",
            rest=rest,
            owners=(Owner(run, layer, run, file.name),),
        )


_RUNS: Remembered[frozenset[str]] = Remembered(2_000)


def runs_of_items(layout: Layout) -> frozenset[str]:
    """Everything that the items of a layout run, or are changed to run."""

    def found() -> frozenset[str]:
        placed = {run for thing in (*layout.all_items(), *layout.panels) for run in runs_of(thing)}
        return frozenset(
            placed | {str(change.set["run"]) for change in layout.change if change.set.get("run")}
        )

    return _RUNS.of((layout,), (), found)


class _Said(Struct, frozen=True, gc=False):
    """What a key of an application says on a sequence: where it stands in the bucket there, what it means."""

    level: int
    app: str
    order: str
    """The meaning as text, for an order that never changes."""
    meaning: Meaning
    table: KeyTable
    place: int


def two_meanings(tables: Mapping[str, KeyTable], text: str) -> Iterator[Finding]:
    """One sequence in several applications. Of each application one key speaks, the lowest layer's first."""
    candidates = _may_differ(tables, text)
    if not candidates:
        return
    said: dict[int, list[_Said]] = {}
    for table in tables.values():
        bucket = table.index.buckets.get(text, NOTHING)
        for place in [place for place, level in enumerate(bucket.levels) if level in candidates]:
            level, key, meaning = bucket.at(place)
            if (run := key.run) is not None:
                given = key.args if isinstance(key, KeyBinding) else {}
                told = meaning if meaning is not None and not given else table.meaning(run, given)
                said.setdefault(level, []).append(_Said(level, table.app, str(told), told, table, place))
    beneath = next(iter(tables.values())).beneath
    levels: set[int] = set()
    for level, here in said.items():
        # What meets a higher layer is found when that one is looked at.
        lower = [other for other in beneath[level] if other in said]
        both = [*here, *(one for other in lower for one in said[other])]
        if len({one.app for one in both}) > 1 and len({one.meaning for one in both}) > 1:
            levels.add(level)
            levels.update(lower)
    if levels:
        found = sorted(
            (one for level in levels for one in said[level]), key=lambda one: (one.level, one.app, one.order)
        )
        yield _two_meanings(text, found)


def _may_differ(tables: Mapping[str, KeyTable], text: str) -> set[int]:
    """The levels at which a sequence can have two meanings: a first look that makes no claims.

    Most sequences of a well-kept estate run one plain command for each layer, the same in all applications.
    """
    said: dict[int, str | None] = {}
    several: set[int] = set()
    for table in tables.values():
        bucket = table.index.buckets.get(text)
        if bucket is None:
            continue
        if text in table.index.special:
            several.update(bucket.levels)
            continue
        held = bucket.held
        for level, meaning in zip(held[::3], held[2::3], strict=True):
            if said.setdefault(level, meaning) is not meaning:
                several.add(level)
    levels = (said.keys() | several) - {0}
    table = next(iter(tables.values()))
    beneath = table.beneath
    for level in table.can_meet(levels):
        if lower := levels.intersection(beneath[level]):
            several |= {level, *lower}
    return several - {0}


def _two_meanings(text: str, found: list[_Said]) -> Finding:
    speaking: dict[str, _Said] = {}
    told: set[str] = set()
    for one in found:
        if one.app not in speaking or (len(told) == 1 < len(speaking) and one.order not in told):
            speaking[one.app] = one
            told.add(one.order)
    spoken = [speaking[app] for app in sorted(speaking)]
    parts = [(one.table, one.table.index.claim(text, one.place)) for one in spoken]
    table, claim = parts[0]
    words = [f"{t.name(c.run)} in {t.catalogue.title}" for t, c in parts]
    return Finding(
        kind="two-meanings",
        app=table.app,
        layer=table.levels[claim.level],
        where=text,
        subject=text,
        rest=tr("does different things for the same colleagues: {words}.", words=listed(words)),
        owners=tuple(dict.fromkeys(table.owner(claim) for table, claim in parts)),
        seats=table.audience.seats_of_any(frozenset(table.levels[one.level] for one in found)),
    )


def keys_differ(tables: Mapping[str, KeyTable], run: str) -> Iterator[Finding]:
    """One macro with different keys in several applications."""
    found: list[tuple[KeyTable, str, Claim]] = [
        (table, text, claim)
        for table in tables.values()
        for text in table.index.sequences.get(run, ())
        for claim in table.index.claims(text)
        if claim.run == run
    ]
    texts: dict[str, set[str]] = {}
    for table, text, _ in found:
        texts.setdefault(table.app, set()).add(text)
    if len(texts) < 2 or set.intersection(*texts.values()):
        return
    found.sort(key=lambda part: (part[0].app, part[1]))
    table, text, claim = found[0]
    words = listed(f"{keys} in {other.catalogue.title}" for other, keys, _ in found)
    yield Finding(
        kind="two-meanings",
        app=table.app,
        layer=table.levels[claim.level],
        where=run,
        subject=f"“{table.name(run)}”",
        rest=tr("has different keys: {words}.", words=words),
        owners=tuple(dict.fromkeys(other.owner(one) for other, _, one in found)),
        seats=table.seats_of(claim) or (),
    )
