"""The colleague's own shelf: macros that they recorded in their window, kept in their profile.

They are of the layer *personal*, above all layers of the stack, and nobody else has them.
"""

from __future__ import annotations

from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId, fresh, slug
from rimecrest.core.keys import PERSONAL
from rimecrest.core.log import log
from rimecrest.core.release import ShelvedMacro, StackState
from rimecrest.core.words import tr
from rimecrest.core.workspace.atomic import remove, write_atomically

LARGEST = 1024 * 1024
"""Bytes of a macro at most."""


class OwnMacros:
    """The own macros of one colleague for one application; without a profile they last as long as the
    window."""

    def __init__(self, app: str, profile: Path | None) -> None:
        self._folder = profile / "personal" / "macros" / app if profile is not None else None
        self.texts: dict[MacroId, str] = {}
        """Id → text."""
        for path in sorted(self._folder.glob("*.steps")) if self._folder is not None else ():
            try:
                self.texts[MacroId(path.stem)] = self._read(path)
            except (OSError, UnicodeDecodeError, RimecrestError) as error:
                # It stays where it lies: whoever helps can look at it.
                log.warning("own macro left out", path=str(path), reason=str(error))

    @staticmethod
    def _read(path: Path) -> str:
        if path.is_symlink() or not path.is_file() or path.stat().st_size > LARGEST:
            raise RimecrestError(tr("{path} is no macro.", path=path))
        return path.read_text("utf-8")

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
        if self._folder is not None:
            self._folder.mkdir(parents=True, exist_ok=True)
            write_atomically(self._folder / f"{identity}.steps", text.encode())
        self.texts[identity] = text
        return identity

    def delete(self, identity: str) -> None:
        """Forget a macro. Raises RimecrestError when its file cannot be taken away."""
        if self._folder is not None:
            remove(self._folder / f"{MacroId(identity)}.steps")
        self.texts.pop(MacroId(identity), None)
