"""What a target is called and how it looks, before anybody gave an item a label of its own."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.remembered import Remembered
from rimecrest.core.words import tr


class Face(Struct, frozen=True):
    """The words and the picture of a command or macro."""

    name: str
    about: str = ""
    picture: str = ""
    exists: bool = True
    any_picture: bool = False
    """Whether the picture stands for any macro, and tells none from another: words say more."""


NO_FACE = Face("", exists=False)
MOST_CATALOGUES = 64
_FACES: Remembered[dict[str, Face]] = Remembered(MOST_CATALOGUES)
"""Catalogue → command → its face: one object each, whichever stack asks."""


@lru_cache(maxsize=4096)
def _missing(run: str) -> Face:
    return Face(run.partition(":")[2].replace("-", " ").capitalize(), exists=False)


class Targets:
    """Commands of one application and the macros that one stack can see."""

    def __init__(self, catalogue: Catalogue, macros: Mapping[str, Face]) -> None:
        self.catalogue = catalogue
        self.macros = macros
        self._commands = _FACES.of((catalogue,), (), dict)

    def face(self, run: str | None) -> Face:
        """Words and picture of a target; one that does not exist says so and is named by its id."""
        if run is None:
            return NO_FACE
        if run.startswith("macro:"):
            return self.macros.get(run.removeprefix("macro:")) or _missing(run)
        known = self._commands.get(run)
        if known is None:
            command = self.catalogue.by_id.get(run)
            if command is None:
                return _missing(run)
            known = self._commands[run] = Face(command.name, command.about, command.picture)
        return known


@lru_cache(maxsize=512)
def private_face(steps: str) -> Face:
    """Words and picture of the steps that are private to an item."""
    from rimecrest.core.macro.parse import parse_macro  # noqa: PLC0415  the grammar is loaded where there are steps

    macro, _ = parse_macro(steps)
    return Face(macro.name or tr("Own steps"), macro.about, "set:play-box-outline", any_picture=True)
