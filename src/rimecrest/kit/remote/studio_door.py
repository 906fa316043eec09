"""The door from an application into the studio that runs on the same screen: things are changed over there.

Only whoever has the studio open finds it: the two meet over the link, as the same user.
"""

from __future__ import annotations

import os
import time
from typing import Any

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line, LinkRefused

PATIENCE = 0.5
"""Seconds that the studio may take to say who it is: a menu waits for it."""
STUDIO = "studio"


class StudioDoor:
    """What an application asks of the studio."""

    def __init__(self, app: str) -> None:
        self._app = app

    def _ask(self, method: str, **params: Any) -> Any:
        """The answer of the first studio that gives one; None: there is none."""
        for path in listening(STUDIO):
            try:
                with Line(path, PATIENCE) as line:
                    return line.ask(method, **params)
            except LinkRefused:
                continue
        return None

    def layers(self) -> list[tuple[str, str]]:
        """(id, title) of the layers that the studio can change for this application; none: it is not open."""
        return [(str(name), str(title)) for name, title in self._ask("layers", app=self._app) or ()]

    def take_recorded(self, recording: str, name: str, text: str, document: str) -> bool:
        """Have the studio put what was recorded on the specialist's own shelf; whether it has it now.

        Args:
            recording: its identity. A studio that answers later than this waits does not take it.
            document: the name of the document that it was recorded in.
        """
        sent = {"app": self._app, "name": name, "text": text, "document": document, "pid": os.getpid()}
        until = time.monotonic() + PATIENCE
        return bool(self._ask("take.recorded", **sent, recording=recording, until=until))

    def has_recorded(self, recording: str) -> bool:
        """Whether the studio has taken over a recording after all."""
        return bool(self._ask("has.recorded", recording=recording))

    def take_over(self, what: str, kind: str, name: str, layer: str = "") -> None:
        """Have the studio come to the front and take something up.

        Args:
            what: `change`, `edit`, `place`, `key` or `delete`.
            kind: `item` or `macro`.
            layer: which one is to be changed; the one that it is at where none is named.

        Raises:
            RimecrestError: there is no studio, or it cannot do that.
        """
        if not self._ask("take.up", app=self._app, what=what, kind=kind, name=name, layer=layer):
            raise RimecrestError(
                tr("The studio does not take that up."), tr("Open it with this application’s workspace.")
            )
