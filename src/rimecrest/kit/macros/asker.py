"""Interface for asking the colleague the questions of a macro."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol

from rimecrest.kit.panels.asked import Asked, AskedPanel

Answered = Callable[[tuple[str, ...] | None], None]
Allowed = Callable[[bool, bool], None]
Filled = Callable[[Mapping[str, str] | None], None]


class Asker(Protocol):
    """Whoever asks the colleague what a macro asks: a dialog, or the studio over the link."""

    def ask(self, macro: str, title: str, questions: tuple[Asked, ...], answered: Answered) -> None:
        """Ask; `answered` gets the answers in order once, or None when the colleague cancelled."""
        ...

    def ask_panel(self, macro: str, panel: AskedPanel, answered: Filled) -> None:
        """Ask with a panel; `answered` gets the answers by identity, or None when the colleague cancelled."""
        ...

    def ask_leave(self, macro: str, words: str, may_last: bool, answered: Allowed) -> None:
        """Ask whether a macro may do something outside; `words` go on behind “… wants to”.

        `answered` gets whether it may, once, and whether that is to last.
        """
        ...

    def cancel(self) -> None:
        """Take back what is asked, as the colleague's own Cancel would."""
        ...
