"""What a keystroke costs in seconds, and where a finger slips: strokes, slips, constants with sources."""

from rimecrest.core.effort.constants import Constants, constants_of, usable
from rimecrest.core.effort.slips import neighbours
from rimecrest.core.effort.strokes import stroke

__all__ = ["Constants", "constants_of", "neighbours", "stroke", "usable"]
