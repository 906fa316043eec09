"""What applications that run tell of files: which are open there, and what a file has in it.

A file is looked into by its own application: a window of it that runs, or one started for that, unseen.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject

from rimecrest.core.words import tr
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line, LinkRefused
from rimecrest.studio.shared.scratch_process import ScratchApp

ANSWER = 2.0
"""Seconds that a running window may take to answer."""


def open_files(app: str) -> list[str]:
    """The files that are open in the windows of an application, the newest window's first."""
    found: list[str] = []
    for path in sorted(listening(app), key=lambda path: path.stat().st_mtime, reverse=True):
        with contextlib.suppress(LinkRefused), Line(path, timeout=ANSWER) as line:
            found += [str(file) for file in line.ask("files")]
    return list(dict.fromkeys(found))


class LookInside(QObject):
    """Asks what a file, or the document that is open, has in it: its sheets, its headings.

    A question that another one follows is forgotten.
    """

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._scratch: ScratchApp | None = None
        self._asked = 0

    def ask(
        self,
        app: str,
        path: Path | None,
        reading: str,
        answer: Callable[[list[str]], None],
        failed: Callable[[str], None],
    ) -> None:
        """Ask once; either `answer` gets the entries or `failed` a sentence, perhaps later.

        Args:
            path: the file; None for the document that is worked in, of a window that runs.
        """
        self._asked += 1
        asked = self._asked

        def told(result: Any) -> None:
            if asked == self._asked:
                answer([str(entry) for entry in result] if isinstance(result, list) else [])

        def refused(sentence: str) -> None:
            if asked == self._asked:
                failed(sentence)

        for running in sorted(listening(app), key=lambda found: found.stat().st_mtime, reverse=True):
            try:
                with Line(running, timeout=ANSWER) as line:
                    if path is None:
                        told(line.ask("read", name=reading))
                    else:
                        told(line.ask("look", path=str(path), reading=reading))
                    return
            except LinkRefused as refusal:
                if path is not None and path.exists():
                    continue  # that window cannot, or is busy: one of its own can say why
                refused(str(refusal))
                return
        if path is None:
            refused(tr("No {title} is running to look at.", title=app.capitalize()))
        else:
            self._in_scratch(app, {"path": str(path), "reading": reading}, told, refused)

    def _in_scratch(
        self, app: str, question: dict[str, str], told: Callable[[Any], None], refused: Callable[[str], None]
    ) -> None:
        self.close()
        scratch = self._scratch = ScratchApp(self, hidden=True)
        scratch.ready.connect(lambda: scratch.ask("look", question, told))
        scratch.refused.connect(refused)
        scratch.failed.connect(refused)
        scratch.start(app)

    def close(self) -> None:
        """End what was started for looking."""
        scratch, self._scratch = self._scratch, None
        if scratch is not None:
            scratch.close()
            scratch.deleteLater()
