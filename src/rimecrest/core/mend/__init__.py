"""From a finding to the edits that would mend it: `fixes`, by the remedies that its kind's row names."""

from typing import TYPE_CHECKING

from rimecrest.core.late import late_names
from rimecrest.core.mend.fix import Fix

if TYPE_CHECKING:
    from rimecrest.core.mend.make_fixes import fixes

__all__ = ["Fix", "fixes"]

__getattr__ = late_names(__name__, {"make_fixes": "fixes"})
