"""What a seat has that decides which keys reach an application there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple


class Traits(NamedTuple):
    """The keyboard, desktop, session, screen reader and input method of a seat; empty where unknown or none.

    `session` is `remote` where the applications run on another computer.
    """

    keyboard: str = ""
    desktop: str = ""
    session: str = ""
    reader: str = ""
    input: str = ""

    @property
    def remote(self) -> bool:
        return self.session == "remote"

    def names(self) -> Iterator[str]:
        """The names under which a binding can have a variant for such a seat, the nearest first."""
        if self.keyboard:
            yield self.keyboard
        for kind in ("desktop", "session", "reader", "input"):
            if value := getattr(self, kind):
                yield f"{kind}:{value}"


NOWHERE = Traits()
"""No seat in particular."""
