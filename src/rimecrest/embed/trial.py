"""A trial: a macro run step by step on a scratch copy, told over the link with a picture after each step.

The studio asks `trial.begin`, then `trial.go` once for each step it wants. What is asked meanwhile it answers
with `trial.answer`. Notices: `trial.held` (the line it waits before), `trial.did` (a line with its picture),
`trial.asks`, `trial.ended`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QRect

from rimecrest.core.errors import RimecrestError
from rimecrest.embed.open_documents import OpenDocuments
from rimecrest.embed.questions import Asked
from rimecrest.embed.runner import MacroRunner

Tell = Callable[[str, Mapping[str, Any]], None]


class Trial:
    """The trial of one window at a time."""

    def __init__(
        self,
        runner: MacroRunner,
        documents: OpenDocuments,
        tell: Tell,
        picture: Callable[[], str],
        spot: Callable[[], QRect],
    ) -> None:
        """`picture` is of the document as it looks now, `spot` where the cursor is in it, in pixels."""
        self._runner = runner
        self._documents = documents
        self._tell = tell
        self._picture = picture
        self._spot = spot
        self._on = False
        runner.held.connect(self._held)
        runner.stepped.connect(self._did)
        runner.ended.connect(self._ended)
        runner.finished.connect(self._finished)
        self._well = True

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
        fresh = self._documents.fresh()
        if file:
            fresh.open_path(Path(file))
            fresh.path = None
        self._on = True
        self._runner.ask_elsewhere = self._ask
        shown = self._picture()
        try:
            self._runner.run(macro, step_by_step=True)
        except RimecrestError:
            self.end()
            raise
        return shown

    def go(self) -> bool:
        """Do the next step."""
        self._runner.go_on()
        return True

    def answer(self, answers: list[str] | None = None) -> bool:
        self._runner.answered(tuple(answers) if answers is not None else None)
        return True

    def end(self) -> bool:
        """Stop what is being tried."""
        on, self._on = self._on, False
        self._runner.ask_elsewhere = None
        if on:
            self._runner.stop()
        return True

    def _ask(self, title: str, questions: tuple[Asked, ...]) -> None:
        asked = [{"prompt": q.prompt, "choices": list(q.choices), "default": q.default} for q in questions]
        self._tell("trial.asks", {"title": title, "questions": asked, "line": self._runner.line})

    def _held(self, line: int) -> None:
        if self._on:
            self._tell("trial.held", {"line": line})

    def _did(self, line: int) -> None:
        if self._on:
            spot = self._spot()
            self._tell("trial.did", {"line": line, "picture": self._picture(), "spot": list(spot.getRect())})

    def _finished(self, _macro: str, well: bool) -> None:
        self._well = well

    def _ended(self, _name: str, sentence: str) -> None:
        if self._on:
            self._on = False
            self._runner.ask_elsewhere = None
            told = {"well": self._well, "sentence": sentence, "line": self._runner.line}
            self._tell("trial.ended", {**told, "picture": self._picture()})
