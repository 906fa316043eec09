"""Fixes of misspelt names: of a context, a variant, a seat's column, and of words in a macro."""

from __future__ import annotations

from collections.abc import Iterator

from rimecrest.core.check.name_rules import names_like, nearest_name
from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.steps import Fault
from rimecrest.core.mend.case import Case
from rimecrest.core.mend.fix import Fix
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Bind
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.people import POLICIES, SESSIONS
from rimecrest.core.workspace.people_edits import CorrectPeople


def nearest(case: Case) -> Iterator[Fix]:
    """The name that was probably meant."""
    finding = case.finding
    kind, _, name = finding.where.partition(":")
    known = {"session": SESSIONS, "policy": POLICIES}.get(kind)
    if known is not None:
        if near := nearest_name(name, known):
            yield Fix(tr("Make it {near}", near=near), CorrectPeople(kind, name, near), finding)
        return
    if case.mine is None:
        return
    owner, key = case.mine
    _, mark, variant = finding.where.partition("@")
    if mark:
        near = nearest_name(variant, names_like(case.workspace, variant) or ())
        on = {near if one == variant else one: keys for one, keys in key.on.items()}
        changed = key.model_copy(update={"on": on})
    else:
        contexts = [context.id for context in case.workspace.catalogue(finding.app).contexts]
        near = nearest_name(key.in_context, contexts)
        changed = key.model_copy(update={"in_context": near})
    if near:
        kept = changed.model_copy(update={"id": key.identity})
        yield Fix(tr("Make it {near}", near=near), Bind(owner.layer, finding.app, kept), finding)


def nearest_word(case: Case) -> Iterator[Fix]:
    """In a macro that cannot run, the word that its message offers instead of the wrong one."""
    finding, workspace = case.finding, case.workspace
    owner = finding.owners[0]
    name = (owner.run or "").removeprefix("macro:")
    file = workspace.macros_of(workspace.stack_up_to(finding.layer)).get(name)
    if file is None or not (owner.run or "").startswith("macro:") or file.faults:
        return
    catalogue = workspace.told(workspace.stack_up_to(finding.layer), file.macro.application)
    others = {other: one.macro for other, one in workspace.macros_of(workspace.layers).items()}
    faults = check_macro(file.macro, catalogue, workspace.companion_paths, others)
    for fault in faults[:1]:
        if (text := _corrected(file.text, fault)) is not None:
            words = fault.meant
            yield Fix(tr("Make it {near}", near=words), PutMacro(file.layer, file.id, text), finding)


def _corrected(text: str, fault: Fault) -> str | None:
    """The macro's text with the word that was meant in the line of the fault; None if it cannot be told."""
    lines = text.splitlines(keepends=True)
    if not fault.meant or not 0 < fault.line <= len(lines) or lines[fault.line - 1].count(fault.wrong) != 1:
        return None
    lines[fault.line - 1] = lines[fault.line - 1].replace(fault.wrong, fault.meant)
    return "".join(lines)
