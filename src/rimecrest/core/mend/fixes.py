"""What would mend a finding: edits with a label each, made when somebody looks at the finding."""

from __future__ import annotations

from rimecrest.core.check.findings import Finding
from rimecrest.core.check.kinds import KINDS, Remedy
from rimecrest.core.check.run import Checked
from rimecrest.core.layout import BUILT_IN
from rimecrest.core.mend import item_remedies, key_remedies
from rimecrest.core.mend.fix import Case, Fix, Maker
from rimecrest.core.workspace.workspace import Workspace

MAKERS: dict[Remedy, Maker] = {
    Remedy.ACCEPT: key_remedies.accept,
    Remedy.NEW_KEY: key_remedies.new_key,
    Remedy.SAME_KEY: key_remedies.same_key,
    Remedy.VARIANT: key_remedies.variant,
    Remedy.FREE_KEY: key_remedies.free_key,
    Remedy.NARROWER: key_remedies.narrower,
    Remedy.GIVE_WAY: key_remedies.give_way,
    Remedy.NO_ACCESS: key_remedies.no_access,
    Remedy.NEAREST: item_remedies.nearest,
    Remedy.REMOVE: item_remedies.remove,
    Remedy.TAKE_ONE_OFF: item_remedies.take_one_off,
    Remedy.TURN_OFF: item_remedies.turn_off,
    Remedy.TIP: item_remedies.tip,
    Remedy.WORDS: item_remedies.words,
    Remedy.WIDER: item_remedies.wider,
    Remedy.SHORTER: item_remedies.shorter,
    Remedy.PICTURE: item_remedies.picture,
}
"""Kind of fix → how it is made."""


def fixes(finding: Finding, workspace: Workspace, checked: Checked | None = None) -> list[Fix]:
    """Every fix of a finding, best first: those that its kind has, where they are an answer.

    Args:
        checked: the check of this workspace, where it is at hand; free keys are found quicker with it.
    """
    if finding.layer in ("", BUILT_IN):
        return []  # the application's own, or a file: nothing in a layer would mend it
    case = Case(finding, workspace, checked)
    return [fix for remedy in KINDS[finding.kind].remedies for fix in MAKERS[remedy](case)]
