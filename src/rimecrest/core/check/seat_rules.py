"""The rules about what keeps a key from working on some seats.

1. reserved: the desktop, session or input method takes it first; a screen reader's keys where the seat uses
   one. Blocks on those seats.
2. unreachable: a keyboard in the audience has no key with that unshifted symbol. Blocks on those seats.
3. types text: the first chord types a character. Blocks on those seats.
4. gone: a key's target does not exist, or does not take its settings. Blocks.
5. faulty: a key runs a macro that cannot run. Blocks.
6. moves the caret: the first chord is one that the text or cell editor itself answers where one writes. With
   Ctrl it asks; alone or with Shift it blocks.
7. unknown department: people.csv names one that has no layer. Asks.
8. unknown: a seat's keyboard or desktop is not known, so its keys are checked against all; or a constant of
   the suggestions is not. Tells.

"Blocks on those seats" is settled by a variant for that keyboard or desktop, or by saying that these seats go
without. The application's own bindings never block: of them the finding tells. (docs/conflicts.md,
"Findings".)
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import lru_cache

from rapidfuzz import process

from rimecrest.core.check.audience import UNSAID, checked_as
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.index import Claim
from rimecrest.core.check.reasons import gone_reason
from rimecrest.core.check.table import EstateView, KeyTable
from rimecrest.core.effort.constants import constants_of
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import Traits
from rimecrest.core.keys.keyboards import known_keyboards
from rimecrest.core.keys.obstacles import Obstacle
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
        if not verdicts[typing]:
            continue
        if claim.run is None:
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


CARET_KEYS = {
    *("Left", "Right", "Up", "Down", "Home", "End", "Page_Up", "Page_Down"),
    *("Delete", "BackSpace", "Return", "KP_Enter", "Tab"),
}
"""Keys that an editor answers by itself, alone and with Ctrl and Shift (Qt 6, QWidgetTextControl and
QAbstractItemView: the tables of their editing keys)."""


@lru_cache(maxsize=65536)
def _caret_key(text: str) -> tuple[str, bool]:
    """The key with which a sequence begins, if an editor answers it by itself, and whether with Ctrl."""
    held, _, key = text.partition(",")[0].rpartition("+")
    mods = set(held.split("+")) - {""}
    return (key, "Ctrl" in mods) if key in CARET_KEYS and mods <= {"Ctrl", "Shift"} else ("", False)


def moves_caret(table: KeyTable, text: str) -> Iterable[Finding]:
    """moves-caret and takes-caret: what an editor does with a key itself is lost where one writes."""
    key, control = _caret_key(text)
    return _moves_caret(table, text, control) if key else ()


def _moves_caret(table: KeyTable, text: str, control: bool) -> Iterator[Finding]:
    first = text.partition(",")[0]
    for claim in table.index.claims(text):
        where = table.typing(claim.context) if claim.level and claim.run is not None else ""
        if not where:
            continue
        yield Finding(
            kind="moves-caret" if control else "takes-caret",
            app=table.app,
            layer=table.levels[claim.level],
            where=text,
            subject=text,
            rest=tr(
                "for {name} takes from everybody what {key} does {where} by itself.",
                name=table.name(claim.run),
                key=first,
                where=table.contexts.name(where).lower(),
            ),
            owners=(table.owner(claim),),
            context=claim.context,
            seats=table.seats_of(claim) or (),
        )


def targets(table: KeyTable, text: str) -> Iterator[Finding]:
    """gone and faulty, of keys."""
    for claim in table.index.claims(text):
        run = claim.run
        if claim.level == 0 or run is None or text != table.index.first_text(claim):
            continue
        layer = table.levels[claim.level]
        reason, kind = (
            gone_reason(table.workspace, table.catalogue, table.macro_faults.visible(layer), run, claim.args),
            "gone",
        )
        if not reason:
            reason, kind = table.faults(layer, run), "faulty"
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
