"""What a word of a step can be while it is changed."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from rimecrest.core.catalogue.arguments import Argument


class Wanted(Struct, frozen=True):
    """A word that is to be changed.

    `argument`: of the command, where it is a setting; `names`: what {names} may say; `choices`: for words
    that are one of some others.
    """

    value: str
    argument: Argument | None = None
    names: Sequence[str] = ()
    choices: Sequence[str] = ()
