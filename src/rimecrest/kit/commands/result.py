"""What a command answers."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct, field


class CommandResult(Struct, frozen=True):
    """What a command answers when it settled its arguments itself, by asking or by looking.

    The recorder keeps these instead of what was given. `verb`: another command that does the same with these
    arguments, whatever the clipboard holds then. `text`: it wrote this text, as typing would have. `lost`:
    what of it a macro cannot do again, as a sentence. `says`: what came of it, for who did it by hand.
    `done`: whether anything was done; not where a question was given up, or something is only shown.
    """

    args: Mapping[str, str] = field(default_factory=dict)
    verb: str = ""
    text: str | None = None
    lost: str = ""
    says: str = ""
    done: bool = True

    @staticmethod
    def switch(reached: bool) -> CommandResult:
        """The state that a switch called `on` reached."""
        return CommandResult({"on": "yes" if reached else "no"})


NOT_DONE = CommandResult(done=False)
"""The answer of a command that did nothing in the end: it is neither recorded nor counted."""
