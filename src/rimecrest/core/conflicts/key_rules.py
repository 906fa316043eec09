"""The rules about keys.

1. double: one layer binds one sequence to two targets in one context. Blocks.
2. prefix: the same, where one sequence begins the other. Blocks.
3. takes over: a winner displaces a binding of the same context from a layer beneath. Asks, gravest for the
   everyday commands.
4. shadows: a binding in a narrower context hides one in a wider context. Tells.

(conflicts.md, "Findings".) Two bindings meet only where some seat has both of their layers, on a keyboard
where both exist. The application's own bindings never block: of them the finding tells.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from rimecrest.core.conflicts.audience import Audience
from rimecrest.core.conflicts.findings import Finding, Owner, Weight
from rimecrest.core.keys import Binding, Sequence, format_sequence, parse_sequence, strength
from rimecrest.core.layout import BUILT_IN, KeyBinding, Targets
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True, slots=True)
class Claim:
    """A binding together with the keyboards on which it has this sequence (None = all)."""

    binding: Binding
    boards: frozenset[str] | None = None


class KeyTable:
    """All claims of all layers of one application, by sequence. A claim is in one bucket."""

    def __init__(self, workspace: Workspace, app: str, audience: Audience) -> None:
        self.workspace = workspace
        self.app = app
        self.audience = audience
        self.catalogue = workspace.catalogue(app)
        self.contexts = self.catalogue.context_tree
        self.targets = Targets(
            self.catalogue, {name: f.face for name, f in workspace.macros_of(workspace.layers).items()}
        )
        self.buckets: dict[Sequence, list[Claim]] = {}
        # The same few contexts and layers meet again and again.
        self._relations: dict[tuple[str, str], str] = {}
        self._together: dict[tuple[str, str, frozenset[str] | None], tuple[str, ...] | None] = {}
        self._names: dict[str | None, str] = {}
        for own in self.catalogue.keys:
            sequence = parse_sequence(own.keys)
            binding = Binding(f"app:{own.id}", BUILT_IN, 0, own.context, sequence, own.run)
            self.buckets.setdefault(sequence, []).append(Claim(binding))
        for level, layer in enumerate(workspace.layers, start=1):
            layout = workspace.layouts.get((layer, app))
            for key in layout.keys if layout else ():
                for keys, boards in self._spellings(key):
                    sequence = parse_sequence(keys)
                    binding = Binding(
                        f"{layer}:{key.identity}",
                        layer,
                        level,
                        key.in_context,
                        sequence,
                        key.run,
                        tuple(sorted(key.args.items())) if key.args else (),
                        layout is not None and layout.policy == "fixed",
                    )
                    self.buckets.setdefault(sequence, []).append(Claim(binding, boards))

    def _spellings(self, key: KeyBinding) -> Iterator[tuple[str, frozenset[str] | None]]:
        if not key.on:
            yield key.keys, None
            return
        others = frozenset(self.audience.keyboards) - set(key.on)
        if others:
            yield key.keys, others
        for board, keys in key.on.items():
            if keys is not None:
                yield keys, frozenset((board,))

    def pairs(self) -> Iterator[tuple[Claim, Claim]]:
        """Every two claims on equal sequences or on one that begins the other."""
        for sequence, claims in self.buckets.items():
            if len(claims) > 1:
                for index, claim in enumerate(claims):
                    for other in claims[index + 1 :]:
                        yield claim, other
            for length in range(1, len(sequence)):
                for shorter in self.buckets.get(sequence[:length], ()):
                    for claim in claims:
                        yield shorter, claim

    def relation(self, one: str, other: str) -> str:
        """How two contexts meet: "same", "nested", "ranked", or "" when they are never live together."""
        known = self._relations.get((one, other))
        if known is None:
            known = self._relations[one, other] = self._find_relation(one, other)
        return known

    def _find_relation(self, one: str, other: str) -> str:
        if one == other:
            return "same"
        if self.contexts.contains(one, other) or self.contexts.contains(other, one):
            return "nested"
        # A declared rank says that two can be live at once without containing one another.
        both = self.contexts.narrowness(one)[0] and self.contexts.narrowness(other)[0]
        return "ranked" if both else ""

    def seats(self, one: str, other: str, boards: frozenset[str] | None) -> tuple[str, ...] | None:
        """The seats that have both layers, on one of these keyboards; None when no seat has."""
        key = (one, other, boards)
        if key not in self._together:
            self._together[key] = self.audience.seats(frozenset((one, other)), boards)
        return self._together[key]

    def owner(self, binding: Binding) -> Owner:
        known = self._names.get(binding.run)
        if known is None:
            known = self._names[binding.run] = (
                self.targets.face(binding.run).name if binding.run else "nothing"
            )
        return Owner(binding.id, binding.layer, binding.run, known, binding.args)

    def everyday(self, binding: Binding) -> bool:
        command = self.catalogue.by_id.get(binding.run or "")
        return bool(command and command.everyday)


def key_findings(table: KeyTable) -> Iterator[Finding]:
    """Every finding about the keys of one application."""
    for one, other in table.pairs():
        a, b = one.binding, other.binding
        if a.id == b.id or a.target == b.target:
            continue
        relation = table.relation(a.context, b.context)
        if not relation:
            continue
        boards = _meet(one.boards, other.boards)
        if boards is not None and not boards:
            continue
        seats = table.seats(a.layer, b.layer, boards)
        if seats is None:
            continue
        if relation == "same" and a.layer == b.layer:
            yield _tie(table, a, b, seats)
        elif relation == "same":
            yield _takes_over(table, *_by_strength(table, a, b), seats)
        elif not (a.layer == b.layer == BUILT_IN):
            yield _shadows(table, *_by_strength(table, a, b), seats)


def _meet(one: frozenset[str] | None, other: frozenset[str] | None) -> frozenset[str] | None:
    if one is None or other is None:
        return one if other is None else other
    return one & other


def _by_strength(table: KeyTable, a: Binding, b: Binding) -> tuple[Binding, Binding]:
    stronger = strength(a, table.contexts) >= strength(b, table.contexts)
    return (a, b) if stronger else (b, a)


def _tie(table: KeyTable, a: Binding, b: Binding, seats: tuple[str, ...]) -> Finding:
    equal = a.sequence == b.sequence
    short, long = sorted((a, b), key=lambda binding: len(binding.sequence))
    keys = format_sequence(short.sequence)
    first, second = table.owner(short), table.owner(long)
    if equal:
        rest = f"is bound to both {first.name} and {second.name} {_in(table, a)}, so neither runs."
    else:
        rest = (
            f"runs {first.name}, but {format_sequence(long.sequence)} for {second.name} begins with it, "
            "so neither runs."
        )
    return Finding(
        kind="double" if equal else "prefix",
        weight=Weight.TELLS if a.layer == BUILT_IN else Weight.BLOCKS,
        app=table.app,
        layer=a.layer,
        where=keys,
        subject=keys,
        rest=rest,
        owners=(first, second),
        context=a.context,
        seats=seats,
    )


def _takes_over(table: KeyTable, winner: Binding, loser: Binding, seats: tuple[str, ...]) -> Finding:
    keys = format_sequence(winner.sequence)
    who, whom = table.owner(winner), table.owner(loser)
    everyday = table.everyday(loser)
    other = "" if winner.sequence == loser.sequence else f" ({format_sequence(loser.sequence)})"
    rest = f"takes over {whom.name}{other} ({table.workspace.layer_title(loser.layer)})"
    rest += f" for {who.name}" if winner.run else " and does nothing"
    rest += ", which everybody uses." if everyday else "."
    return Finding(
        kind="takes-over",
        weight=Weight.ASKS,
        app=table.app,
        layer=winner.layer,
        where=keys,
        subject=keys,
        rest=rest,
        owners=(who, whom),
        winner=who,
        context=winner.context,
        seats=seats,
        grave=everyday,
    )


def _shadows(table: KeyTable, winner: Binding, loser: Binding, seats: tuple[str, ...]) -> Finding:
    keys = format_sequence(winner.sequence)
    who, whom = table.owner(winner), table.owner(loser)
    where = table.contexts.name(winner.context).lower()
    rest = f"runs {who.name} {where}, where it hides {whom.name}."
    shared = winner.layer if winner.layer != BUILT_IN else loser.layer
    return Finding(
        kind="shadows",
        weight=Weight.TELLS,
        app=table.app,
        layer=shared,
        where=keys,
        subject=keys,
        rest=rest,
        owners=(who, whom),
        winner=who,
        context=winner.context,
        seats=seats,
    )


def _in(table: KeyTable, binding: Binding) -> str:
    return f"({table.workspace.layer_title(binding.layer)}, {table.contexts.name(binding.context).lower()})"
