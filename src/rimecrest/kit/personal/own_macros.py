"""The colleague's own shelf: macros that they recorded in their window, kept in their profile.

They are of the layer *personal*, above all layers of the stack, and nobody else has them.
"""

from __future__ import annotations

from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import MacroId, fresh, slug
from rimecrest.core.keys.bindings import PERSONAL
from rimecrest.core.log import log
from rimecrest.core.release.stack import ShelvedMacro, StackState

LARGEST = 1024 * 1024
"""Bytes of a macro at most."""


class OwnMacros:
    """The own macros of one colleague for one application; without a profile they last as long as the
    window."""

    def __init__(self, app: str, profile: Path | None) -> None:
        self._files = Folder(profile) if profile is not None else None
        self._place = f"personal/macros/{app}"
        self.texts: dict[MacroId, str] = {}
        """Id → text."""
        if self._files is not None:
            self._take_up(self._files)

    def _take_up(self, files: Folder) -> None:
        for path in sorted((files.path / self._place).glob("*.steps")):
            try:
                self.texts[MacroId(path.stem)] = files.read(f"{self._place}/{path.name}", LARGEST).decode()
            except (UnicodeDecodeError, RimecrestError) as error:
                # It stays where it lies: whoever helps can look at it.
                log.warning("own macro left out", path=str(path), reason=str(error))

    def over(self, state: StackState) -> StackState:
        """A stack with them on top."""
        shared = {name: kept for name, kept in state.macros.items() if kept.layer != PERSONAL}
        own = {str(name): ShelvedMacro(layer=PERSONAL, text=text) for name, text in self.texts.items()}
        return state.model_copy(update={"macros": {**shared, **own}})

    def add(self, name: str, text: str, taken: StackState) -> MacroId:
        """Keep a macro; its id is made of its name, and is no other one's of the stack.

        Raises:
            RimecrestError: it cannot be written.
        """
        identity = MacroId(fresh(slug(name, "macro"), {*taken.macros, *self.texts}))
        if self._files is not None:
            self._files.write(f"{self._place}/{identity}.steps", text.encode())
        self.texts[identity] = text
        return identity

    def delete(self, identity: str) -> None:
        """Forget a macro. Raises RimecrestError when its file cannot be taken away."""
        if self._files is not None:
            self._files.remove(f"{self._place}/{MacroId(identity)}.steps")
        self.texts.pop(MacroId(identity), None)
