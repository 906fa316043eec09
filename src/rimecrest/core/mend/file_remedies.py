"""Fixes of what names a file that no colleague can reach: a copy that goes along, or not that step."""

from __future__ import annotations

from collections.abc import Iterator

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.check import check_macro, unreachable
from rimecrest.core.macro.field_edits import with_field
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.step_edits import change_step, mute
from rimecrest.core.macro.step_tree import walk
from rimecrest.core.macro.steps import Do
from rimecrest.core.mend.case import Case
from rimecrest.core.mend.fix import Fix
from rimecrest.core.paths import clean_path
from rimecrest.core.words import listed, tr
from rimecrest.core.workspace.bring_in import BringIn
from rimecrest.core.workspace.edits import Bind, Edit, SetFields, Together
from rimecrest.core.workspace.file_edits import PutMacro, PutPicture


def copy_in(case: Case) -> Iterator[Fix]:
    """Copies of the files go along, and are what is opened. None where a file cannot be read from here."""
    owner = case.finding.owners[0]
    if not owner.run:
        return
    try:
        edits = list(_of_macro(case)) if owner.id.startswith("macro:") else list(_of_target(case))
    except RimecrestError:
        return
    names = listed(edit.path.name for edit in edits if isinstance(edit, BringIn))
    if names:
        label = tr("Copy {names} into companions", names=names)
        yield Fix(label, Together(label, tuple(edits)), case.finding)


def _of_macro(case: Case) -> Iterator[Edit]:
    owner = case.finding.owners[0]
    name = owner.id.removeprefix("macro:")
    macro = case.workspace.macros[owner.layer, name].macro
    catalogue = case.workspace.catalogues.get(macro.application)
    for path, step in list(walk(macro)):
        if not isinstance(step, Do) or catalogue is None:
            continue
        command = catalogue.command(step.command)
        for argument in command.arguments if command is not None else ():
            value = next((s.value for s in step.settings if s.name == argument.name), "")
            if argument.type is ArgumentType.PATH and unreachable(value):
                made = BringIn.of(case.workspace, clean_path(value))
                yield made
                field = f"setting {argument.name}"
                macro = change_step(
                    macro,
                    path,
                    lambda step, field=field, made=made: with_field(step, field, made.place, catalogue),  # type: ignore[misc]  # defaults bind now
                )
    yield PutMacro(owner.layer, name, format_macro(macro))


def _of_target(case: Case) -> Iterator[Edit]:
    finding = case.finding
    owner = finding.owners[0]
    args = dict(owner.args)
    command = case.workspace.catalogue(finding.app).by_id.get(owner.run or "")
    for argument in command.arguments if command is not None else ():
        value = args.get(argument.name, "")
        if argument.type is ArgumentType.PATH and unreachable(value):
            made = BringIn.of(case.workspace, clean_path(value))
            args[argument.name] = made.place
            yield made
    key = case.key_of(owner)
    if key is not None:
        yield Bind(owner.layer, finding.app, key.model_copy(update={"args": args, "id": key.identity}))
    else:
        yield SetFields(finding.layer, finding.app, owner.id, {"args": args}, tr("a copy that goes along"))


def turn_off(case: Case) -> Iterator[Fix]:
    """Every step that names a file out of reach."""
    owner = case.finding.owners[0]
    name = owner.id.removeprefix("macro:")
    if (owner.layer, name) not in case.workspace.macros:
        return  # an item or a key opens the file, and has no steps
    macro = case.workspace.macros[owner.layer, name].macro
    catalogue = case.workspace.told(case.workspace.stack_up_to(owner.layer), macro.application)
    for fault in check_macro(macro, catalogue):
        path = next((path for path, step in walk(macro) if step.line == fault.line), None)
        if fault.kind == "reach" and path is not None:
            macro = mute(macro, path)
    yield Fix(tr("Turn that step off"), PutMacro(owner.layer, name, format_macro(macro)), case.finding)


def delete_picture(case: Case) -> Iterator[Fix]:
    """A picture that nothing shows goes."""
    file = case.finding.where.removeprefix("picture:")
    yield Fix(tr("Delete the picture"), PutPicture(file, None), case.finding)
