"""Giving a target a key: one edit, whoever asks for it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rimecrest.core.keys.bindings import Binding, strength_of
from rimecrest.core.keys.chords import parse_sequence, touches
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.macro.where_runs import where_runs
from rimecrest.core.workspace.edits import Bind, Edit, Together, Unbind
from rimecrest.core.workspace.workspace import Workspace

Target = tuple[str | None, tuple[tuple[str, str], ...]]
"""What runs, and its arguments by name."""


def own_key(workspace: Workspace, layer: str, app: str, target: Target) -> KeyBinding | None:
    """The key that a layer itself gives a target; the first, where it gives several."""
    return next(iter(_own_keys(workspace, layer, app, target)), None)


def _own_keys(workspace: Workspace, layer: str, app: str, target: Target) -> Iterator[KeyBinding]:
    for key in workspace.layout(layer, app).keys:
        if (key.run, tuple(sorted(key.args.items()))) == target:
            yield key


def context_for(workspace: Workspace, stack: Sequence[str], app: str, run: str | None) -> str:
    """Return the context in which a key of a target is live: where the target can run."""
    file = workspace.macros_of(tuple(stack)).get((run or "").removeprefix("macro:"))
    macro = file.macro if file is not None and (run or "").startswith("macro:") else None
    return where_runs(workspace.catalogue(app), run, macro).widest


def give_key(
    workspace: Workspace,
    layer: str,
    app: str,
    target: Target,
    keys: str,
    context: str,
    moved: KeyBinding | None = None,
) -> Edit:
    """Make the edit that gives a target a key in a layer.

    The key is bound in the context, and by name in each narrower one where another key would win, so that it
    runs there too. What the layer itself has on these keys there is replaced.

    Args:
        context: where it is live.
        moved: the layer's key of that target that it takes the place of.
    """
    run, args = target
    edits: list[Edit] = []
    here = {key.in_context: key for key in workspace.layout(layer, app).keys if key.keys == keys}
    if moved is not None:
        old = [key for key in _own_keys(workspace, layer, app, target) if key.keys == moved.keys]
        edits += [Unbind(layer, app, key.identity) for key in old if key.identity != moved.identity]
        if moved.in_context != context or context in here:
            edits.append(Unbind(layer, app, moved.identity))
            moved = None
    for place in (context, *_narrower(workspace, layer, app, target, keys, context)):
        replaced = here.get(place)
        if replaced is not None:
            changed = {"run": run, "args": dict(args), "id": replaced.identity}
            edits.append(Bind(layer, app, replaced.model_copy(update=changed)))
        elif moved is not None and place == context:
            edits.append(Bind(layer, app, moved.model_copy(update={"keys": keys, "id": moved.identity})))
        else:
            key = KeyBinding(keys=keys, in_context=place, run=run, args=dict(args))
            edits.append(Bind(layer, app, key))
    return Together(f"key {keys}", tuple(edits))


def give_up_key(workspace: Workspace, layer: str, app: str, target: Target, keys: str) -> Edit:
    """Make the edit that removes a key of a target from a layer, in every context it is bound in."""
    found = [key for key in _own_keys(workspace, layer, app, target) if key.keys == keys]
    return Together(f"no key {keys}", tuple(Unbind(layer, app, key.identity) for key in found))


def _narrower(
    workspace: Workspace, layer: str, app: str, target: Target, keys: str, context: str
) -> list[str]:
    """The contexts inside this one where another key would win, and a key bound there by name wins."""
    contexts, sequence = workspace.catalogue(app).context_tree, parse_sequence(keys)
    run = target[0] or ""
    fixed = workspace.layout(layer, app).policy == "fixed"
    found: dict[str, None] = {}
    for stack in [known for known in workspace.stacks() if layer in known] or [workspace.stack_up_to(layer)]:
        file = (
            workspace.macros_of(stack).get(run.removeprefix("macro:")) if run.startswith("macro:") else None
        )
        runs = where_runs(workspace.catalogue(app), run, file.macro if file is not None else None)
        level = stack.index(layer) + 1
        for place in contexts.inside(context):
            rivals = [
                bound
                for bound in workspace.outcome(stack, app).bindings
                if bound.context == place.id
                and bound.target != target
                and touches(bound.sequence, sequence)
                and not (bound.layer == layer and bound.sequence != sequence)
            ]
            mine = strength_of(fixed, False, contexts.narrowness(place.id), level)
            if place.id != context and rivals and runs.bound_in(place.id):
                if all(_beaten(bound, mine, layer) for bound in rivals):
                    found[place.id] = None
    return list(found)


def _beaten(rival: Binding, mine: tuple[bool, bool, tuple[int, int], int], layer: str) -> bool:
    """Whether a key of this strength wins against a rival in one context; it replaces its layer's own."""
    return rival.layer == layer or (rival.fixed, False, mine[2], rival.level) < mine
