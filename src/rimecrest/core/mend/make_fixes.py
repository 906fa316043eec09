"""What would mend a finding: edits with a label each, made when somebody looks at the finding."""

from __future__ import annotations

from itertools import islice

from rimecrest.core.check.findings import Finding
from rimecrest.core.check.kinds import KINDS, Remedy
from rimecrest.core.check.run import Checked, check
from rimecrest.core.layout.seen import BUILT_IN
from rimecrest.core.mend import file_remedies, item_remedies, key_remedies, name_remedies, people_remedies
from rimecrest.core.mend.case import Case, Maker
from rimecrest.core.mend.fix import Fix
from rimecrest.core.workspace.workspace import Workspace

MAKERS: dict[Remedy, Maker] = {
    Remedy.ACCEPT: key_remedies.accept,
    Remedy.NEW_KEY: key_remedies.new_key,
    Remedy.SAME_KEY: key_remedies.same_key,
    Remedy.VARIANT: key_remedies.variant,
    Remedy.GO_WITHOUT: key_remedies.go_without,
    Remedy.FREE_KEY: key_remedies.free_key,
    Remedy.NARROWER: key_remedies.narrower,
    Remedy.GIVE_WAY: key_remedies.give_way,
    Remedy.NO_ACCESS: key_remedies.no_access,
    Remedy.NEAREST: item_remedies.nearest,
    Remedy.REMOVE: item_remedies.remove,
    Remedy.TAKE_ONE_OFF: item_remedies.take_one_off,
    Remedy.TURN_OFF: file_remedies.turn_off,
    Remedy.COPY_IN: file_remedies.copy_in,
    Remedy.TIP: item_remedies.tip,
    Remedy.WORDS: item_remedies.words,
    Remedy.WIDER: item_remedies.wider,
    Remedy.SHORTER: item_remedies.shorter,
    Remedy.PICTURE: item_remedies.picture,
    Remedy.NO_PICTURE: item_remedies.no_picture,
    Remedy.DELETE_PICTURE: file_remedies.delete_picture,
    Remedy.OWN_ID: item_remedies.own_id,
    Remedy.WHERE_IT_RUNS: key_remedies.where_it_runs,
    Remedy.NEAREST_NAME: name_remedies.nearest,
    Remedy.NEAREST_WORD: name_remedies.nearest_word,
    Remedy.BELOW: item_remedies.below,
    Remedy.DEPARTMENT: people_remedies.department,
}
"""Kind of fix → how it is made."""


def fixes(finding: Finding, workspace: Workspace, checked: Checked | None = None) -> list[Fix]:
    """Every fix of a finding, best first: those that its kind has, where they are an answer.

    A fix removes its finding and brings none of the same weight or a graver one: each is tried first.

    Args:
        checked: the check of this workspace, where it is at hand; it is quicker with it.
    """
    if finding.layer == BUILT_IN:
        return []  # the application's own: nothing in a layer would mend it
    case = Case(finding, workspace, checked if checked is not None else check(workspace))
    return [
        fix
        for remedy in KINDS[finding.kind].remedies
        for fix in islice(filter(case.mends, MAKERS[remedy](case)), MOST.get(remedy, OFFERED))
    ]


OFFERED = 3
"""Fixes of one kind that are offered."""
MOST = {Remedy.VARIANT: 1}
"""The same where it is another number."""
