"""What is wrong with a macro before it runs, held against the catalogue of its application.

1. the head: a name, an application, needs that the application knows;
2. commands: known, their settings known, present and of the right type;
3. questions: a reading that exists, choices that include the default, a name used once;
4. names in text: set before they are used, or readings.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator

from rimecrest.core.catalogue import Catalogue, Effect
from rimecrest.core.macro.names import names_in
from rimecrest.core.macro.steps import Ask, Do, Fault, Macro, Say, Statement, Stop, WriteText


def check_macro(
    macro: Macro, catalogue: Catalogue | None, companions: Collection[str] | None = None
) -> list[Fault]:
    """All faults of a macro that could be read.

    Args:
        macro: what `parse_macro` made.
        catalogue: of the macro's application; None when the workspace has none.
        companions: paths of the companion files that exist; None to leave them unchecked.
    """
    faults = list(_head_faults(macro, catalogue))
    if companions is not None:
        faults += [
            Fault(1, 1, f"The companion “{path}” is missing", "Put the file back or take the line out.")
            for path in macro.companions
            if path not in companions
        ]
    if catalogue is None:
        return faults
    readings = {reading.id for reading in catalogue.readings}
    known: set[str] = set()
    for step in macro.live_steps():
        faults.extend(_step_faults(step, catalogue, readings, known))
        if isinstance(step, Ask):
            known.add(step.name)
    return sorted(faults, key=lambda fault: (fault.line, fault.column))


def _head_faults(macro: Macro, catalogue: Catalogue | None) -> Iterator[Fault]:
    if not macro.name:
        yield Fault(1, 1, "The macro has no name", 'Begin with a line: macro "Its name"')
    if not macro.application:
        yield Fault(1, 1, "The macro is for no application", "Add a line like: for letters")
    elif catalogue is None:
        yield Fault(1, 1, f"There is no catalogue of “{macro.application}”", "Put it into catalogues/.")
    elif catalogue.app != macro.application:
        yield Fault(1, 1, f"The macro is for {macro.application}, not for {catalogue.app}")
    if catalogue is None:
        return
    readings = {reading.id for reading in catalogue.readings}
    for need in macro.needs:
        if need.context and need.context not in catalogue.context_tree:
            known = ", ".join(context.id for context in catalogue.contexts)
            yield Fault(
                need.line,
                need.column,
                f"{catalogue.title} has no context “{need.context}”",
                f"It has: {known}.",
            )
        if need.reading and need.reading not in readings:
            yield _unknown_reading(need.reading, need.line, need.column, catalogue)


def _unknown_reading(name: str, line: int, column: int, catalogue: Catalogue) -> Fault:
    near = catalogue.nearest_reading(name)
    hint = f"Did you mean “{near}”?" if near else "The catalogue lists what it can tell."
    return Fault(line, column, f"{catalogue.title} cannot tell “{name}”", hint)


def _step_faults(
    step: Statement, catalogue: Catalogue, readings: set[str], known: set[str]
) -> Iterator[Fault]:
    match step:
        case Do():
            yield from _command_faults(step, catalogue)
            texts = [setting.value for setting in step.settings if setting.quoted]
        case WriteText() | Say():
            texts = [step.text]
        case Stop():
            texts = [step.text or ""]
        case Ask():
            yield from _question_faults(step, catalogue, readings, known)
            texts = [step.prompt, step.default or ""]
        case _:
            texts = []
    for text in texts:
        for name in names_in(text):
            if name not in known and name not in readings:
                yield Fault(
                    step.line,
                    step.column,
                    f"“{name}” is used before it is set",
                    f'Ask for it first: ask {name or "name"} "Which?"',
                )


def _command_faults(step: Do, catalogue: Catalogue) -> Iterator[Fault]:
    command = catalogue.command(step.command)
    if command is None:
        near = catalogue.nearest(step.command)
        hint = f"Did you mean “{near}”?" if near else "The finder lists all its commands."
        yield Fault(step.line, step.column, f"{catalogue.title} has no command “{step.command}”", hint)
        return
    names = [setting.name for setting in step.settings]
    for name in {name for name in names if names.count(name) > 1}:
        yield Fault(step.line, step.column, f"The setting “{name}” stands twice", "Take one out.")
    for reason in command.argument_faults({setting.name: setting.value for setting in step.settings}):
        yield Fault(step.line, step.column, reason[0].upper() + reason[1:])


def _question_faults(step: Ask, catalogue: Catalogue, readings: set[str], known: set[str]) -> Iterator[Fault]:
    if step.name in known:
        yield Fault(step.line, step.column, f"“{step.name}” is asked for twice", "Give one another name.")
    if step.reading and step.reading not in readings:
        yield _unknown_reading(step.reading, step.line, step.column, catalogue)
    if step.default is not None and step.choices and step.default not in step.choices:
        yield Fault(
            step.line,
            step.column,
            f"The default “{step.default}” is none of the choices",
            "Choose one of them.",
        )


def effects(macro: Macro, catalogue: Catalogue) -> tuple[Effect, ...]:
    """What a macro may do: the union of its commands' effects, found without running it."""
    found: set[Effect] = set()
    for step in macro.live_steps():
        if isinstance(step, WriteText):
            found.add(Effect.EDITS)
        elif isinstance(step, Do) and (command := catalogue.command(step.command)) is not None:
            found.update(command.effects)
    return tuple(effect for effect in Effect if effect in found)
