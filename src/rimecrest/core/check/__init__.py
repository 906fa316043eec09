"""What is wrong with an estate: findings, one row per rule, checked again only where an edit falls.

`check` runs the rules of `rules.RULES` over a workspace. Everything here is pure, and knows nothing of what
would mend a finding (`core.mend`), of free keys (`core.suggest`) or of why a key does something
(`core.explain`).
"""

from typing import TYPE_CHECKING

from rimecrest.core.check.findings import Finding, Owner, worst_first
from rimecrest.core.check.kinds import Weight
from rimecrest.core.late import late_names

if TYPE_CHECKING:
    from rimecrest.core.check.run import Checked, check

__all__ = ["Checked", "Finding", "Owner", "Weight", "check", "worst_first"]

__getattr__ = late_names(__name__, {"run": "Checked check"})
