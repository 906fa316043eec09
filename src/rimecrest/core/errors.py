"""The one family of errors that people read."""

from __future__ import annotations

from rimecrest.core.words import tr


class RimecrestError(Exception):
    """Something a user caused or can mend.

    Args:
        sentence: what happened, in one sentence that names the file or thing.
        way_out: what to do about it, in one sentence; may be empty.
    """

    def __init__(self, sentence: str, way_out: str = "") -> None:
        super().__init__(sentence)
        self.sentence = sentence
        self.way_out = way_out

    def __str__(self) -> str:
        return f"{self.sentence} {self.way_out}".strip()


class NewerFormat(RimecrestError):
    """A file was written by a newer Rimecrest than this one."""

    def __init__(self, where: str, found: str, known: str) -> None:
        super().__init__(
            tr(
                "{where} is in the format {found}; this Rimecrest reads up to {known}.",
                where=where,
                found=found,
                known=known,
            ),
            tr("Update Rimecrest, then open it again; nothing was changed."),
        )


class BrokenFile(RimecrestError):
    """A file cannot be read. `where` is its name, `line` counts from 1 (0 when unknown)."""

    def __init__(self, where: str, reason: str, line: int = 0) -> None:
        at = f", line {line}" if line else ""
        super().__init__(
            f"{where}{at}: {reason}.", tr("Mend the file or put an older copy back; the rest stays open.")
        )
        self.where = where
        self.reason = reason
        self.line = line
