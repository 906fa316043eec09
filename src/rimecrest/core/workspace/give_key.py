"""Giving a target a key: one edit, whoever asks for it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from rimecrest.core.keys import ANYWHERE
from rimecrest.core.layout import KeyBinding
from rimecrest.core.workspace.edits import Bind, Edit, Together, Unbind
from rimecrest.core.workspace.workspace import Workspace

Target = tuple[str | None, tuple[tuple[str, str], ...]]
"""What runs, and its settings by name."""


def own_key(workspace: Workspace, layer: str, app: str, target: Target) -> KeyBinding | None:
    """The key that a layer itself gives a target; the first, where it gives several."""
    for key in workspace.layout(layer, app).keys:
        if (key.run, tuple(sorted(key.args.items()))) == target:
            return key
    return None


def context_for(workspace: Workspace, stack: Sequence[str], app: str, run: str | None) -> str:
    """Where a key of a target is live: where the command works, or where its macro's needs are met."""
    kind, _, name = (run or "").partition(":")
    if kind == "macro":
        file = workspace.macros_of(tuple(stack)).get(name)
        needs = [need.context for need in file.macro.needs if need.context] if file else []
        return needs[0] if needs else ANYWHERE
    command = workspace.catalogue(app).by_id.get(run or "")
    return command.context if command else ANYWHERE


def give_key(
    workspace: Workspace,
    layer: str,
    app: str,
    target: Target,
    keys: str,
    context: str,
    moved: KeyBinding | None = None,
) -> Edit:
    """The edit that gives a target a key in a layer.

    Args:
        context: where it is live, when it is a new one; what the layer has there on these keys is replaced.
        moved: the layer's own key of that target that is to lie on these keys from now on.
    """
    run, args = target
    given: Mapping[str, str] = dict(args)
    context = moved.in_context if moved is not None else context
    here = next(
        (k for k in workspace.layout(layer, app).keys if (k.keys, k.in_context) == (keys, context)), None
    )
    label = f"key {keys}"
    if here is not None and (moved is None or here.identity != moved.identity):
        replaced = here.model_copy(update={"run": run, "args": given, "id": here.identity})
        edits: tuple[Edit, ...] = (Bind(layer, app, replaced),)
        if moved is not None:
            edits = (Unbind(layer, app, moved.identity), *edits)
        return Together(label, edits)
    if moved is not None:
        return Together(
            label, (Bind(layer, app, moved.model_copy(update={"keys": keys, "id": moved.identity})),)
        )
    key = KeyBinding(keys=keys, in_context=context, run=run, args=dict(given))
    return Together(label, (Bind(layer, app, key),))
