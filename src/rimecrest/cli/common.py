"""What the groups of commands share: the arguments that come again, and reading a file."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

if TYPE_CHECKING:
    from rimecrest.core.release.profile import Profile

WorkspaceFolder = Annotated[Path, typer.Argument(help="The workspace's folder.")]
ProfileFolder = Annotated[
    Path | None,
    typer.Option("--profile", help="The profile's folder; else your own."),
]
Channel = Annotated[str, typer.Option("--channel", help="The channel: a folder.")]


def seat_profile(folder: Path | None) -> Profile:
    """The profile in a folder, or that of whoever is logged in."""
    from rimecrest.core.release.profile import Profile, default_folder

    return Profile(folder or default_folder())


def read_text(path: Path) -> str:
    """A file's text.

    Raises:
        RimecrestError: it cannot be read, or is no text.
    """
    from rimecrest.core.files import read_plain

    try:
        return read_plain(path).decode()
    except (OSError, UnicodeDecodeError) as error:
        raise RimecrestError(
            tr("{path} cannot be read ({error}).", path=path, error=error), tr("Check the path.")
        ) from None
