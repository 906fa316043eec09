"""When garbage is searched for.

What makes very many values that all stay is not helped by searching among them again and again, which is what
Python's counting of new values leads to.
"""

from __future__ import annotations

import contextlib
import gc
from collections.abc import Iterator


@contextlib.contextmanager
def not_searched_for() -> Iterator[None]:
    """While this lasts no garbage is searched for; afterwards it is, if it was before."""
    searched = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if searched:
            gc.enable()
