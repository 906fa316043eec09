"""Looking at a channel again and again without the window waiting for it: a mounted folder may be slow."""

from __future__ import annotations

import contextlib
from threading import Thread

from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.workspace import Workspace
from rimecrest.studio.rollout.board import Board, BoardReader

PATIENCE = 1.0
"""Seconds to wait for a look that is under way when the studio ends."""


class BoardWatch(QObject):
    """Reads boards, at once or aside.

    Signals:
        seen(board): a look aside is done.
    """

    seen = pyqtSignal(Board)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._reader = BoardReader()
        self._looking: Thread | None = None

    def read(self, workspace: Workspace, address: str) -> Board:
        """The board as it is now."""
        return self._reader.read(workspace, address)

    def look(self, workspace: Workspace, address: str) -> None:
        """Look aside, unless a look is under way still."""
        if self._looking is not None and self._looking.is_alive():
            return
        self._looking = Thread(target=self._look, args=(workspace, address), daemon=True)
        self._looking.start()

    def _look(self, workspace: Workspace, address: str) -> None:
        board = self._reader.read(workspace, address)
        with contextlib.suppress(RuntimeError):  # the window is gone: nobody waits for it
            self.seen.emit(board)

    def end(self) -> None:
        """The studio ends: a look that is under way is waited for, but not for long."""
        if self._looking is not None:
            self._looking.join(PATIENCE)
