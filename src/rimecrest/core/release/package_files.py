"""Packages in a folder, a file for each number: on a channel as on a seat."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Annotated

from pydantic import Field

MOST_RELEASES = 999_999_999
"""The highest number of a release: it is a file's name, and a release a second for thirty years."""
ReleaseNumber = Annotated[int, Field(ge=0, le=MOST_RELEASES)]
STEP, LEAP = 1_000, 1_000_000
"""How many numbers of others an office goes on behind, and a seat catches up with: so whoever writes a very
high number uses up few of those that are left."""
_NUMBER = re.compile(r"[0-9]{1,9}", re.ASCII)
ENDING = ".crestpack"


class PackageFiles:
    """The packages of one folder, `<number>.crestpack`.

    An earlier version had another ending in “pack”; what it wrote is still found.
    """

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def path(self, number: int) -> Path:
        """Where the package of that number lies, or would."""
        return self._there().get(number, self._folder / f"{number}{ENDING}")

    def numbers(self) -> list[int]:
        """The numbers that are there, lowest first."""
        return sorted(self._there())

    def _there(self) -> dict[int, Path]:
        files = sorted(self._folder.glob("*.*pack"), key=lambda path: path.suffix == ENDING)
        return {int(path.stem): path for path in files if _NUMBER.fullmatch(path.stem)}
