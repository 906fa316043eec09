"""Whom a run of a macro works with: the documents, who carries its steps out, who asks the colleague."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Protocol

from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.embed.asked import Asked, AskedPanel
from rimecrest.embed.declare import Declared
from rimecrest.embed.leaving import Wants


class Carrier(Protocol):
    """Whoever carries out what a run wants done: the dispatcher of the window.

    Each method raises RimecrestError when it cannot be done.
    """

    app: str

    def ready(self, run: str, args: Mapping[str, str]) -> Declared: ...
    def carry_out(self, declared: Declared, args: Mapping[str, str]) -> None: ...
    def write_in_run(self, text: str) -> None: ...
    def read(self, name: str) -> Any: ...
    def live(self) -> frozenset[str]: ...
    def find_macro(self, identity: str) -> MacroFile | None: ...
    def panel(self, name: str) -> AskedPanel: ...
    def fill_panel(self, name: str, answers: Mapping[str, str]) -> None: ...
    def ring(self) -> None: ...
    def wants(self, declared: Declared, args: Mapping[str, str]) -> Wants | None: ...
    def agreed(self, file: MacroFile, lasting: str) -> bool: ...
    def agree(self, file: MacroFile, lasting: str) -> None: ...


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
