"""Colours of a picture that are the scheme's: they are others on the dark one.

In an SVG such a shape has the token as its `class` and the light scheme's value as its `fill`; what has no
colour of its own is filled with `currentColor`.
"""

from __future__ import annotations

import re

INK = "ink"
PAINTS: dict[str, tuple[str, str]] = {
    "crest": ("#14657A", "#5FB9CF"),
    "asks": ("#A8480A", "#F0A35E"),
    "blocks": ("#B3213B", "#F792A2"),
    "good": ("#2C7A4B", "#6CC48F"),
    "slate": ("#3E4C59", "#A3B4C2"),
}
"""Token → its value in the light and in the dark scheme (a test holds them to the schemes)."""
_MARKED = re.compile(rb'fill="#[0-9A-Fa-f]{6}" class="([a-z]+)"')


def as_written(colour: str) -> str:
    """The attributes of a shape in that colour: a token, or a value like `#A8480A`."""
    if colour == INK:
        return 'fill="currentColor"'
    if colour in PAINTS:
        return f'fill="{PAINTS[colour][0]}" class="{colour}"'
    return f'fill="{colour}"'


def in_scheme(svg: bytes, ink: str, dark: bool) -> bytes:
    """The SVG with the scheme's colours put in."""

    def value(found: re.Match[bytes]) -> bytes:
        paints = PAINTS.get(found[1].decode())
        return f'fill="{paints[dark]}"'.encode() if paints else found[0]

    return _MARKED.sub(value, svg).replace(b"currentColor", ink.encode())
