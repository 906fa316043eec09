"""From a finding to the edits that would mend it: `fixes`, by the kinds that its rule's row names."""

from rimecrest.core.mend.fixes import fixes
from rimecrest.core.mend.key_fixes import Fix

__all__ = ["Fix", "fixes"]
