"""How work that may take long tells how far it has come, and hears that it was given up."""

from __future__ import annotations

from collections.abc import Callable

Tell = Callable[[float | None], None]
"""Called now and then by the work, with the part that is done, 0 to 1, or None where that is not known.

Raises:
    GivenUp: nobody waits for it any more.
"""


class GivenUp(Exception):
    """Whoever waited for the work does so no more."""


def untold(_part: float | None) -> None:
    """For work that nobody watches."""
