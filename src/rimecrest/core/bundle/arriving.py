"""Taking a bundle in: what arrives, what it lacks here, what exists already, and the one edit for it all."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from rimecrest.core.bundle.bundle import COMPANIONS, Bundle
from rimecrest.core.bundle.existing import Existing
from rimecrest.core.macro import Do, Header, Macro, Run, effects, format_macro
from rimecrest.core.macro.steps import Block, If, Statement
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Edit, PutCompanion, PutMacro, SetMaker, Together
from rimecrest.core.workspace.fresh import fresh_macro
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True)
class Missing:
    """A command that an application here does not have, with the nearest that it has, if any."""

    command: str
    nearest: str


@dataclass(frozen=True)
class Arrival:
    """One macro of a bundle, held against the shelf it would stand on."""

    id: str
    name: str
    application: str
    may: tuple[str, ...]
    missing: tuple[Missing, ...]
    exists: bool
    """Whether the shelf has another macro of this identity or name."""
    same: bool
    """Whether that one is the very same."""
    faults: tuple[str, ...]


def arrivals(bundle: Bundle, workspace: Workspace, layer: str) -> list[Arrival]:
    """What would arrive on a layer's shelf, in the order of names."""
    found = []
    others = {name: file.macro for name, file in bundle.macros.items()}
    for identity, file in bundle.macros.items():
        catalogue = workspace.catalogues.get(file.macro.application)
        missing: list[Missing] = []
        if catalogue is not None:
            verbs = {step.command for step in file.macro.live_steps() if isinstance(step, Do)}
            missing = [
                Missing(verb, catalogue.nearest(verb))
                for verb in sorted(verbs)
                if catalogue.command(verb) is None
            ]
        faults = [str(fault) for fault in file.faults]
        if catalogue is None:
            faults.append(
                tr("There is no application “{application}” here.", application=file.macro.application)
            )
        may = effects(file.macro, catalogue, others) if catalogue else bundle.effects.get(identity, ())
        known = workspace.macros.get((layer, identity))
        named = [f for f in workspace.macros.values() if f.name == file.name and f.layer == layer]
        found.append(
            Arrival(
                id=identity,
                name=file.name,
                application=file.macro.application,
                may=tuple(str(effect) for effect in may),
                missing=tuple(missing),
                exists=known is not None or bool(named),
                same=known is not None and known.text == file.text,
                faults=tuple(faults),
            )
        )
    return sorted(found, key=lambda arrival: arrival.name.lower())


def take_in(bundle: Bundle, workspace: Workspace, layer: str, decisions: Mapping[str, Existing]) -> Together:
    """The edit that brings a bundle in, whole.

    Args:
        decisions: id → what becomes of a name that is taken; keep both where nothing was decided.
    """
    ids: dict[str, str] = {}
    for arrival in arrivals(bundle, workspace, layer):
        decision = decisions.get(arrival.id, Existing.KEEP_BOTH)
        if arrival.same or (arrival.exists and decision is Existing.SKIP):
            continue
        replaces = arrival.exists and decision is Existing.REPLACE and (layer, arrival.id) in workspace.macros
        ids[arrival.id] = arrival.id if replaces else fresh_macro(workspace, arrival.id, ids.values())
    companions, names = _companions(bundle, workspace)
    edits: list[Edit] = [PutCompanion(name, content) for name, content in companions.items()]
    for old, new in ids.items():
        file = bundle.macros[old]
        macro = _rewritten(file.macro, ids, names)
        decision = decisions.get(old, Existing.KEEP_BOTH)
        if decision is Existing.KEEP_BOTH:
            macro = _named(macro, _free_name(workspace, file.name, (layer, new)))
        edits.append(PutMacro(layer, new, format_macro(macro) if macro != file.macro else file.text))
        edits.append(SetMaker(layer, new, bundle.maker, bundle.key if bundle.signed else ""))
    label = tr(
        "import {number} of {maker}",
        number=counted(len(ids), "macro"),
        maker=bundle.maker or "an unknown maker",
    )
    return Together(label, tuple(edits))


def _free_name(workspace: Workspace, name: str, but: tuple[str, str]) -> str:
    used = {file.name.lower() for key, file in workspace.macros.items() if key != but}
    if name.lower() not in used:
        return name
    number = 2
    while f"{name} {number}".lower() in used:
        number += 1
    return f"{name} {number}"


def _companions(bundle: Bundle, workspace: Workspace) -> tuple[dict[str, bytes], dict[str, str]]:
    """Files to put in, and what those are called now whose name another file has here."""
    put, names = {}, {}
    for name, content in bundle.companions.items():
        known = workspace.companions.get(name)
        target = name
        if known is not None and known != content:
            stem, dot, ending = name.rpartition(".")
            number = 2
            while (
                target := f"{stem or ending}-{number}{dot}{ending if stem else ''}"
            ) in workspace.companions:
                number += 1
        names[name] = target
        if workspace.companions.get(target) != content:
            put[target] = content
    return put, names


def _named(macro: Macro, name: str) -> Macro:
    head = tuple(
        replace(line, value=name) if isinstance(line, Header) and line.word == "macro" else line
        for line in macro.head
    )
    return replace(macro, head=head)


def _rewritten(macro: Macro, ids: Mapping[str, str], files: Mapping[str, str]) -> Macro:
    """The macro with what it runs and brings along under the names that these have here."""
    moved = {f"{COMPANIONS}{old}": f"{COMPANIONS}{new}" for old, new in files.items() if old != new}
    head = tuple(
        replace(line, value=moved.get(line.value, line.value))
        if isinstance(line, Header) and line.word == "with"
        else line
        for line in macro.head
    )
    return replace(macro, head=head, steps=tuple(_steps(macro.steps, ids, moved)))


def _steps(
    steps: tuple[Statement, ...], ids: Mapping[str, str], files: Mapping[str, str]
) -> Iterator[Statement]:
    for step in steps:
        made = step
        if isinstance(made, Run):
            made = replace(made, macro=ids.get(made.macro, made.macro))
        elif isinstance(made, Do):
            settings = tuple(
                replace(s, value=files.get(s.value.strip().strip("'\""), s.value)) for s in made.settings
            )
            made = replace(made, settings=settings)
        if isinstance(made, Block):
            made = replace(made, steps=tuple(_steps(made.steps, ids, files)))
        if isinstance(made, If) and made.otherwise is not None:
            made = replace(made, otherwise=tuple(_steps(made.otherwise, ids, files)))
        yield made
