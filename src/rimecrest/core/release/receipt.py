"""Receipts: what a seat reports back."""

from __future__ import annotations

from typing import Literal

from rimecrest.core.identities import SeatId
from rimecrest.core.model import Record, parse_record
from rimecrest.core.release.audience import Assignment


class Receipt(Record):
    """One report. `at` is an ISO 8601 time in UTC; `reason` a sentence when it failed."""

    seat: SeatId
    release: int
    state: Literal["applied", "failed"]
    at: str
    reason: str = ""
    told: int = 0
    """Running applications that took it over at once."""
    assigned: Assignment | None = None
    """What the seat had of the release: its stack, keyboard, desktop."""


def parse_receipt(text: str, where: str) -> Receipt:
    """Read a receipt. Raises BrokenFile or NewerFormat."""
    return parse_record(Receipt, text, "receipt", where)
