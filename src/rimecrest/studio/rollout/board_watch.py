"""Looking at a channel without the window waiting for it: a mounted folder may be slow."""

from __future__ import annotations

import contextlib
from threading import Lock, Thread

from msgspec import Struct
from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.package import Package, read_package
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.folder import open_repository
from rimecrest.studio.rollout.board import Board, BoardReader

PATIENCE = 1.0
"""Seconds to wait for a look that is under way when the studio ends."""


class Sighting(Struct, frozen=True):
    """What one look at a channel has found."""

    board: Board
    package: Package | None
    """The newest release; None: there is none, or it cannot be read."""
    places: tuple[str, ...]
    """The folders that tell by themselves when something comes in."""


class BoardWatch(QObject):
    """Looks at channels in threads of their own, one after the other.

    Signals:
        seen(sighting): a look that nobody waits for any more is done.
    """

    seen = pyqtSignal(Sighting)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._reader = BoardReader()
        self._alone = Lock()
        self._package: Package | None = None
        self._package_at = ("", 0)
        self._looking: Thread | None = None

    def look(self, workspace: Workspace, address: str) -> None:
        """Look aside, unless a look is under way still."""
        if self._looking is None or not self._looking.is_alive():
            self.look_within(workspace, address, 0.0)

    def look_within(self, workspace: Workspace, address: str, seconds: float) -> Sighting | None:
        """Look, and wait for it so long; None: it is waited for no longer, and comes by `seen`."""
        found: list[Sighting] = []
        waited_for, deciding = seconds > 0, Lock()

        def work() -> None:
            with self._alone:
                sighting = self._sight(workspace, address)
            with deciding:
                found.append(sighting)
                aside = not waited_for
            if aside:
                with contextlib.suppress(RuntimeError):  # the window is gone: nobody is told
                    self.seen.emit(sighting)

        self._looking = Thread(target=work, daemon=True)
        self._looking.start()
        if not seconds:
            return None
        self._looking.join(seconds)
        with deciding:
            waited_for = False
            return found[0] if found else None

    def _sight(self, workspace: Workspace, address: str) -> Sighting:
        board = self._reader.read(workspace, address)
        at = address, board.newest
        if at != self._package_at or self._package is None:
            # A release never changes: it is read and verified once, not at every look.
            self._package, self._package_at = _package(*at), at
        return Sighting(board, self._package, () if board.trouble or not address else _places(address))

    def end(self) -> None:
        """The studio ends: a look that is under way is waited for, but not for long."""
        if self._looking is not None:
            self._looking.join(PATIENCE)


def _places(address: str) -> tuple[str, ...]:
    with contextlib.suppress(RimecrestError, OSError):
        return tuple(map(str, open_repository(address).places()))
    return ()


def _package(address: str, number: int) -> Package | None:
    if not number:
        return None
    with contextlib.suppress(RimecrestError):
        return read_package(open_repository(address).package(number), f"Release {number}")
    return None
