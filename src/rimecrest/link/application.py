"""A running application, reached over the link."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line, LinkRefused


class LinkedApplication:
    """A running application behind a connection, which it closes at its end.

    What it refuses is a RimecrestError with the application's own sentence.
    """

    def __init__(self, line: Line) -> None:
        self._line = line

    @staticmethod
    def running(app: str) -> LinkedApplication:
        """The application of that name that was started last and answers.

        Raises:
            RimecrestError: none runs.
        """
        for path in sorted(listening(app), key=lambda path: path.stat().st_mtime, reverse=True):
            try:
                return LinkedApplication(Line(path))
            except LinkRefused:
                continue
        raise RimecrestError(
            tr("No “{app}” is running.", app=app), tr("Start it: rimecrest app {app}", app=app)
        )

    def __enter__(self) -> LinkedApplication:
        return self

    def __exit__(self, *_: object) -> None:
        self._line.close()

    def _ask(self, method: str, **params: Any) -> Any:
        try:
            return self._line.ask(method, **params)
        except LinkRefused as refusal:
            raise RimecrestError(str(refusal)) from None

    @cached_property
    def catalogue(self) -> Catalogue:
        """What it can do, as it says itself."""
        return Catalogue.model_validate(self._ask("catalogue"))

    def live(self) -> frozenset[str]:
        """The contexts that are live in it now."""
        return frozenset(self._ask("contexts"))

    def read(self, name: str) -> Any:
        """The value of a reading. Raises RimecrestError when there is none of that name."""
        return self._ask("read", name=name)

    def perform_or_raise(self, run: str, args: Mapping[str, str]) -> Any:
        """Run a command, or begin a macro. Raises RimecrestError when it refuses."""
        return self._ask("perform", run=run, args=dict(args))

    def run_text(self, text: str) -> tuple[bool, str]:
        """Run a macro from its text, and wait for its end.

        Returns:
            Whether it went well, and what is to say about it.

        Raises:
            RimecrestError: it was refused, or the application ended meanwhile.
        """
        try:
            self._line.ask("run.text", text=text)
            ended = self._line.await_notice("run.ended")
        except LinkRefused as refusal:
            raise RimecrestError(str(refusal)) from None
        return bool(ended["well"]), str(ended["sentence"])
