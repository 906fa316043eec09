"""A recording: what was done, as steps that read well and do the same again.

It is a value: every event makes the next recording. What it keeps to:

1. typed text is one step as long as the cursor only goes on with it; what was taken back with Backspace is
   out of it again;
2. a command is kept with the settings that were reached, never as a switch that turns over;
3. undo takes the steps out that it takes back, redo puts them in again;
4. what cannot be done again is a line that says so, never silently missing.

The recorder in the application says what happened; this module knows no window and no document.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.catalogue.catalogue import Command
from rimecrest.core.macro.steps import (
    Ask,
    Comment,
    Do,
    Header,
    Macro,
    Run,
    Setting,
    Statement,
    WriteText,
)

LOST = "Not recorded: "
"""Begins a line for something that a macro cannot do again."""
_BARE = re.compile(r"-?[0-9]+(\.[0-9]+)?\Z|[a-z][a-z0-9]*(-[a-z0-9]+)*\Z")
_QUOTED = (ArgumentType.TEXT, ArgumentType.PATH, ArgumentType.COLOUR, ArgumentType.ADDRESS)


def literal(text: str) -> str:
    """Text that is meant as it stands: braces are doubled, so that they name nothing."""
    return text.replace("{", "{{").replace("}", "}}")


def step_of(command: Command, args: Mapping[str, str]) -> Do:
    """The step that performs a command with these settings; those that are its defaults are left out."""
    settings = []
    for name, value in args.items():
        argument = command.argument(name)
        if argument is not None and argument.default == value and argument.type is not ArgumentType.SWITCH:
            continue
        quoted = argument is None or argument.type in _QUOTED or not _BARE.match(value)
        settings.append(Setting(name, literal(value) if quoted else value, quoted))
    return Do(command.verb, tuple(settings))


def _split_text(text: str) -> tuple[str, str]:
    """A text up to its last {name}, and the plain text behind it."""
    end = 0
    for found in re.finditer(r"\{\{|\}\}|\{[^{}]*\}", text):
        if found[0] not in ("{{", "}}"):
            end = found.end()
    return text[:end], text[end:].replace("{{", "{").replace("}}", "}")


class Recording(Struct, frozen=True):
    """The steps so far.

    `open_text`: whether the last one is a text that typing may go on with; `replaces`: whether that text took
    the place of something, so that even an empty one does.
    """

    steps: tuple[Statement, ...] = ()
    open_text: bool = False
    replaces: bool = False

    def typed(self, text: str, replaces: bool = False) -> Recording:
        """Text was typed or pasted; `replaces`: in place of something that was there."""
        last = self.steps[-1] if self.steps else None
        if self.open_text and isinstance(last, WriteText) and not replaces:
            return replace(self, steps=(*self.steps[:-1], WriteText(last.text + literal(text))))
        return Recording((*self.steps, WriteText(literal(text))), True, replaces)

    def took_back(self, count: int, inherits_look: bool = False) -> Recording | None:
        """So many characters were taken away before the cursor; None: not of what was just typed.

        `inherits_look`: what is typed looks as what it took the place of. With its last character that look
        is gone, so taking it away is a step of its own.
        """
        last = self.steps[-1] if self.steps else None
        if not self.open_text or not isinstance(last, WriteText) or count < 1:
            return None
        fixed, text = _split_text(last.text)
        if count > len(text):
            return None
        left = fixed + literal(text[: len(text) - count])
        if not left and not self.replaces:
            return Recording(self.steps[:-1], False)
        if not left and inherits_look:
            return None
        return replace(self, steps=(*self.steps[:-1], WriteText(left)))

    def closed(self) -> Recording:
        """Typing that follows is a step of its own."""
        return Recording(self.steps)

    def dropped_text(self) -> Recording:
        """What was written last was dropped as a whole."""
        last = self.steps[-1] if self.steps else None
        if self.open_text and isinstance(last, WriteText):
            return Recording(self.steps[:-1], False)
        return self

    def did(self, command: Command, args: Mapping[str, str]) -> Recording:
        """A command was performed with these settings."""
        return Recording((*self.steps, step_of(command, args)))

    def ran(self, macro: str) -> Recording:
        """Another macro was run."""
        return Recording((*self.steps, Run(macro)))

    def lost(self, sentence: str) -> Recording:
        """Something happened that a macro cannot do again."""
        return Recording((*self.steps, Comment(comment=LOST + sentence)))

    def without_last(self) -> Recording:
        """The last step struck out."""
        return Recording(self.steps[:-1])

    def asking(self, name: str = "") -> Recording:
        """The last text that was written or given is asked for from now on.

        A text that was written, or the first text among a command's settings, becomes the default of a
        question. Without one the recording stays as it is.
        """
        made = asking(self.steps, len(self.steps) - 1, name)
        return self if made is None else replace(self, steps=made)

    def macro(self, name: str, app: str) -> Macro:
        """The recording as a macro."""
        head = (Header("macro", name), Header("about", ""), Header("for", app), Comment())
        return Macro(head, self.steps)


def asking(steps: tuple[Statement, ...], at: int, name: str = "") -> tuple[Statement, ...] | None:
    """The steps with a question for the text of the step `at`; None when it has none."""
    if not 0 <= at < len(steps):
        return None
    step = steps[at]
    taken = {each.name for each in steps if isinstance(each, Ask)}
    if isinstance(step, WriteText):
        name = free_name(name or "text", taken)
        question = Ask(name, "What to write?", default=step.text)
        made: Statement = replace(step, text=f"{{{name}}}")
    elif isinstance(step, Do):
        found = next((setting for setting in step.settings if setting.quoted), None)
        if found is None:
            return None
        name = free_name(name or found.name, taken)
        question = Ask(name, f"Which {found.name}?", default=found.value)
        settings = tuple(
            replace(setting, value=f"{{{name}}}") if setting is found else setting
            for setting in step.settings
        )
        made = replace(step, settings=settings)
    else:
        return None
    return (*steps[:at], question, made, *steps[at + 1 :])


def free_name(name: str, taken: set[str]) -> str:
    """The name, or with a number behind it when it is taken."""
    if name not in taken:
        return name
    number = 2
    while f"{name}-{number}" in taken:
        number += 1
    return f"{name}-{number}"
