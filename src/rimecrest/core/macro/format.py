"""From steps to their canonical text: two spaces a part, one space between words, one newline at the end."""

from __future__ import annotations

from rimecrest.core.macro.expressions import expression_text
from rimecrest.core.macro.steps import (
    Ask,
    AskPanel,
    Block,
    Comment,
    Do,
    ForEach,
    Form,
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


def quote(text: str) -> str:
    """A text as it stands in a `.steps` file."""
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n") + '"'


def format_macro(macro: Macro) -> str:
    """The canonical text of a macro."""
    lines = [_with_comment(_head(line), line.comment) for line in macro.head]
    for step in macro.steps:
        lines.extend(_lines(step, 0))
    while lines and not lines[-1]:
        lines.pop()  # an empty line parts two others; at the end it parts nothing
    return "\n".join(lines) + "\n"


def _with_comment(text: str, comment: str) -> str:
    if not comment:
        return text
    return f"{text} # {comment}" if text else f"# {comment}"


def _head(line: HeadLine) -> str:
    if isinstance(line, Comment):
        return "~" if line.muted else ""
    if isinstance(line, Need):
        what = f"context {line.context}" if line.context else line.reading
        return f"needs {what}" + (f" or say {quote(line.say)}" if line.say is not None else "")
    if isinstance(line, Signed):
        return f"signed {quote(line.maker)} {quote(line.key)} {quote(line.signature)}"
    if isinstance(line, Renamed):
        return f"renamed {quote(line.old)} {quote(line.new)}"
    if line.word == "unfinished":
        return line.word
    return f"{line.word} {line.value if line.word == 'for' else quote(line.value)}"


def _lines(step: Statement, depth: int) -> list[str]:
    text = step_text(step)
    if step.muted:
        text = f"~ {text}".rstrip()
    own = _with_comment(text, step.comment)
    lines = ["  " * depth + own if own else ""]
    if isinstance(step, Block):
        for inner in step.steps:
            lines.extend(_lines(inner, depth + 1))
        if isinstance(step, If) and step.otherwise is not None:
            lines.append("  " * depth + _with_comment("else", step.else_comment))
            for inner in step.otherwise:
                lines.extend(_lines(inner, depth + 1))
        lines.append("  " * depth + _with_comment("end", step.end_comment))
    return lines


def step_text(step: Statement) -> str:  # noqa: C901, PLR0911, PLR0912  an arm for each kind of step
    """One step without its comment, mute mark and inner steps."""
    match step:
        case Do():
            return " ".join(["do", step.command, *map(_setting, step.settings)])
        case WriteText():
            return f"write {quote(step.text)}"
        case Ask():
            words = ["ask", step.name, quote(step.prompt)]
            if step.choices:
                words.append("choices " + ", ".join(map(quote, step.choices)))
            if step.reading:
                words.append(f"from {step.reading}")
            if step.range:
                words.append("range")
            if step.default is not None:
                words.append(f"default {quote(step.default)}")
            return " ".join(words)
        case AskPanel():
            return f"ask panel {quote(step.panel)}"
        case Say():
            return f"say {quote(step.text)}{' aloud' if step.aloud else ''}"
        case Stop():
            said = "stop" if step.text is None else f"stop {quote(step.text)}"
            return f"{said} aloud" if step.aloud else said
        case Part():
            return f"part {quote(step.title)}"
        case Form():
            return f"form {quote(step.title)}"
        case Set():
            return f"set {step.name} = {expression_text(step.value)}"
        case If():
            return f"if {expression_text(step.condition)}"
        case Repeat():
            return f"repeat {expression_text(step.times)} times"
        case ForEach():
            return f"for each {step.name} in {step.reading}"
        case While():
            return f"while {expression_text(step.condition)} limit {step.limit}"
        case Run():
            return f"run {quote(step.macro)}"
        case Comment():
            return ""


def _setting(setting: Setting) -> str:
    return f"{setting.name}={quote(setting.value) if setting.quoted else setting.value}"
