"""What a place that releases travel through can do, wherever it is."""

from __future__ import annotations

from pathlib import Path
from typing import Protocol

from rimecrest.core.identities import SeatId
from rimecrest.core.release.audience import Audience
from rimecrest.core.release.made import Made
from rimecrest.core.release.receipt import Receipt


class Repository(Protocol):
    """Releases, their audience, and what seats report back.

    Each method raises RimecrestError when the place cannot be reached, or what lies there cannot be read. The
    audience comes first and alone: whoever pulls can refuse it before a package is fetched.
    """

    def newest(self) -> int:
        """The number of the newest release; 0 when there is none."""
        ...

    def numbers(self) -> list[int]:
        """The numbers of the releases that are there, in order."""
        ...

    def made(self, number: int) -> Made | None:
        """Who made a release, and when; None if that was not recorded or cannot be read."""
        ...

    def publish(self, number: int, package: bytes, audience: Audience, made: Made | None = None) -> None:
        """Put a release there, then the audience that points to it; a number that is taken is refused."""
        ...

    def audience(self) -> Audience: ...

    def package(self, number: int) -> bytes:
        """The bytes of a release."""
        ...

    def put_receipt(self, receipt: Receipt) -> None:
        """Report back; once more with the same receipt changes nothing."""
        ...

    def receipts(self) -> tuple[list[Receipt], int]:
        """All receipts, in the order of `Receipt.order`, and how many could not be used."""
        ...

    def receipts_of(self, seat: SeatId) -> list[Receipt]:
        """The receipts of one seat, in order."""
        ...

    def places(self) -> tuple[Path, ...]:
        """Folders of this machine in which something changes when a release or receipt comes; may be none."""
        ...
