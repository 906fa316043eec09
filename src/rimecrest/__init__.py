"""Rimecrest: put commands and macros where colleagues' hands already are.

Start reading at `core` (the job itself), then `kit` (what an application carries), then `studio`.
"""

__version__ = "0.1.0"
