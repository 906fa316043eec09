"""Where a macro is used: the items, keys and other macros that run it."""

from __future__ import annotations

from msgspec import Struct

from rimecrest.core.catalogue.surfaces import runs_of, steps_of
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import Run
from rimecrest.core.words import owned, tr
from rimecrest.core.workspace.workspace import Workspace


class Use(Struct, frozen=True):
    """One thing that runs a macro: an item, a key or a macro (`kind`), with its identity and in words."""

    kind: str
    layer: str
    app: str
    id: str
    words: str


def uses(workspace: Workspace, layer: str, macro: str) -> list[Use]:
    """Everything that runs the macro `macro` of a layer's shelf."""
    run = f"macro:{macro}"
    found: list[Use] = []
    for (owner, app), layout in workspace.layouts.items():
        if not _reaches(workspace, owner, layer, macro):
            continue
        title = workspace.layer_title(owner)
        for item in (*layout.all_items(), *layout.panels):
            if run in runs_of(item) or any(macro in _run_by(text) for text in steps_of(item)):
                identity = f"{owner}:{item.id}"
                found.append(
                    Use(
                        "item",
                        owner,
                        app,
                        identity,
                        f"{owned(title)} {_place(workspace, owner, app, identity)}",
                    )
                )
        for key in layout.keys:
            if key.run == run:
                found.append(
                    Use("key", owner, app, f"{owner}:{key.identity}", f"{owned(title)} key {key.keys}")
                )
    for (owner, name), file in workspace.macros.items():
        if _reaches(workspace, owner, layer, macro) and any(
            isinstance(step, Run) and step.macro == macro for step in file.macro.live_steps()
        ):
            found.append(
                Use("macro", owner, file.macro.application, name, tr("the macro “{name}”", name=file.name))
            )
    return found


def _run_by(text: str) -> set[str]:
    """The macros that steps run."""
    return {step.macro for step in parse_macro(text)[0].live_steps() if isinstance(step, Run)}


def _place(workspace: Workspace, owner: str, app: str, identity: str) -> str:
    """The title of the surface that an item stands on."""
    if app not in workspace.catalogues:
        return app
    seen = workspace.outcome(workspace.stack_up_to(owner), app)
    row = seen.row_of(identity) or seen.row(identity)
    return row.title if row is not None else tr("surface that is gone")


def _reaches(workspace: Workspace, owner: str, layer: str, macro: str) -> bool:
    """Whether what `owner` calls by this id is the one on that layer's shelf."""
    file = workspace.macros_of(workspace.stack_up_to(owner)).get(macro)
    return file is not None and file.layer == layer
