"""The receipts in a folder, `<seat id>/<number>-<profile>.json`; what is new or changed is read again."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import SeatId
from rimecrest.core.release.receipt import Receipt, parse_receipt

LARGEST = 64 * 1024
"""Bytes; a larger one is not looked at."""

_Stamp = tuple[int, int, int]
"""Inode, size and time of the last change: a receipt is written anew and renamed, so one of them differs."""
_Known = dict[str, tuple[_Stamp, Receipt | None]]
"""Path → what it was when it was read, and the receipt; None for one that could not be used."""


class ReceiptFiles:
    """What all seats have reported. It remembers what it has read, for the next look."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._files = Folder(folder)
        self._known: _Known = {}
        self._in_order = _in_order({})

    def read(self) -> tuple[list[Receipt], int]:
        """All receipts, in the order of `Receipt.order`, and how many could not be used.

        While nothing has changed, it is the same list.
        """
        known: _Known = {}
        for seat in _names(str(self._folder)):
            known |= self._of(seat)
        if known != self._known:
            self._known, self._in_order = known, _in_order(known)
        return self._in_order

    def of(self, seat: SeatId) -> list[Receipt]:
        """The receipts of one seat, in order."""
        return _in_order(self._of(seat))[0]

    def _of(self, seat: str) -> _Known:
        found: _Known = {}
        for path, stamp in _files(f"{self._folder}/{seat}"):
            before = self._known.get(path)
            known = before is not None and before[0] == stamp
            found[path] = (
                before
                if before is not None and known
                else (stamp, _receipt(self._files, seat, os.path.basename(path)))
            )
        return found


def _in_order(known: _Known) -> tuple[list[Receipt], int]:
    found = [receipt for _, receipt in known.values() if receipt is not None]
    return sorted(found, key=lambda receipt: receipt.order), len(known) - len(found)


def _names(folder: str) -> list[str]:
    try:
        return sorted(os.listdir(folder))
    except OSError:
        return []  # nobody has reported yet


def _files(folder: str) -> Iterator[tuple[str, _Stamp]]:
    for name in _names(folder):
        if not name.endswith(".json"):
            continue
        path = f"{folder}/{name}"
        try:
            stat = os.lstat(path)
        except OSError:
            yield path, (0, 0, 0)  # it has just gone
        else:
            yield path, (stat.st_ino, stat.st_size, stat.st_mtime_ns)


def _receipt(folder: Folder, seat: str, name: str) -> Receipt | None:
    try:
        receipt = parse_receipt(folder.text(f"{seat}/{name}", LARGEST), name)
    except RimecrestError:
        return None
    return receipt if receipt.seat == seat else None
