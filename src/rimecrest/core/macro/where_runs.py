"""The contexts in which a command or macro can run, found without running it."""

from __future__ import annotations

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.keys.contexts import ANYWHERE, Contexts
from rimecrest.core.macro.steps import Do, Macro


class WhereRuns(Struct, frozen=True):
    """What a target needs of the place it is run in.

    `needs` are contexts that must all be live; in the contexts `never` one of its needs is never met.
    """

    contexts: Contexts
    needs: tuple[str, ...] = ()
    never: frozenset[str] = frozenset()

    def bound_in(self, context: str) -> bool:
        """Whether a key bound in that context can ever run it."""
        if any(self.contexts.contains(never, context) for never in self.never):
            return False
        return all(self.contexts.can_serve(context, need) for need in self.needs)

    @property
    def widest(self) -> str:
        """The narrowest context that holds all of the needs: where a key of it is bound."""
        return max(self.needs, key=self.contexts.narrowness, default=ANYWHERE)

    @property
    def words(self) -> str:
        """“when writing”; empty where it runs anywhere."""
        return self.contexts.name(self.widest).lower() if self.needs else ""


def where_runs(catalogue: Catalogue, run: str | None, macro: Macro | None = None) -> WhereRuns:
    """Find where a target can run.

    Args:
        run: the target.
        macro: the macro that `run` names, if it names one that is known.
    """
    contexts = catalogue.context_tree
    command = catalogue.by_id.get(run or "")
    if command is not None:
        needs = (command.context,) if command.context != ANYWHERE else ()
        return WhereRuns(contexts, needs)
    if macro is None:
        return WhereRuns(contexts)
    readings = {reading.id: reading for reading in catalogue.readings}
    wanted = [need.context for need in macro.needs if need.context in contexts]
    never = {
        name for need in macro.needs if need.reading in readings for name in readings[need.reading].no_in
    }
    first = next((step for step in macro.steps if not step.muted), None)
    begins = catalogue.command(first.command) if isinstance(first, Do) else None
    if begins is not None and begins.context != ANYWHERE:
        wanted.append(begins.context)
    return WhereRuns(contexts, tuple(dict.fromkeys(wanted)), frozenset(never))
