"""Receipts: what a seat reports back."""

from typing import Literal

from pydantic import Field

from rimecrest.core.identities import ProfileId, SeatId
from rimecrest.core.model import Record, parse_record
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package_files import ReleaseNumber


class Receipt(Record):
    """One report. `at` is an ISO 8601 time in UTC, by the seat's own clock; `reason` why it failed.

    Reports are in order by release and `report`, never by a clock, which may be wrong.
    """

    seat: SeatId
    release: ReleaseNumber
    state: Literal["applied", "failed"]
    at: str
    reason: str = ""
    report: int = Field(default=0, ge=0)
    """The how manieth report of its profile it is."""
    profile: ProfileId = ProfileId("")
    """Which profile reports, by a random number of its own: two for one seat are told."""
    told: int = 0
    """Running applications that took it over at once."""
    assigned: Assignment | None = None
    """What the seat had of the release: its stack, keyboard, desktop."""

    @property
    def order(self) -> tuple[int, int]:
        """What receipts of one seat are sorted by."""
        return self.release, self.report


def parse_receipt(text: str, where: str) -> Receipt:
    """Read a receipt. Raises BrokenFile or NewerFormat."""
    return parse_record(Receipt, text, "receipt", where)
