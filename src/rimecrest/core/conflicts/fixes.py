"""What would mend a finding: edits with a label each, made when somebody looks at the finding."""

from __future__ import annotations

import difflib
from collections.abc import Iterator
from dataclasses import dataclass

from rimecrest.core.conflicts.findings import Finding, Owner
from rimecrest.core.conflicts.suggest import free_keys
from rimecrest.core.layout import Acceptance, KeyBinding
from rimecrest.core.layout.widths import fits
from rimecrest.core.macro import check_macro, format_macro
from rimecrest.core.macro.rework import mute, walk
from rimecrest.core.workspace.edits import (
    Accept,
    Bind,
    Edit,
    PutMacro,
    SetFields,
    TakeOff,
    Together,
    Unbind,
)
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True)
class Fix:
    """One way to resolve a finding. `asks_reason`: the edit wants a reason first."""

    label: str
    edit: Edit | None
    finding: Finding
    asks_reason: bool = False

    def with_reason(self, reason: str) -> Edit:
        """The edit, with the reason where it wants one."""
        if not self.asks_reason:
            assert self.edit is not None
            return self.edit
        finding = self.finding
        owners = tuple(owner.id for owner in finding.owners)
        kept = Acceptance(kind=finding.kind, owners=owners, targets=finding.targets_digest(), why=reason)
        return Accept(finding.layer, finding.app, kept)


def fixes(finding: Finding, workspace: Workspace) -> list[Fix]:
    """Every fix of a finding, best first."""
    makers = {
        "takes-over": _for_keys,
        "shadows": _for_keys,
        "double": _for_keys,
        "prefix": _for_keys,
        "gone": _for_gone,
        "faulty": _for_faulty,
        "out-of-reach": _for_out_of_reach,
        "nameless": _for_nameless,
        "cut-off": _for_cut_off,
    }
    maker = makers.get(finding.kind)
    return list(maker(finding, workspace)) if maker else []


def _key_of(workspace: Workspace, finding: Finding, owner: Owner) -> KeyBinding | None:
    layout = workspace.layouts.get((owner.layer, finding.app))
    local = owner.id.removeprefix(f"{owner.layer}:")
    return next((key for key in layout.keys if key.identity == local), None) if layout else None


def _for_keys(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    movable = [owner for owner in finding.owners if _key_of(workspace, finding, owner) is not None]
    if not movable:
        return
    if finding.kind in ("takes-over", "shadows"):
        yield Fix("Keep, and say why", None, finding, asks_reason=True)
    # Of two in one layer the later one gives way; else the one in the layer where it is to be mended.
    mine = next((owner for owner in reversed(movable) if owner.layer == finding.layer), movable[-1])
    key = _key_of(workspace, finding, mine)
    assert key is not None
    if key.run is not None:
        for keys in free_keys(workspace, finding.app, mine.layer, mine.name):
            moved = key.model_copy(update={"keys": keys, "on": {}})
            edit = Together(
                f"{mine.name} on {keys}",
                (
                    Unbind(mine.layer, finding.app, key.identity),
                    Bind(mine.layer, finding.app, moved),
                ),
            )
            yield Fix(keys, edit, finding)
    yield Fix(
        f"{mine.name} gives way" if key.run else "Leave the key",
        Unbind(mine.layer, finding.app, key.identity),
        finding,
    )


def _for_gone(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    owner = finding.owners[0]
    key = _key_of(workspace, finding, owner)
    near = _nearest(workspace, finding, owner)
    if near:
        run, name = near
        if key is None:
            edit: Edit = SetFields(
                finding.layer, finding.app, owner.id, {"run": run, "args": {}}, f"run {name}"
            )
        else:
            edit = Bind(
                finding.layer,
                finding.app,
                key.model_copy(update={"run": run, "args": {}, "id": key.identity}),
            )
        yield Fix(f"Run {name}", edit, finding)
    yield from _removal(finding, owner, key)


def _removal(finding: Finding, owner: Owner, key: KeyBinding | None) -> Iterator[Fix]:
    if key is None:
        yield Fix("Take it off", TakeOff(finding.layer, finding.app, (owner.id,)), finding)
    else:
        yield Fix("Take the key away", Unbind(finding.layer, finding.app, key.identity), finding)


def _nearest(workspace: Workspace, finding: Finding, owner: Owner) -> tuple[str, str] | None:
    """The target that was probably meant and can run without settings."""
    stack = workspace.stack_up_to(finding.layer)
    catalogue = workspace.catalogue(finding.app)
    known = {
        f"macro:{name}": file.name for name, file in workspace.macros_of(stack).items() if not file.faults
    }
    known |= {c.id: c.name for c in catalogue.commands if not c.argument_faults({})}
    known.pop(owner.run or "", None)
    near = difflib.get_close_matches(owner.run or "", known, n=1, cutoff=0.7)
    return (near[0], known[near[0]]) if near else None


def _for_faulty(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    owner = finding.owners[0]
    yield from _removal(finding, owner, _key_of(workspace, finding, owner))


def _for_out_of_reach(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    owner = finding.owners[0]
    name = owner.id.removeprefix("macro:")
    file = workspace.macros[owner.layer, name]
    catalogue = workspace.catalogues.get(file.macro.application)
    muted = file.macro
    for fault in check_macro(file.macro, catalogue):
        path = next((path for path, step in walk(muted) if step.line == fault.line), None)
        if fault.kind == "reach" and path is not None:
            muted = mute(muted, path)
    yield Fix("Mute that step", PutMacro(owner.layer, name, format_macro(muted)), finding)


def _for_nameless(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    owner = finding.owners[0]
    if owner.name:
        edit = SetFields(finding.layer, finding.app, owner.id, {"tip": owner.name}, f"tip {owner.name}")
        yield Fix(f"Tip “{owner.name}”", edit, finding)
        words = SetFields(finding.layer, finding.app, owner.id, {"face": "both"}, "picture and words")
        in_tab = any(
            item.id == owner.id
            for tab in workspace.outcome(workspace.stack_up_to(finding.layer), finding.app).tabs
            for group in tab.groups
            for item in group.items
        )
        if not in_tab or fits(owner.name, 1):
            yield Fix("Show words", words, finding)
    yield Fix("Take it off", TakeOff(finding.layer, finding.app, (owner.id,)), finding)


def _for_cut_off(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    owner = finding.owners[0]
    if fits(owner.name, 2):
        wide = SetFields(finding.layer, finding.app, owner.id, {"width": 2}, "double width")
        yield Fix("Double width", wide, finding)
    shorter = _shorter(owner.name)
    if shorter:
        edit = SetFields(finding.layer, finding.app, owner.id, {"label": shorter}, f"call it {shorter}")
        yield Fix(f"Call it “{shorter}”", edit, finding)
    picture = SetFields(
        finding.layer, finding.app, owner.id, {"face": "picture", "tip": owner.name}, "picture only"
    )
    yield Fix("Picture only", picture, finding)


def _shorter(label: str) -> str:
    words = label.split()
    for length in range(len(words) - 1, 0, -1):
        if words[length - 1].lower() not in _JOINING and fits(" ".join(words[:length]), 1):
            return " ".join(words[:length])
    return ""


_JOINING = ("the", "a", "an", "of", "for", "to", "and", "or", "in", "on", "at", "with")
"""Words that a shortened label must not end with."""
