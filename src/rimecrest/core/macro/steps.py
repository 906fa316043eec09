"""The steps of a macro as values: what the parser makes, the checker reads and the formatter writes.

Text is kept as people mean it (`\\n` is a new line), settings as they are written (`yes`, `12`, `centre`).
`line` counts from 1 and takes no part in comparing.
"""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from rimecrest.core.macro.expressions import Expression
from rimecrest.core.values import PartlyCompared

WORDS = (
    *("form", "set", "if", "else", "repeat", "while", "run"),
    *("macro", "about", "for", "needs", "with", "unfinished"),
    *("do", "write", "ask", "part", "say", "stop", "end"),
)
"""What a line that people write begins with (`steps.lark`)."""
RANGE = "chosen.range"
"""The reading that tells what is pointed at, with the part of the document that it is in."""


class Fault(Struct, frozen=True):
    """One thing wrong with a macro. Lines and columns count from 1."""

    line: int
    column: int
    reason: str
    way_out: str = ""
    kind: str = ""
    """`reach` for a path that no colleague can reach; empty for all others."""
    wrong: str = ""
    """A misspelt name in that line, if that is the fault."""
    meant: str = ""
    """The name that was probably meant instead."""

    def __str__(self) -> str:
        return f"line {self.line}, column {self.column}: {self.reason}. {self.way_out}".strip()


class Setting(Struct, frozen=True):
    """A named argument. `quoted`: written as text in quotes, where `{names}` count."""

    name: str
    value: str
    quoted: bool = False


class Step(PartlyCompared, frozen=True, kw_only=True):
    """One step. Two that say the same are equal wherever they stand."""

    aside = frozenset({"line", "column"})

    muted: bool = False
    comment: str = ""
    line: int = 0
    column: int = 1


class Do(Step, frozen=True):
    """Perform a command of the application, named by its verb."""

    command: str
    settings: tuple[Setting, ...] = ()


class WriteText(Step, frozen=True):
    """Write text at the cursor, as if typed."""

    text: str


class Ask(Step, frozen=True):
    """Ask the colleague and remember the answer as `name`; `range`: by pointing at it."""

    name: str
    prompt: str
    choices: tuple[str, ...] = ()
    reading: str = ""
    default: str | None = None
    range: bool = False


class AskPanel(Step, frozen=True):
    """Open a panel as a question; its readings tell the answers."""

    panel: str


class Say(Step, frozen=True):
    """Show a sentence in the status line; `aloud`: with the desktop's sound."""

    text: str
    aloud: bool = False


class Stop(Step, frozen=True):
    """End here and keep what was done; with a text, say it; `aloud`: with the desktop's sound."""

    text: str | None = None
    aloud: bool = False


class Set(Step, frozen=True):
    """Remember a value as `name`."""

    name: str
    value: Expression


class Run(Step, frozen=True):
    """Run another macro, by its id, as steps of this one."""

    macro: str


class Block(Step, frozen=True, kw_only=True):
    """A step with steps in it, closed by `end`. A muted block mutes all in it."""

    steps: tuple[Statement, ...] = ()
    end_comment: str = ""


class Part(Block, frozen=True):
    """A named run of steps, for the eye."""

    title: str


class Form(Block, frozen=True):
    """Several questions on one form; only `ask` stands in it."""

    title: str


class If(Block, frozen=True):
    """Steps for when a condition holds; `otherwise` those behind `else`, None without one."""

    condition: Expression
    otherwise: tuple[Statement, ...] | None = None
    else_comment: str = ""


class Repeat(Block, frozen=True):
    times: Expression


class ForEach(Block, frozen=True):
    """Once for each entry of a list: a reading, or a name that holds one."""

    name: str
    reading: str


class While(Block, frozen=True):
    """As long as a condition holds, at most `limit` times; reaching the limit is a failure."""

    condition: Expression
    limit: int


class Comment(Step, frozen=True):
    """A line of its own: a comment, a lone `~`, or, with no words, an empty line."""


Asking = Ask | AskPanel | Form
"""What the colleague is asked."""
Statement = Do | WriteText | Asking | Set | If | Repeat | ForEach | While | Run | Say | Stop | Part | Comment


class Need(Step, frozen=True):
    """What has to be so before the first step: a live context, or a reading that is not empty."""

    context: str = ""
    reading: str = ""
    say: str | None = None


class Header(Step, frozen=True):
    """A line that says what the macro is: its word and its value."""

    word: str
    value: str = ""


class Signed(Step, frozen=True):
    """Who outside made the macro: their name, public key and signature of the other lines, in hexadecimal."""

    maker: str
    key: str
    signature: str


class Renamed(Step, frozen=True):
    """What the maker called otherwise before the macro was taken in here (`workspace.rewriting`)."""

    old: str
    new: str


HeadLine = Header | Need | Signed | Renamed | Comment


class Macro(Struct, frozen=True):
    """A whole `.steps` file: the head in the order it was written, then the steps."""

    head: tuple[HeadLine, ...] = ()
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

    @property
    def from_outside(self) -> bool:
        """Whether it says that somebody outside made it."""
        return any(isinstance(line, Signed | Renamed) for line in self.head)

    def live_steps(self) -> Iterator[Statement]:
        """All steps that are not muted, those in blocks included, in the order they are written."""
        yield from _live(self.steps)


def _live(steps: tuple[Statement, ...]) -> Iterator[Statement]:
    for step in steps:
        if step.muted:
            continue
        yield step
        if isinstance(step, Block):
            yield from _live(step.steps)
        if isinstance(step, If) and step.otherwise:
            yield from _live(step.otherwise)
