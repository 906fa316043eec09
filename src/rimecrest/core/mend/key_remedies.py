"""Fixes of keys: another key, a variant for some seats, going without, a part of the context, giving way."""

from __future__ import annotations

from collections.abc import Iterator

from rimecrest.core.check.findings import EVERYDAY
from rimecrest.core.check.kinds import KINDS, Told
from rimecrest.core.keys.chords import parse_sequence, touches
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.macro.where_runs import WhereRuns, where_runs
from rimecrest.core.mend.case import Case
from rimecrest.core.mend.fix import Fix
from rimecrest.core.suggest.free_keys import safe_keys
from rimecrest.core.words import counted, owned, tr
from rimecrest.core.workspace.edits import Bind, Edit, SetFields, Together, Unbind

TRIED = 12
"""Free keys that are tried, the best first, until enough of them mend the finding."""
HARDLY = 3
"""Uses in thirty days up to which a key is hardly used: less than once in a working week."""


def accept(case: Case) -> Iterator[Fix]:
    """Kept on purpose. If what is displaced is hardly used, or was never counted, that is the reason."""
    losers = _losers(case)
    counts = [case.workspace.habits.counts.get((case.finding.app, run or "")) for run in losers]
    if losers and None in counts and case.workspace.habits.known_apps:
        yield Fix(tr("Accept: not counted"), None, case.finding, ready=tr("not counted"))
    elif losers and (uses := sum(count.uses for count in counts if count)) <= HARDLY and None not in counts:
        reason = tr("used {number} in 30 days", number=counted(uses, "time"))
        yield Fix(tr("Accept: {reason}", reason=reason), None, case.finding, ready=reason)
    yield Fix(tr("Accept, with a reason"), None, case.finding)


def _losers(case: Case) -> list[str | None]:
    """What somebody else's key displaces, if that may be a reason to accept it."""
    finding = case.finding
    if finding.winner is None or finding.kind not in ("takes-over", "shadows") or finding.gravity == EVERYDAY:
        return []
    return [owner.run for owner in finding.owners if owner != finding.winner]


def new_key(case: Case) -> Iterator[Fix]:
    finding, workspace = case.finding, case.workspace
    owner = finding.owners[0]
    command = workspace.catalogue(finding.app).by_id.get(owner.run or "")
    context = _where_runs(case, finding.layer, owner.run).widest
    if command is not None and command.argument_faults({}, by_hand=True):
        return
    for keys in safe_keys(workspace, finding.app, finding.layer, owner, "", TRIED, case.checked):
        key = KeyBinding.model_validate({"keys": keys, "in": context, "run": owner.run})
        yield Fix(keys, Bind(finding.layer, finding.app, key), finding)


def same_key(case: Case) -> Iterator[Fix]:
    """The key that the macro has in another application, where nobody has it in this one."""
    if not case.about_target or case.mine is None:
        return
    finding, workspace, (owner, key) = case.finding, case.workspace, case.mine
    taken = {own.keys for own in workspace.catalogue(finding.app).keys} | {
        other.keys
        for (_, app), layout in workspace.layouts.items()
        if app == finding.app
        for other in layout.keys
    }
    elsewhere = dict.fromkeys(
        other.keys
        for (_, app), layout in workspace.layouts.items()
        if app != finding.app
        for other in layout.keys
        if other.run == finding.where
    )
    for keys in elsewhere:
        if keys not in taken:
            moved = key.model_copy(update={"keys": keys, "id": key.identity})
            yield Fix(tr("{keys} here as well", keys=keys), Bind(owner.layer, finding.app, moved), finding)


def variant(case: Case) -> Iterator[Fix]:
    """The best free key for the seats concerned only."""
    names = variant_names(case)
    if case.mine is not None and names:
        for free in _free(case):
            yield Fix(tr("{free} for them", free=free), _variant(case, names, free), case.finding)


def go_without(case: Case) -> Iterator[Fix]:
    names = variant_names(case)
    if case.mine is not None and names:
        yield Fix(tr("No key for those seats"), _variant(case, names, None), case.finding)


def free_key(case: Case) -> Iterator[Fix]:
    if case.mine is None or case.about_target:
        return
    finding, (owner, key) = case.finding, case.mine
    for keys in _free(case):
        moved = key.model_copy(update={"keys": keys, "on": {}, "id": key.identity})
        edit = Together(f"{owner.name} on {keys}", (Bind(owner.layer, finding.app, moved),))
        yield Fix(tr("{keys} for all", keys=keys) if variant_names(case) else keys, edit, finding)


def narrower(case: Case) -> Iterator[Fix]:
    """The same key in a part of its context only, where nobody else has it."""
    if case.mine is None:
        return
    finding, (owner, key) = case.finding, case.mine
    catalogue = case.workspace.catalogue(finding.app)
    sequence = parse_sequence(key.keys)
    taken: list[tuple[str, str]] = [(own.keys, own.context) for own in catalogue.keys]
    for (_, app), layout in case.workspace.layouts.items():
        if app == finding.app:
            taken += [(other.keys, other.in_context) for other in layout.keys if other is not key]
    bound = {context for keys, context in taken if touches(parse_sequence(keys), sequence)}
    runs = _where_runs(case, owner.layer, key.run)
    parts = [c for c in catalogue.contexts if c.within == key.in_context and c.id != key.in_context]
    for part in parts[:2]:
        if part.id not in bound and runs.bound_in(part.id):
            moved = key.model_copy(update={"in_context": part.id, "id": key.identity})
            label = f"{owner.name} only {part.name.lower()}"
            edit = Together(label, (Bind(owner.layer, finding.app, moved),))
            yield Fix(tr("Only {where}", where=part.name.lower()), edit, finding)


def _where_runs(case: Case, layer: str, run: str | None) -> WhereRuns:
    workspace = case.workspace
    file = workspace.macros_of(workspace.stack_up_to(layer)).get((run or "").removeprefix("macro:"))
    macro = file.macro if file is not None and (run or "").startswith("macro:") else None
    return where_runs(workspace.catalogue(case.finding.app), run, macro)


def where_it_runs(case: Case) -> Iterator[Fix]:
    """The same key in the context that its target needs."""
    if case.mine is None:
        return
    owner, key = case.mine
    runs = _where_runs(case, owner.layer, key.run)
    if runs.bound_in(key.in_context) or not runs.bound_in(runs.widest):
        return
    moved = key.model_copy(update={"in_context": runs.widest, "id": key.identity})
    words = runs.contexts.name(runs.widest).lower()
    edit = Together(f"{owner.name} {words}", (Bind(owner.layer, case.finding.app, moved),))
    yield Fix(tr("Bind it {where}", where=words), edit, case.finding)


def give_way(case: Case) -> Iterator[Fix]:
    if case.mine is None or case.about_target:
        return
    owner, key = case.mine
    label = tr("Remove {name} key", name=owned(owner.name)) if key.run else tr("Leave the key")
    yield Fix(label, Unbind(owner.layer, case.finding.app, key.identity), case.finding)


def no_access(case: Case) -> Iterator[Fix]:
    finding = case.finding
    items = [owner for owner in finding.owners if ":key:" not in owner.id and case.key_of(owner) is None]
    for owner in items[:1]:
        edit = SetFields(finding.layer, finding.app, owner.id, {"access": ""})
        yield Fix(tr("Remove the access key of “{name}”", name=owner.name), edit, finding)


def _free(case: Case) -> list[str]:
    """Free keys for what is to move, best first."""
    if case.mine is None or not case.mine[1].run:
        return []
    owner, key = case.mine
    now = case.finding.where if case.finding.where in key.on.values() else key.keys
    return safe_keys(case.workspace, case.finding.app, owner.layer, owner, now, TRIED, case.checked)


def variant_names(case: Case) -> tuple[str, ...]:
    """The names under which the seats concerned can have a variant; none where a variant is no answer."""
    told = KINDS[case.finding.kind].seats
    seats = {seat.seat: seat.traits for seat in case.workspace.people}
    concerned = [seats[name] for name in case.finding.seats if name in seats]
    if told is Told.BY_WHO_TAKES_IT:
        taking = (name for traits in concerned for name in _taking(case, traits))
        return tuple(dict.fromkeys(taking))
    if told is None or (told is Told.BY_SESSION and not all(traits.remote for traits in concerned)):
        return ()
    values = dict.fromkeys(getattr(traits, told.value) for traits in concerned)
    mark = "" if told is Told.BY_KEYBOARD else f"{told.value}:"
    return tuple(f"{mark}{value}" for value in values if value)


def _taking(case: Case, traits: Traits) -> Iterator[str]:
    """By whom the key is taken on such a seat: its desktop, input method or screen reader."""
    obstacles = Obstacles(case.workspace.settings.reserved)
    for kind in ("desktop", "input", "reader"):
        if value := getattr(traits, kind):
            alone = Traits(**{"keyboard": traits.keyboard, kind: value})
            found = obstacles.of(parse_sequence(case.finding.where), alone, False)
            if any(obstacle.kind == "reserved" for obstacle in found):
                yield f"{kind}:{value}"


def _variant(case: Case, names: tuple[str, ...], keys: str | None) -> Edit:
    assert case.mine is not None
    owner, key = case.mine
    written = {key.keys, *key.on.values()}
    where = case.finding.where if case.finding.where in written else key.keys
    on = {name: keys if text == where else text for name, text in key.on.items()}
    if key.keys == where:
        on |= dict.fromkeys(names, keys)
    changed = key.model_copy(update={"on": on, "id": key.identity})
    label = (
        tr("{name} on {keys} for {names}", name=owner.name, keys=keys, names=", ".join(names))
        if keys
        else tr("{names} go without", names=", ".join(names))
    )
    return Together(label, (Bind(owner.layer, case.finding.app, changed),))
