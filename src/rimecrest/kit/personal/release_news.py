"""What a release brought, said once: at once while a window is open, else when the next one opens."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.bindings import PERSONAL
from rimecrest.core.layout.compare import Difference, changed_macros, compare, lost_first
from rimecrest.core.layout.faces import Face, Targets
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.log import log
from rimecrest.core.release.stack import StackState
from rimecrest.kit.personal.news import NewsLine

if TYPE_CHECKING:  # an application without a profile starts without it
    from rimecrest.core.release.profile import Profile


class _Unread(Struct, frozen=True):
    """What a window had before the news that it shows, the faces of all macros, and what was written."""

    stack: StackState
    outcome: Outcome | None
    macros: Mapping[str, Face]
    news: tuple[str, ...]

    def and_then(self, later: _Unread) -> _Unread:
        """Combine both: from what this window had to what came last."""
        return replace(self, macros={**self.macros, **later.macros}, news=later.news + self.news)


class ReleaseNews:
    """Tells in a window's line what is new; the profile keeps what has been told."""

    def __init__(self, catalogue: Catalogue, profile: Profile | None, line: NewsLine) -> None:
        self._catalogue = catalogue
        self._profile = profile
        self._line = line
        self._unread: _Unread | None = None

    def tell(
        self,
        state: StackState,
        earlier: StackState,
        before: Outcome | None,
        after: Outcome,
        macros: Mapping[str, Face],
    ) -> list[str]:
        """Say what is new in this application between two outcomes.

        Earlier news that is still on the screen stays behind it, as far as it still holds.

        Args:
            earlier: the stack of the first outcome.
            macros: the faces of the macros of both.

        Returns:
            The sentences, losses and changed keys first; none if nothing changed here.
        """
        new = _Unread(earlier, before, macros, (state.news,) if state.news else ())
        sentences = self._since(new, state, after)
        if sentences:
            if self._unread is not None and not self._line.isHidden():
                new = self._unread.and_then(new)
            self._unread = new
            self._line.tell(list(dict.fromkeys([*sentences, *self._since(new, state, after)])))
        self._shown(state)
        return sentences

    def _since(self, had: _Unread, state: StackState, after: Outcome) -> list[str]:
        differences = compare(had.outcome, after, Targets(self._catalogue, had.macros)) if had.outcome else []
        differences += changed_macros(self._texts(had.stack), self._texts(state), self._names(state))
        return self._sentences(had.news, differences)

    def _texts(self, state: StackState) -> dict[str, str]:
        """The shared macros that are for this application, by id."""
        files = state.macro_files()
        return {
            name: kept.text
            for name, kept in state.macros.items()
            if kept.layer != PERSONAL and files[name].macro.application in ("", self._catalogue.app)
        }

    @staticmethod
    def _names(state: StackState) -> dict[str, str]:
        return {name: file.name for name, file in state.macro_files().items()}

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
            earlier = self._profile.stack_told(self._catalogue.app).followed(self._catalogue)
        except RimecrestError as error:
            log.warning("news left out", reason=str(error))
            return
        known = {name: file.face for name, file in earlier.macro_files().items()}
        self.tell(state, earlier, earlier.outcome(self._catalogue), now, {**known, **macros})

    @staticmethod
    def _sentences(news: tuple[str, ...], differences: list[Difference]) -> list[str]:
        """What was lost and which keys changed, what the specialist wrote, then the rest.

        If nothing changed in this application, that is about another one.
        """
        if not differences:
            return []
        first = [each for each in lost_first(differences) if each.lost or each.kind == "key"]
        rest = [each for each in differences if each not in first]
        told = [each.sentence for each in first] + [*news] + [each.sentence for each in rest]
        written = " ".join(news)
        return list(dict.fromkeys(words for words in told if words in news or words not in written))

    def _shown(self, state: StackState) -> None:
        if self._profile is not None and state.release:
            try:
                self._profile.news_shown(self._catalogue.app, state.release)
            except RimecrestError as error:
                log.warning("news will be told again", reason=str(error))
