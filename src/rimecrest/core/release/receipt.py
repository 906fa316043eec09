"""Receipts: what a seat reports back."""

from __future__ import annotations

from typing import Literal

from rimecrest.core.model import Record, parse_record


class Receipt(Record):
    """One report. `at` is an ISO 8601 time in UTC; `reason` a sentence when it failed."""

    seat: str
    release: int
    state: Literal["applied", "failed"]
    at: str
    reason: str = ""
    told: int = 0
    """Running applications that took it over at once."""


def parse_receipt(text: str, where: str) -> Receipt:
    """Read a receipt. Raises BrokenFile or NewerFormat."""
    return parse_record(Receipt, text, "receipt", where)
