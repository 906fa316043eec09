"""The port to an application: what checks, macros and the studio need to know of one, wherever it is.

Three kinds of applications stand behind it: one that carries Rimecrest's dispatcher (`embed.dispatcher`), one
that runs and is spoken to over the link (`link.application`), and one that only its stored catalogue is known
of (`StoredApplication`).
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol, runtime_checkable

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr


@runtime_checkable
class Application(Protocol):
    """What can be asked of an application, and done in it."""

    @property
    def catalogue(self) -> Catalogue:
        """What it can do."""
        ...

    def live(self) -> frozenset[str]:
        """The contexts that are live in it now."""
        ...

    def read(self, name: str) -> Any:
        """The value of a reading. Raises RimecrestError when there is none of that name."""
        ...

    def perform_or_raise(self, run: str, args: Mapping[str, str]) -> Any:
        """Run a command (`<app>:<verb>`) or a macro (`macro:<id>`). Raises RimecrestError when refused."""
        ...


class StoredApplication:
    """An application that does not run: its catalogue is all that is known of it."""

    def __init__(self, catalogue: Catalogue) -> None:
        self._catalogue = catalogue

    @property
    def catalogue(self) -> Catalogue:
        """As it was stored."""
        return self._catalogue

    def live(self) -> frozenset[str]:
        """None: no context is live in what does not run."""
        return frozenset()

    def _not_running(self) -> RimecrestError:
        return RimecrestError(
            tr("{title} is not running.", title=self._catalogue.title), tr("Start it first.")
        )

    def read(self, _name: str) -> Any:
        """Raises RimecrestError: there is nothing to read."""
        raise self._not_running()

    def perform_or_raise(self, _run: str, _args: Mapping[str, str]) -> Any:
        """Raises RimecrestError: nothing can be done in it."""
        raise self._not_running()
