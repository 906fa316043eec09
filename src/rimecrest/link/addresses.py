"""Where running applications listen: `$XDG_RUNTIME_DIR/rimecrest/<app>-<pid>.sock`."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr


def runtime_folder() -> Path:
    """The folder of this user's sockets, made with rights 0700.

    Raises:
        RimecrestError: somebody else owns it.
    """
    base = os.environ.get("XDG_RUNTIME_DIR")
    folder = Path(base) / "rimecrest" if base else Path(tempfile.gettempdir()) / f"rimecrest-{os.getuid()}"
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    if folder.stat().st_uid != os.getuid():
        raise RimecrestError(
            tr("{folder} belongs to somebody else.", folder=folder),
            tr("Set XDG_RUNTIME_DIR to a folder of yours."),
        )
    folder.chmod(0o700)
    return folder


def socket_path(app: str, pid: int) -> Path:
    return runtime_folder() / f"{app}-{pid}.sock"


def listening(app: str = "*") -> list[Path]:
    """Sockets of applications whose process is alive. Those of dead ones are taken away."""
    alive = []
    for path in sorted(runtime_folder().glob(f"{app}-*.sock")):
        pid = path.stem.rpartition("-")[2]
        if pid.isdigit() and Path(f"/proc/{pid}").exists():
            alive.append(path)
        else:
            path.unlink(missing_ok=True)
    return alive
