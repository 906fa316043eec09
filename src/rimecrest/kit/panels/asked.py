"""What a macro asks, before anybody shows it: one question, or a whole panel."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from msgspec import Struct

from rimecrest.core.layout.seen import SeenPanel
from rimecrest.surfaces.panel_controls import Choices, entries_of


class Asked(Struct, frozen=True):
    """One question: a list where there are choices, else a field.

    `here` tells what is pointed at now, where that is the answer.
    """

    prompt: str
    choices: tuple[str, ...]
    default: str
    here: Callable[[], object] | None = None
    is_date: bool = False
    """Whether a day is asked, as 2026-11-26."""


class AskedPanel(Struct, frozen=True):
    """A panel as a question: what it shows, and what stands in it now, by identity."""

    panel: SeenPanel
    values: Mapping[str, str]

    def questions(self, choices: Choices) -> dict[str, Asked]:
        """Identity → what is asked, for whoever cannot show the panel itself."""
        found = {}
        for item in self.panel.controls():
            if item.holds_value:
                entries = ("yes", "no") if item.kind == "tick" else tuple(entries_of(item, choices))
                found[item.id] = Asked(item.caption, entries, self.values.get(item.id, item.value))
        return found
