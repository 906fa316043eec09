"""The agent on a colleague's computer: enrol, pull, apply, report.

`pull` is a flow that yields each thing it wants done; `carry_out` does the things for real and may be
stopped between any two of them.
"""

from rimecrest.seat.agent import carry_out, enrol, pull_now, status
from rimecrest.seat.pull import pull

__all__ = ["carry_out", "enrol", "pull", "pull_now", "status"]
