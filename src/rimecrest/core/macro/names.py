"""`{names}` in text: finding them, and filling them in."""

from __future__ import annotations

import re
from collections.abc import Mapping

_PART = re.compile(r"\{\{|\}\}|\{([^{}]*)\}")


def names_in(text: str) -> list[str]:
    """The names that a text refers to, in order. `{{` and `}}` stand for plain braces."""
    return [match[1].strip() for match in _PART.finditer(text) if match[1] is not None]


def fill(text: str, values: Mapping[str, str]) -> str:
    """The text with every name replaced by its value. A name without a value stays as it is."""

    def value(match: re.Match[str]) -> str:
        if match[1] is None:
            return match[0][0]
        return values.get(match[1].strip(), match[0])

    return _PART.sub(value, text)
