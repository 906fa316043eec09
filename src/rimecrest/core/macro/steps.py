"""The steps of a macro as values: what the parser makes, the checker reads and the formatter writes.

Text is kept as people mean it (`\\n` is a new line), settings as they are written (`yes`, `12`, `centre`).
`line` counts from 1 and takes no part in comparing.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing wrong with a macro. Lines and columns count from 1."""

    line: int
    column: int
    reason: str
    way_out: str = ""

    def __str__(self) -> str:
        return f"line {self.line}, column {self.column}: {self.reason}. {self.way_out}".strip()


@dataclass(frozen=True, slots=True)
class Setting:
    """A named argument. `quoted`: written as text in quotes, where `{names}` count."""

    name: str
    value: str
    quoted: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    muted: bool = False
    comment: str = ""
    line: int = field(default=0, compare=False)
    column: int = field(default=1, compare=False)


@dataclass(frozen=True, slots=True)
class Do(Step):
    """Perform a command of the application, named by its verb."""

    command: str
    settings: tuple[Setting, ...] = ()


@dataclass(frozen=True, slots=True)
class WriteText(Step):
    """Write text at the cursor, as if typed."""

    text: str


@dataclass(frozen=True, slots=True)
class Ask(Step):
    """Ask the colleague and remember the answer as `name`."""

    name: str
    prompt: str
    choices: tuple[str, ...] = ()
    reading: str = ""
    default: str | None = None


@dataclass(frozen=True, slots=True)
class Say(Step):
    """Show a sentence in the status line."""

    text: str


@dataclass(frozen=True, slots=True)
class Stop(Step):
    """End here and keep what was done; with a text, say it."""

    text: str | None = None


@dataclass(frozen=True, slots=True)
class Part(Step):
    """A named run of steps, for the eye. A muted part mutes all in it."""

    title: str
    steps: tuple[Statement, ...] = ()
    end_comment: str = ""


@dataclass(frozen=True, slots=True)
class Comment(Step):
    """A line of its own: a comment, a lone `~`, or, with no words, an empty line."""


Statement = Do | WriteText | Ask | Say | Stop | Part | Comment


@dataclass(frozen=True, slots=True)
class Need(Step):
    """What has to be so before the first step: a live context, or a reading that is not empty."""

    context: str = ""
    reading: str = ""
    say: str | None = None


@dataclass(frozen=True, slots=True)
class Header(Step):
    """A line that says what the macro is: its word and its value."""

    word: str
    value: str = ""


@dataclass(frozen=True, slots=True)
class Macro:
    """A whole `.steps` file: the head in the order it was written, then the steps."""

    head: tuple[Header | Need | Comment, ...] = ()
    steps: tuple[Statement, ...] = ()

    def _value(self, word: str) -> str:
        return next((h.value for h in self.head if isinstance(h, Header) and h.word == word), "")

    @property
    def name(self) -> str:
        return self._value("macro")

    @property
    def about(self) -> str:
        return self._value("about")

    @property
    def application(self) -> str:
        return self._value("for")

    @property
    def needs(self) -> tuple[Need, ...]:
        return tuple(line for line in self.head if isinstance(line, Need))

    @property
    def companions(self) -> tuple[str, ...]:
        return tuple(h.value for h in self.head if isinstance(h, Header) and h.word == "with")

    @property
    def unfinished(self) -> bool:
        return any(isinstance(line, Header) and line.word == "unfinished" for line in self.head)

    def live_steps(self) -> Iterator[Statement]:
        """All steps that run, those in parts included, in order."""
        yield from _live(self.steps)


def _live(steps: tuple[Statement, ...]) -> Iterator[Statement]:
    for step in steps:
        if step.muted:
            continue
        yield step
        if isinstance(step, Part):
            yield from _live(step.steps)
