"""The templates and text blocks of a seat: those that releases bring along, and the colleague's own."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from platformdirs import user_data_path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import listed, tr

BLOCK = ".block"
"""What a text block's file has before its ending: `farewell.block.html`."""


def _own_data() -> Path:
    return user_data_path("rimecrest")


class TemplateShelf:
    """Files to begin from, by name. A colleague's own goes before one of the same name that came along."""

    def __init__(self, lent: Path | None, own: Path | None, ending: str) -> None:
        """
        Args:
            lent: the folder of the companions; None: there are none.
            own: the profile of the seat; None: the colleague's own data folder.
            ending: of the application's documents.
        """
        self.own = (own if own is not None else _own_data()) / "templates"
        self._folders = [folder for folder in (lent, self.own) if folder is not None]
        self._ending = ending

    def templates(self) -> dict[str, Path]:
        """Name → file of every template."""
        return {path.stem: path for path in self._files() if not path.stem.endswith(BLOCK)}

    def blocks(self) -> dict[str, Path]:
        """Name → file of every text block."""
        files = (path for path in self._files() if path.stem.endswith(BLOCK))
        return {path.stem.removesuffix(BLOCK): path for path in files}

    def _files(self) -> Iterator[Path]:
        for folder in self._folders:
            for path in sorted(folder.glob(f"*{self._ending}")):
                if path.is_file() and not path.name.startswith("."):
                    yield path

    @staticmethod
    def find(known: dict[str, Path], name: str, what: str) -> Path:
        """The file of that name, in large or small letters. Raises RimecrestError with those there are."""
        wanted = name.strip().casefold()
        for each, path in known.items():
            if each.casefold() == wanted:
                return path
        there = listed([f"“{each}”" for each in known], 6)
        raise RimecrestError(
            tr("There is no {what} “{name}”.", what=what, name=name),
            tr("There are: {there}.", there=there) if known else tr("There is none at all yet."),
        )
