"""Fixes of items, their faces and targets, and of macros."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from rapidfuzz import process
from rapidfuzz.distance import OSA

from rimecrest.core.catalogue.arguments import corrected
from rimecrest.core.catalogue.catalogue import Command
from rimecrest.core.check.name_rules import nearest_name
from rimecrest.core.layout.widths import fits
from rimecrest.core.mend.case import Case
from rimecrest.core.mend.fix import Fix
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Bind, Edit, SetFields, TakeOff, TellApart, Unbind

LIKENESS = 0.75
"""How like two names have to be, from 0 to 1, that the one was probably meant with the other.

1 less the number of slips of a typist (optimal string alignment) by the length of the longer name: one slip
in four letters. What all names of a kind have in common, the application's, does not count.
"""


def _set(case: Case, fields: dict[str, Any], label: str) -> Edit:
    """Other values for the thing that the finding is about."""
    return SetFields(case.finding.layer, case.finding.app, case.finding.owners[0].id, fields, label)


def nearest(case: Case) -> Iterator[Fix]:
    """The target that was probably meant and can run without settings."""
    finding, workspace = case.finding, case.workspace
    owner = finding.owners[0]
    catalogue = workspace.catalogue(finding.app)
    command = catalogue.by_id.get(owner.run or "")
    if command is not None:
        yield from _right_settings(case, command)
        return
    macros = workspace.macros_of(workspace.stack_up_to(finding.layer))
    known = {f"macro:{name}": file.name for name, file in macros.items() if not file.faults}
    known |= {c.id: c.name for c in catalogue.commands if not c.argument_faults({}, by_hand=True)}
    known.pop(owner.run or "", None)
    kind, _, name = (owner.run or "").partition(":")
    alike = {run: run.partition(":")[2] for run in known if run.startswith(f"{kind}:")}
    found = process.extractOne(
        name, alike, scorer=OSA.normalized_similarity, processor=None, score_cutoff=LIKENESS
    )
    for run in (found[2],) if found is not None else ():
        key = case.key_of(owner)
        if key is None:
            edit = _set(case, {"run": run, "args": {}}, f"run {known[run]}")
        else:
            meant = key.model_copy(update={"run": run, "args": {}, "id": key.identity})
            edit = Bind(finding.layer, finding.app, meant)
        yield Fix(f"Run {known[run]}", edit, finding)


def _right_settings(case: Case, command: Command) -> Iterator[Fix]:
    """The settings of a command with the names and values that were probably meant."""
    finding, owner = case.finding, case.finding.owners[0]
    args: dict[str, str] = {}
    for name, value in owner.args:
        known = name if command.argument(name) else nearest_name(name, [a.name for a in command.arguments])
        argument = command.argument(known)
        if argument is not None:
            args[known] = corrected(argument, value)
    if args == dict(owner.args) or command.argument_faults(args, by_hand=True):
        return
    key = case.key_of(owner)
    if key is None:
        edit: Edit = _set(case, {"args": args}, tr("settings of {name}", name=command.name))
    else:
        edit = Bind(finding.layer, finding.app, key.model_copy(update={"args": args, "id": key.identity}))
    words = ", ".join(value for name, value in args.items() if dict(owner.args).get(name) != value)
    yield Fix(tr("Make it {near}", near=words or ", ".join(args)), edit, finding)


def remove(case: Case) -> Iterator[Fix]:
    finding = case.finding
    key = case.key_of(finding.owners[0])
    if key is None:
        yield Fix(tr("Remove it"), TakeOff(finding.layer, finding.app, (finding.owners[0].id,)), finding)
    else:
        yield Fix(tr("Remove the key"), Unbind(finding.layer, finding.app, key.identity), finding)


def take_one_off(case: Case) -> Iterator[Fix]:
    finding = case.finding
    yield Fix(tr("Remove one"), TakeOff(finding.layer, finding.app, (finding.owners[0].id,)), finding)


def below(case: Case) -> Iterator[Fix]:
    """One of two things on one place of a grid goes below everything else."""
    finding, workspace = case.finding, case.workspace
    seen = workspace.surfaces(workspace.stack_up_to(finding.layer), finding.app)
    row = seen.row_of(finding.owners[0].id)
    here = next((item for item in row.items if item.id == finding.owners[0].id), None) if row else None
    if row is None or here is None or here.at is None:
        return
    column, _, columns, rows = here.at
    bottom = max(item.at[1] + item.at[3] for item in row.items if item.at is not None)
    yield Fix(tr("Move it below"), _set(case, {"at": [column, bottom, columns, rows]}, "move below"), finding)


def own_id(case: Case) -> Iterator[Fix]:
    finding = case.finding
    if not finding.app:
        return  # two macros: which of them is right, only a person knows
    edit = TellApart(finding.layer, finding.app)
    yield Fix(tr("Give it an identity of its own"), edit, finding)


def _called(case: Case) -> str:
    """What a button is called: by its own words, else by what it runs."""
    owner = case.finding.owners[0]
    targets = case.workspace.targets(case.workspace.layers, case.finding.app)
    return owner.name or (targets.face(owner.run).name if owner.run else "")


def tip(case: Case) -> Iterator[Fix]:
    if name := _called(case):
        yield Fix(f"Tip “{name}”", _set(case, {"tip": name}, f"tip {name}"), case.finding)


def words(case: Case) -> Iterator[Fix]:
    finding, name = case.finding, _called(case)
    seen = case.workspace.outcome(case.workspace.stack_up_to(finding.layer), finding.app)
    if name and (seen.tab_of(finding.owners[0].id) is None or fits(name, 1, picture=True)):
        fields = {"face": "both"} if finding.owners[0].name else {"face": "both", "label": name}
        yield Fix(tr("Show words"), _set(case, fields, tr("picture and words")), finding)


def wider(case: Case) -> Iterator[Fix]:
    if fits(case.finding.owners[0].name, 2, picture=True):
        yield Fix(tr("Double width"), _set(case, {"width": 2}, tr("double width")), case.finding)


def shorter(case: Case) -> Iterator[Fix]:
    if short := _shorter(case.finding.owners[0].name):
        yield Fix(
            tr("Call it “{short}”", short=short),
            _set(case, {"label": short}, tr("call it {short}", short=short)),
            case.finding,
        )


def picture(case: Case) -> Iterator[Fix]:
    fields = {"face": "picture", "tip": case.finding.owners[0].name}
    yield Fix(tr("Picture only"), _set(case, fields, tr("picture only")), case.finding)


def no_picture(case: Case) -> Iterator[Fix]:
    edit = _set(case, {"picture": None}, tr("no picture of its own"))
    yield Fix(tr("No picture of its own"), edit, case.finding)


def _shorter(label: str) -> str:
    parts = label.split()
    for length in range(len(parts) - 1, 0, -1):
        if parts[length - 1].lower() not in _JOINING and fits(" ".join(parts[:length]), 1, picture=True):
            return " ".join(parts[:length])
    return ""


_JOINING = ("the", "a", "an", "of", "for", "to", "and", "or", "in", "on", "at", "with")
"""Words that a shortened label must not end with."""
