"""Changing one word of a step's sentence: a setting, a text, a name, a condition."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from rimecrest.core.catalogue.arguments import ArgumentType, argument_fault
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.expressions import Expression, expression_text
from rimecrest.core.macro.format import step_text
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import (
    Ask,
    Do,
    ForEach,
    Header,
    If,
    Macro,
    Repeat,
    Set,
    Setting,
    Statement,
    While,
)
from rimecrest.core.words import tr

_EXPRESSIONS = {"value": "set x = {}", "condition": "if {}", "times": "repeat {} times"}
_QUOTED = (ArgumentType.TEXT, ArgumentType.PATH, ArgumentType.COLOUR, ArgumentType.ADDRESS)


def field_text(step: Statement, field: str) -> str:
    """What stands in a field now, as it is edited: text with its {names}."""
    kind, _, name = field.partition(" ")
    if kind == "setting" and isinstance(step, Do):
        return next((setting.value for setting in step.settings if setting.name == name), "")
    value: Any = getattr(step, kind, "")
    if kind in _EXPRESSIONS:
        return expression_text(value)
    if kind == "choices":
        return ", ".join(value)
    return "" if value is None else str(value)


def with_field(step: Statement, field: str, text: str, catalogue: Catalogue | None) -> Statement:
    """The step with another value in a field.

    Raises:
        RimecrestError: the value cannot be read, or does not fit.
    """
    kind, _, name = field.partition(" ")
    if kind == "setting" and isinstance(step, Do):
        return _with_setting(step, name, text, catalogue)
    if kind in _EXPRESSIONS:
        expression = _expression(kind, text)
        if isinstance(step, Set):
            return replace(step, value=expression)
        if isinstance(step, Repeat):
            return replace(step, times=expression)
        if isinstance(step, If | While):
            return replace(step, condition=expression)
    if kind == "choices" and isinstance(step, Ask):
        return replace(step, choices=tuple(word.strip() for word in text.split(",") if word.strip()))
    if kind == "limit" and isinstance(step, While):
        digits = text.replace(",", "").strip()
        if not digits.isdecimal():
            raise RimecrestError(
                tr("“{text}” is no whole number.", text=text), tr("Write how often at most.")
            )
        return replace(step, limit=int(digits))
    if kind in ("name", "reading") and isinstance(step, Ask | Set | ForEach):
        made: Statement = replace(step, **{kind: text.strip()})
        _must_read(
            made, tr("“{text}” is no name", text=text), tr("Write it in small letters: vessel, next-day.")
        )
        return made
    made = replace(step, **{kind: text})
    _must_read(made, tr("“{text}” cannot stand there", text=text), tr("Write something else."))
    return made


def _must_read(step: Statement, reason: str, way_out: str) -> None:
    """Raises RimecrestError when the step's text is not read back as that step."""
    line = step_text(step)
    macro, faults = parse_macro(f"{line}\nend\n" if hasattr(step, "steps") else f"{line}\n")
    other = [type(read) for read in macro.steps] != [type(step)]
    if faults or (other and line):
        raise RimecrestError(f"{reason}.", way_out)


def _expression(kind: str, text: str) -> Expression:
    line = _EXPRESSIONS[kind].format(text)
    macro, faults = parse_macro(f"{line}\nend\n" if kind != "value" else f"{line}\n")
    if faults or not macro.steps or "\n" in text:
        raise RimecrestError(
            tr("“{text}” cannot be worked out.", text=text),
            tr('It is written like: here.row > 3, "text", yes, chosen.words + 1.'),
        )
    step = macro.steps[0]
    found: Expression = getattr(step, kind)
    return found


def _with_setting(step: Do, name: str, text: str, catalogue: Catalogue | None) -> Do:
    command = catalogue.command(step.command) if catalogue else None
    argument = command.argument(name) if command else None
    quoted = argument is None or argument.type in _QUOTED or "{" in text or not text
    if argument is not None:
        value = text if argument.type is ArgumentType.TEXT or "{" in text else text.strip()
        if fault := argument_fault(argument, value):
            raise RimecrestError(f"{fault[0].upper()}{fault[1:]}.", tr("Write another value."))
        text = value
    setting = Setting(name, text, quoted)
    if any(known.name == name for known in step.settings):
        settings = tuple(setting if known.name == name else known for known in step.settings)
    else:
        settings = (*step.settings, setting)
    return replace(step, settings=settings)


def with_head(macro: Macro, word: str, value: str) -> Macro:
    """The macro with another name (“macro”) or purpose (“about”) in its head."""
    for index, line in enumerate(macro.head):
        if isinstance(line, Header) and line.word == word:
            head = (*macro.head[:index], replace(line, value=value), *macro.head[index + 1 :])
            return replace(macro, head=head)
    at = 0 if word == "macro" else 1
    return replace(macro, head=(*macro.head[:at], Header(word, value), *macro.head[at:]))
