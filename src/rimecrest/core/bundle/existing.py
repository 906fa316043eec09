"""What becomes of a name that is taken when macros are taken in."""

from enum import StrEnum


class Existing(StrEnum):
    """The three answers."""

    KEEP_BOTH = "keep both"
    REPLACE = "replace"
    SKIP = "skip"
