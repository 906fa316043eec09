"""The journal: each edit as one record, written before its files, so that a save is whole or not at all.

A record holds the new text of every file the edit touches. When the program dies between two files, the
next opening writes the last record's files again.
"""

from __future__ import annotations

import base64
import contextlib
import json
import os
from pathlib import Path
from typing import Any

from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.atomic import cannot_write, remove, write_atomically

LONGEST = 512
"""Records kept; older ones have done their work."""


_DATA = "data:;base64,"


def as_data(content: bytes) -> str:
    """Bytes as a record holds them (RFC 2397)."""
    return _DATA + base64.b64encode(content).decode()


def _is_data(name: str) -> bool:
    """Whether a file holds bytes: companions may be anything."""
    return name.startswith("companions/")


class Journal:
    """The journal of one workspace folder."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._path = folder / ".rimecrest" / "journal.jsonl"

    def save(self, label: str, files: dict[str, str | None]) -> None:
        """Write the record, then the files.

        Raises:
            RimecrestError: the folder cannot be written. What was saved before is still whole.
        """
        self._append({"label": label, "files": files})
        old = {name: self._content(name) for name in files}
        try:
            self._write(files)
        except RimecrestError:
            # The edit did not happen: neither now nor at the next opening may half of it be there.
            with contextlib.suppress(RimecrestError):
                self._write({name: text for name, text in old.items() if self._content(name) != text})
            self._append({"given-up": True})
            raise
        self._append({"done": True}, flush=False)

    def _content(self, name: str) -> str | None:
        path = self._folder / name
        if not path.is_file():
            return None
        return as_data(path.read_bytes()) if _is_data(name) else path.read_text("utf-8")

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

    def _write(self, files: dict[str, str | None]) -> None:
        for name, text in files.items():
            if text is None:
                remove(self._folder / name)
            else:
                content = base64.b64decode(text.removeprefix(_DATA)) if _is_data(name) else text.encode()
                write_atomically(self._folder / name, content)

    def finish(self) -> str:
        """Write the files of a record that was not finished. Returns its label, or nothing."""
        records = self._records()
        label = ""
        if records and "files" in records[-1]:
            self._write(records[-1]["files"])
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
