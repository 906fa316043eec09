"""What a release brought, said once: at once while a window is open, else when the next one opens."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout import Outcome
from rimecrest.core.layout.compare import Difference, compare, lost_first, whats_new
from rimecrest.core.layout.faces import Face, Targets
from rimecrest.core.log import log
from rimecrest.core.release import StackState
from rimecrest.embed.news import NewsLine

if TYPE_CHECKING:  # an application without a profile starts without it
    from rimecrest.core.release import Profile

LOST_TOLD = 3
"""Things lost or moved that are told one by one, before the news itself."""


class ReleaseNews:
    """Tells in a window's line what is new; the profile keeps what has been told."""

    def __init__(self, catalogue: Catalogue, profile: Profile | None, line: NewsLine) -> None:
        self._catalogue = catalogue
        self._profile = profile
        self._line = line

    def tell(
        self, state: StackState, before: Outcome | None, after: Outcome, macros: Mapping[str, Face]
    ) -> str:
        """Say what is new between two outcomes. Returns the sentence; empty when there is nothing to say.

        Args:
            macros: the faces of the macros of both.
        """
        targets = Targets(self._catalogue, macros)
        differences = compare(before, after, targets) if before is not None else []
        sentence = self._sentence(state.news, differences)
        if sentence:
            self._line.tell(sentence)
        self._shown(state)
        return sentence

    def tell_owed(self, state: StackState, now: Outcome, macros: Mapping[str, Face]) -> None:
        """Say what the installed release brought, where it came while no window was open."""
        if self._profile is None:
            return
        try:
            installed = self._profile.installed()
            if installed is None or installed.release != state.release:
                return  # What counts could not be used, and is not shown.
            if not self._profile.owes_news(self._catalogue.app):
                return
            earlier = self._profile.stack_before(self._catalogue.app).followed(self._catalogue)
        except RimecrestError as error:
            log.warning("news left out", reason=str(error))
            return
        known = {name: file.face for name, file in earlier.macro_files().items()}
        self.tell(state, earlier.outcome(self._catalogue), now, {**known, **macros})

    @staticmethod
    def _sentence(news: str, differences: list[Difference]) -> str:
        """The news, after whatever was lost or moved and is not told in it."""
        if not news:
            return whats_new(differences) if differences else ""
        lost = [each.sentence for each in lost_first(differences) if each.lost and each.sentence not in news]
        return " ".join([*lost[:LOST_TOLD], news])

    def _shown(self, state: StackState) -> None:
        if self._profile is not None and state.release:
            try:
                self._profile.news_shown(self._catalogue.app, state.release)
            except RimecrestError as error:
                log.warning("news will be told again", reason=str(error))
