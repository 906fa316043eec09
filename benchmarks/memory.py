"""What a program takes of the computer's memory when its first window is there, against a bare window."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

Row = tuple[str, str, str, str]


def _megabytes(*arguments: str) -> float:
    """The most memory that a process had, up to its first window."""
    script = str(Path(__file__).with_name("starting.py"))
    ran = subprocess.run([sys.executable, script, *arguments], check=True, capture_output=True)
    return int(ran.stdout) / 1024


def rows(workspace: Path) -> list[Row]:
    """All rows of this kind."""
    bare = _megabytes("bare")
    found = []
    for what, arguments in (("Letters", ("letters",)), ("the open studio", ("studio", str(workspace)))):
        took = _megabytes(*arguments)
        against = f"a bare PyQt6 window ({bare:.0f} MB)"
        found.append((f"memory of {what}", f"{took:.0f} MB", f"{took / bare:.2f} ×", against))
    return found
