"""What would mend a finding: edits with a label each, made when somebody looks at the finding."""

from __future__ import annotations

import difflib
from collections.abc import Callable, Iterator

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.run import Checked
from rimecrest.core.layout import KeyBinding
from rimecrest.core.layout.widths import fits
from rimecrest.core.macro import check_macro, format_macro
from rimecrest.core.macro.step_edits import mute, walk
from rimecrest.core.mend.key_fixes import Fix, key_fixes, key_of
from rimecrest.core.workspace.edits import (
    Bind,
    Edit,
    PutMacro,
    SetFields,
    TakeOff,
    Unbind,
)
from rimecrest.core.workspace.workspace import Workspace


def fixes(finding: Finding, workspace: Workspace, checked: Checked | None = None) -> list[Fix]:
    """Every fix of a finding, best first.

    Args:
        checked: the check of this workspace, where it is at hand; free keys are found quicker with it.
    """
    items: dict[str, Callable[[Finding, Workspace], Iterator[Fix]]] = {
        "gone": _for_gone,
        "faulty": _for_faulty,
        "out-of-reach": _for_out_of_reach,
        "nameless": _for_nameless,
        "cut-off": _for_cut_off,
        "twin": _for_twin,
    }
    if finding.kind in items:
        return list(items[finding.kind](finding, workspace))
    return list(key_fixes(finding, workspace, checked))


def _for_twin(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    yield Fix("Take one off", TakeOff(finding.layer, finding.app, (finding.owners[0].id,)), finding)
    yield Fix("Keep, and say why", None, finding, asks_reason=True)


def _for_gone(finding: Finding, workspace: Workspace) -> Iterator[Fix]:
    owner = finding.owners[0]
    key = key_of(workspace, finding, owner)
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
    yield from _removal(finding, owner, key_of(workspace, finding, owner))


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
        seen = workspace.outcome(workspace.stack_up_to(finding.layer), finding.app)
        if seen.tab_of(owner.id) is None or fits(owner.name, 1):
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
