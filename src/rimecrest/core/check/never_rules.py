"""never-runs: a key or an item that can never run what it is bound to. A question.

1. The target needs another context than the one the key is bound in, or the menu opens in.
2. It needs Shift and a digit of the keypad, which are something else while Num Lock is on.
3. It is bound in the fields of panels, which keep it.
4. Another key wins wherever the target can run, on every seat that has the key. Who wins is decided by
   `core.keys.deciding`, as in a running application.

(docs/conflicts.md, "Findings".)
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from msgspec.structs import replace

from rimecrest.core.check.findings import Finding
from rimecrest.core.check.index import Claim, beginnings
from rimecrest.core.check.item_rules import LayerView
from rimecrest.core.check.table import KeyTable
from rimecrest.core.keys.bindings import Binding, deciding
from rimecrest.core.keys.chords import Chord, format_chord, parse_sequence
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.keys.focus_keys import kept_by_field, needs_num_lock_off, num_lock_twin
from rimecrest.core.keys.keyboards.national import spelled_on
from rimecrest.core.layout.seen import SeenMenu
from rimecrest.core.macro.where_runs import WhereRuns, where_runs
from rimecrest.core.words import listed, tr


def never_runs(table: KeyTable, text: str) -> Iterable[Finding]:
    """Find the keys on one sequence that never run their target."""
    claims = [claim for claim in table.index.claims(text) if claim.level and claim.run is not None]
    return _never_runs(table, text, claims) if claims else ()


def _never_runs(table: KeyTable, text: str, claims: list[Claim]) -> Iterator[Finding]:
    for claim in claims:
        if claim.context not in table.contexts:
            continue  # told as an unknown name
        where = _where(table, claim)
        if not where.bound_in(claim.context):
            needs = tr("only runs {where}", where=where.words) if where.needs else tr("never runs there")
            rest = tr(
                "for {name} is bound {context}, but {name} {needs}.",
                name=table.name(claim.run),
                context=table.contexts.name(claim.context).lower(),
                needs=needs,
            )
            yield table.finding("never-runs", text, claim, rest)
        elif (chord := _turned(text)) is not None:
            other = num_lock_twin(chord)
            rest = tr(
                "never runs {name} while Num Lock is on: the keys give {other} then.",
                name=table.name(claim.run),
                other=format_chord(other) if other is not None else tr("nothing"),
            )
            yield table.finding("never-runs", text, claim, rest)
        elif claim.context == FIELD and kept_by_field(parse_sequence(text)[0]):
            rest = tr("never runs {name}: a field of a panel keeps the key.", name=table.name(claim.run))
            yield table.finding("never-runs", text, claim, rest)
        elif _may_lose(table, text, claim) and (winners := _always_lost_to(table, text, claim, where)):
            names = listed(f"{name} ({layer})" for name, layer in winners)
            rest = tr(
                "never runs {name}: {winners} wins wherever it could run.",
                name=table.name(claim.run),
                winners=names,
            )
            yield table.finding("never-runs", text, claim, rest)


def _turned(text: str) -> Chord | None:
    return next((chord for chord in parse_sequence(text) if needs_num_lock_off(chord)), None)


def _where(table: KeyTable, claim: Claim) -> WhereRuns:
    kind, _, name = (claim.run or "").partition(":")
    visible = table.macro_faults.visible(table.levels[claim.level]) if kind == "macro" else {}
    file = visible.get(name)
    return where_runs(table.catalogue, claim.run, file.macro if file is not None else None)


def _may_lose(table: KeyTable, text: str, claim: Claim) -> bool:
    """Whether some binding that meets the claim is stronger: a quick look before the exact answer."""
    mine = table.strength(claim)
    for place in (text, *table.index.near(text)):
        for rival in table.index.claims(place):
            if table.strength(rival) > mine and table.relation(claim.context, rival.context):
                return True
    return False


def _always_lost_to(table: KeyTable, text: str, claim: Claim, where: WhereRuns) -> list[tuple[str, str]]:
    """Return who wins instead (name, layer's title) if the claim wins nowhere; an empty list if it does."""
    contexts = table.contexts
    inside = [place for place in contexts.places if contexts.contains(claim.context, place)]
    runnable = [place for place in inside if where.bound_in(place)]
    near = _near(table, text)
    found: dict[tuple[str, str], None] = {}
    mine = _bound(table, text, claim)
    for levels, traits in table.audience.kinds(table.levels[claim.level]):
        if claim.traits is not None and traits not in claim.traits:
            continue
        here = [
            replace(bound, spelled=spelled_on(traits.keyboard, bound.sequence))
            for other, bound in near
            if bound.layer in levels
            and (other.traits is None or traits in other.traits)
            and not table.apart(claim, other)
        ]
        strokes = spelled_on(traits.keyboard, mine.sequence)
        for context in runnable:
            winner, displaced = deciding(here, strokes, context, contexts)
            if winner is not None and winner.target == mine.target:
                return []
            if (by := displaced.get(mine.id)) is not None:
                found[table.name(by.run), table.workspace.layer_title(by.layer)] = None
    return list(found)


def _near(table: KeyTable, text: str) -> list[tuple[Claim, Binding]]:
    """Every binding that begins with the same keystroke: the others have no say in who wins."""
    first = format_chord(parse_sequence(text)[0])
    texts = dict.fromkeys((first, *table.index.longer.get(first, ()), text, *beginnings(text)))
    texts |= dict.fromkeys(other for one in texts for other in table.index.same_stroke.get(one, ()))
    return [(claim, _bound(table, other, claim)) for other in texts for claim in table.index.claims(other)]


def _bound(table: KeyTable, text: str, claim: Claim) -> Binding:
    layer = table.levels[claim.level]
    return Binding(
        table.owner(claim).id,
        layer,
        claim.level,
        claim.context,
        parse_sequence(text),
        claim.run,
        claim.args,
        claim.fixed,
    )


def items_that_never_run(view: LayerView) -> Iterator[Finding]:
    """Find items of right-click menus whose target needs another place than the one the menu opens in."""
    for row, item in view.mine:
        if not isinstance(row, SeenMenu) or not item.run or row.context not in view.catalogue.context_tree:
            continue
        name = item.run.removeprefix("macro:")
        file = view.macros.get(name) if item.run.startswith("macro:") else None
        where = where_runs(view.catalogue, item.run, file.macro if file is not None else None)
        if not where.bound_in(row.context):
            needs = (
                tr("it only runs {where}", where=where.words) if where.needs else tr("it never runs there")
            )
            rest = tr("can never run from the menu “{title}”: {needs}.", title=row.title, needs=needs)
            yield view.finding("never-runs", item.id, f"“{item.label}”", rest, view.owner(item))
