"""Holding back Python's full garbage collections while nobody may wait for one.

A full collection goes through all that is in memory: with twenty thousand rows of cells that is a tenth of a
second in which the window answers to nothing. The small collections, of what was made just now, go on.
"""

from __future__ import annotations

import gc
from weakref import WeakSet

NEVER = 1_000_000_000
"""So many collections of the middle generation come before a full one: more than there ever are."""

_usual = gc.get_threshold()
_holders: WeakSet[object] = WeakSet()


def hold_full_collections(owner: object, hold: bool) -> None:
    """Hold them back for this owner, or no longer; they go on when no owner that still lives holds them."""
    if hold:
        _holders.add(owner)
    else:
        _holders.discard(owner)
    gc.set_threshold(*_usual[:2], NEVER if _holders else _usual[2])
