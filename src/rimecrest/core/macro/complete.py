"""What could be written next in a `.steps` line: words, commands, settings, choices, readings, names."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable

from rimecrest.core.catalogue.arguments import SWITCHES, Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.macro.step_tree import every_step
from rimecrest.core.macro.steps import WORDS, Ask, ForEach, Macro, Set

_LAST = re.compile(r"[a-z][a-z0-9.-]*\Z|\Z")


def names_set(macro: Macro) -> list[str]:
    """The names that a macro asks for or sets, in order."""
    found = [step.name for step in every_step(macro.steps) if isinstance(step, Ask | Set | ForEach)]
    return list(dict.fromkeys(found))


def completions(
    line: str, catalogue: Catalogue | None, names: Collection[str] = (), macros: Collection[str] = ()
) -> tuple[str, list[str]]:
    """What goes on from a line up to the cursor.

    Args:
        names: those that the macro sets.
        macros: ids of those that it can run.

    Returns:
        The letters that are there of the word already, and the whole words that begin with them.
    """
    body = line.lstrip().removeprefix("~").lstrip()
    inside = body.count('"') - body.count('\\"')
    if inside % 2:
        return _in_text(body, catalogue, names, macros)
    found = _LAST.search(body)
    typed = found[0] if found else ""
    before = body[: len(body) - len(typed)]
    words = before.split()
    if not words:
        return _matching(typed, WORDS)
    if catalogue is None:
        return typed, []
    if words[0] == "do":
        return _in_command(before, typed, words, catalogue)
    return _matching(typed, _following(words, catalogue, names))


def _in_text(
    body: str, catalogue: Catalogue | None, names: Collection[str], macros: Collection[str]
) -> tuple[str, list[str]]:
    """In a text: a name behind an open brace, or the id of a macro or panel."""
    if body.startswith('run "'):
        return _matching(body.removeprefix('run "'), macros)
    if body.startswith('ask panel "'):
        return _matching(body.removeprefix('ask panel "'), panels_of(catalogue))
    opened = re.search(r"\{([a-z0-9.-]*)\Z", body)
    readings = [reading.id for reading in catalogue.readings] if catalogue else []
    return _matching(opened[1], [*names, *readings]) if opened else ("", [])


def _following(words: list[str], catalogue: Catalogue, names: Collection[str]) -> Collection[str]:
    """The words that may follow those of a step that is begun."""
    match words:
        case ["for"]:
            return "each", catalogue.app
        case ["needs", *_, "context"]:
            return [context.id for context in catalogue.contexts]
        case ["needs", *_]:
            return ["context", "or", "say", *_readings(catalogue)]
        case ["ask", *_, "from"]:
            return [reading.id for reading in catalogue.readings if reading.type == "list"]
        case ["ask"]:
            return ("panel",)
        case ["ask", *_]:
            return "choices", "from", "range", "default"
        case ["say" | "stop", *_]:
            return ("aloud",)
        case ["set" | "if" | "while" | "repeat" | "for", *_]:
            more = ("in", "contains", "is", "empty", "and", "or", "not", "limit", "times", "yes", "no")
            return [*names, *_readings(catalogue), *more]
    return ()


def panels_of(catalogue: Catalogue | None) -> list[str]:
    """The panels with something to fill in, by what can be read of them."""
    known = (reading.id.split(".") for reading in catalogue.readings) if catalogue else ()
    return sorted({parts[1] for parts in known if parts[0] == "panel" and len(parts) > 2})


def _in_command(before: str, typed: str, words: list[str], catalogue: Catalogue) -> tuple[str, list[str]]:
    if len(words) == 1:
        return _matching(typed, [command.verb for command in catalogue.commands])
    command = catalogue.command(words[1])
    if command is None:
        return typed, []
    setting = re.search(r"([a-z0-9-]+)=\Z", before)
    if setting is not None:
        argument = command.argument(setting[1])
        return _matching(typed, _values(argument)) if argument else (typed, [])
    given = set(re.findall(r"([a-z0-9-]+)=", before))
    return _matching(typed, [f"{a.name}=" for a in command.arguments if a.name not in given])


def _values(argument: Argument) -> tuple[str, ...]:
    if argument.type is ArgumentType.SWITCH:
        return SWITCHES
    return argument.choices


def _readings(catalogue: Catalogue) -> list[str]:
    return [reading.id for reading in catalogue.readings]


def _matching(typed: str, words: Iterable[str]) -> tuple[str, list[str]]:
    return typed, sorted({word for word in words if word.startswith(typed) and word != typed})
