"""An answer that arrives later, for example from another program."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.errors import RimecrestError


class Later(QObject):
    """Emits `answered` once, with a value or with a RimecrestError.

    The code that will emit the answer keeps a reference to this object until then.
    """

    answered = pyqtSignal(object)

    def then(self, change: Callable[[Any], Any]) -> Later:
        """Return another one, whose value is `change(value)`. An error is passed on unchanged."""
        changed = Later(self)
        self.answered.connect(
            lambda answer: changed.answered.emit(
                answer if isinstance(answer, RimecrestError) else change(answer)
            )
        )
        return changed
