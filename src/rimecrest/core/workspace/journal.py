"""The journal: each edit as one record, written before its files, so that a save is whole or not at all.

A record holds the new content of every file the edit touches. When the program dies between two files, the
next opening writes the last record's files again; whoever only reads sees them as they will be. A record that
another computer has left is only completed by somebody who was asked.

A record is one line: its length in bytes, its checksum (CRC-32, ITU-T V.42) and its JSON. What does not agree
with that is the tail that was being written when the power went, or the disk was full: it is no record, and
is cut off before the next one is appended.
"""

from __future__ import annotations

import base64
import binascii
import contextlib
import hashlib
import json
import os
import re
import zlib
from collections.abc import Iterator, Mapping
from functools import cache
from pathlib import Path
from typing import Any, BinaryIO

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import MOST, Folder, read_plain
from rimecrest.core.log import log
from rimecrest.core.words import listed, tr
from rimecrest.core.workspace.parts import is_known

LONGEST = 512
"""Records kept; older ones have done their work."""
LARGEST = 16 * MOST
"""Bytes of a journal that are read: its records hold whole files, and some of these are large."""
PLACE = ".rimecrest/journal.jsonl"

Files = Mapping[str, bytes | None]
"""Path within the folder → its content; None: the file goes."""
Written = dict[str, str | dict[str, str] | None]
"""The same as a record holds it: text as it is, other bytes as `{"base64": …}`."""

_FRAME = re.compile(rb"([0-9]{1,12}) ([0-9a-f]{8}) ")


def _as_written(files: Files) -> Written:
    return {name: None if content is None else _one_written(content) for name, content in files.items()}


def _one_written(content: bytes) -> str | dict[str, str]:
    try:
        return content.decode()
    except UnicodeDecodeError:
        return {"base64": base64.b64encode(content).decode()}


def _as_read(written: Any) -> dict[str, bytes | None]:
    """The files of a record. Raises ValueError when it names what is no file of a workspace."""
    if not isinstance(written, dict):
        raise ValueError("it names no files")
    found: dict[str, bytes | None] = {}
    for name, content in written.items():
        if not is_known(name):
            raise ValueError(f"{name!r} is no file of a workspace")
        match content:
            case None:
                found[name] = None
            case str():
                found[name] = content.encode()
            case {"base64": str(text)}:
                found[name] = base64.b64decode(text, validate=True)
            case _:
                raise ValueError(f"{name!r} has no content")
    return found


def framed(record: Mapping[str, Any]) -> bytes:
    """A record as a line."""
    body = json.dumps(record).encode()
    return b"%d %08x %s\n" % (len(body), zlib.crc32(body), body)


def records_in(content: bytes) -> Iterator[tuple[dict[str, Any], int]]:
    """The whole records at the beginning of a journal, each with where it ends."""
    at = 0
    while found := _FRAME.match(content, at):
        begin = found.end()
        end = begin + int(found[1])
        body = content[begin:end]
        if content[end : end + 1] != b"\n" or zlib.crc32(body) != int(found[2], 16):
            return
        record = json.loads(body)
        at = end + 1
        yield record if isinstance(record, dict) else {}, at


class UnfinishedElsewhere(RimecrestError):
    """A save was left unfinished, and not on this computer: who writes its files now has to be asked."""

    def __init__(self, label: str, names: list[str]) -> None:
        super().__init__(
            tr(
                "Another computer has left a save unfinished here: “{label}”, which writes {names}.",
                label=label,
                names=listed(names),
            ),
            tr("Open the folder in the studio, which asks whether to complete it."),
        )


@cache
def _this_computer() -> str:
    """What tells this computer from others: a digest of its id (machine-id(5)), or of its name."""
    try:
        known = read_plain(Path("/etc/machine-id"), 64)
    except OSError:
        known = os.uname().nodename.encode()
    return hashlib.sha256(b"rimecrest journal " + known).hexdigest()[:16]


def _not_plain(path: Path, reason: str) -> RimecrestError:
    return RimecrestError(
        tr("{path} cannot be used: {reason}.", path=path, reason=reason),
        tr("Take it away, and open the workspace again."),
    )


class Journal:
    """The journal of one workspace folder."""

    def __init__(self, folder: Path) -> None:
        self._folder = Folder(folder, stays=True)
        self._whole = -1
        """Length of the journal when it was known to end with a whole record."""
        self._half_done: Files | None = None
        """What the files of a save that failed held before, until they hold it again."""

    def save(self, label: str, files: Files) -> None:
        """Write the record, then the files.

        Raises:
            RimecrestError: the folder cannot be written. What was saved before is still whole.
        """
        self._take_back()
        self._half_done = {name: self._content(name) for name in files}
        try:
            self.begin(label, files)
            self._write(files)
        except RimecrestError:
            # The edit did not happen: neither now nor at the next opening may half of it be there.
            with contextlib.suppress(RimecrestError):
                self._take_back()
            raise
        self._half_done = None
        try:
            self._append({"done": True}, flush=False)
        except RimecrestError as error:
            # All of it is there; the next opening will write the same once more.
            log.warning("journal record not closed", folder=str(self._folder.path), reason=str(error))

    def _take_back(self) -> None:
        """Undo what a save that failed left behind. On a disk that stays full the next save has to try again.

        Raises:
            RimecrestError: it still cannot be done, so nothing else may be saved.
        """
        if self._half_done is not None:
            old = self._half_done
            self._write({name: was for name, was in old.items() if self._content(name) != was})
            self._append({"given-up": True})
            self._half_done = None

    def begin(self, label: str, files: Files) -> None:
        """Write the record: from here on the files will be written, if need be at the next opening."""
        self._append({"label": label, "files": _as_written(files), "by": _this_computer()})

    def _content(self, name: str) -> bytes | None:
        path = self._folder.path / name
        if reason := self._folder.why_not_plain(name):
            raise _not_plain(path, reason)
        return self._folder.read(name) if path.is_file() else None

    def _append(self, record: dict[str, Any], flush: bool = True) -> None:
        if reason := self._folder.why_not_plain(PLACE):
            raise _not_plain(self._folder.path / PLACE, reason)
        with self._folder.appending(PLACE) as file:
            self._end_torn_tail(file)
            file.write(framed(record))
            file.flush()
            if flush:
                os.fsync(file.fileno())
            self._whole = file.tell()

    def _end_torn_tail(self, file: BinaryIO) -> None:
        """Cut off what follows the last whole record, before anything is appended."""
        length = file.seek(0, os.SEEK_END)
        if length == self._whole:
            return
        file.seek(0)
        ends = [end for _, end in records_in(file.read())]
        whole = ends[-1] if ends else 0
        if whole != length:
            os.truncate(file.fileno(), whole)

    def _write(self, files: Files) -> None:
        for name, content in files.items():
            if content is None:
                self._folder.remove(name)
            else:
                self._folder.write(name, content)

    def pending(self) -> tuple[str, dict[str, bytes | None]]:
        """Label and files of a record that was not finished; nothing where there is none."""
        records = self._records()
        if not records or "files" not in records[-1]:
            return "", {}
        try:
            return str(records[-1].get("label", "")), _as_read(records[-1]["files"])
        except (ValueError, binascii.Error) as error:
            # Whoever wrote that was no Rimecrest: nothing of it is done.
            log.warning("journal record left out", folder=str(self._folder.path), reason=str(error))
            return "", {}

    def forget(self) -> None:
        """Drop every record: what they hold is to be forgotten. A save that is not finished keeps its own."""
        if not self.pending()[1]:
            self._folder.remove(PLACE)
            self._whole = -1

    def finish(self, complete: bool | None = None) -> str:
        """Write the files of a record that was not finished. Returns its label, or nothing.

        Args:
            complete: what is done with one that another computer has left: None asks, by raising.

        Raises:
            UnfinishedElsewhere: another computer has left it.
            RimecrestError: the folder cannot be written.
        """
        records = self._records()
        label, files = self.pending()
        if files and records[-1].get("by") != _this_computer():
            if complete is None:
                raise UnfinishedElsewhere(label, list(files))
            if not complete:
                self._append({"given-up": True})
                return ""
        if files:
            self._write(files)
        if records and "files" in records[-1]:
            self._append({"done": True})
        if len(records) > LONGEST:
            self._folder.write(PLACE, b"".join(map(framed, records[-LONGEST // 2 :])))
            self._whole = -1
        return label

    def _records(self) -> list[dict[str, Any]]:
        try:
            content = self._folder.read(PLACE, LARGEST)
        except BrokenFile:
            return []  # none yet, or nothing that is read
        return [record for record, _ in records_in(content)]
