"""What giving a target a key changes: where it runs then, what it takes the key from, and what keeps it.

Who wins is decided by `core.keys`, as in a running application: nothing here predicts it.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct

from rimecrest.core.keys.bindings import winners_on
from rimecrest.core.keys.chords import Sequence, parse_sequence
from rimecrest.core.keys.contexts import ANYWHERE
from rimecrest.core.macro.where_runs import WhereRuns, where_runs
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.give_key import Target
from rimecrest.core.workspace.workspace import Workspace


class Holder(Struct, frozen=True):
    """Something that runs by a key: its target, its name, its layer's title, and where it is bound, in words.

    `keys` is its whole sequence: it may only begin with the key asked about, or begin it.
    """

    target: Target
    name: str
    layer: str
    keys: Sequence
    where: str

    @property
    def words(self) -> str:
        """“Bold (built in) when writing”."""
        return tr("{name} ({layer}) {where}", name=self.name, layer=self.layer, where=self.where).strip()


class Given(Struct, frozen=True):
    """What becomes of a key: whether the target runs by it, what no longer does, what still does there."""

    runs: bool
    lost: tuple[Holder, ...] = ()
    keeps: tuple[Holder, ...] = ()

    def sentence(self, keys: str, name: str) -> str:
        """Say what happened; empty if the key was free and runs its target."""
        kept = listed(dict.fromkeys(holder.words for holder in self.keeps[:3]))
        if not self.runs and self.keeps:
            return tr("{keys} does not run “{name}”: {kept} keeps it.", keys=keys, name=name, kept=kept)
        said = []
        if self.lost:
            names = listed(dict.fromkeys(holder.name for holder in self.lost[:3]))
            more = len({holder.name for holder in self.lost}) - 3
            rest = tr(" and {number}", number=counted(more, "other")) if more > 0 else ""
            said.append(tr("{keys} is taken over from {names}{rest}.", keys=keys, names=names, rest=rest))
        if self.keeps:
            said.append(tr("It stays with {kept}.", kept=kept))
        return " ".join(said)


def holders_of(
    workspace: Workspace, app: str, layer: str, keys: str, where: WhereRuns | None = None
) -> list[Holder]:
    """Find what runs by a key, or by a sequence that begins with it or that it begins with.

    Args:
        layer: of the seats that have this layer.
        where: only in the places where this can run.
    """
    found: dict[tuple[Target, Sequence], Holder] = {}
    sequence, contexts = parse_sequence(keys), workspace.catalogue(app).context_tree
    for stack in _stacks(workspace, layer):
        bindings = workspace.outcome(stack, app).bindings
        targets = workspace.targets(stack, app)
        for place in contexts.places:
            if where is not None and not where.bound_in(place):
                continue
            for binding in winners_on(bindings, sequence, place, contexts):
                if binding.run is not None:
                    found.setdefault(
                        (binding.target, binding.sequence),
                        Holder(
                            binding.target,
                            targets.face(binding.run).name or binding.run,
                            workspace.layer_title(binding.layer),
                            binding.sequence,
                            "" if binding.context == ANYWHERE else contexts.name(binding.context).lower(),
                        ),
                    )
    return list(found.values())


def given(workspace: Workspace, edit: Edit, app: str, layer: str, target: Target, keys: str) -> Given:
    """Work out what an edit does to a key that it gives to a target in one layer.

    Raises:
        RimecrestError: the edit cannot be applied.
    """
    return between(workspace, edit.on(workspace), app, layer, target, keys)


def between(before: Workspace, after: Workspace, app: str, layer: str, target: Target, keys: str) -> Given:
    """The same from the workspaces before and after the edit."""
    where = target_runs(after, layer, app, target)
    now = holders_of(after, app, layer, keys, where)
    still = {(holder.target, holder.keys) for holder in holders_of(after, app, layer, keys)}
    lost = [h for h in holders_of(before, app, layer, keys) if (h.target, h.keys) not in still]
    mine = [holder for holder in now if holder.target == target]
    keeps = [holder for holder in now if holder.target != target]
    return Given(bool(mine), tuple(holder for holder in lost if holder.target != target), tuple(keeps))


def target_runs(workspace: Workspace, layer: str, app: str, target: Target) -> WhereRuns:
    """Find where a target can run, for the seats that have a layer."""
    run = target[0] or ""
    file = workspace.macros_of(workspace.stack_up_to(layer)).get(run.removeprefix("macro:"))
    macro = file.macro if file is not None and run.startswith("macro:") else None
    return where_runs(workspace.catalogue(app), run, macro)


def _stacks(workspace: Workspace, layer: str) -> Iterable[tuple[str, ...]]:
    found = [stack for stack in workspace.stacks() if layer in stack]
    return found or [workspace.stack_up_to(layer)]
