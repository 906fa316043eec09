"""What every surface needs to draw itself: the scheme, the pictures, the key of each item."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct, field

from rimecrest.core.layout.seen import SeenButton
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import LIGHT, Scheme

Target = tuple[str | None, tuple[tuple[str, str], ...]]


class Painting(Struct):
    """Shared by all widgets of one frame."""

    scheme: Scheme = LIGHT
    pictures: PictureBook = field(default_factory=PictureBook)
    keys: Mapping[Target, str] = field(default_factory=dict)
    """Target -> the key that is shown for it."""
    all_keys: Mapping[Target, list[str]] = field(default_factory=dict)
    """Target -> every key that runs it."""

    def tooltip(self, item: SeenButton) -> str:
        """Name, purpose, hotkey: as plain text, one line each."""
        lines = [item.label] if item.label else []
        if item.tip and item.tip != item.label:
            lines.append(item.tip)
        if keys := self.keys.get(item.target):
            lines.append(f"Key: {keys}")
        return "\n".join(lines)
