"""What a macro reaches for outside of its documents: a file that is overwritten, an address, a program.

A macro of a shared layer asks the colleague before it does that; for addresses and programs they may say once
and for all that this macro, as it is written now, may.
"""

from __future__ import annotations

import hashlib
import os
from pathlib import Path

from pydantic import Field

from rimecrest.core.errors import RimecrestError
from rimecrest.core.log import log
from rimecrest.core.model import Record
from rimecrest.core.words import tr
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.kit.declare import Wants
from rimecrest.kit.profile_record import keep, read_kept

OWN = frozenset({"personal", MINE, "document", "link"})
"""Shelves of whoever sits here: what stands there, nobody else has given them."""


def writing(path: Path | None, own: bool = False, shelf: bool = False) -> Wants | None:
    """Wants of a command that writes a file; None where it asks for the place itself.

    Args:
        shelf: it lies on a shelf of our own in the profile, under a name that we have made.
    """
    if path is None or path == Path():
        return None
    risky = not shelf and starts_something(path)
    if risky and not path.exists():
        return Wants(
            tr("write {path}, which other programs may start or take for settings", path=path),
            path.absolute(),
            own,
            "",
            risky,
        )
    return Wants(tr("overwrite {path}", path=path), path.absolute(), own, "", risky)


STARTED = (".desktop", ".service", ".timer", ".socket", ".path")
"""Endings of desktop entries, and of units that the system starts (systemd.unit(5))."""


def starts_something(path: Path) -> bool:
    """Whether other programs may start a file there, or take it for settings.

    That is: it is hidden or in a hidden folder (autostart, shells and desktops keep theirs there), it is a
    desktop entry or a unit of the system, or its folder is one in which programs are looked for.
    """
    real = Path(os.path.realpath(path))
    hidden = any(part.startswith(".") for part in (*real.parts, *path.parts) if part not in (".", ".."))
    entry = real.suffix.lower() in STARTED
    return hidden or entry or str(real.parent) in map(os.path.realpath, os.get_exec_path())


class Agreed(Record):
    """agreed.json: what was agreed to, each as the digest of a macro's text and what it may do."""

    agreed: tuple[str, ...] = Field(default=())


class Agreements:
    """What a colleague has agreed to for good. Without a profile it lasts as long as the window."""

    def __init__(self, profile: Path | None) -> None:
        self._profile = profile
        # Where it cannot be read, it is asked once more.
        self._known = read_kept(Agreed, "agreed", profile).agreed

    def has(self, file: MacroFile, lasting: str) -> bool:
        return bool(lasting) and _key(file, lasting) in self._known

    def add(self, file: MacroFile, lasting: str) -> None:
        """Remember a yes. One that cannot be kept lasts as long as the window."""
        self._known = (*self._known, _key(file, lasting))
        if self._profile is not None:
            try:
                keep(Agreed(agreed=self._known), "agreed", self._profile)
            except RimecrestError as error:
                log.warning("agreement not kept", reason=str(error))


def _key(file: MacroFile, lasting: str) -> str:
    # Of the text: a macro that was changed since asks again.
    return f"{hashlib.sha256(file.text.encode()).hexdigest()[:32]} {lasting}"
