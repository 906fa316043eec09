"""What something that runs at an event may do, found without running it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from rimecrest.core.catalogue.catalogue import Catalogue, Effect
from rimecrest.core.layout.seen import Doing

if TYPE_CHECKING:
    from rimecrest.core.macro.steps import Macro


def doing_effects(doing: Doing, catalogue: Catalogue, macros: Mapping[str, Macro]) -> tuple[Effect, ...]:
    """The effects of its command, of its macro and of all that this runs, or of its own steps.

    Args:
        macros: those that it may run, by id.
    """
    from rimecrest.core.macro.check import effects  # noqa: PLC0415  late: the grammar
    from rimecrest.core.macro.parse import parse_macro  # noqa: PLC0415  late: the grammar

    if doing.steps:
        return effects(parse_macro(doing.steps)[0], catalogue, macros)
    kind, _, name = (doing.run or "").partition(":")
    if kind == "macro":
        return effects(macros[name], catalogue, macros) if name in macros else ()
    command = catalogue.by_id.get(doing.run or "")
    return tuple(command.effects) if command is not None else ()
