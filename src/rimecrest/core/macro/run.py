"""A macro's run as a flow: it yields each thing it wants done and is sent the answer.

The application's runner carries the requests out; a test may answer badly, or stop between any two of them.
Taking back what was done on failure, cancel and stop is the runner's: it holds the document.
"""

from __future__ import annotations

import contextlib
from collections.abc import Generator, Mapping
from typing import Any, TypeVar

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.bounds import DEEPEST_RUN, LONGEST_PIECE, LONGEST_TEXT, MOST_STEPS
from rimecrest.core.macro.expressions import (
    CannotWorkOut,
    Expression,
    Value,
    as_number,
    as_text,
    as_value,
    is_true,
    work_out,
)
from rimecrest.core.macro.names import fill, names_in
from rimecrest.core.macro.step_tree import step_numbers
from rimecrest.core.macro.steps import (
    Ask,
    AskPanel,
    Comment,
    Do,
    ForEach,
    Form,
    If,
    Macro,
    Need,
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
from rimecrest.core.words import tr

Held = TypeVar("Held", bound=Value)


class MacroStopped(RimecrestError):
    """A run that did not end well; all it did is to be taken back.

    `line`, from 1, is that of the step of the macro that was begun, also where a macro that it runs failed; 0
    for the head.
    """

    def __init__(self, sentence: str, way_out: str = "", line: int = 0) -> None:
        super().__init__(sentence, way_out)
        self.line = line


class Meets(Struct, frozen=True):
    """Is this need met? Answer: True or False."""

    need: Need


class Perform(Struct, frozen=True):
    """Perform a command. Answer: None, or the RimecrestError why it refused, thrown into the flow.

    `line` is that of the step of the macro that was begun, also where a macro that it runs does this.
    """

    verb: str
    args: Mapping[str, str]
    line: int


class Write(Struct, frozen=True):
    """Write text at the cursor. Answer: None."""

    text: str
    line: int


class Choose(Struct, frozen=True):
    """Ask the colleague. Answer: the text, or None when they cancelled."""

    prompt: str
    choices: tuple[str, ...]
    reading: str
    default: str
    range: bool = False
    """Whether it is answered by pointing: with the reading `RANGE`."""


class Fill(Struct, frozen=True):
    """Ask several questions on one form. Answer: the texts in order, or None when they cancelled."""

    title: str
    questions: tuple[Choose, ...]


class Present(Struct, frozen=True):
    """Open a panel as a question. Answer: None when the colleague cancelled; its readings tell the rest."""

    panel: str


class Read(Struct, frozen=True):
    """Tell a reading. Answer: its value, or None when there is none here."""

    name: str


class Fetch(Struct, frozen=True):
    """Find another macro. Answer: the Macro, or None."""

    macro: str


class Breathe(Struct, frozen=True):
    """A loop goes round: a moment in which the run may be stopped. Answer: None."""


class Tell(Struct, frozen=True):
    """Say something in the status line, `aloud` with the desktop's sound. Answer: None."""

    text: str
    aloud: bool = False


Request = Meets | Perform | Write | Choose | Fill | Present | Read | Fetch | Breathe | Tell
Flow = Generator[Request, Any, None]


class _Ended(Exception):
    """A `stop` was reached: the run ends and keeps what it did."""


class Inner(Struct):
    """A macro that is under way: its name, the numbers of its steps by line, the step that it is at."""

    name: str
    numbers: Mapping[int, int]
    at: int = 0


class _Run:
    """One run: the values it knows, the steps it took, the macros it is in."""

    def __init__(self) -> None:
        self.values: dict[str, Value] = {}
        self.count = 0
        self.line = 0
        """The line of the step of the macro that was begun."""
        self.inside: list[Inner] = []
        """The macros that run one another, outermost first."""

    # What expressions need

    def value(self, name: str) -> Generator[Request, Any, Value]:
        if name in self.values:
            return self.values[name]
        raw = yield Read(name)
        if raw is None:
            raise self._stopped(tr("“{name}” has no value here.", name=name), tr("Set it in a step before."))
        return as_value(raw)

    def filled(self, text: str) -> Generator[Request, Any, str]:
        values: dict[str, str] = {}
        for name in names_in(text):
            if name not in values:
                values[name] = as_text((yield from self.value(name)))
        return self._bounded(fill(text, values))

    def _bounded(self, value: Held) -> Held:
        """The value itself. Raises MacroStopped where it is longer than anything may be."""
        # What the application tells may be longer, as a whole letter that is looked into, but not be kept.
        long = len(value) if isinstance(value, str) else 0
        if long > LONGEST_TEXT:
            raise self._stopped(
                tr(
                    "A text has become {long:,} characters long; {most:,} is the most.",
                    long=long,
                    most=LONGEST_TEXT,
                ),
                tr("All was taken back."),
            )
        return value

    def worked_out(self, expression: Expression) -> Generator[Request, Any, Value]:
        try:
            found: Value = yield from work_out(expression, self)
        except CannotWorkOut as error:
            raise self._stopped(f"{error}.", tr("All was taken back.")) from None
        return found

    def _stopped(self, sentence: str, way_out: str = "") -> MacroStopped:
        where = self._where()
        return MacroStopped(f"{where}: {sentence}" if where else sentence, way_out, self.line)

    def _where(self) -> str:
        """“Step 3”, or “Step 3, in step 2 of “Heading””; empty before the first step."""
        outer, *others = [inner for inner in self.inside if inner.at]
        within = [tr("in step {at} of “{name}”", at=inner.at, name=inner.name) for inner in others]
        return ", ".join([f"Step {outer.at}", *within])

    # Steps

    def macro(self, macro: Macro) -> Flow:
        for need in macro.needs:
            if not (yield Meets(need)):
                raise MacroStopped(
                    need.say or tr("This macro cannot run here."), tr("Nothing was changed."), self.line
                )
        self.inside.append(Inner(macro.name, step_numbers(macro)))
        try:
            yield from self.steps(macro.steps)
        finally:
            self.inside.pop()

    def steps(self, steps: tuple[Statement, ...]) -> Flow:
        for step in steps:
            if step.muted or isinstance(step, Comment):
                continue
            self.count += 1
            self._at(step)
            if self.count > MOST_STEPS:
                raise self._stopped(
                    tr("It went on for {MOST_STEPS:,} steps.", MOST_STEPS=MOST_STEPS),
                    tr("All was taken back."),
                )
            yield from self._step(step)

    def _at(self, step: Statement) -> None:
        inner = self.inside[-1]
        inner.at = inner.numbers.get(step.line, inner.at)
        if len(self.inside) == 1:
            self.line = step.line

    def _step(self, step: Statement) -> Flow:  # noqa: C901, PLR0912  an arm for each kind of step
        match step:
            case Do():
                args = {}
                for setting in step.settings:
                    value = setting.value
                    args[setting.name] = (yield from self.filled(value)) if setting.quoted else value
                try:
                    yield Perform(step.command, args, self.line)
                except RimecrestError as error:
                    sentence = tr("{sentence} All was taken back.", sentence=error.sentence)
                    raise self._stopped(sentence, error.way_out) from None
            case WriteText():
                text = yield from self.filled(step.text)
                for at in range(0, max(len(text), 1), LONGEST_PIECE):
                    yield Write(text[at : at + LONGEST_PIECE], self.line)
            case Set():
                self.values[step.name] = self._bounded((yield from self.worked_out(step.value)))
            case Ask():
                answer = yield (yield from self._question(step))
                self._remember((step,), None if answer is None else (answer,))
            case AskPanel():
                self._remember((), (yield Present(step.panel)))
            case Form():
                asks = tuple(each for each in step.steps if isinstance(each, Ask) and not each.muted)
                questions = []
                for ask in asks:
                    questions.append((yield from self._question(ask)))
                title = yield from self.filled(step.title)
                self._remember(asks, (yield Fill(title, tuple(questions))))
            case Say():
                yield Tell((yield from self.filled(step.text)), step.aloud)
            case Stop():
                if step.text is not None or step.aloud:
                    yield Tell((yield from self.filled(step.text or "")), step.aloud)
                raise _Ended
            case Part():
                yield from self.steps(step.steps)
            case Run():
                yield from self._other(step.macro)
            case If() | Repeat() | ForEach() | While():
                yield from self._block(step)

    def _block(self, step: If | Repeat | ForEach | While) -> Flow:
        match step:
            case If():
                if is_true((yield from self.worked_out(step.condition))):
                    yield from self.steps(step.steps)
                else:
                    yield from self.steps(step.otherwise or ())
            case Repeat():
                try:
                    times = int(as_number((yield from self.worked_out(step.times))))
                except CannotWorkOut as error:
                    raise self._stopped(f"{error}.", tr("All was taken back.")) from None
                for _ in range(times):
                    yield from self._again(step.steps)
            case ForEach():
                value = yield from self.value(step.reading)
                entries = value if isinstance(value, tuple) else (as_text(value),)
                for entry in entries:
                    self.values[step.name] = entry
                    yield from self._again(step.steps)
            case While():
                yield from self._while(step)

    def _while(self, step: While) -> Flow:
        count = 0
        while is_true((yield from self.worked_out(step.condition))):
            count += 1
            if count > step.limit:
                raise self._stopped(
                    tr("It went round {limit:,} times, which is the limit.", limit=step.limit),
                    tr("All was taken back."),
                )
            yield from self._again(step.steps)
            self._at(step)

    def _again(self, steps: tuple[Statement, ...]) -> Flow:
        # An empty round counts as a step too: no loop goes on for ever.
        self.count += 1
        if self.count > MOST_STEPS:
            raise self._stopped(
                tr("It went on for {MOST_STEPS:,} steps.", MOST_STEPS=MOST_STEPS), tr("All was taken back.")
            )
        yield Breathe()
        yield from self.steps(steps)

    def _question(self, step: Ask) -> Generator[Request, Any, Choose]:
        prompt = yield from self.filled(step.prompt)
        default = yield from self.filled(step.default or "")
        return Choose(prompt, step.choices, step.reading, default, step.range)

    def _remember(self, asks: tuple[Ask, ...], answers: tuple[str, ...] | None) -> None:
        if answers is None:
            raise MacroStopped(tr("Cancelled: nothing was changed."), line=self.line)
        for ask, answer in zip(asks, answers, strict=True):
            self.values[ask.name] = str(answer)

    def _other(self, identity: str) -> Flow:
        other: Macro | None = yield Fetch(identity)
        if other is None:
            raise self._stopped(
                tr("The macro “{identity}” is not here.", identity=identity), tr("All was taken back.")
            )
        if len(self.inside) > DEEPEST_RUN:
            raise self._stopped(tr("The macros run one another without end."), tr("All was taken back."))
        # Another macro has names of its own, and a `stop` in it ends only itself.
        kept, self.values = self.values, {}
        with contextlib.suppress(_Ended):
            yield from self.macro(other)
        self.values = kept


def run_macro(macro: Macro) -> Flow:
    """The flow of one run.

    Raises:
        MacroStopped: a need is not met, a question was cancelled, a value cannot be worked out, a macro that
            it runs is missing, or a bound was reached. All that was done is then to be taken back.
    """
    with contextlib.suppress(_Ended):
        yield from _Run().macro(macro)
