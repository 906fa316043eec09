"""What is wrong with a macro before it runs, held against the catalogue of its application.

1. the head: a name, an application, needs that the application knows;
2. commands: known, their settings known, present and of the right type, paths that colleagues can reach;
3. questions: a reading that exists, choices that include the default, a name used once;
4. names: surely set before they are used, or readings;
5. loops: over a list; with a step that can change what their condition reads;
6. other macros: there, and not in a circle.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping
from pathlib import PurePosixPath

from rimecrest.core.catalogue.arguments import ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect
from rimecrest.core.macro.complete import panels_of
from rimecrest.core.macro.expressions import names_of
from rimecrest.core.macro.names import names_in
from rimecrest.core.macro.steps import (
    RANGE,
    Ask,
    AskPanel,
    Comment,
    Do,
    Fault,
    ForEach,
    Form,
    If,
    Macro,
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
from rimecrest.core.nearest import nearest
from rimecrest.core.words import tr

Macros = Mapping[str, Macro]
"""The macros that this one could run, by id."""

_PLACES = ("/home/", "/root/", "/media/", "/run/media/", "/mnt/", "/tmp/", "/var/tmp/", "/run/user/")  # noqa: S108
_HOMES = ("~", *_PLACES, *(f"file://{place}" for place in _PLACES))
"""Beginnings of paths in somebody's own home, of what is gone tomorrow, or on a disk that goes."""


def unreachable(path: str) -> bool:
    """Whether a path, as it was written or pasted, lies where no colleague can reach it."""
    return path.strip().strip("\"'").strip().startswith(_HOMES)


def check_macro(
    macro: Macro,
    catalogue: Catalogue | None,
    companions: Collection[str] | None = None,
    macros: Macros | None = None,
) -> list[Fault]:
    """All faults of a macro that could be read.

    Args:
        macro: what `parse_macro` made.
        catalogue: of the macro's application; None when the workspace has none.
        companions: paths of the companion files that exist; None to leave them unchecked.
        macros: what `run` can run; None to leave it unchecked.
    """
    faults = list(_head_faults(macro, catalogue))
    if companions is not None:
        faults += [_missing(1, 1, "companion", path) for path in macro.companions if path not in companions]
    if catalogue is not None:
        checking = _Check(catalogue, macros, companions)
        checking.steps(macro.steps, set())
        faults += checking.faults
        if macros is not None:
            faults += _circles(macro, macros)
    return sorted(faults, key=lambda fault: (fault.line, fault.column))


def _head_faults(macro: Macro, catalogue: Catalogue | None) -> Iterator[Fault]:
    if not macro.name:
        yield Fault(1, 1, tr("The macro has no name"), tr('Begin with a line: macro "Its name"'))
    if not macro.application:
        yield Fault(1, 1, tr("The macro is for no application"), tr("Add a line like: for letters"))
    elif catalogue is None:
        yield Fault(
            1,
            1,
            tr("There is no catalogue of “{application}”", application=macro.application),
            tr("Put it into catalogues/."),
        )
    elif catalogue.app != macro.application:
        yield Fault(
            1,
            1,
            tr(
                "The macro is for {application}, not for {app}",
                application=macro.application,
                app=catalogue.app,
            ),
        )
    if catalogue is None:
        return
    readings = {reading.id for reading in catalogue.readings}
    for need in macro.needs:
        if need.context and need.context not in catalogue.context_tree:
            known = ", ".join(context.id for context in catalogue.contexts)
            yield Fault(
                need.line,
                need.column,
                tr("{title} has no context “{context}”", title=catalogue.title, context=need.context),
                tr("It has: {known}.", known=known),
            )
        if need.reading and need.reading not in readings:
            yield _unknown_reading(need.reading, need.line, need.column, catalogue)


def _unknown_reading(name: str, line: int, column: int, catalogue: Catalogue) -> Fault:
    near = catalogue.nearest_reading(name)
    hint = tr("Did you mean “{near}”?", near=near) if near else tr("The catalogue lists what it can tell.")
    reason = tr("{title} cannot tell “{name}”", title=catalogue.title, name=name)
    return Fault(line, column, reason, hint, "", name, near)


class _Check:
    """Walks over the steps with the names that are surely set."""

    def __init__(
        self, catalogue: Catalogue, macros: Macros | None, companions: Collection[str] | None = None
    ) -> None:
        self.catalogue = catalogue
        self.macros = macros
        self.companions = companions
        self.readings = {reading.id: reading for reading in catalogue.readings}
        self.asked: set[str] = set()
        self.faults: list[Fault] = []

    def steps(self, steps: Iterable[Statement], known: set[str]) -> set[str]:
        """Check steps; returns the names that are surely set after them."""
        for step in steps:
            if not step.muted:
                known = self._step(step, known)
        return known

    # An arm for each kind of step.
    def _step(self, step: Statement, known: set[str]) -> set[str]:  # noqa: C901, PLR0912
        match step:
            case Do():
                self.faults.extend(_command_faults(step, self.catalogue))
                self._files(step)
                for setting in step.settings:
                    if setting.quoted:
                        self._names(step, names_in(setting.value), known)
            case WriteText() | Say():
                self._names(step, names_in(step.text), known)
            case Stop():
                self._names(step, names_in(step.text or ""), known)
            case Ask():
                self.faults.extend(_question_faults(step, self.catalogue, self.readings, self.asked))
                self._names(step, [*names_in(step.prompt), *names_in(step.default or "")], known)
                self.asked.add(step.name)
                return known | {step.name}
            case AskPanel():
                self._panel(step)
            case Form():
                return self._form(step, known)
            case Set():
                self._names(step, names_of(step.value), known)
                return known | {step.name}
            case Part():
                return self.steps(step.steps, known)
            case If():
                self._names(step, names_of(step.condition), known)
                one = self.steps(step.steps, known)
                return one & self.steps(step.otherwise or (), known)
            case Repeat():
                self._names(step, names_of(step.times), known)
                self.steps(step.steps, known)
            case ForEach():
                self._for_each(step, known)
            case While():
                self._names(step, names_of(step.condition), known)
                self.steps(step.steps, known)
                self._ends(step)
            case Run():
                self._run(step)
            case Comment():
                pass
        return known

    def _files(self, step: Do) -> None:
        """The companions, templates and text blocks that a command names have to be there."""
        command = self.catalogue.command(step.command)
        if command is None or self.companions is None:
            return
        given = {setting.name: setting.value for setting in step.settings}
        for kind, name in missing_files(command, given, self.companions):
            self.faults.append(_missing(step.line, step.column, kind, name))

    def _names(self, step: Statement, names: Iterable[str], known: set[str]) -> None:
        for name in names:
            if name in known or name in self.readings:
                continue
            if "." in name:
                self.faults.append(_unknown_reading(name, step.line, step.column, self.catalogue))
            else:
                reason = tr("“{name}” is used before it is set", name=name)
                way_out = tr('Ask for it first: ask {name} "Which?"', name=name or "name")
                self.faults.append(Fault(step.line, step.column, reason, way_out))

    def _panel(self, step: AskPanel) -> None:
        """A panel that is asked has something to fill in, which readings tell."""
        panels = panels_of(self.catalogue)
        if step.panel not in panels:
            near = nearest(step.panel, panels)
            hint = tr("There are: {known}.", known=", ".join(panels) or tr("none"))
            hint = tr("Did you mean “{near}”?", near=near) if near else hint
            reason = tr("There is no panel “{panel}” with something to fill in", panel=step.panel)
            self.faults.append(Fault(step.line, step.column, reason, hint, "", step.panel, near))

    def _form(self, step: Form, known: set[str]) -> set[str]:
        for inner in step.steps:
            if not isinstance(inner, Ask | Comment):
                self.faults.append(
                    Fault(
                        inner.line,
                        inner.column,
                        tr("Only questions stand in a form"),
                        tr("Move this behind its end."),
                    )
                )
            elif isinstance(inner, Ask) and inner.range:
                self.faults.append(
                    Fault(
                        inner.line,
                        inner.column,
                        tr("What is pointed at is asked for by itself"),
                        tr("Move this out of the form."),
                    )
                )
        return self.steps((inner for inner in step.steps if isinstance(inner, Ask)), known)

    def _for_each(self, step: ForEach, known: set[str]) -> None:
        reading = self.readings.get(step.reading)
        if reading is None and step.reading not in known:
            self.faults.append(_unknown_reading(step.reading, step.line, step.column, self.catalogue))
        elif reading is not None and reading.type != "list":
            reason = tr("“{reading}” is one value, not a list", reading=step.reading)
            lists = ", ".join(r.id for r in self.readings.values() if r.type == "list") or "none"
            self.faults.append(Fault(step.line, step.column, reason, tr("Lists are: {lists}.", lists=lists)))
        self.steps(step.steps, known | {step.name})

    def _ends(self, step: While) -> None:
        """A loop must do something that can change what its condition reads."""
        wanted = set(names_of(step.condition))
        changed: set[str] = set()
        for inner in _inner(step.steps):
            if isinstance(inner, Run):
                return  # what another macro changes is told where it is checked
            if isinstance(inner, Set | Ask | ForEach):
                changed.add(inner.name)
            elif isinstance(inner, WriteText):
                changed |= {name for name in wanted if name.split(".")[0] in ("here", "chosen")}
            elif isinstance(inner, Do) and (command := self.catalogue.command(inner.command)) is not None:
                changed.update(command.changes)
        if not changed & wanted:
            what = ", ".join(sorted(wanted)) or "anything"
            self.faults.append(
                Fault(
                    step.line,
                    step.column,
                    tr("Nothing in this loop changes {what}, so it would only end at its limit", what=what),
                    tr("Put a step into it that does."),
                )
            )

    def _run(self, step: Run) -> None:
        if self.macros is not None and step.macro not in self.macros:
            near = nearest(step.macro, self.macros)
            hint = tr("Did you mean “{near}”?", near=near) if near else tr("The finder lists all macros.")
            reason = tr("There is no macro “{macro}”", macro=step.macro)
            self.faults.append(Fault(step.line, step.column, reason, hint, "", step.macro, near))


def _missing(line: int, column: int, kind: str, name: str) -> Fault:
    reason = tr("The {kind} “{name}” is missing", kind=kind, name=name)
    return Fault(line, column, reason, tr("Put the file back, or remove what names it."))


_KINDS_OF_FILES = {"templates": ("template", ""), "text-blocks": ("text block", ".block")}
"""Reading -> what its entries are, and what the name of such a file has before its ending."""


def missing_files(
    command: Command, given: Mapping[str, str], companions: Collection[str]
) -> Iterator[tuple[str, str]]:
    """Find the files that settings of a command name and the workspace does not have.

    Args:
        given: the settings by name. Text with `{names}` is only known when it runs, and passes.
        companions: paths of the companion files that exist.

    Yields:
        What it is ("companion", "template" or "text block") and its name.
    """
    for name, value in given.items():
        argument = command.argument(name)
        if argument is None or not value or names_in(value):
            continue
        if argument.type is ArgumentType.PATH:
            path = value.strip().strip("\"'").strip()
            if path.startswith("companions/") and path not in companions:
                yield tr("companion"), path
        elif argument.among in _KINDS_OF_FILES:
            kind, mark = _KINDS_OF_FILES[argument.among]
            stems = {PurePosixPath(path).stem.casefold() for path in companions}
            if f"{value.strip()}{mark}".casefold() not in stems:
                yield kind, value


def _inner(steps: Iterable[Statement]) -> Iterator[Statement]:
    yield from Macro(steps=tuple(steps)).live_steps()


def _circles(macro: Macro, macros: Macros) -> Iterator[Fault]:
    """A macro that runs itself, directly or through others."""
    for step in macro.live_steps():
        if not isinstance(step, Run):
            continue
        seen: set[str] = set()
        ahead = [step.macro]
        while ahead:
            name = ahead.pop()
            if name in seen or name not in macros:
                continue
            seen.add(name)
            if macros[name] == macro:
                reason = tr("This macro runs itself") + (
                    "" if name == step.macro else f", through “{step.macro}”"
                )
                yield Fault(step.line, step.column, reason, tr("Use a loop with a limit instead."))
                break
            ahead += [inner.macro for inner in macros[name].live_steps() if isinstance(inner, Run)]


def _command_faults(step: Do, catalogue: Catalogue) -> Iterator[Fault]:
    command = catalogue.command(step.command)
    if command is None:
        near = catalogue.nearest(step.command)
        hint = tr("Did you mean “{near}”?", near=near) if near else tr("The finder lists all its commands.")
        yield Fault(
            step.line,
            step.column,
            tr("{title} has no command “{command}”", title=catalogue.title, command=step.command),
            hint,
            "",
            step.command,
            near,
        )
        return
    names = [setting.name for setting in step.settings]
    for name in {name for name in names if names.count(name) > 1}:
        yield Fault(
            step.line, step.column, tr("The setting “{name}” stands twice", name=name), tr("Take one out.")
        )
    for reason in command.argument_faults({setting.name: setting.value for setting in step.settings}):
        yield Fault(step.line, step.column, reason[0].upper() + reason[1:])
    for setting in step.settings:
        argument = command.argument(setting.name)
        of_a_file = argument is not None and argument.type is ArgumentType.PATH
        if of_a_file and unreachable(setting.value):
            yield Fault(
                step.line,
                step.column,
                tr("No colleague can reach “{path}”", path=setting.value.strip()),
                tr("Lay the file into companions/, or onto a folder that all of them have."),
                "reach",
            )


def _question_faults(
    step: Ask, catalogue: Catalogue, readings: Collection[str], known: Collection[str]
) -> Iterator[Fault]:
    if step.name in known:
        yield Fault(
            step.line,
            step.column,
            tr("“{name}” is asked for twice", name=step.name),
            tr("Give one another name."),
        )
    if step.reading and step.reading not in readings:
        yield _unknown_reading(step.reading, step.line, step.column, catalogue)
    if step.range and RANGE not in readings:
        yield Fault(
            step.line,
            step.column,
            tr("Nothing can be pointed at in {title}", title=catalogue.title),
            tr("Ask for a text, or from choices."),
        )
    fixed = step.default is not None and not names_in(step.default)
    if fixed and step.choices and step.default not in step.choices:
        yield Fault(
            step.line,
            step.column,
            tr("The default “{default}” is none of the choices", default=step.default),
            tr("Choose one of them."),
        )


def effect_words(macro: Macro, found: Iterable[str]) -> str:
    """Say what a macro may do, the same wherever it is described."""
    if not any(not isinstance(step, Comment) for step in macro.live_steps()):
        return tr("does nothing yet")
    return ", ".join(found) or tr("changes nothing")


def _is_address(command: Command, name: str) -> bool:
    argument = command.argument(name)
    return argument is not None and argument.type is ArgumentType.ADDRESS


def effects(macro: Macro, catalogue: Catalogue, macros: Macros) -> tuple[Effect, ...]:
    """What a macro may do: the union of its commands' effects, found without running it.

    Args:
        macros: those that it may run, whose effects count too.
    """
    found: set[Effect] = set()
    seen: set[str] = set()
    ahead = [macro]
    while ahead:
        everything = False
        """Whether everything is selected: whatever deletes or replaces that then empties the document."""
        for step in ahead.pop().live_steps():
            if isinstance(step, WriteText):
                found.add(Effect.EDITS)
                if everything:
                    found.add(Effect.DELETES)
                everything = False
            elif isinstance(step, Do) and (command := catalogue.command(step.command)) is not None:
                found.update(command.effects)
                if everything and command.deletes_selection:
                    found.add(Effect.DELETES)
                everything = command.selects_all or (everything and Effect.EDITS in command.effects)
                if any(names_in(s.value) for s in step.settings if _is_address(command, s.name)):
                    found.add(Effect.TELLS_LINKS)
            elif isinstance(step, Run) and step.macro in macros and step.macro not in seen:
                seen.add(step.macro)
                ahead.append(macros[step.macro])
    return tuple(effect for effect in Effect if effect in found)
