"""The stack of layers that a window shows, with the colleague's own changes over it."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.release.stack import StackState
from rimecrest.kit.personal.own_macros import OwnMacros
from rimecrest.kit.personal.personal_layout import PersonalLayout


class ShownStack:
    """A release or a draft, together with what the colleague changed and recorded in this window.

    Args:
        show: draws a stack and returns its outcome. May raise whatever a broken layout raises.
    """

    def __init__(
        self,
        catalogue: Catalogue,
        personal: PersonalLayout,
        own_macros: OwnMacros,
        show: Callable[[StackState], Outcome],
    ) -> None:
        self.catalogue = catalogue
        self.personal = personal
        self.own_macros = own_macros
        self.state = StackState(app=catalogue.app)
        self.draft = False
        """Whether the studio is trying a draft here."""
        self._show = show

    def use(self, state: StackState) -> Outcome:
        """Show another stack."""
        self.state = self.own_macros.over(self.personal.over(state.followed(self.catalogue)))
        return self._show(self.state)

    def again(self) -> Outcome:
        """Show the same stack after the colleague changed something of their own."""
        return self.use(self.state)
