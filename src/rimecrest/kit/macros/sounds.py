"""The desktop's own sound, for macros that end aloud; a seat may have it off."""

from __future__ import annotations

import json
from pathlib import Path

from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.log import log

NAME = "sounds.json"


class Sounds:
    """Whether macros are heard on this seat, remembered in its profile for all its applications."""

    def __init__(self, profile: Path | None = None) -> None:
        self._files = Folder(profile) if profile is not None else None
        self._on = True

    @property
    def on(self) -> bool:
        """Whether macros are heard."""
        if self._files is not None and self._files.is_there(NAME):
            try:
                self._on = bool(json.loads(self._files.text(NAME, 4096))["on"])
            except (RimecrestError, ValueError, TypeError, KeyError) as error:
                log.warning("whether macros are heard is not known", reason=str(error))
        return self._on

    def turn(self, on: bool) -> None:
        """Have macros heard, or not. Raises RimecrestError when the profile cannot be written."""
        self._on = on
        if self._files is not None:
            self._files.write(NAME, json.dumps({"on": on}).encode())

    def ring(self) -> None:
        """Let the desktop's sound be heard, where it is on."""
        if self.on:
            QApplication.beep()
