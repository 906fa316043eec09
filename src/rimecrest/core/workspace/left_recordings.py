"""Recordings that wait for a studio: left by a window whose studio was gone, taken over when one opens.

Each is a file of its own, named by the recording's identity, so that it is taken once.
"""

from __future__ import annotations

import re
from pathlib import Path

from rimecrest.core.errors import BrokenFile
from rimecrest.core.files import Folder
from rimecrest.core.identities import AppId
from rimecrest.core.log import log
from rimecrest.core.model import Record, dump_record, parse_record

_NAME = re.compile(r"[0-9a-f]{32}\.json", re.ASCII)
MOST = 100
"""Recordings that are looked at: more are somebody's rubbish."""


class LeftRecording(Record):
    """What was recorded in an application: the text of a macro."""

    id: str
    """Random, made when the recording begins: 32 hexadecimal digits."""
    app: AppId
    name: str
    text: str


def leave(folder: Path, recording: LeftRecording) -> None:
    """Keep a recording for the next studio. Raises RimecrestError or OSError if it cannot be written."""
    Folder(folder).write(f"{recording.id}.json", dump_record(recording, "recording").encode())


def waiting(folder: Path) -> list[LeftRecording]:
    """The recordings that wait, oldest first. What cannot be read stays where it is."""
    if not folder.is_dir():
        return []
    found = []
    paths = [path for path in folder.iterdir() if _NAME.fullmatch(path.name) and not path.is_symlink()]
    for path in sorted(paths, key=lambda path: path.lstat().st_mtime)[:MOST]:
        try:
            text = Folder(folder).read(path.name).decode()
            found.append(parse_record(LeftRecording, text, "recording", path.name))
        except (BrokenFile, UnicodeDecodeError) as error:
            log.warning("recording left out", path=str(path), reason=str(error))
    return found


def taken(folder: Path, recording: LeftRecording) -> None:
    """Forget a recording that a studio has taken over."""
    Folder(folder).remove(f"{recording.id}.json")
