"""The journal: each edit as one record, written before its files, so that a save is whole or not at all.

A record holds the new text of every file the edit touches. When the program dies between two files, the
next opening writes the last record's files again.
"""

from __future__ import annotations

import base64
import contextlib
import json
import os
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.atomic import cannot_write, remove, write_atomically

LONGEST = 512
"""Records kept; older ones have done their work."""


Files = Mapping[str, bytes | None]
"""Path within the folder → its content; None: the file goes."""
Written = dict[str, str | dict[str, str] | None]
"""The same as a record holds it: text as it is, other bytes as `{"base64": …}`."""


def _as_written(files: Files) -> Written:
    return {name: None if content is None else _one_written(content) for name, content in files.items()}


def _one_written(content: bytes) -> str | dict[str, str]:
    try:
        return content.decode()
    except UnicodeDecodeError:
        return {"base64": base64.b64encode(content).decode()}


def _as_read(written: Written) -> dict[str, bytes | None]:
    return {
        name: base64.b64decode(content["base64"])
        if isinstance(content, dict)
        else None
        if content is None
        else content.encode()
        for name, content in written.items()
    }


class Journal:
    """The journal of one workspace folder."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._path = folder / ".rimecrest" / "journal.jsonl"

    def save(self, label: str, files: Files) -> None:
        """Write the record, then the files.

        Raises:
            RimecrestError: the folder cannot be written. What was saved before is still whole.
        """
        self.begin(label, files)
        old = {name: self._content(name) for name in files}
        try:
            self._write(files)
        except RimecrestError:
            # The edit did not happen: neither now nor at the next opening may half of it be there.
            with contextlib.suppress(RimecrestError):
                self._write({name: was for name, was in old.items() if self._content(name) != was})
            self._append({"given-up": True})
            raise
        self._append({"done": True}, flush=False)

    def begin(self, label: str, files: Files) -> None:
        """Write the record: from here on the files will be written, if need be at the next opening."""
        self._append({"label": label, "files": _as_written(files)})

    def _content(self, name: str) -> bytes | None:
        path = self._folder / name
        return path.read_bytes() if path.is_file() else None

    def _append(self, record: dict[str, Any], flush: bool = True) -> None:
        try:
            self._path.parent.mkdir(parents=True, exist_ok=True)
            with self._path.open("a", encoding="utf-8") as file:
                file.write(json.dumps(record, ensure_ascii=False) + "\n")
                file.flush()
                if flush:
                    os.fsync(file.fileno())
        except OSError as error:
            raise cannot_write(self._path, error) from error

    def _write(self, files: Files) -> None:
        for name, content in files.items():
            if content is None:
                remove(self._folder / name)
            else:
                write_atomically(self._folder / name, content)

    def finish(self) -> str:
        """Write the files of a record that was not finished. Returns its label, or nothing."""
        records = self._records()
        label = ""
        if records and "files" in records[-1]:
            self._write(_as_read(records[-1]["files"]))
            self._append({"done": True})
            label = str(records[-1].get("label", ""))
        if len(records) > LONGEST:
            kept = "".join(json.dumps(r, ensure_ascii=False) + "\n" for r in records[-LONGEST // 2 :])
            write_atomically(self._path, kept.encode())
        return label

    def _records(self) -> list[dict[str, Any]]:
        if not self._path.is_file():
            return []
        records = []
        for line in self._path.read_text("utf-8", errors="replace").splitlines():
            try:
                record = json.loads(line)
            except json.JSONDecodeError:
                continue  # the line that was being written when the power went
            if isinstance(record, dict):
                records.append(record)
        return records
