"""A repository in a folder, local or mounted.

It holds `releases/<number>.crestpack`, with who made it in `releases/<number>.json`, `audience.json` and
`receipts/<seat id>/<number>-<profile>.json`.
"""

from __future__ import annotations

import contextlib
from contextlib import AbstractContextManager
from pathlib import Path
from urllib.parse import urlsplit
from urllib.request import url2pathname

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import SeatId
from rimecrest.core.model import dump_record, parse_record
from rimecrest.core.release.audience import Audience, parse_audience
from rimecrest.core.release.made import Made
from rimecrest.core.release.package import MOST_BYTES
from rimecrest.core.release.package_files import PackageFiles
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.words import tr
from rimecrest.core.workspace.alone import alone_in
from rimecrest.rollout.receipt_files import ReceiptFiles
from rimecrest.rollout.repository import Repository

LOCK = "releasing.lock"
"""The system's own lock (flock) on this file is held while a release is written."""
PATIENCE = 10.0
"""Seconds to wait for another release to be written; a package of the largest size takes less."""


LARGEST = 64 * 1024
"""Bytes of the record of who made a release."""


class FolderRepository:
    """Publishing into and fetching from one folder."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._files = Folder(folder)
        self._packages = PackageFiles(folder / "releases")
        self._receipts = ReceiptFiles(folder / "receipts")
        self._audience: tuple[str, Audience] | None = None
        """The audience as it was read last, and its text."""

    def newest(self) -> int:
        """The number of the newest release; 0 when there is none."""
        return max(self._packages.numbers(), default=0)

    def numbers(self) -> list[int]:
        """The numbers of the releases that are there, in order."""
        return self._packages.numbers()

    def made(self, number: int) -> Made | None:
        """Who made a release, and when; None if that was not recorded or cannot be read."""
        path = self._packages.path(number).with_suffix(".json")
        try:
            text = self._files.text(path.relative_to(self._folder).as_posix(), LARGEST)
            return parse_record(Made, text, "made", str(path))
        except RimecrestError:
            return None

    def publish(self, number: int, package: bytes, audience: Audience, made: Made | None = None) -> None:
        """Put a release there, with who made it, then the audience that points to it.

        Raises:
            RimecrestError: the number is taken, or the folder cannot be written.
        """
        with self._alone():
            newest = self.newest()
            if number <= newest:
                raise RimecrestError(
                    tr("Release {newest} is there already.", newest=newest),
                    tr("Look at what was released, then release as {number}.", number=newest + 1),
                )
            path = self._packages.path(number).relative_to(self._folder)
            self._files.write(path.as_posix(), package)
            if made is not None:
                self._files.write(path.with_suffix(".json").as_posix(), dump_record(made, "made").encode())
            pointing = audience.pointing_to(number, package)
            self._files.write("audience.json", dump_record(pointing, "audience").encode())
            with contextlib.suppress(OSError):
                written = (self._folder / "audience.json").lstat().st_mtime
                self._files.tidy(written)
                self._files.tidy(written, "releases")

    def _alone(self) -> AbstractContextManager[None]:
        """While this lasts nobody else releases here: two with one number, and one of them would be lost."""
        busy = RimecrestError(
            tr("Somebody else is releasing into {folder} just now.", folder=self._folder),
            tr("Wait until they are done, then release again."),
        )
        return alone_in(self._folder, LOCK, PATIENCE, busy)

    def audience(self) -> Audience:
        """Raises RimecrestError when the channel cannot be reached or its audience cannot be read."""
        path = self._folder / "audience.json"
        try:
            text = self._files.text("audience.json")
        except BrokenFile as error:
            raise RimecrestError(
                tr("{path} cannot be read ({error}).", path=path, error=error.reason),
                tr("Check that the channel’s folder is there, then pull again."),
            ) from None
        if self._audience is None or self._audience[0] != text:
            self._audience = text, parse_audience(text, str(path))
        return self._audience[1]

    def package(self, number: int) -> bytes:
        """The bytes of a release. Raises RimecrestError when they cannot be fetched."""
        path = self._packages.path(number)
        try:
            return self._files.read(path.relative_to(self._folder).as_posix(), 2 * MOST_BYTES)
        except BrokenFile as error:
            raise RimecrestError(
                tr("{path} cannot be fetched ({reason}).", path=path, reason=error.reason),
                tr("Check the channel’s folder, then pull again."),
            ) from None

    def put_receipt(self, receipt: Receipt) -> None:
        """Report back. Raises RimecrestError when the folder cannot be written."""
        name = f"{receipt.release}-{receipt.profile}" if receipt.profile else f"{receipt.release}"
        within = f"receipts/{receipt.seat}"
        self._files.write(f"{within}/{name}.json", dump_record(receipt, "receipt").encode())
        with contextlib.suppress(OSError):
            self._files.tidy((self._folder / within / f"{name}.json").lstat().st_mtime, within)

    def places(self) -> tuple[Path, ...]:
        """The folders in which something changes when a release or receipt comes."""
        known = (self._folder, self._folder / "receipts", *self._folder.glob("receipts/*"))
        return tuple(path for path in known if path.is_dir())

    def receipts(self) -> tuple[list[Receipt], int]:
        """All receipts, in the order of `Receipt.order`, and how many could not be used."""
        return self._receipts.read()

    def receipts_of(self, seat: SeatId) -> list[Receipt]:
        """The receipts of one seat, in order."""
        return self._receipts.of(seat)


def lasting_address(address: str) -> str:
    """An address that leads to the same place from wherever it is opened: a relative path made whole."""
    cleaned = address.strip().strip("\"'")
    if "://" in cleaned:
        return cleaned
    return str(Path(cleaned).expanduser().resolve())


def open_repository(address: str) -> Repository:
    """The repository at an address: a folder's path or its `file://` address.

    Raises:
        RimecrestError: an address of another kind.
    """
    address = address.strip().strip("\"'")
    parts = urlsplit(address)
    if parts.scheme == "file":
        return FolderRepository(Path(url2pathname(parts.path)))
    if parts.scheme and len(parts.scheme) > 1:
        raise RimecrestError(
            tr("“{address}” is no folder.", address=address),
            tr("Give the path of a local or mounted folder."),
        )
    return FolderRepository(Path(address).expanduser())
