"""Names that a person typed and nothing is called: unknown-name, a question, and colleagues' lost keys.

1. A layout names a context, or a variant for a keyboard, desktop, session, reader or input method, that does
   not exist.
2. people.csv names a session, a policy or a wave that does not exist. (A keyboard, desktop, reader or input
   method that is not known is `unknown`: the keys are checked against all of them.)
3. A layout is for a layer or an application that workspace.json does not list; workspace.json lists a layer
   twice, or reserves keys that cannot be read.
4. personal, a note: a colleague's own key (own-keys.csv) runs what is gone, or is of a seat that is gone.

(docs/conflicts.md, "Findings".)
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.table import EstateView
from rimecrest.core.keys.desktops.profiles import known_profiles, profile
from rimecrest.core.keys.keyboards.national import known_keyboards
from rimecrest.core.keys.obstacles import unreadable_chords
from rimecrest.core.layout.layout import Layout
from rimecrest.core.nearest import nearest
from rimecrest.core.words import listed, tr
from rimecrest.core.workspace.people import POLICIES, SESSIONS
from rimecrest.core.workspace.workspace import Workspace

_KINDS = {"desktop": "desktop", "reader": tr("screen reader"), "input": tr("input method")}


def unknown_names(workspace: Workspace, _estate: EstateView) -> Iterator[Finding]:
    """Find every name that nothing is called."""
    for layout in workspace.layouts.values():
        yield from _of_layout(workspace, layout)
    yield from _of_people(workspace)
    yield from _of_settings(workspace)


def _found(where: str, name: str, rest: str, known: Iterable[str], **more: object) -> Finding:
    near = nearest_name(name, known)
    hint = " " + tr("Did you mean {near}?", near=near) if near else ""
    return Finding("unknown-name", more.pop("app", ""), more.pop("layer", ""), where, f"“{name}”",  # type: ignore[arg-type]
                   rest + hint, **more)  # type: ignore[arg-type]  # fmt: skip


def nearest_name(name: str, known: Iterable[str]) -> str:
    """Return the known name that was probably meant; empty if none is like it."""
    return nearest(name.lower(), sorted(known), 60)


def _of_layout(workspace: Workspace, layout: Layout) -> Iterator[Finding]:
    app, layer = layout.app, layout.layer
    where = f"layouts/{layer}/{app}.json"
    if layer not in workspace.layers:
        rest = tr("({where}) is no layer of workspace.json, so nobody gets this layout.", where=where)
        yield _found(where, layer, rest, workspace.layers)
        return
    catalogue = workspace.catalogues.get(app)
    if catalogue is None:
        rest = tr("({where}) is no application of workspace.json, so this layout does nothing.", where=where)
        yield _found(where, app, rest, workspace.settings.applications)
        return
    targets = workspace.targets(workspace.layers, app)
    for key in layout.keys:
        owner = Owner(f"{layer}:{key.identity}", layer, key.run, targets.face(key.run).name or "nothing")
        if key.in_context not in catalogue.context_tree:
            rest = tr(
                "is no context of {title}, so {keys} is never live.", title=catalogue.title, keys=key.keys
            )
            known = [context.id for context in catalogue.contexts]
            yield _found(owner.id, key.in_context, rest, known, app=app, layer=layer, owners=(owner,))
        for name in key.on:
            if (known_names := names_like(workspace, name)) is not None:
                rest = tr("names no seats, so the variant of {keys} for it is never used.", keys=key.keys)
                yield _found(
                    f"{owner.id}@{name}", name, rest, known_names, app=app, layer=layer, owners=(owner,)
                )


def names_like(workspace: Workspace, name: str) -> list[str] | None:
    """Return the names that a variant can have instead of this one; None if this one is known."""
    kind, mark, value = name.partition(":")
    if not mark:
        return None if name in known_keyboards() else list(known_keyboards())
    if kind == "session":
        return None if value in SESSIONS else [f"session:{one}" for one in SESSIONS]
    if kind not in _KINDS:
        return [f"{one}:" for one in (*_KINDS, "session")]
    known = {one for one in known_profiles() if profile(one).kind == kind} | {*workspace.settings.reserved}
    known |= {getattr(seat.traits, kind) for seat in workspace.people}
    return None if value in known else sorted(f"{kind}:{one}" for one in known if one)


def _of_people(workspace: Workspace) -> Iterator[Finding]:
    wrong: dict[tuple[str, str], list[str]] = {}
    for seat in workspace.people:
        if seat.session and seat.session not in SESSIONS:
            wrong.setdefault(("session", seat.session), []).append(seat.seat)
        if seat.policy and seat.policy not in POLICIES:
            wrong.setdefault(("policy", seat.policy), []).append(seat.seat)
        if seat.wave and not (seat.wave.isascii() and seat.wave.isdigit()):
            wrong.setdefault(("wave", seat.wave), []).append(seat.seat)
    known = {"session": SESSIONS, "policy": POLICIES, "wave": ()}
    rests = {
        "session": tr("(people.csv) is no session, so the keys of {seats} are checked as if it were empty."),
        "policy": tr("(people.csv) is no policy, so nothing is restricted for {seats}."),
        "wave": tr("(people.csv) is no number of a wave, for {seats}."),
    }
    for (kind, name), seats in wrong.items():
        rest = rests[kind].format(seats=listed(seats))
        yield _found(f"{kind}:{name}", name, rest, known[kind], seats=tuple(seats))


def _of_settings(workspace: Workspace) -> Iterator[Finding]:
    layers = list(workspace.layers)
    for layer in dict.fromkeys(name for name in layers if layers.count(name) > 1):
        rest = tr("is listed twice as a layer in workspace.json. Remove one of the two.")
        yield Finding("unknown-name", "", "", f"layer:{layer}", f"“{layer}”", rest)
    for name, keys, reason in unreadable_chords(workspace.settings.reserved):
        rest = tr(
            "(workspace.json, reserved, {name}) is left out: {reason}", name=name, reason=reason.rstrip(".")
        )
        yield Finding("unknown-name", "", "", f"reserved:{name}:{keys}", f"“{keys}”", f"{rest}.")


def lost_own_keys(workspace: Workspace, _estate: EstateView) -> Iterator[Finding]:
    """personal: colleagues' own keys that run what is gone, or belong to a seat that is gone."""
    seats = {seat.seat for seat in workspace.people}
    for key in workspace.habits.own_keys:
        catalogue = workspace.catalogues.get(key.app)
        kind, _, name = key.run.partition(":")
        if key.seat not in seats:
            rest = tr(
                "has an own key {keys} (own-keys.csv), but people.csv lists no such seat.", keys=key.keys
            )
        elif catalogue is None:
            rest = tr("has an own key {keys} in “{app}”, which the workspace does not have.", keys=key.keys,
                      app=key.app)  # fmt: skip
        elif kind == "macro" and not any(name == other for _, other in workspace.macros):
            rest = tr(
                "has an own key {keys} for the macro “{name}”, which is gone.", keys=key.keys, name=name
            )
        elif kind != "macro" and key.run not in catalogue.by_id:
            rest = tr("has an own key {keys} for “{run}”, which {title} does not have.", keys=key.keys,
                      run=key.run, title=catalogue.title)  # fmt: skip
        else:
            continue
        owner = Owner(f"{key.seat}:key:{key.context}:{key.keys}", key.seat, key.run, key.run)
        yield Finding("personal", key.app, "", owner.id, f"“{key.seat}”", rest, (owner,), seats=(key.seat,))
