"""How findings, verdicts and suggestions count and list things."""

from __future__ import annotations

from collections.abc import Iterable


def listed(names: Iterable[str], most: int = 3) -> str:
    """“A, B and C”, or “A, B, C and 4 more”."""
    found = list(dict.fromkeys(names))
    if len(found) > most:
        return f"{', '.join(found[:most])} and {len(found) - most} more"
    return " and ".join([", ".join(found[:-1]), found[-1]] if len(found) > 1 else found)


def counted(number: int, what: str) -> str:
    """“1 seat”, “7 seats”."""
    return f"1 {what}" if number == 1 else f"{number:,} {what}s"
