"""The rules about keys that meet one another.

1. double: a full tie: one layer binds one sequence to two targets in one context. Blocks.
2. prefix: the same, where one sequence begins the other. Blocks.
3. same stroke: two sequences are one physical keystroke on some keyboard in the audience. Blocks there.
4. takes over: a winner displaces a binding of the same context from a layer beneath. Asks, gravest for the
   everyday commands, else the graver the more the displaced command is used.
5. shadows: a binding in a narrower context hides one in a wider context. Tells; asks where what is hidden
   belongs to the everyday commands.
6. personal: a shared binding and one that a colleague made are on one sequence where theirs is live. Tells.

That a key never runs is found in `never_rules`.

(docs/conflicts.md, "Findings".) Two bindings meet only where some seat has both of their layers, on a
keyboard where both exist. The application's own bindings never block: of them the finding tells. Each rule
takes the table and one sequence, and yields the findings in which a claim on that sequence is the main one.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from msgspec.structs import replace

from rimecrest.core.check.findings import EVERYDAY, Finding, Owner
from rimecrest.core.check.index import Bucket, Claim, beginnings
from rimecrest.core.check.table import KeyTable
from rimecrest.core.keys.bindings import contest
from rimecrest.core.keys.chords import format_sequence, parse_sequence
from rimecrest.core.keys.keyboards.national import keyboard, keyboard_name
from rimecrest.core.words import counted, listed, tr

Seats = tuple[str, ...]
Meeting = tuple[Claim, str, Claim, Seats]
"""A rival of a claim: the claim, the rival's sequence, the rival, the seats that have both."""


def _meeting(table: KeyTable, bucket: Bucket) -> set[int] | None:
    """The levels whose claims on one sequence can meet; None: any of them."""
    levels = bucket.levels
    if len(levels) == 1:
        return set()
    # Most often the claims are those of departments that have no seat in common.
    if len(different := set(levels)) < len(levels):
        return None
    if len(near := table.can_meet(different)) < 2:
        return set()
    beneath = table.beneath
    meet: set[int] = set()
    for level in near:
        if lower := beneath[level] & different:
            meet.add(level)
            meet |= lower
    return meet


def _one_and_the_same(claim: Claim, rival: Claim) -> bool:
    """Whether two claims are one binding, or do the same."""
    return rival.key is claim.key or (rival.run == claim.run and rival.args == claim.args)


def meetings(table: KeyTable, text: str) -> list[Meeting]:
    """Every rival that the claims on a sequence meet: equal to it, beginning it, or going on from it."""
    index = table.index
    buckets = index.buckets
    others = index.around(text) if text in index.nested else ()
    meet = None if others else _meeting(table, buckets[text])
    if meet is not None and not meet:
        return []
    here = index.claims(text, meet)
    by_level: dict[int, list[tuple[str, Claim]]] = {}
    for place, claims in ((text, here), *((other, index.claims(other)) for other in others)):
        for claim in claims:
            by_level.setdefault(claim.level, []).append((place, claim))
    found: list[Meeting] = []
    meets, relation, seats_of = table.meets, table.relation, table.seats
    for claim in here:
        for level in meets[claim.level].intersection(by_level):
            if level == claim.level == 0 and len(by_level[0]) == 1:
                continue
            for other, rival in by_level[level]:
                if _one_and_the_same(claim, rival) or not relation(claim.context, rival.context):
                    continue
                seats = seats_of(claim, rival)
                if seats is not None:
                    found.append((claim, other, rival, seats))
    return found


def met(table: KeyTable, text: str) -> Iterable[Finding]:
    """double, prefix, takes over, shadows: what becomes of the claims that meet on one sequence."""
    found = meetings(table, text)
    return _become(table, text, found) if found else ()


def _become(table: KeyTable, text: str, met_here: list[Meeting]) -> Iterator[Finding]:
    ties: dict[tuple[int, str], list[Meeting]] = {}
    wins: dict[int, tuple[Claim, list[Meeting], list[Meeting]]] = {}
    for meeting in met_here:
        claim, other, rival, _ = meeting
        first = contest(table.strength(claim), table.strength(rival))
        if first == 0:
            # A tie is told once, at the shorter sequence.
            if len(other) >= len(text):
                ties.setdefault((claim.level, claim.context), []).append(meeting)
        elif first > 0:
            same = claim.context == rival.context
            built_in = not same and claim.level == rival.level == 0
            # A key of a higher layer that loses to a fixed one never runs, which is told there.
            if built_in or (claim.fixed and claim.level < rival.level):
                continue
            _, over, hidden = wins.setdefault(id(claim), (claim, [], []))
            (over if same else hidden).append(meeting)
    for found in ties.values():
        yield from _tied(table, text, found)
    for claim, displaced, beneath in wins.values():
        over, hidden = _in_force(displaced), _in_force(beneath)
        # Displacing the application's own key is one decision, displacing another department's a second.
        for level in sorted({meeting[2].level for meeting in over}, reverse=True):
            yield _takes_over(table, text, claim, [m for m in over if m[2].level == level])
        if hidden:
            yield _shadows(table, text, claim, hidden)


def _in_force(found: list[Meeting]) -> list[Meeting]:
    """Of what a claim displaces, what was in force without it.

    A key that was only taken away does nothing to lose, nor does what it was taken from.
    """
    taken = [meeting for meeting in found if meeting[2].run is None]
    if not taken:
        return found

    def gone(meeting: Meeting) -> bool:
        _, text, rival, seats = meeting
        return any(
            away[1] == text
            and away[2].context == rival.context
            and away[2].level > rival.level
            and set(seats) <= set(away[3])
            for away in taken
        )

    return [meeting for meeting in found if meeting[2].run is not None and not gone(meeting)]


def _united(parts: Iterable[Seats]) -> Seats:
    # Equal ones are one object: the audience makes each but once.
    kinds = list({id(part): part for part in parts}.values())
    return kinds[0] if len(kinds) == 1 else tuple(dict.fromkeys(seat for part in kinds for seat in part))


def _owners(table: KeyTable, claims: Iterable[Claim]) -> tuple[Owner, ...]:
    return tuple(dict.fromkeys(table.owner(claim) for claim in claims))


def _in(table: KeyTable, claim: Claim) -> str:
    return f"({table.layer_title(claim.level)}, {table.contexts.name(claim.context).lower()})"


def _tied(table: KeyTable, text: str, found: list[Meeting]) -> Iterator[Finding]:
    equal = [meeting for meeting in found if meeting[1] == text]
    longer = [meeting for meeting in found if meeting[1] != text]
    for kind, part in (("double", equal), ("prefix", longer)):
        if not part:
            continue
        first = part[0][0]
        owners = _owners(table, (claim for meeting in part for claim in (meeting[0], meeting[2])))
        if kind == "double":
            owners = tuple(sorted(owners, key=lambda owner: owner.id))
            both = "both " if len(owners) == 2 else ""
            rest = tr(
                "is bound to {both}{names} {where}, so {consequence}.",
                both=both,
                names=listed((o.name for o in owners), 4),
                where=_in(table, first),
                consequence="neither runs" if both else "none of them runs",
            )
        else:
            longer_ones = sorted({meeting[1] for meeting in part})
            names = listed(table.name(meeting[2].run) for meeting in part)
            begins = "begins" if len(longer_ones) == 1 else "begin"
            rest = tr(
                "runs {name}, but {texts} for {names} {begins} with it, so {consequence}.",
                name=table.name(first.run),
                texts=listed(longer_ones),
                names=names,
                begins=begins,
                consequence="neither runs" if len(owners) == 2 else "none of them runs",
            )
        yield Finding(
            kind=kind,
            own=first.level == 0,
            app=table.app,
            layer=table.levels[first.level],
            where=text,
            subject=text,
            rest=rest,
            owners=owners,
            context=first.context,
            seats=_united(meeting[3] for meeting in part),
        )


def _takes_over(table: KeyTable, text: str, winner: Claim, found: list[Meeting]) -> Finding:
    losers = sorted(found, key=lambda meeting: (meeting[1], meeting[2].key.keys))
    who = table.owner(winner)
    words = []
    for _, other, rival, _ in losers[:3]:
        keys = "" if other == text else f" ({other})"
        words.append(f"{table.name(rival.run)}{keys}")
    more = tr(" and {number} more", number=len(losers) - 3) if len(losers) > 3 else ""
    whose = table.layer_title(losers[0][2].level)
    gravity = max(table.gravity(meeting[2].run) for meeting in losers)
    instead = f"{listed(words)}{more} ({whose})"
    rest = (
        tr("now runs {name} instead of {instead}", name=who.name, instead=instead)
        if winner.run
        else tr("no longer runs {instead}", instead=instead)
    )
    if gravity == EVERYDAY:
        rest += tr(", which everybody uses.")
    elif gravity:
        rest += tr(", which was used {number} in 30 days.", number=counted(gravity, "time"))
    else:
        rest += "."
    return Finding(
        kind="takes-over",
        app=table.app,
        layer=table.levels[winner.level],
        where=text,
        subject=text,
        rest=rest,
        owners=(who, *_owners(table, (meeting[2] for meeting in losers))),
        winner=who,
        context=winner.context,
        seats=_united(meeting[3] for meeting in losers),
        gravity=gravity,
    )


def _shadows(table: KeyTable, text: str, winner: Claim, found: list[Meeting]) -> Finding:
    who = table.owner(winner)
    where = table.contexts.name(winner.context).lower()
    shared = max([winner.level, *(meeting[2].level for meeting in found)])
    layer = table.levels[winner.level] if winner.level else table.levels[shared]
    # Of what the application itself puts before a shared key, nobody has lost anything they knew.
    gravity = max(table.gravity(meeting[2].run) for meeting in found) if winner.level else 0
    rest = tr("runs {name} {where}", name=who.name, where=where)
    nested = [m for m in found if table.relation(winner.context, m[2].context) != "ranked"]
    if nested:
        names = listed(table.name(meeting[2].run) for meeting in nested)
        rest += tr(", where it hides {names}", names=names)
    aside: dict[str, list[str]] = {}
    for meeting in found:
        if meeting not in nested:
            aside.setdefault(meeting[2].context, []).append(table.name(meeting[2].run))
    for context, hidden in aside.items():
        # The two contexts meet only now and then: a table may lie within a note.
        other = table.contexts.name(context).lower()
        rest += tr("; where that is also {other}, it hides {names}", other=other, names=listed(hidden))
    if gravity == EVERYDAY:
        rest += tr(", which everybody uses")
    return Finding(
        kind="shadows",
        app=table.app,
        layer=layer,
        where=text,
        subject=text,
        rest=f"{rest}.",
        owners=(who, *_owners(table, (meeting[2] for meeting in found))),
        winner=who,
        context=winner.context,
        seats=_united(meeting[3] for meeting in found),
        gravity=gravity,
    )


def same_stroke(table: KeyTable, text: str) -> Iterator[Finding]:
    for other in table.index.same_stroke.get(text, ()):
        if text not in table.estate.aliases(other):
            continue
        # `other` is spelled with a symbol that is a key of the top row somewhere; `text` is that key.
        boards = [b for b in table.estate.possible if _canonical(b, other) == text]
        there = frozenset(
            t for t in table.audience.profiles if t.keyboard in boards or table.estate.unsure(t.keyboard)
        )
        for claim in table.index.claims(text):
            for rival in table.index.claims(other):
                if claim.run == rival.run and claim.args == rival.args:
                    continue
                if not table.relation(claim.context, rival.context) or not table.meets[claim.level] >= {
                    rival.level
                }:
                    continue
                met_on = replace(rival, traits=there if rival.traits is None else there & rival.traits)
                seats = table.seats(claim, met_on)
                if not seats:
                    continue
                own = 0 in (claim.level, rival.level)
                upper = max(claim.level, rival.level)
                yield Finding(
                    kind="same-stroke",
                    own=own,
                    app=table.app,
                    layer=table.levels[upper],
                    where=other,
                    subject=other,
                    rest=(
                        tr(
                            "for {name} and {rival_keys} for {rival} are one keystroke on {keyboards}: "
                            "{boards}.",
                            name=table.name(rival.run),
                            rival_keys=text,
                            rival=table.name(claim.run),
                            keyboards=counted(len(seats), "seat"),
                            boards=listed(map(keyboard_name, boards)),
                        )
                    ),
                    owners=(table.owner(rival), table.owner(claim)),
                    context=rival.context,
                    seats=seats,
                )


def _canonical(board: str, text: str) -> str:
    found = keyboard(board).canonical_sequence(parse_sequence(text))
    return format_sequence(found) if found else ""


def personal(table: KeyTable, text: str) -> Iterator[Finding]:
    near = {text, *beginnings(text)} | {k for k in table.own_keys if text in beginnings(k)}
    own = [key for keys in near for key in table.own_keys.get(keys, ())]
    for claim in table.index.claims(text) if own else ():
        having = set(table.seats_of(claim) or ()) if claim.level else set()
        hit = [
            key
            for key in own
            if key.seat in having and key.run != claim.run and table.relation(claim.context, key.context)
        ]
        if hit:
            seats = tuple(dict.fromkeys(key.seat for key in hit))
            who = table.owner(claim)
            names = listed(table.name(key.run) for key in hit)
            theirs = tuple(
                Owner(f"{k.seat}:key:{k.context}:{k.keys}", k.seat, k.run, table.name(k.run)) for k in hit
            )
            becomes = _becomes(table, claim, {key.context for key in hit})
            yield Finding(
                kind="personal",
                app=table.app,
                layer=table.levels[claim.level],
                where=text,
                subject=text,
                rest=(
                    tr(
                        "for {name} is the own key of {number} for {names}: {becomes}.",
                        name=who.name,
                        number=counted(len(seats), "colleague"),
                        names=names,
                        becomes=becomes,
                    )
                ),
                owners=(who, *theirs),
                winner=who if claim.fixed else theirs[0],
                context=claim.context,
                seats=seats,
            )


def _becomes(table: KeyTable, claim: Claim, theirs: set[str]) -> str:
    """Say which of a shared key and colleagues' own ones runs, in words."""
    if claim.fixed:
        return tr("the shared one is fixed, so theirs does not run there")
    inside = [context for context in sorted(theirs) if not table.contexts.contains(context, claim.context)]
    if len(inside) < len(theirs):
        return tr("theirs runs on those seats, and the shared one does not")
    where = listed(table.contexts.name(context).lower() for context in inside)
    return tr("theirs runs on those seats {where}, and the shared one elsewhere", where=where)
