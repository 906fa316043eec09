"""Rimecrest's own programs as processes of their own: how they are started, and asked what they can do."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

FIRST_MAIL = "RIMECREST_FIRST_MAIL"
"""Environment variable of the applications that we start: the maildir that a new mailbox begins with."""
PATIENCE = 60
"""Seconds that an application has to describe itself; it takes about one."""


def own_command(*arguments: str) -> list[str]:
    """`rimecrest …` as the system starts it: with this Python, whatever the search path says."""
    return [sys.executable, "-m", "rimecrest", *arguments]


def describe_application(app: str, folder: Path) -> Path:
    """Have an installed application write its catalogue and its picture into a folder.

    Returns:
        The catalogue's file.

    Raises:
        RimecrestError: there is no such application here, or it does not answer.
    """
    folder.mkdir(parents=True, exist_ok=True)
    try:
        done = subprocess.run(
            own_command("app", app, "--describe", str(folder)),
            env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
            capture_output=True,
            text=True,
            timeout=PATIENCE,
            check=False,
        )
    except subprocess.TimeoutExpired:
        raise _silent(app, tr("it did not answer in {PATIENCE} seconds", PATIENCE=PATIENCE)) from None
    if done.returncode:
        raise _silent(app, (done.stderr.strip().splitlines() or [tr("it gave no reason")])[-1])
    return folder / f"{app}.json"


def _silent(app: str, reason: str) -> RimecrestError:
    return RimecrestError(
        tr("“{app}” did not say what it can do: {reason}", app=app, reason=reason),
        tr("Look whether it is installed here, and starts."),
    )
