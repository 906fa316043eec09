"""Why a target cannot run: said alike of items and of keys."""

from __future__ import annotations

from collections.abc import Mapping

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.macro.check import missing_files, unreachable
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.workspace import Workspace


def gone_reason(
    workspace: Workspace,
    catalogue: Catalogue,
    macros: Mapping[str, MacroFile],
    run: str | None,
    args: tuple[tuple[str, str], ...],
) -> str:
    """Why a target does not exist or does not take its settings; empty when it does.

    Args:
        macros: those that the layer can see.
    """
    if not run:
        return tr("runs nothing.")
    kind, _, name = run.partition(":")
    if kind == "macro":
        if name not in macros:
            elsewhere = [workspace.layer_title(layer) for layer, other in workspace.macros if other == name]
            if elsewhere:
                return tr(
                    "runs the macro “{name}”, which only {elsewhere} has.", name=name, elsewhere=elsewhere[0]
                )
            return tr("runs the macro “{name}”, which does not exist.", name=name)
        return ""
    command = catalogue.by_id.get(run)
    if command is None:
        return tr(
            "runs “{run}”, which {title} {version} does not have.",
            run=run,
            title=catalogue.title,
            version=catalogue.version,
        )
    given = dict(args)
    if faults := command.argument_faults(given, by_hand=True):
        return tr("cannot run {name}: {faults}.", name=command.name, faults=faults[0])
    if missing := next(missing_files(command, given, workspace.companion_paths), None):
        kind, name = missing
        return tr("uses the {kind} “{name}”, which the workspace does not have.", kind=kind, name=name)
    return ""


def reach_reason(catalogue: Catalogue, run: str | None, args: tuple[tuple[str, str], ...]) -> str:
    """Say which file named by a target's settings no colleague can reach; empty when there is none."""
    command = catalogue.by_id.get(run or "")
    for name, value in args if command is not None else ():
        argument = command.argument(name) if command is not None else None
        if argument is not None and argument.type is ArgumentType.PATH and unreachable(value):
            return tr("opens “{path}”, which no colleague can reach. Put it into companions/.", path=value)
    return ""
