"""The programs that the desktop lists, by their desktop entries (Desktop Entry Specification 1.5)."""

from __future__ import annotations

import configparser
from pathlib import Path

from msgspec import Struct
from PyQt6.QtCore import QProcess, QStandardPaths

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import read_plain
from rimecrest.core.words import tr

_SECTION = "Desktop Entry"


class InstalledProgram(Struct, frozen=True):
    """One program: the id of its entry, what people call it, where the entry lies."""

    id: str
    name: str
    entry: Path


def installed_programs() -> dict[str, InstalledProgram]:
    """Those that a person can start, by id; of two entries with one id the user's own goes first."""
    found: dict[str, InstalledProgram] = {}
    hidden: set[str] = set()
    for folder in QStandardPaths.standardLocations(QStandardPaths.StandardLocation.ApplicationsLocation):
        root = Path(folder)
        for path in sorted(root.rglob("*.desktop")) if root.is_dir() else ():
            identity = "-".join(path.relative_to(root).with_suffix("").parts)
            if identity in found or identity in hidden:
                continue
            name = _name(path)
            if name:
                found[identity] = InstalledProgram(identity, name, path)
            else:
                hidden.add(identity)  # also from the folders behind
    return found


LARGEST = 1024 * 1024
"""Bytes of an entry that are read."""


def _name(path: Path) -> str:
    """What an entry is called; empty where it starts nothing that a person would look for."""
    reader = configparser.ConfigParser(interpolation=None, strict=False, delimiters=("=",))
    reader.optionxform = str  # type: ignore[assignment,method-assign]  # keys of entries have capitals
    try:
        reader.read_string(read_plain(path, LARGEST).decode())
    except (OSError, UnicodeDecodeError, configparser.Error):
        return ""
    if not reader.has_section(_SECTION):
        return ""
    entry = reader[_SECTION]
    shut = "true" in (entry.get("NoDisplay", ""), entry.get("Hidden", ""))
    return "" if shut or entry.get("Type") != "Application" or "Exec" not in entry else entry.get("Name", "")


def start_program(identity: str) -> InstalledProgram:
    """Start one as the desktop would, by itself and for good.

    Raises:
        RimecrestError: it is not installed here, or the desktop cannot start it.
    """
    known = installed_programs()
    program = known.get(identity.removesuffix(".desktop"))
    if program is None:
        raise RimecrestError(
            tr("The application “{name}” is not installed here.", name=identity),
            tr("Ask whoever looks after this computer for it."),
        )
    # gio(1) starts an entry as the specification says: field codes, a terminal.
    started, _ = QProcess.startDetached("gio", ["launch", str(program.entry)])
    if not started:
        raise RimecrestError(
            tr("“{name}” cannot be started: the program gio is missing.", name=program.name),
            tr("Ask whoever looks after this computer for it."),
        )
    return program
