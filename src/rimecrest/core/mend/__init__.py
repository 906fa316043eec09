"""From a finding to the edits that would mend it: `fixes`, by the remedies that its kind's row names."""

from rimecrest.core.mend.fix import Fix
from rimecrest.core.mend.fixes import fixes

__all__ = ["Fix", "fixes"]
