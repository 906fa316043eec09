"""From the text of a `.steps` file to its steps. Every line is read, so that all faults are told at once."""

from __future__ import annotations

import re
from dataclasses import dataclass, field, replace
from functools import lru_cache
from importlib import resources
from typing import Any, cast

from lark import Lark, Token, Transformer, UnexpectedInput
from lark.exceptions import VisitError

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
    If,
    Macro,
    Need,
    Part,
    Repeat,
    Run,
    Say,
    Set,
    Setting,
    Statement,
    Stop,
    While,
    WriteText,
)
from rimecrest.core.nearest import nearest
from rimecrest.core.words import tr

WORDS = (
    *("form", "set", "if", "else", "repeat", "while", "run"),
    *("macro", "about", "for", "needs", "with", "unfinished"),
    *("do", "write", "ask", "part", "say", "stop", "end"),
)

_ESCAPED = re.compile(r'\\(["\\n])')


class _End:
    """The line that closes a block."""


class _Else:
    """The line between the two halves of an `if`."""


@dataclass
class _Open:
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
    text = resources.files("rimecrest.core.macro").joinpath("steps.lark").read_text("utf-8")
    return Lark(text, parser="lalr", transformer=_Lines(), propagate_positions=False)


def _read_line(line: str) -> tuple[Any, str]:
    # With a transformer given, the parser's result is what `_Lines.start` returns.
    return cast(tuple[Any, str], _grammar().parse(line))


def parse_macro(text: str) -> tuple[Macro, list[Fault]]:
    """Read a macro.

    Returns:
        The macro, without the lines that could not be read, and a fault for each of those.
    """
    head: list[Header | Need | Comment] = []
    open_blocks: list[_Open] = []
    body: list[Statement] = []
    faults: list[Fault] = []
    blank = False
    too_deep = 0
    if len(text) > LONGEST_MACRO:
        reason = tr("A macro has at most {number:,} characters; the rest is not read", number=LONGEST_MACRO)
        faults.append(Fault(1, 1, reason, tr("Make several macros of it.")))
        text = text[:LONGEST_MACRO]

    def target() -> list[Statement]:
        return open_blocks[-1].target if open_blocks else body

    for number, line in enumerate(text.replace("\r\n", "\n").split("\n"), 1):
        if line.strip() in ("", "#"):
            blank = True
            continue
        if blank and (head or body or open_blocks):
            empty = Comment(line=number - 1)
            head.append(empty) if not body and not open_blocks else target().append(empty)
        blank = False
        column = len(line) - len(line.lstrip()) + 1
        if len(line) > LONGEST_TEXT and line.lstrip()[0] != "#":
            reason = tr("A line has at most {number:,} characters", number=LONGEST_TEXT)
            faults.append(Fault(number, column, reason, tr("Write it in several steps.")))
            continue
        try:
            step, comment = _read_line(line)
        except (UnexpectedInput, VisitError) as error:
            faults.append(_fault(error, line, number))
            continue
        if isinstance(step, _End):
            if too_deep:
                too_deep -= 1
            elif open_blocks:
                block = open_blocks.pop().closed(comment)
                target().append(block)
            else:
                faults.append(Fault(number, column, "This “end” closes nothing", "Take it out."))
            continue
        if isinstance(step, _Else):
            if too_deep:
                continue
            block_now = open_blocks[-1] if open_blocks else None
            if block_now is None or not isinstance(block_now.block, If) or block_now.otherwise is not None:
                faults.append(Fault(number, column, "This “else” belongs to no “if”", "Take it out."))
            else:
                block_now.otherwise, block_now.else_comment = [], comment
            continue
        if expression_depth(step) > DEEPEST_EXPRESSION:
            faults.append(
                Fault(
                    number,
                    column,
                    f"What is to be worked out here is nested more than {DEEPEST_EXPRESSION} deep",
                    "Set a part of it in a step before.",
                )
            )
            if isinstance(step, Block):
                step = replace(step, **{_EXPRESSION_OF[type(step)]: Flag(False)})  # type: ignore[arg-type]  # a field by its name
            else:
                continue
        step = replace(step or Comment(), comment=comment, line=number, column=column)
        if isinstance(step, Header | Need):
            if body or open_blocks:
                faults.append(
                    Fault(number, column, "This line belongs above the first step", "Move it to the head.")
                )
            else:
                head.append(step)
        elif isinstance(step, Block):
            if len(open_blocks) >= DEEPEST:
                # What stands in it counts to the block around it, so that nothing gets any deeper.
                reason = tr("Blocks are nested more than {number} deep", number=DEEPEST)
                faults.append(
                    Fault(number, column, reason, tr("Make a macro of the inner ones, and run it."))
                )
                too_deep += 1
                continue
            if isinstance(step, While) and step.limit > MOST_STEPS:
                reason = tr("A limit is at most {number:,}", number=MOST_STEPS)
                faults.append(Fault(number, column, reason, tr("Write a smaller one.")))
            open_blocks.append(_Open(step))
        elif isinstance(step, Comment) and not body and not open_blocks and not step.muted:
            head.append(step)
        else:
            target().append(step)
    while open_blocks:
        left = open_blocks.pop()
        what = step_text(cast(Statement, left.block))
        faults.append(
            Fault(left.block.line, left.block.column, f"“{what}” is not closed", "Add a line “end”.")
        )
        target().append(left.closed(""))
    return Macro(tuple(head), tuple(body)), faults


def _fault(error: Exception, line: str, number: int) -> Fault:
    column = max(getattr(error, "column", 1) or 1, 1)
    stripped = line.strip().removeprefix("~").strip()
    word = stripped.split()[0] if stripped else ""
    if word not in WORDS:
        near = nearest(word, WORDS)
        way_out = f"Did you mean “{near}”?" if near else f"A line begins with {', '.join(WORDS)} or #."
        return Fault(number, line.find(word) + 1, f"“{word}” begins no step", way_out)
    if line.count('"') % 2:
        return Fault(number, line.rfind('"') + 1, "The text is not closed", 'Add a " where it ends.')
    form = {
        "do": "do command name=value",
        "write": 'write "text"',
        "ask": 'ask name "Question?" choices "one", "two", or: ask name "Question?" range',
        "needs": 'needs context writing or say "What to do first."',
        "say": 'say "text", or: say "text" aloud',
        "part": 'part "title"',
        "form": 'form "title"',
        "set": "set name = value",
        "if": "if here.row > 3",
        "repeat": "repeat 3 times",
        "while": "while here.value is empty limit 100",
        "run": 'run "macro-id"',
        "for": "for letters, or: for each name in headings",
    }.get(word, f'{word} "text"')
    return Fault(number, column, f"This “{word}” cannot be read from here on", f"It is written: {form}")
