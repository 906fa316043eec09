"""What can be put somewhere: the commands and macros of the aim, as entries to search."""

from __future__ import annotations

from collections.abc import Mapping

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout.seen import Outcome, SeenMenu, SeenToolbar
from rimecrest.core.macro.check import effects
from rimecrest.core.macro.steps import Macro
from rimecrest.core.search import Match
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.surfaces.painting import Target
from rimecrest.surfaces.seat_keys import KeySeat, best_keys


def places(outcome: Outcome) -> dict[str, str]:
    """Target → where it sits first, in words; a tab goes before a bar."""
    found: dict[str, str] = {}
    placed = [pair for pair in outcome.buttons() if not isinstance(pair[0], SeenMenu)]
    for row, item in sorted(placed, key=lambda pair: isinstance(pair[0], SeenToolbar)):
        if item.run:
            found.setdefault(item.run, outcome.whereabouts(row))
    return found


def target_entries(workspace: Workspace, stack: tuple[str, ...], app: str, outcome: Outcome) -> list[Match]:
    """Every command and macro that an item can run, those on no surface included."""
    catalogue = workspace.catalogue(app)
    keys = best_keys(outcome, KeySeat(catalogue.context_tree, Obstacles(workspace.settings.reserved)))
    seen = workspace.macros_of(stack)
    others = {name: file.macro for name, file in seen.items()}
    entries = [
        Match(
            "macro", f"macro:{name}", file.name, _macro_hint(file, catalogue, others, keys), file.macro.about
        )
        for name, file in seen.items()
        if file.macro.application == app
    ]
    return entries + command_entries(workspace, app, outcome)


def command_entries(workspace: Workspace, app: str, outcome: Outcome) -> list[Match]:
    """Every command of an application: where it sits, and its key."""
    catalogue = workspace.catalogue(app)
    keys = best_keys(outcome, KeySeat(catalogue.context_tree, Obstacles(workspace.settings.reserved)))
    where = places(outcome)
    entries = []
    for command in catalogue.commands:
        key, sits = keys.get((command.id, ()), ""), where.get(command.id, "")
        hint = " · ".join(part for part in (catalogue.title, sits or tr("on no bar yet"), key) if part)
        more = " ".join((command.about, *command.synonyms, sits))
        entries.append(Match("command", command.id, command.name, hint, more))
    return entries


def macro_entries(workspace: Workspace) -> list[Match]:
    """Every macro of every shelf, for whichever application."""
    found = []
    for (layer, name), file in workspace.macros.items():
        catalogue = workspace.catalogues.get(file.macro.application)
        title = catalogue.title if catalogue else file.macro.application
        hint = f"macro · {workspace.layer_title(layer)} · {title}"
        found.append(Match("macro", f"{layer}/macro:{name}", file.name, hint, file.macro.about))
    return found


def _macro_hint(
    file: MacroFile, catalogue: Catalogue, others: Mapping[str, Macro], keys: dict[Target, str]
) -> str:
    found = effects(file.macro, catalogue, others)
    words = ["macro", *(effect.value for effect in found[:1])]
    if key := keys.get((f"macro:{file.id}", ())):
        words.append(key)
    return " · ".join(words)
