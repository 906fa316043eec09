"""From the text of a `.steps` file to its steps. Every line is read, so that all faults are told at once."""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path
from typing import Any, cast

from lark import Lark, Token, Transformer, UnexpectedInput
from lark import __version__ as lark_version
from lark.exceptions import VisitError
from msgspec import Struct, field
from msgspec.structs import replace

from rimecrest.core.macro.bounds import (
    DEEPEST,
    DEEPEST_EXPRESSION,
    LONGEST_MACRO,
    LONGEST_TEXT,
    MOST_STEPS,
)
from rimecrest.core.macro.expressions import Binary, Flag, Name, Number, Text, Unary, depth_of
from rimecrest.core.macro.format import step_text
from rimecrest.core.macro.steps import (
    Ask,
    AskPanel,
    Block,
    Comment,
    Do,
    Fault,
    ForEach,
    Form,
    Header,
    HeadLine,
    If,
    Macro,
    Need,
    Part,
    Renamed,
    Repeat,
    Run,
    Say,
    Set,
    Setting,
    Signed,
    Statement,
    Stop,
    While,
    WriteText,
)
from rimecrest.core.macro.unreadable import unreadable
from rimecrest.core.own_cache import kept_as
from rimecrest.core.words import tr

_ESCAPED = re.compile(r'\\(["\\n])')


class _End:
    """The line that closes a block."""


class _Else:
    """The line between the two halves of an `if`."""


class _Open(Struct):
    """A block that is not closed yet, and the steps it has so far."""

    block: Block
    steps: list[Statement] = field(default_factory=list)
    otherwise: list[Statement] | None = None
    else_comment: str = ""

    @property
    def target(self) -> list[Statement]:
        return self.steps if self.otherwise is None else self.otherwise

    def closed(self, end_comment: str) -> Statement:
        block = replace(self.block, steps=tuple(self.steps), end_comment=end_comment)
        if isinstance(block, If) and self.otherwise is not None:
            block = replace(block, otherwise=tuple(self.otherwise), else_comment=self.else_comment)
        return cast(Statement, block)


class _Lines(Transformer[Token, Any]):
    """Turns the tree of one line into a step."""

    def start(self, children: list[Any]) -> tuple[Any, str]:
        comment = ""
        if children and isinstance(children[-1], Token) and children[-1].type == "COMMENT":
            comment = _comment(children.pop())
        return (children[0] if children else None), comment

    def macro(self, children: list[Any]) -> Header:
        return Header("macro", _text(children[0]))

    def about(self, children: list[Any]) -> Header:
        return Header("about", _text(children[0]))

    def application(self, children: list[Any]) -> Header:
        return Header("for", str(children[0]))

    def companion(self, children: list[Any]) -> Header:
        return Header("with", _text(children[0]))

    def unfinished(self, _children: list[Any]) -> Header:
        return Header("unfinished")

    def signed(self, children: list[Any]) -> Signed:
        return Signed(*map(_text, children))

    def renamed(self, children: list[Any]) -> Renamed:
        return Renamed(*map(_text, children))

    def need_context(self, children: list[Any]) -> Need:
        return Need(context=str(children[0]))

    def need_reading(self, children: list[Any]) -> Need:
        return Need(reading=str(children[0]))

    def needs(self, children: list[Any]) -> Need:
        need: Need = children[0]
        return replace(need, say=_text(children[1]) if len(children) > 1 else None)

    def do(self, children: list[Any]) -> Do:
        return Do(str(children[0]), tuple(children[1:]))

    def setting(self, children: list[Any]) -> Setting:
        value: Token = children[1].children[0]
        quoted = value.type == "TEXT"
        return Setting(str(children[0]), _text(value) if quoted else str(value), quoted)

    def write(self, children: list[Any]) -> WriteText:
        return WriteText(_text(children[0]))

    def ask(self, children: list[Any]) -> Ask:
        step = Ask(str(children[0]), _text(children[1]))
        for child in children[2:]:
            if isinstance(child, Token):
                step = replace(step, default=_text(child))
            elif child.data == "range_":
                step = replace(step, range=True)
            elif child.data == "choices":
                step = replace(step, choices=tuple(_text(token) for token in child.children))
            else:
                step = replace(step, reading=str(child.children[0]))
        return step

    def ask_panel(self, children: list[Any]) -> AskPanel:
        return AskPanel(_text(children[0]))

    def part(self, children: list[Any]) -> Part:
        return Part(_text(children[0]))

    def say(self, children: list[Any]) -> Say:
        return Say(_text(children[0]), len(children) > 1)

    def stop(self, children: list[Any]) -> Stop:
        text = next((_text(token) for token in children if token.type != "ALOUD"), None)
        return Stop(text, any(token.type == "ALOUD" for token in children))

    def muted(self, children: list[Any]) -> Any:
        return replace(children[1], muted=True) if len(children) > 1 else Comment(muted=True)

    def finish(self, _children: list[Any]) -> _End:
        return _End()

    def otherwise(self, _children: list[Any]) -> _Else:
        return _Else()

    def form(self, children: list[Any]) -> Form:
        return Form(_text(children[0]))

    def set(self, children: list[Any]) -> Set:
        return Set(str(children[0]), children[1])

    def if_(self, children: list[Any]) -> If:
        return If(children[0])

    def repeat(self, children: list[Any]) -> Repeat:
        return Repeat(children[0])

    def for_each(self, children: list[Any]) -> ForEach:
        return ForEach(str(children[0]), str(children[1]))

    def while_(self, children: list[Any]) -> While:
        return While(children[0], _whole(str(children[1])))

    def run(self, children: list[Any]) -> Run:
        return Run(_text(children[0]))

    # Expressions

    def number(self, children: list[Any]) -> Number:
        return Number(str(children[0]))

    def text(self, children: list[Any]) -> Text:
        return Text(_text(children[0]))

    def yes(self, _children: list[Any]) -> Flag:
        return Flag(True)

    def no(self, _children: list[Any]) -> Flag:
        return Flag(False)

    def name(self, children: list[Any]) -> Name:
        return Name(str(children[0]))

    def minus(self, children: list[Any]) -> Unary:
        return Unary("minus", children[1])

    def opposite(self, children: list[Any]) -> Unary:
        return Unary("not", children[0])

    def is_empty(self, children: list[Any]) -> Unary:
        return Unary("is empty", children[0])

    def either(self, children: list[Any]) -> Binary:
        return Binary("or", children[0], children[1])

    def both(self, children: list[Any]) -> Binary:
        return Binary("and", children[0], children[1])

    def contains(self, children: list[Any]) -> Binary:
        return Binary("contains", children[0], children[1])

    def compare(self, children: list[Any]) -> Binary:
        return Binary(str(children[1]), children[0], children[2])

    def calculate(self, children: list[Any]) -> Binary:
        return Binary(str(children[1]), children[0], children[2])


def _text(token: Token) -> str:
    return _ESCAPED.sub(lambda found: "\n" if found[1] == "n" else found[1], str(token)[1:-1])


_EXPRESSION_OF: dict[type, str] = {Set: "value", If: "condition", While: "condition", Repeat: "times"}


def expression_depth(step: Any) -> int:
    """How deep the expression of a step is nested; 0 for a step without one."""
    field = _EXPRESSION_OF.get(type(step))
    return depth_of(getattr(step, field)) if field else 0


def _comment(token: Token) -> str:
    return str(token)[1:].strip()


def _whole(digits: str) -> int:
    """A whole number; one that is far too large as one beyond every bound."""
    number = float(digits)
    return int(number) if number <= MOST_STEPS else MOST_STEPS + 1


@lru_cache(maxsize=1)
def _grammar() -> Lark:
    text = Path(__file__).with_name("steps.lark").read_text("utf-8")
    # Its tables take ten times as long to work out as to read. Lark looks whether they are of this grammar.
    kept = kept_as("steps-lark", lark_version)
    cache = str(kept) if kept is not None else False
    return Lark(text, parser="lalr", transformer=_Lines(), propagate_positions=False, cache=cache)


def _read_line(line: str) -> tuple[Any, str]:
    # With a transformer given, the parser's result is what `_Lines.start` returns.
    return cast(tuple[Any, str], _grammar().parse(line))


def parse_macro(text: str) -> tuple[Macro, list[Fault]]:
    """Read a macro.

    Returns:
        The macro, without the lines that could not be read, and a fault for each of those.
    """
    reading = _Reading()
    if len(text) > LONGEST_MACRO:
        reason = tr("A macro has at most {number:,} characters; the rest is not read", number=LONGEST_MACRO)
        reading.fault(1, 1, reason, tr("Make several macros of it."))
        text = text[:LONGEST_MACRO]
    for number, line in enumerate(text.replace("\r\n", "\n").split("\n"), 1):
        reading.take(line, number)
    return reading.ended(), reading.faults


class _Reading:
    """A macro as far as its lines have been read."""

    def __init__(self) -> None:
        self.faults: list[Fault] = []
        self._head: list[HeadLine] = []
        self._body: list[Statement] = []
        self._open: list[_Open] = []
        """The blocks that are not closed yet, the outer ones first."""
        self._blank = False
        """Whether the line before was empty."""
        self._too_deep = 0
        """How many blocks are open that are not counted any more."""

    def fault(self, line: int, column: int, reason: str, way_out: str) -> None:
        """Something cannot be read as it is written."""
        self.faults.append(Fault(line, column, reason, way_out))

    def take(self, line: str, number: int) -> None:
        """Read the next line."""
        if line.strip() in ("", "#"):
            self._blank = True
            return
        if self._blank and (self._head or self._in_steps):
            empty = Comment(line=number - 1)
            self._target().append(empty) if self._in_steps else self._head.append(empty)
        self._blank = False
        column = len(line) - len(line.lstrip()) + 1
        if len(line) > LONGEST_TEXT and line.lstrip()[0] != "#":
            reason = tr("A line has at most {number:,} characters", number=LONGEST_TEXT)
            self.fault(number, column, reason, tr("Write it in several steps."))
            return
        try:
            step, comment = _read_line(line)
        except (UnexpectedInput, VisitError) as error:
            self.faults.append(unreadable(error, line, number))
            return
        if isinstance(step, _End):
            self._end(number, column, comment)
        elif isinstance(step, _Else):
            self._else(number, column, comment)
        elif (fitting := self._shallow(step, number, column)) is not None:
            self._keep(replace(fitting, comment=comment, line=number, column=column))

    @property
    def _in_steps(self) -> bool:
        """Whether the head is over."""
        return bool(self._body or self._open)

    def _target(self) -> list[Statement]:
        """Where the next step goes."""
        return self._open[-1].target if self._open else self._body

    def _end(self, number: int, column: int, comment: str) -> None:
        if self._too_deep:
            self._too_deep -= 1
        elif self._open:
            block = self._open.pop().closed(comment)
            self._target().append(block)
        else:
            self.fault(number, column, "This “end” closes nothing", "Take it out.")

    def _else(self, number: int, column: int, comment: str) -> None:
        if self._too_deep:
            return
        now = self._open[-1] if self._open else None
        if now is None or not isinstance(now.block, If) or now.otherwise is not None:
            self.fault(number, column, "This “else” belongs to no “if”", "Take it out.")
        else:
            now.otherwise, now.else_comment = [], comment

    def _shallow(self, step: Any, number: int, column: int) -> Any:
        """The step, if what it works out is not nested too deep; a block stays, with nothing to work out."""
        if expression_depth(step) <= DEEPEST_EXPRESSION:
            return step or Comment()
        self.fault(
            number,
            column,
            f"What is to be worked out here is nested more than {DEEPEST_EXPRESSION} deep",
            "Set a part of it in a step before.",
        )
        if not isinstance(step, Block):
            return None
        return replace(step, **{_EXPRESSION_OF[type(step)]: Flag(False)})

    def _keep(self, step: Any) -> None:
        if isinstance(step, Header | Need | Signed | Renamed):
            if self._in_steps:
                reason = "This line belongs above the first step"
                self.fault(step.line, step.column, reason, "Move it to the head.")
            else:
                self._head.append(step)
        elif isinstance(step, Block):
            self._begin(step)
        elif isinstance(step, Comment) and not self._in_steps and not step.muted:
            self._head.append(step)
        else:
            self._target().append(step)

    def _begin(self, block: Block) -> None:
        if len(self._open) >= DEEPEST:
            # What stands in it counts to the block around it, so that nothing gets any deeper.
            reason = tr("Blocks are nested more than {number} deep", number=DEEPEST)
            self.fault(block.line, block.column, reason, tr("Make a macro of the inner ones, and run it."))
            self._too_deep += 1
            return
        if isinstance(block, While) and block.limit > MOST_STEPS:
            reason = tr("A limit is at most {number:,}", number=MOST_STEPS)
            self.fault(block.line, block.column, reason, tr("Write a smaller one."))
        self._open.append(_Open(block))

    def ended(self) -> Macro:
        """The macro, with what is still open closed."""
        while self._open:
            left = self._open.pop()
            what = step_text(cast(Statement, left.block))
            self.fault(left.block.line, left.block.column, f"“{what}” is not closed", "Add a line “end”.")
            self._target().append(left.closed(""))
        return Macro(tuple(self._head), tuple(self._body))
