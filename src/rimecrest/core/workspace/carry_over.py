"""Items of one application put into another: which commands have their like there, and which have none."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue, Command
from rimecrest.core.catalogue.items import Button, Event, Eventful, Handler, Item, StepsButton
from rimecrest.core.catalogue.surfaces import runs_of
from rimecrest.core.keys.contexts import ANYWHERE
from rimecrest.core.layout.layout import KeyBinding, Layout


class Counterpart(Struct, frozen=True):
    """One command of an item, and what it would run in the other application.

    `run` is the command where there is one of the same verb or name, else empty; `nearest` is then the one
    that is called most alike, if any is.
    """

    of: str
    name: str
    run: str
    nearest: str = ""


def counterparts(items: Iterable[Item], there: Catalogue, here: Catalogue) -> list[Counterpart]:
    """What each command that items run has for its like.

    Args:
        there: the catalogue of the application that the items come from.
        here: that of the one they go into.
    """
    by_name = {command.name.casefold(): command.id for command in here.commands}
    found: dict[str, Counterpart] = {}
    for run in (run for item in items for run in runs_of(item)):
        if run in found:
            continue
        command = there.by_id.get(run)
        if command is None:
            # A macro is for one application: it has no like in another.
            found[run] = Counterpart(run, run.partition(":")[2], "")
            continue
        verb = f"{here.app}:{run.partition(':')[2]}"
        same = verb if verb in here.by_id else by_name.get(command.name.casefold(), "")
        near = "" if same else here.nearest_command(command.name)
        found[run] = Counterpart(run, command.name, same, near)
    return list(found.values())


def carried_over(items: Iterable[Item], runs: Mapping[str, str], here: Catalogue) -> list[Item]:
    """The items as they are in the other application.

    Args:
        runs: command → the one there; what is not named, or has an empty one, is left out.
        here: the catalogue of the application that they go into.
    """
    made: list[Item] = []
    for item in items:
        if isinstance(item, StepsButton):
            # Private steps are a macro of one application.
            continue
        if isinstance(item, Eventful) and item.on:
            item = item.model_copy(update={"on": handlers_over(item.on, runs, here)})
        if not isinstance(item, Button):
            made.append(item)
            continue
        run = runs.get(item.run, "")
        if run:
            args = _args_over(item.args, here.by_id[run])
            made.append(item.model_copy(update={"run": run, "args": args}))
    # Lines that parted what did not come along part nothing.
    return _without_loose_lines(made)


def handlers_over(
    on: Mapping[Event, Handler], runs: Mapping[str, str], here: Catalogue
) -> dict[Event, Handler]:
    """What happens at which event, as it is in the other application; what has no like there is left out."""
    made = {}
    for event, handler in on.items():
        run = runs.get(handler.run, "")
        if run:
            made[event] = handler.model_copy(
                update={"run": run, "args": _args_over(handler.args, here.by_id[run])}
            )
    return made


def _args_over(args: Mapping[str, str], command: Command) -> dict[str, str]:
    return {name: value for name, value in args.items() if command.argument(name) is not None}


def _without_loose_lines(items: list[Item]) -> list[Item]:
    kept: list[Item] = []
    for item in items:
        line = not isinstance(item, Button) and item.to_data().get("separator") is True
        if not line or (kept and kept[-1].to_data().get("separator") is not True):
            kept.append(item)
    while kept and kept[-1].to_data().get("separator") is True:
        kept.pop()
    return kept


def keys_along(layout: Layout, runs: Mapping[str, str], here: Catalogue) -> list[KeyBinding]:
    """The keys that a layout binds to these commands, for their likes in the other application."""
    made = []
    for key in layout.keys:
        run = runs.get(key.run or "", "")
        if run:
            context = here.by_id[run].context
            known = key.in_context if key.in_context in here.context_tree else context or ANYWHERE
            made.append(key.model_copy(update={"id": "", "run": run, "in_context": known}))
    return made
