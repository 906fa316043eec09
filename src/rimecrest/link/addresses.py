"""Where running applications listen: `$XDG_RUNTIME_DIR/rimecrest/<app>-<pid>.sock`."""

from __future__ import annotations

import os
import stat
import tempfile
from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr


def _temporary() -> Path:
    return Path(tempfile.gettempdir())


def runtime_folder() -> Path:
    """The folder of this user's sockets, made with rights 0700.

    Raises:
        RimecrestError: somebody else owns it, or it cannot be made.
    """
    base = os.environ.get("XDG_RUNTIME_DIR")
    folder = Path(base) / "rimecrest" if base else _temporary() / f"rimecrest-{os.getuid()}"
    way_out = tr("Set XDG_RUNTIME_DIR to a folder of yours.")
    try:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        found = folder.lstat()
        if found.st_uid != os.getuid() or not stat.S_ISDIR(found.st_mode):
            # In a folder that all can write, somebody may have put a link or a folder of theirs there.
            raise RimecrestError(tr("{folder} belongs to somebody else.", folder=folder), way_out)
        folder.chmod(0o700)
    except OSError as error:
        raise RimecrestError(
            tr("{folder} cannot be made ({reason}).", folder=folder, reason=error.strerror), way_out
        ) from None
    return folder


def socket_path(app: str, pid: int) -> Path:
    return runtime_folder() / f"{app}-{pid}.sock"


def listening(app: str = "*") -> list[Path]:
    """Sockets of applications whose process is alive; none where there is no folder for them.

    Those of dead ones are taken away.
    """
    alive: list[Path] = []
    try:
        folder = runtime_folder()
    except RimecrestError:
        return alive
    for path in sorted(folder.glob(f"{app}-*.sock")):
        pid = path.stem.rpartition("-")[2]
        if pid.isdigit() and Path(f"/proc/{pid}").exists():
            alive.append(path)
        else:
            path.unlink(missing_ok=True)
    return alive
