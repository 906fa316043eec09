"""An answer that comes later, as from another program."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.errors import RimecrestError


class Later(QObject):
    """Answered once: with a value, or with the RimecrestError that says why there is none.

    Whoever will answer keeps it until then.
    """

    answered = pyqtSignal(object)

    def then(self, change: Callable[[Any], Any]) -> Later:
        """Return another one with the changed value; an error stays as it is."""
        changed = Later(self)
        self.answered.connect(
            lambda answer: changed.answered.emit(
                answer if isinstance(answer, RimecrestError) else change(answer)
            )
        )
        return changed
