"""Fixes of people.csv: a department that is no layer of the workspace."""

from __future__ import annotations

from collections.abc import Iterator

from rimecrest.core.check.seat_rules import DEPARTMENT, nearest_department
from rimecrest.core.mend.case import Case
from rimecrest.core.mend.fix import Fix
from rimecrest.core.words import tr
from rimecrest.core.workspace.people_edits import AddDepartment, MoveDepartment


def department(case: Case) -> Iterator[Fix]:
    """The one that was probably meant; else, or after that, a new one of that name."""
    finding = case.finding
    name = finding.where.removeprefix("department:")
    if near := nearest_department(case.workspace, name):
        title = case.workspace.layer_title(f"{DEPARTMENT}{near}")
        yield Fix(tr("They belong to {title}", title=title), MoveDepartment(name, near), finding)
    yield Fix(tr("Add the department “{name}”", name=name), AddDepartment(name), finding)
