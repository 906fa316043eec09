"""One macro as a file: its text with what was read from it."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING

from msgspec import Struct

from rimecrest.core.layout.faces import Face

if TYPE_CHECKING:  # a program without macros starts without their language
    from rimecrest.core.macro.steps import Fault, Macro
    from rimecrest.core.workspace.origin import Origin


class MacroFile(Struct, frozen=True):
    """One `.steps` file with what was read from it."""

    layer: str
    id: str
    text: str
    macro: Macro
    faults: tuple[Fault, ...]

    @property
    def name(self) -> str:
        return self.macro.name or self.id

    @property
    def origin(self) -> Origin | None:
        """Who outside made it, as its text says; None: somebody here."""
        if not self.macro.from_outside:
            return None
        from rimecrest.core.workspace.origin import origin_of  # noqa: PLC0415  late: cryptography

        return origin_of(self.text)

    @property
    def face(self) -> Face:
        return _face(self.name, self.macro.about)


@lru_cache(maxsize=4096)
def _face(name: str, about: str) -> Face:
    """One object for each: what was worked out of a face is found again by which face it is."""
    return Face(name, about, "set:play-box-outline", any_picture=True)


@lru_cache(maxsize=4096)
def macro_file(layer: str, identity: str, text: str) -> MacroFile:
    """Read a macro's text; equal texts are read once."""
    from rimecrest.core.macro.parse import parse_macro  # noqa: PLC0415  late: the grammar

    macro, faults = parse_macro(text)
    return MacroFile(layer, identity, text, macro, tuple(faults))
