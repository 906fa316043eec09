"""A trial: a macro run step by step on a scratch copy, told over the link with a picture after each step.

The studio asks `trial.begin`, then `trial.go` once for each step it wants. What is asked meanwhile it answers
with `trial.answer`. Notices: `trial.held` (the line it waits before), `trial.did` (a line with its picture
and where the cursor is in it), `trial.asks`, `trial.ended`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import QRect

from rimecrest.core.words import tr
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.macros.asker import Allowed, Answered, Filled
from rimecrest.kit.macros.run import MacroRun
from rimecrest.kit.panels.asked import Asked, AskedPanel
from rimecrest.surfaces.panel_controls import Choices

Tell = Callable[[str, Mapping[str, Any]], None]


class LinkAsker:
    """Asks over the link what the macro asks."""

    def __init__(self, tell: Tell, choices: Choices) -> None:
        self._tell = tell
        self._choices = choices
        self._answered: Answered | None = None

    def ask(self, _macro: str, title: str, questions: tuple[Asked, ...], answered: Answered) -> None:
        self._answered = answered
        asked = [{"prompt": q.prompt, "choices": list(q.choices), "default": q.default} for q in questions]
        self._tell("trial.asks", {"title": title, "questions": asked})

    def ask_panel(self, macro: str, panel: AskedPanel, answered: Filled) -> None:
        questions = panel.questions(self._choices)

        def told(answers: tuple[str, ...] | None) -> None:
            answered(None if answers is None else dict(zip(questions, answers, strict=True)))

        self.ask(macro, panel.panel.title, tuple(questions.values()), told)

    def ask_leave(self, macro: str, words: str, _may_last: bool, answered: Allowed) -> None:
        def told(answers: tuple[str, ...] | None) -> None:
            answered(answers == ("yes",), False)

        prompt = tr("“{macro}” wants to {words}. May it?", macro=macro, words=words)
        self.ask(macro, "", (Asked(prompt, ("no", "yes"), "no"),), told)

    def cancel(self) -> None:
        self.answer(None)

    def answer(self, answers: tuple[str, ...] | None) -> None:
        """The answers came; None: cancelled. Nothing happens while nothing is asked."""
        answered, self._answered = self._answered, None
        if answered is not None:
            answered(answers)


class Trial:
    """The trial of one window at a time."""

    def __init__(
        self,
        dispatcher: Dispatcher,
        prepare: Callable[[str], None],
        tell: Tell,
        picture: Callable[[], str],
        spot: Callable[[], QRect],
        choices: Choices,
    ) -> None:
        """Try macros in that window.

        Args:
            prepare: begins a fresh document, or one that is a copy of a file.
            picture: the document as it looks now.
            spot: where the cursor is in it, in pixels.
            choices: the entries of a reading, for the panels that a macro asks.
        """
        self._dispatcher = dispatcher
        self._prepare = prepare
        self._tell = tell
        self._picture = picture
        self._spot = spot
        self._asker = LinkAsker(tell, choices)
        self._run: MacroRun | None = None
        dispatcher.run_begun.connect(self._begun)

    def methods(self) -> dict[str, Callable[..., Any]]:
        """What the link calls."""
        return {
            "trial.begin": self.begin,
            "trial.go": self.go,
            "trial.answer": self.answer,
            "trial.end": self.end,
        }

    def begin(self, macro: str, file: str = "") -> str:
        """Begin a macro on a fresh document, or on a copy of a file. Returns a picture of it as it is."""
        self.end()
        self._prepare(file)
        shown = self._picture()
        self._expected = True
        try:
            self._dispatcher.begin_macro(macro, step_by_step=True, asker=self._asker)
        finally:
            self._expected = False
        return shown

    _expected = False

    def _begun(self, run: MacroRun) -> None:
        # Before its first step, so that nothing of it goes untold.
        if self._expected:
            self._run = run
            run.held.connect(lambda line: self._tell("trial.held", {"line": line}))
            run.stepped.connect(self._did)
            run.ended.connect(lambda sentence: self._ended(run, sentence))

    def go(self) -> bool:
        """Do the next step."""
        if self._run is not None:
            self._run.go_on()
        return True

    def answer(self, answers: list[str] | None = None) -> bool:
        self._asker.answer(tuple(answers) if answers is not None else None)
        return True

    def end(self) -> bool:
        """Stop what is being tried, and tell nothing more of it."""
        run, self._run = self._run, None
        if run is not None:
            run.stop()
        return True

    def _did(self, line: int) -> None:
        if self._run is not None:
            spot = self._spot()
            self._tell("trial.did", {"line": line, "picture": self._picture(), "spot": list(spot.getRect())})

    def _ended(self, run: MacroRun, sentence: str) -> None:
        if run is self._run:
            self._run = None
            told = {"well": run.well, "sentence": sentence, "line": run.line}
            self._tell("trial.ended", {**told, "picture": self._picture()})
