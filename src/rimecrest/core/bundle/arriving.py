"""Taking a bundle in: what arrives, what it lacks here, what exists already, and the one edit for it all."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.bundle.arriving_panels import arriving_panels, tame
from rimecrest.core.bundle.bundle import Bundle
from rimecrest.core.bundle.existing import Existing
from rimecrest.core.macro.check import effects
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.steps import Do
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Edit, PutPanel, Together
from rimecrest.core.workspace.file_edits import PutCompanion, PutMacro, PutPicture
from rimecrest.core.workspace.fresh import fresh_macro
from rimecrest.core.workspace.layer_ids import ORGANISATION
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.origin import bare, marked, taken_in_as
from rimecrest.core.workspace.rewriting import Names
from rimecrest.core.workspace.workspace import Workspace


class Missing(Struct, frozen=True):
    """A command that an application here does not have, with the nearest that it has, if any."""

    command: str
    nearest: str


class Arrival(Struct, frozen=True):
    """One macro of a bundle, held against the shelf it would stand on."""

    id: str
    name: str
    application: str
    may: tuple[str, ...]
    missing: tuple[Missing, ...]
    exists: bool
    """Whether the shelf has another macro of this identity or name."""
    same: bool
    """Whether that one, or one that everybody has, is the very same."""
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
        seen = workspace.macros_of((ORGANISATION, layer)).get(identity)
        named = [f for f in workspace.macros.values() if f.name == file.name and f.layer == layer]
        found.append(
            Arrival(
                id=identity,
                name=file.name,
                application=file.macro.application,
                may=tuple(str(effect) for effect in may),
                missing=tuple(missing),
                exists=known is not None or bool(named),
                same=seen is not None and _same(seen, file),
                faults=tuple(faults),
            )
        )
    return sorted(found, key=lambda arrival: arrival.name.lower())


def _same(here: MacroFile, arriving: MacroFile) -> bool:
    """Whether a macro is here already: as it came, or made here with the same steps."""
    return here.text == arriving.text or (
        not here.macro.from_outside and format_macro(here.macro) == bare(arriving.text)
    )


def take_in(bundle: Bundle, workspace: Workspace, layer: str, decisions: Mapping[str, Existing]) -> Together:
    """The edit that brings a bundle in, whole: macros, the panels that they ask, and their files.

    What would run by itself on the panels of a maker for whom nobody vouches becomes private steps of that
    maker, which do not run until somebody does.

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
    companions, companion_names = _files(bundle.companions, workspace.companions)
    pictures, picture_names = _files(bundle.pictures, workspace.pictures)
    names = Names(ids, companion_names, picture_names)
    edits: list[Edit] = [PutCompanion(name, content) for name, content in companions.items()]
    edits += [PutPicture(name, content) for name, content in pictures.items()]
    panels, by_app = arriving_panels(bundle, workspace, layer, names, set(ids))
    known = bundle.signed and bundle.key in workspace.settings.makers
    for app, panel in panels:
        edits.append(PutPanel(layer, app, panel if known else tame(panel, app, workspace, bundle)))
    for old, new in ids.items():
        file = bundle.macros[old]
        its = by_app.get(file.macro.application, names)
        if decisions.get(old, Existing.KEEP_BOTH) is Existing.KEEP_BOTH:
            its = replace(its, titles={file.name: _free_name(workspace, file.name, (layer, new))})
        text = taken_in_as(file.text, its)
        edits.append(PutMacro(layer, new, text if bundle.signed else marked(text, bundle.maker)))
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


def _files(
    arriving: Mapping[str, bytes], here: Mapping[str, bytes]
) -> tuple[dict[str, bytes], dict[str, str]]:
    """Files to put in, and what all are called now: another name where another file here has theirs."""
    put, names = {}, {}
    for name, content in arriving.items():
        target = name
        if here.get(name, content) != content:
            stem, dot, ending = name.rpartition(".")
            number = 2
            while (target := f"{stem or ending}-{number}{dot}{ending if stem else ''}") in here:
                number += 1
        names[name] = target
        if here.get(target) != content:
            put[target] = content
    return put, names
