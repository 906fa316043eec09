"""What is wrong with an estate, why, and what would mend it.

`check` runs every rule over a workspace: those about keys that meet (`key_rules`), about what keeps a key
from working on some seats (`seat_rules`), about use (`use_rules`) and about items (`item_rules`). `why` says
what a key does for one seat and who decided it. Those two know no NumPy and are all that applications may
use; the studio and the command line also take `fixes` (a finding's edits), `suggest` (free keys) and
`arrange` (all keys at once) from their own modules. Everything here is pure.
"""

from rimecrest.core.conflicts.check import Checked, check
from rimecrest.core.conflicts.findings import Finding, Owner, Weight, worst_first
from rimecrest.core.conflicts.why import Link, Standpoint, seat_standpoint, why, why_item

__all__ = [
    "Checked",
    "Finding",
    "Link",
    "Owner",
    "Standpoint",
    "Weight",
    "check",
    "seat_standpoint",
    "why",
    "why_item",
    "worst_first",
]
