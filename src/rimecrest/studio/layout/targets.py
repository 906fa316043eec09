"""What can be put somewhere: the commands and macros of the aim, as entries to search."""

from __future__ import annotations

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.layout import Outcome
from rimecrest.core.macro import effects
from rimecrest.core.workspace import MacroFile, Workspace
from rimecrest.embed.surfaces.frame import best_keys
from rimecrest.embed.surfaces.painting import Target
from rimecrest.studio.search import Entry


def places(outcome: Outcome) -> dict[str, str]:
    """Target → where it sits first, in words."""
    found: dict[str, str] = {}
    for tab in outcome.tabs:
        for group in tab.groups:
            for item in group.items:
                if item.run:
                    found.setdefault(item.run, f"tab {tab.title}")
    for bar in outcome.toolbars:
        for item in bar.items:
            if item.run:
                found.setdefault(item.run, f"bar {bar.title}")
    return found


def target_entries(workspace: Workspace, stack: tuple[str, ...], app: str, outcome: Outcome) -> list[Entry]:
    """Every command and macro that an item can run, those on no surface included."""
    catalogue = workspace.catalogue(app)
    keys, where = best_keys(outcome, catalogue.context_tree), places(outcome)
    entries = [
        Entry("macro", f"macro:{name}", file.name, _macro_hint(file, catalogue, keys), file.macro.about)
        for name, file in workspace.macros_of(stack).items()
        if file.macro.application == app
    ]
    for command in catalogue.commands:
        hint = keys.get((command.id, ())) or where.get(command.id) or "on no bar yet"
        more = f"{command.about} {where.get(command.id, '')}"
        entries.append(Entry("command", command.id, command.name, f"{catalogue.title} · {hint}", more))
    return entries


def _macro_hint(file: MacroFile, catalogue: Catalogue, keys: dict[Target, str]) -> str:
    found = effects(file.macro, catalogue)
    words = ["macro", *(effect.value for effect in found[:1])]
    if key := keys.get((f"macro:{file.id}", ())):
        words.append(key)
    return " · ".join(words)
