"""Whether a command or macro can run now, and if not, why, in words for whoever looks for it."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import listed, tr
from rimecrest.kit.commands.executor import Executor
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.kit.macros.run import is_met


def why_not(executor: Executor, library: MacroLibrary, run: str) -> str:
    """Why a target would not run if it were performed now by hand; empty where it would. Nothing is done."""
    if run.startswith("macro:"):
        return _of_macro(executor, library, run.removeprefix("macro:"))
    declared = executor.declarations.commands.get(run)
    if declared is None:
        return tr("It does not exist here.")
    command = declared.command
    if command.context not in executor.live():
        where = executor.contexts.name(command.context).lower()
        return tr("Works {where} only.", where=where)
    needed = [argument.name for argument in command.arguments if argument.default is None]
    if needed and declared.asks is None:
        return tr("Needs settings ({names}), which a button or macro gives.", names=listed(needed))
    return ""


def _of_macro(executor: Executor, library: MacroLibrary, identity: str) -> str:
    try:
        file = library.find(identity)
    except RimecrestError as error:
        return error.sentence
    if file is None:
        return tr("It does not exist here.")
    from rimecrest.core.macro.check import check_macro  # noqa: PLC0415  an application starts without it

    checked = check_macro(file.macro, executor.catalogue_with_panels(), macros=library.others())
    faults = [fault for fault in (*file.faults, *checked) if fault.kind != "reach"]
    if faults:
        return tr("Has faults: {fault}", fault=faults[0])
    live = executor.live()
    for need in file.macro.needs:
        met = need.context in live if need.context else is_met(executor.read(need.reading))
        if not met:
            return need.say or tr("Something that it needs is not here.")
    return ""
