"""A file that only one seat can reach, copied among the companions, where every seat has it."""

from __future__ import annotations

import stat
from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import read_plain
from rimecrest.core.identities import FileName, fresh, slug
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.file_edits import PutCompanion
from rimecrest.core.workspace.workspace import Workspace

COMPANIONS = "companions/"
LARGEST = 64 * 1024 * 1024
"""Bytes of a companion at most: what an application opens, and a package carries."""


def read_whole(path: Path) -> bytes:
    """The content of a file that shall be a companion.

    Raises:
        RimecrestError: there is none, it is no plain file, or it is too large.
    """
    try:
        found = path.stat()
        if not stat.S_ISREG(found.st_mode):
            raise RimecrestError(tr("{path} is no file.", path=path), tr("Choose a file."))
        if found.st_size > LARGEST:
            raise RimecrestError(
                tr("{path} is too large to go along.", path=path),
                tr("Choose a file under {size} MiB.", size=LARGEST >> 20),
            )
        return read_plain(path, LARGEST)
    except OSError as error:
        raise RimecrestError(
            tr("{path} cannot be read: {reason}.", path=path, reason=error.strerror),
            tr("Choose another file."),
        ) from None


def companion_for(workspace: Workspace, path: Path, content: bytes) -> FileName:
    """The name under which a file goes among the companions; one that is the same there already keeps its."""
    for name, known in workspace.companions.items():
        if known == content and Path(name).suffix == path.suffix:
            return FileName(name)
    taken = {name.removesuffix(path.suffix) for name in workspace.companions}
    return FileName(fresh(slug(path.stem, "file"), taken) + path.suffix.lower())


class BringIn(Edit, frozen=True):
    """Copy a file among the companions, under that name."""

    path: Path
    name: FileName
    content: bytes

    @staticmethod
    def of(workspace: Workspace, path: Path) -> BringIn:
        """Raises RimecrestError when the file cannot be read."""
        content = read_whole(path)
        return BringIn(path, companion_for(workspace, path, content), content)

    @property
    def place(self) -> str:
        """What stands in a step or setting instead of its path."""
        return f"{COMPANIONS}{self.name}"

    @property
    def label(self) -> str:
        return tr("copy {name} into companions", name=self.path.name)

    def on(self, workspace: Workspace) -> Workspace:
        if workspace.companions.get(self.name) == self.content:
            return workspace
        return PutCompanion(self.name, self.content).on(workspace)
