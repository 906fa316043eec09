"""The rules about what keeps a key from working on some seats.

1. reserved: the desktop, session or input method takes it first; a screen reader's keys where the seat uses
   one. Blocks on those seats.
2. unreachable: a keyboard in the audience has no key with that unshifted symbol. Blocks on those seats.
3. types text: the first chord types a character. Blocks on those seats.
4. gone: a key's target does not exist, or does not take its settings. Blocks.
5. faulty: a key runs a macro that cannot run. Blocks.
6. takes-caret, moves-caret: the text, cell or list in focus answers the first chord itself
   (`core/keys/focus_keys.py`), or it is the Menu key. An error alone or with Shift; a question with Ctrl, or
   if it is so only while Num Lock is off.
7. unknown-department: people.csv names one that has no layer. Asks.
8. unknown: a seat's keyboard or desktop is not known, so its keys are checked against all; or a constant of
   the suggestions is not. Tells.

"Blocks on those seats" is settled by a variant for that keyboard or desktop, or by saying that these seats go
without. The application's own bindings never block: of them the finding tells. (docs/conflicts.md,
"Findings".)
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from rapidfuzz import process

from rimecrest.core.check.audience import UNSAID, checked_as
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.index import Claim
from rimecrest.core.check.reasons import gone_reason, reach_reason
from rimecrest.core.check.table import EstateView, KeyTable
from rimecrest.core.effort.constants import constants_of
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import Chord, format_chord, parse_sequence
from rimecrest.core.keys.focus_keys import EDITING, LEAVES, MENU, answers, needs_num_lock_off, num_lock_twin
from rimecrest.core.keys.keyboards.national import known_keyboards
from rimecrest.core.keys.obstacles import Obstacle
from rimecrest.core.keys.traits import Traits
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.workspace import Workspace


def in_the_way(table: KeyTable, text: str) -> Iterable[Finding]:
    """reserved, unreachable, types text."""
    # Whether one writes there only ever adds an obstacle.
    return _in_the_way(table, text) if table.obstacles(text, True) else ()


def _in_the_way(table: KeyTable, text: str) -> Iterator[Finding]:
    verdicts: dict[bool, list[tuple[Traits, Obstacle]]] = {}
    for claim in table.index.claims(text):
        typing = bool(table.typing(claim.context))
        if typing not in verdicts:
            verdicts[typing] = table.obstacles(text, typing)
        if not verdicts[typing] or claim.run is None or (not claim.level and _second_key(table, claim)):
            continue
        met: dict[str, list[tuple[Traits, Obstacle]]] = {}
        for traits, obstacle in verdicts[typing]:
            if claim.traits is None or traits in claim.traits:
                met.setdefault(obstacle.kind, []).append((traits, obstacle))
        for kind, found in met.items():
            seats = table.seats_of(claim, (traits for traits, _ in found))
            if seats is None:
                continue
            yield Finding(
                kind=kind,
                own=not claim.level,
                app=table.app,
                layer=table.levels[claim.level],
                where=text,
                subject=text,
                rest=_words(table, claim, kind, seats, _present(table, claim, found)),
                owners=(table.owner(claim),),
                context=claim.context,
                seats=seats,
            )


def _second_key(table: KeyTable, claim: Claim) -> bool:
    """Whether the application itself has another key for the same command in the same context."""
    keys = [own for own in table.catalogue.keys if (own.run, own.context) == (claim.run, claim.context)]
    return bool(keys) and keys[0] is not claim.key


def _present(
    table: KeyTable, claim: Claim, found: list[tuple[Traits, Obstacle]]
) -> list[tuple[Traits, Obstacle]]:
    """Those that really are among the seats that have the claim."""
    return [pair for pair in found if table.seats_of(claim, (pair[0],)) is not None]


def _words(
    table: KeyTable, claim: Claim, kind: str, seats: tuple[str, ...], found: list[tuple[Traits, Obstacle]]
) -> str:
    many = counted(len(seats), "seat")
    name = table.name(claim.run)
    if kind == "reserved":
        first = found[0][1]
        by = listed(f"{obstacle.by}, which {obstacle.does}" for _, obstacle in found)
        who = by if len({o.by for _, o in found}) > 1 else f"{first.by}, which {first.does}"
        return tr(
            "for {name} never reaches {title} on {many}: it goes to {who}.",
            name=name,
            title=table.catalogue.title,
            many=many,
            who=who,
        )
    if kind == "unreachable":
        symbol = found[0][1].does
        names = listed(
            tr("perhaps {board}", board=obstacle.by) if table.estate.unsure(traits.keyboard) else obstacle.by
            for traits, obstacle in found
        )
        return tr(
            "for {name} cannot be typed on {many}: no key gives {symbol} by itself there ({names}).",
            name=name,
            many=many,
            symbol=symbol,
            names=names,
        )
    remote = [pair for pair in found if pair[1].by]
    if remote:
        typed = remote[0][1].does
        return tr(
            "for {name} types {typed} on {many} whose remote session sends AltGr as Ctrl+Alt.",
            name=name,
            typed=typed,
            many=many,
        )
    where = table.contexts.name(table.typing(claim.context)).lower()
    return tr(
        "for {name} would type text {where}: its first chord has no modifier but Shift.",
        name=name,
        where=where,
    )


def moves_caret(table: KeyTable, text: str) -> Iterable[Finding]:
    """moves-caret and takes-caret: what the text, cell or list in focus does with a key itself is lost."""
    first = parse_sequence(text)[0]
    off = None if needs_num_lock_off(first) else num_lock_twin(first)
    if first.key not in EDITING and first.key != MENU and off is None:
        return ()
    return _moves_caret(table, text, first, off)


def _moves_caret(table: KeyTable, text: str, first: Chord, off: Chord | None) -> Iterator[Finding]:
    for claim in table.index.claims(text):
        if not claim.level or claim.run is None:
            continue
        name, key = table.name(claim.run), format_chord(first)
        where: str | None
        if first.key == MENU:
            rest = tr("never runs {name}: the key opens the right-click menu first.", name=name)
        elif (where := _answered_in(table, claim, first)) is not None:
            rest = tr(
                "for {name} replaces what {key} does {where} by itself.", name=name, key=key, where=where
            )
        elif off is not None and (where := _answered_in(table, claim, off)) is not None:
            rest = tr(
                "for {name} works only with Num Lock on: with Num Lock off it is {off}, which keeps its "
                "meaning {where}.",
                name=name,
                off=format_chord(off),
                where=where,
            )
        else:
            continue
        asks = "Ctrl" in first.mods or off is not None
        yield table.finding("moves-caret" if asks else "takes-caret", text, claim, rest)


def _answered_in(table: KeyTable, claim: Claim, chord: Chord) -> str | None:
    """Name the first context in which a claim's chord is taken from the widget in focus; None if nowhere.

    It is where the widget answers the chord itself, or where the application has an editing command on it,
    and the claim wins against the application's own keys.
    """
    if chord.key not in EDITING:
        return None
    built_in = [own for own in table.catalogue.keys if parse_sequence(own.keys)[0] == chord]
    for context in table.contexts.inside(claim.context):
        around = table.contexts.path(context.id)
        here = [own for own in built_in if own.context in around]
        edits = any(len(parse_sequence(own.keys)) == 1 for own in here)
        if not edits and (chord in LEAVES or not answers(context.answering, chord)):
            continue
        narrowest = max((table.contexts.narrowness(own.context) for own in here), default=None)
        if claim.fixed or narrowest is None or table.contexts.narrowness(claim.context) >= narrowest:
            return context.name.lower()
    return None


def targets(table: KeyTable, text: str) -> Iterator[Finding]:
    """gone, faulty and out-of-reach, of keys."""
    for claim in table.index.claims(text):
        run = claim.run
        if claim.level == 0 or run is None or text != table.index.first_text(claim):
            continue
        layer = table.levels[claim.level]
        visible = table.macro_faults.visible(layer)
        kind, reason = "gone", gone_reason(table.workspace, table.catalogue, visible, run, claim.args)
        if not reason:
            kind, reason = "faulty", table.faults(layer, run)
        if not reason:
            kind, reason = "out-of-reach", reach_reason(table.catalogue, run, claim.args)
        if reason:
            yield Finding(
                kind=kind,
                app=table.app,
                layer=layer,
                where=table.owner(claim).id,
                subject=text,
                rest=reason,
                owners=(table.owner(claim),),
                seats=table.seats_of(claim) or (),
            )


def unknown(workspace: Workspace, estate: EstateView) -> Iterator[Finding]:
    """Seats with a keyboard, desktop, input method or screen reader that is not known."""
    try:
        constants_of(workspace.settings.constants)
    except RimecrestError as error:
        subject, _, rest = error.sentence.partition(" ")
        yield Finding("unknown", "", "", "constants", subject, f"{rest} {error.way_out}")
    seats: dict[tuple[str, str], list[str]] = {}
    for seat in workspace.people:
        traits = checked_as(seat.traits)
        if traits.keyboard not in known_keyboards():
            seats.setdefault(("keyboard", traits.keyboard), []).append(seat.seat)
        for kind in ("desktop", "input", "reader"):
            name = getattr(traits, kind)
            if name and not estate.obstacles.known(kind, name):
                seats.setdefault((kind, name), []).append(seat.seat)
    words = {
        "keyboard": "keyboard",
        "desktop": "desktop",
        "input": tr("input method"),
        "reader": tr("screen reader"),
    }
    for (kind, name), having in seats.items():
        if name == UNSAID:
            subject, rest = (
                "people.csv",
                tr(
                    "does not say which {words} {having} {have}, so their keys are checked against all that "
                    "are known.",
                    words=words[kind],
                    having=listed(having),
                    have="has" if len(having) == 1 else "have",
                ),
            )
        else:
            subject, rest = (
                f"“{name}”",
                tr(
                    "(people.csv) is no {words} that is known, so the keys of {having} are checked against "
                    "all that are.",
                    words=words[kind],
                    having=listed(having),
                ),
            )
        yield Finding("unknown", "", "", f"{kind}:{name}", subject, rest, seats=tuple(having))


DEPARTMENT = "department."
"""Begins the name of a department's layer."""


def nearest_department(workspace: Workspace, name: str) -> str:
    """The department that was probably meant; empty when none is like it."""
    known = [layer.removeprefix(DEPARTMENT) for layer in workspace.layers if layer.startswith(DEPARTMENT)]
    near = process.extractOne(name, sorted(known), score_cutoff=60)
    return near[0] if near else ""


def unknown_departments(workspace: Workspace, _estate: EstateView) -> Iterator[Finding]:
    """unknown department: people.csv names one that has no layer, so its layout never reaches them."""
    seats: dict[str, list[str]] = {}
    for seat in workspace.people:
        for name in seat.departments:
            if f"{DEPARTMENT}{name}" not in workspace.layers:
                seats.setdefault(name, []).append(seat.seat)
    for name, having in seats.items():
        near = nearest_department(workspace, name)
        hint = " " + tr("Did you mean {near}?", near=near) if near else ""
        yield Finding(
            kind="unknown-department",
            app="",
            layer="",
            where=f"department:{name}",
            subject=f"“{name}”",
            rest=tr(
                "(people.csv) is no department of this workspace, so nothing of one reaches {having}.",
                having=listed(having),
            )
            + hint,
            seats=tuple(having),
        )
