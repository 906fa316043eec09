"""Which seats have which layers together, so that only what really meets is held against one another."""

from __future__ import annotations

from functools import cached_property, lru_cache

from rimecrest.core.layout import BUILT_IN
from rimecrest.core.workspace.workspace import Workspace


class Audience:
    """The seats of a workspace, gathered by stack and keyboard."""

    def __init__(self, workspace: Workspace) -> None:
        self._profiles: dict[tuple[frozenset[str], str], list[str]] = {}
        for seat in workspace.people:
            layers = frozenset((BUILT_IN, *workspace.stack_of(seat)))
            self._profiles.setdefault((layers, seat.keyboard), []).append(seat.seat)
        if not self._profiles:
            # Nobody is listed yet: every layer is checked above the organisation's.
            for layer in workspace.layers:
                layers = frozenset((BUILT_IN, *workspace.stack_up_to(layer)))
                self._profiles.setdefault((layers, ""), [])
        self._seats = lru_cache(maxsize=None)(self._find_seats)

    @cached_property
    def keyboards(self) -> tuple[str, ...]:
        return tuple(sorted({keyboard for _, keyboard in self._profiles}))

    def seats(
        self, layers: frozenset[str], keyboards: frozenset[str] | None = None
    ) -> tuple[str, ...] | None:
        """Seats that have all these layers, on one of these keyboards (None = any).

        Returns:
            None when no seat has them together; an empty tuple when nobody is listed yet.
        """
        return self._seats(layers, keyboards)

    def _find_seats(self, layers: frozenset[str], keyboards: frozenset[str] | None) -> tuple[str, ...] | None:
        found = [
            names
            for (stack, keyboard), names in self._profiles.items()
            if layers <= stack and (keyboards is None or keyboard in keyboards)
        ]
        return tuple(name for names in found for name in names) if found else None
