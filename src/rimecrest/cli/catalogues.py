"""The catalogue of an application: from a file, or asked of the installed application itself."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

from rimecrest.cli.common import read_text
from rimecrest.core.catalogue import Catalogue, parse_catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

PATIENCE = 60
"""Seconds that an application has to describe itself; it takes about one."""


def catalogue_for(app: str, file: Path | None = None) -> Catalogue:
    """The catalogue in a file; without one, what the installed application says of itself.

    Raises:
        RimecrestError: the file is no catalogue, or there is no such application here.
    """
    if file is not None:
        return parse_catalogue(read_text(file), str(file))
    with TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "rimecrest", "app", app, "--describe", folder]
        surroundings = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
        try:
            done = subprocess.run(
                command, env=surroundings, capture_output=True, text=True, timeout=PATIENCE, check=False
            )
        except subprocess.TimeoutExpired:
            raise _silent(app, tr("it did not answer in {PATIENCE} seconds", PATIENCE=PATIENCE)) from None
        if done.returncode:
            raise _silent(app, (done.stderr.strip().splitlines() or [tr("it gave no reason")])[-1])
        described = Path(folder) / f"{app}.json"
        return parse_catalogue(read_text(described), app)


def _silent(app: str, reason: str) -> RimecrestError:
    return RimecrestError(
        tr("“{app}” did not say what it can do: {reason}", app=app, reason=reason),
        tr("Name its catalogue: --catalogue FILE."),
    )
