"""The macros that a window can run: those of its stack, and those that are kept in the document."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.bindings import PERSONAL
from rimecrest.core.layout.faces import Face
from rimecrest.core.layout.seen import Doing
from rimecrest.core.release.stack import StackState
from rimecrest.core.words import owned, tr
from rimecrest.core.workspace.macro_file import MacroFile, macro_file

if TYPE_CHECKING:
    from rimecrest.core.macro.steps import Macro


class MacroRow(Struct, frozen=True):
    """One macro: its id, name, purpose, where it is kept and the key that runs it, in words."""

    id: str
    name: str
    about: str
    kept: str
    keys: str
    shelved: bool = True
    """Whether it stands on a layer's shelf; else it is kept in the document."""
    own: bool = False
    """Whether it is the colleague's own."""

    def words(self) -> str:
        """The row as it is shown and read aloud."""
        told = " · ".join(part for part in (self.kept, self.keys) if part)
        return f"{self.name}\n{self.about}   {told}" if self.about else f"{self.name}\n{told}"


class KeptMacros(Struct, frozen=True):
    """The macros stored in the current document."""

    texts: Mapping[str, str] = {}
    """By id."""
    put_here: frozenset[str] = frozenset()
    """Macros that were added on this seat; the others came with the file."""


class MacroLibrary:
    """Finds a macro by its id, and says why one does not run."""

    def __init__(self, app: str, kept: Callable[[], KeptMacros]) -> None:
        """`kept` returns the macros of the current document."""
        self._kept_in_document = kept
        self._state = StackState(app=app)
        self.files: dict[str, MacroFile] = {}
        """The macros of the stack, by id."""

    def use(self, state: StackState) -> None:
        """Take over the macros of a stack."""
        self._state = state
        self.files = state.macro_files()

    def others(self) -> dict[str, Macro]:
        """Every macro that another one may run."""
        return {name: file.macro for name, file in self.files.items()}

    def faces(self) -> Mapping[str, Face]:
        return {name: file.face for name, file in self.files.items()}

    def rows(self, keys: Mapping[tuple[str | None, tuple[tuple[str, str], ...]], str]) -> list[MacroRow]:
        """Every macro that runs here, for a list: those of the stack, and those put into this document.

        Args:
            keys: what is shown as the key of each target.
        """
        refused = self.refused()
        found = [
            MacroRow(
                name,
                file.name,
                file.macro.about,
                self._kept(file.layer),
                keys.get((f"macro:{name}", ()), ""),
                own=file.layer == PERSONAL,
            )
            for name, file in self.files.items()
            if name not in refused and self._for_here(file)
        ]
        kept = self._kept_in_document()
        for name in sorted(kept.put_here & set(kept.texts) - set(self.files)):
            file = macro_file("document", name, kept.texts[name])
            found.append(
                MacroRow(name, file.name, file.macro.about, tr("in this document"), "", shelved=False)
            )
        return found

    def _for_here(self, file: MacroFile) -> bool:
        """Whether a macro is for this application."""
        return file.macro.application in ("", self._state.app)

    def runnable(self) -> list[MacroFile]:
        """The macros of the stack that are for this application."""
        return [file for file in self.files.values() if self._for_here(file)]

    @staticmethod
    def _kept(layer: str) -> str:
        """Where a macro is kept, in words: layers have names for people only in the studio."""
        if layer == PERSONAL:
            return tr("yours")
        name = layer.partition(".")[2]
        return owned(name.capitalize()) if name else tr("everybody’s")

    def refused(self) -> dict[str, str]:
        """Id → why it does not run."""
        macros = self._state.macros.items()
        found = {name: kept.refused or self._why_not(self.files[name]) for name, kept in macros}
        return {name: why for name, why in found.items() if why}

    def _why_not(self, file: MacroFile) -> str:
        """Why a macro does not run, by what its own text says of its maker; empty when it does."""
        return file.origin.why_not(self._state.makers) if file.origin is not None else ""

    def refuse_steps(self, doing: Doing) -> None:
        """Let private steps be, when nobody vouches for whoever outside made them.

        Raises:
            RimecrestError: nobody does.
        """
        if doing.made_by and doing.made_by not in self._state.makers:
            raise RimecrestError(
                tr(
                    "“{name}” does not run: somebody made it whom your organisation does not vouch for.",
                    name=doing.label,
                ),
                tr("Ask whoever shares your layouts."),
            )

    def find(self, identity: str) -> MacroFile | None:
        """The macro of that id; None when there is none.

        Raises:
            RimecrestError: nobody vouches for whoever made it.
        """
        if why := self.refused().get(identity):
            raise _does_not_run(self.files[identity], why)
        return self.files.get(identity) or self._in_document(identity)

    def _in_document(self, identity: str) -> MacroFile | None:
        """A macro that is kept in the document. What came with a file does not run: nobody vouches for it."""
        kept = self._kept_in_document()
        if identity not in kept.texts:
            return None
        file = macro_file("document", identity, kept.texts[identity])
        if identity not in kept.put_here:
            raise RimecrestError(
                tr("“{name}” came with this document, and nobody here vouches for it.", name=file.name),
                tr("Whoever shares your layouts can look at it and put it on a shelf."),
            )
        if why := self._why_not(file):
            raise _does_not_run(file, why)
        return file


def _does_not_run(file: MacroFile, why: str) -> RimecrestError:
    return RimecrestError(
        tr("“{name}” does not run. {why}", name=file.name, why=why), tr("Ask whoever shares your layouts.")
    )
