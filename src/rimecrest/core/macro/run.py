"""A macro's run as a flow: it yields each thing it wants done and is sent the answer.

The application's runner carries the requests out; a test may answer badly, or stop between any two of them.
Taking back what was done on failure, cancel and stop is the runner's: it holds the document.
"""

from __future__ import annotations

from collections.abc import Generator, Mapping
from dataclasses import dataclass, field

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.names import fill, names_in
from rimecrest.core.macro.steps import Ask, Do, Macro, Need, Say, Stop, WriteText

MOST_STEPS = 100_000
"""Steps one run may take (formats.md, "Running")."""


class MacroStopped(RimecrestError):
    """A run that did not end well; all it did is to be taken back. `line` counts from 1, 0 for the head."""

    def __init__(self, sentence: str, way_out: str = "", line: int = 0) -> None:
        super().__init__(sentence, way_out)
        self.line = line


@dataclass(frozen=True, slots=True)
class Meets:
    """Is this need met? Answer: True or False."""

    need: Need


@dataclass(frozen=True, slots=True)
class Perform:
    """Perform a command. Answer: None."""

    verb: str
    args: Mapping[str, str]
    line: int


@dataclass(frozen=True, slots=True)
class Write:
    """Write text at the cursor. Answer: None."""

    text: str
    line: int


@dataclass(frozen=True, slots=True)
class Choose:
    """Ask the colleague. Answer: the text, or None when they cancelled."""

    prompt: str
    choices: tuple[str, ...]
    reading: str
    default: str


@dataclass(frozen=True, slots=True)
class Read:
    """Tell a reading. Answer: its value as text."""

    name: str


@dataclass(frozen=True, slots=True)
class Tell:
    """Say something in the status line. Answer: None."""

    text: str


Request = Meets | Perform | Write | Choose | Read | Tell
Flow = Generator[Request, "str | bool | None", None]


@dataclass
class _Run:
    values: dict[str, str] = field(default_factory=dict)

    def filled(self, text: str) -> Generator[Request, str | bool | None, str]:
        values = dict(self.values)
        for name in names_in(text):
            if name not in values:
                value = yield Read(name)
                if value is None:
                    raise MacroStopped(f"“{name}” has no value here.", "Ask for it in a step before.")
                values[name] = str(value)
        return fill(text, values)


def run_macro(macro: Macro) -> Flow:
    """The flow of one run.

    Raises:
        MacroStopped: a need is not met, a question was cancelled, or the bound on steps was reached.
    """
    for need in macro.needs:
        if not (yield Meets(need)):
            raise MacroStopped(need.say or "This macro cannot run here.", "Nothing was changed.")
    run = _Run()
    for count, step in enumerate(macro.live_steps()):
        if count >= MOST_STEPS:
            raise MacroStopped(f"It went on for {MOST_STEPS:,} steps.", "All was taken back.", step.line)
        match step:
            case Do():
                args = {}
                for setting in step.settings:
                    value = setting.value
                    args[setting.name] = (yield from run.filled(value)) if setting.quoted else value
                yield Perform(step.command, args, step.line)
            case WriteText():
                yield Write((yield from run.filled(step.text)), step.line)
            case Ask():
                prompt = yield from run.filled(step.prompt)
                default = yield from run.filled(step.default or "")
                answer = yield Choose(prompt, step.choices, step.reading, default)
                if answer is None:
                    raise MacroStopped("Cancelled: nothing was changed.", line=step.line)
                run.values[step.name] = str(answer)
            case Say():
                yield Tell((yield from run.filled(step.text)))
            case Stop():
                if step.text is not None:
                    yield Tell((yield from run.filled(step.text)))
                return
            case _:
                pass
