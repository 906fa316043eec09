"""What is wrong with an estate, why, and what would mend it.

`check` runs every rule of the table in `rules` and `key_rules`; `fixes` turns a finding into edits; `why`
says what a key does for one seat and who decided it. All of it is pure.
"""

from rimecrest.core.conflicts.check import Checked, check
from rimecrest.core.conflicts.findings import Finding, Owner, Weight, worst_first
from rimecrest.core.conflicts.fixes import Fix, fixes
from rimecrest.core.conflicts.suggest import free_keys, holders
from rimecrest.core.conflicts.why import Link, why

__all__ = [
    "Checked",
    "Finding",
    "Fix",
    "Link",
    "Owner",
    "Weight",
    "check",
    "fixes",
    "free_keys",
    "holders",
    "why",
    "worst_first",
]
