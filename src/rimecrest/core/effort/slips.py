"""How likely a finger that aims at one key hits the one beside it.

The finger's end point is normally distributed around the key's centre, alike in both directions. SIGMA is
fitted so that a keystroke misses its key as often as a study of 136 million keystrokes left errors: 1.17 %
(Dhakal, Feit, Kristensson, Oulasvirta: Observations on Typing from 136 Million Keystrokes, CHI 2018).
With both axes alike, (2Φ(½/σ) − 1)² = 1 − 0.0117 gives σ = 0.181 key widths.
"""

from __future__ import annotations

from functools import lru_cache
from math import erf, sqrt

from rimecrest.core.keys.keyboards.geometry import Geometry, Shape, geometry

SIGMA = 0.181
"""Standard deviation of where a finger comes down, in key widths."""
SHIFT_SLIP = 0.004
"""Probability that Shift is held by mistake, or missed. Ours, as no published rate was found: less than that
of hitting the nearest neighbour, since the hand knows that it holds Shift."""
FARTHEST = 1.6
"""Distance between centres, in key widths, beyond which a slip is not counted."""


@lru_cache(maxsize=16)
def neighbours(shape: Shape = "iso", sigma: float = SIGMA) -> dict[str, dict[str, float]]:
    """Key → the keys beside it → the probability that aiming at the first hits the second."""
    keys = geometry(shape)
    names = [name for name in keys.caps if name not in _HELD]
    found: dict[str, dict[str, float]] = {}
    for name in names:
        beside = {}
        for other in names:
            if other != name and keys.distance(name, other) <= FARTHEST:
                chance = _chance(keys, name, other, sigma)
                if chance > 1e-6:
                    beside[other] = chance
        found[name] = beside
    return found


_HELD = {"LFSH", "RTSH", "LCTL", "RCTL", "LALT", "RALT", "LWIN", "RWIN", "CAPS", "NMLK"}


def _chance(keys: Geometry, aimed: str, hit: str, sigma: float) -> float:
    x, y = keys.caps[aimed].centre
    cap = keys.caps[hit]
    across = _normal((cap.x + cap.width - x) / sigma) - _normal((cap.x - x) / sigma)
    down = _normal((cap.y + cap.height - y) / sigma) - _normal((cap.y - y) / sigma)
    return across * down


def _normal(z: float) -> float:
    """The standard normal distribution function."""
    return 0.5 * (1 + erf(z / sqrt(2)))
