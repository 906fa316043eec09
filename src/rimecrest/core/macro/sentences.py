"""A step as a sentence a colleague could say."""

from __future__ import annotations

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.macro.expressions import Expression, expression_text
from rimecrest.core.macro.steps import (
    Ask,
    Comment,
    Do,
    ForEach,
    Form,
    If,
    Part,
    Repeat,
    Run,
    Say,
    Set,
    Statement,
    Stop,
    While,
    WriteText,
)


def _text(text: str) -> str:
    """Text as it is read: names in angle brackets, new lines as a sign."""
    marked = text.replace("{{", "\0").replace("}}", "\1").replace("{", "⟨").replace("}", "⟩")
    return "“" + marked.replace("\0", "{").replace("\1", "}").replace("\n", " ↵ ") + "”"


def _said(expression: Expression) -> str:
    return expression_text(expression)


def sentence(step: Statement, catalogue: Catalogue | None) -> str:
    """The step in words."""
    match step:
        case Do():
            return _do(step, catalogue)
        case WriteText():
            return f"Write {_text(step.text)}"
        case Ask():
            words = f"Ask ⟨{step.name}⟩ {_text(step.prompt)}"
            if step.choices:
                words += f" from {', '.join(step.choices)}"
            if step.reading:
                words += f" from {step.reading}"
            return words + (f", else {_text(step.default)}" if step.default else "")
        case Form():
            return f"Ask together, on one form {_text(step.title)}"
        case Set():
            return f"Remember ⟨{step.name}⟩ as {_said(step.value)}"
        case If():
            return f"If {_said(step.condition)}"
        case Repeat():
            return f"Do this {_said(step.times)} times"
        case ForEach():
            return f"For each ⟨{step.name}⟩ in {step.reading}"
        case While():
            return f"As long as {_said(step.condition)}, at most {step.limit:,} times"
        case Run():
            return f"Run the macro {_text(step.macro)}"
        case Say():
            return f"Say {_text(step.text)}"
        case Stop():
            return f"Stop, and say {_text(step.text)}" if step.text is not None else "Stop"
        case Part():
            return step.title
        case Comment():
            return f"# {step.comment}" if step.comment else ""


def _do(step: Do, catalogue: Catalogue | None) -> str:
    command = catalogue.command(step.command) if catalogue else None
    words = [command.name if command else step.command]
    for setting in step.settings:
        value = _text(setting.value) if setting.quoted else setting.value
        alone = command is not None and len(command.arguments) == 1
        words.append(value if alone else f"{setting.name} {value}")
    return " ".join(words[:1]) + (": " + ", ".join(words[1:]) if words[1:] else "")
