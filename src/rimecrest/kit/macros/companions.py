"""The files that macros bring along, where commands of a window find them."""

from __future__ import annotations

import base64
import binascii
import tempfile
from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.log import log

if TYPE_CHECKING:
    from tempfile import TemporaryDirectory


class Companions:
    """A folder of its own, that goes with the window."""

    def __init__(self) -> None:
        self._made: TemporaryDirectory[str] | None = None

    def _folder(self) -> Path:
        self._made = self._made or tempfile.TemporaryDirectory(prefix="rimecrest-companions-")
        return Path(self._made.name)

    def lay_out(self, files: Mapping[str, str]) -> Path | None:
        """Write files, by name in base64. Returns the folder; None when there are none.

        A file that cannot be written is left out: it must not keep a colleague from the rest.
        """
        if not files:
            return None
        folder = self._folder()
        for name, content in files.items():
            try:
                Folder(folder).write(Path(name).name, base64.b64decode(content, validate=True))
            except (RimecrestError, binascii.Error) as error:
                log.warning("companion left out", name=name, reason=str(error))
        return folder
