"""Whether a command or macro can run now, and if not, why, in words for whoever looks for it."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import listed, tr
from rimecrest.embed.dispatcher import Dispatcher
from rimecrest.embed.macro_library import MacroLibrary
from rimecrest.embed.macro_run import is_met


def why_not(dispatcher: Dispatcher, library: MacroLibrary, run: str) -> str:
    """Why a target would not run if it were performed now by hand; empty where it would. Nothing is done."""
    if run.startswith("macro:"):
        return _of_macro(dispatcher, library, run.removeprefix("macro:"))
    declared = dispatcher.declarations.commands.get(run)
    if declared is None:
        return tr("It does not exist here.")
    command = declared.command
    if command.context not in dispatcher.live():
        where = dispatcher.contexts.name(command.context).lower()
        return tr("Works {where} only.", where=where)
    needed = [argument.name for argument in command.arguments if argument.default is None]
    if needed and declared.asks is None:
        return tr("Needs settings ({names}), which a button or macro gives.", names=listed(needed))
    return ""


def _of_macro(dispatcher: Dispatcher, library: MacroLibrary, identity: str) -> str:
    try:
        file = library.find(identity)
    except RimecrestError as error:
        return error.sentence
    if file is None:
        return tr("It does not exist here.")
    from rimecrest.core.macro.check import check_macro  # noqa: PLC0415  an application starts without it

    checked = check_macro(file.macro, dispatcher.with_panels(), macros=library.others())
    faults = [fault for fault in (*file.faults, *checked) if fault.kind != "reach"]
    if faults:
        return tr("Has faults: {fault}", fault=faults[0])
    live = dispatcher.live()
    for need in file.macro.needs:
        met = need.context in live if need.context else is_met(dispatcher.read(need.reading))
        if not met:
            return need.say or tr("Something that it needs is not here.")
    return ""
