"""How sentences count, list and say whose something is, wherever they are made."""

from __future__ import annotations

from collections.abc import Iterable


def listed(names: Iterable[str], most: int = 3) -> str:
    """“A, B and C”, or “A, B, C and 4 more”."""
    found = list(dict.fromkeys(names))
    if len(found) > most:
        return f"{', '.join(found[:most])} and {len(found) - most} more"
    return " and ".join([", ".join(found[:-1]), found[-1]] if len(found) > 1 else found)


def counted(number: int, one: str, many: str = "") -> str:
    """“1 seat”, “7 seats”; `many` where it is not made with an s."""
    return f"1 {one}" if number == 1 else f"{number:,} {many or one + 's'}"


def owned(name: str) -> str:
    """“Freight desk’s”, “Quay offices’”: a plural has the apostrophe alone."""
    return f"{name}’" if name.endswith("s") else f"{name}’s"
