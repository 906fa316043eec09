"""The state of each seat, from the audience and the receipts. No widgets in here."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from enum import Enum
from threading import Lock

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.audience import Assignment, Audience, seat_id
from rimecrest.core.release.made import Made
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.folder import open_repository
from rimecrest.rollout.repository import Repository


class State(Enum):
    """What a seat has of the newest release."""

    HAS = "has it"
    OFFERED = "offered"
    NOT_YET = "not yet"
    FAILED = "failed"


class SeatState(Struct, frozen=True):
    """One seat on the board. `release` is what it reported last, 0 for nothing."""

    seat: Seat
    state: State
    release: int = 0
    at: str = ""
    reason: str = ""
    assigned: Assignment | None = None
    """What it has of that release, as it reported."""
    twice: bool = False
    """Two profiles reported that release for it: one of them belongs to another seat."""


class ReleaseBar(Struct, frozen=True):
    """A release on the line of time, with the share of its seats that applied it and the day."""

    number: int
    day: str
    share: float


class Board(Struct, frozen=True):
    """Everything the Roll-out place shows."""

    newest: int
    seats: tuple[SeatState, ...]
    releases: tuple[ReleaseBar, ...]
    ignored: int = 0
    trouble: str = ""
    made: Made | None = None
    """Who made the newest release, and when, where that is known."""

    def count(self, state: State) -> int:
        return sum(seat.state is state for seat in self.seats)

    def departments(self, workspace: Workspace) -> list[tuple[str, list[SeatState]]]:
        """(title, seats) per department, in the workspace's order; a seat stands in its first one."""
        found: dict[str, list[SeatState]] = {}
        for seat in self.seats:
            stack = workspace.stack_of(seat.seat)
            named = [f"department.{name}" for name in seat.seat.departments]
            layer = next((name for name in _own_first(seat.seat, named) if name in stack), "organisation")
            found.setdefault(layer, []).append(seat)
        return [(workspace.layer_title(layer), found[layer]) for layer in workspace.layers if layer in found]


def _own_first(seat: Seat, layers: list[str]) -> list[str]:
    # Of two departments, the one that the seat is called after.
    word = seat.seat.split()[0].lower()
    return sorted(layers, key=lambda layer: word not in layer)


def board_of(
    workspace: Workspace, newest: int, audience: Audience | None, receipts: Iterable[Receipt]
) -> Board:
    """Fold an audience and the receipts, in their order, into a board."""
    last: dict[str, Receipt] = {}
    has: dict[str, Receipt] = {}
    per_release: dict[int, list[Receipt]] = {}
    profiles: dict[tuple[str, int], set[str]] = defaultdict(set)
    for receipt in receipts:
        if receipt.profile:
            profiles[receipt.seat, receipt.release].add(receipt.profile)
        last[receipt.seat] = receipt
        if receipt.state == "applied":
            has[receipt.seat] = receipt
        per_release.setdefault(receipt.release, []).append(receipt)
    seats = []
    for seat in workspace.people:
        identity = seat_id(workspace.settings.name, seat.seat)
        meant = audience.seats.get(identity) if audience else None
        state = _state(seat, meant.release if meant else 0, last.get(identity))
        applied = has.get(identity)
        if applied is not None:
            twice = len(profiles[identity, applied.release]) > 1
            state = replace(state, release=applied.release, assigned=applied.assigned, twice=twice)
        seats.append(state)
    total = max(len(workspace.people), 1)
    bars = [
        ReleaseBar(
            number,
            min((receipt.at[:10] for receipt in per_release.get(number, ())), default=""),
            len({receipt.seat for receipt in per_release.get(number, ()) if receipt.state == "applied"})
            / total,
        )
        for number in sorted({*per_release, *([newest] if newest else [])})
    ]
    return Board(newest, tuple(seats), tuple(bars[-6:]))


def _state(seat: Seat, meant: int, receipt: Receipt | None) -> SeatState:
    at, reason = (receipt.at, receipt.reason) if receipt else ("", "")
    if not meant:
        return SeatState(seat, State.NOT_YET, at=at)
    if receipt is not None and receipt.release >= meant:
        state = State.HAS if receipt.state == "applied" else State.FAILED
        return SeatState(seat, state, at=at, reason=reason)
    return SeatState(seat, State.OFFERED, at=at)


class BoardReader:
    """Reads the board of a channel again and again: what was read already is not read again."""

    def __init__(self) -> None:
        self._channel: tuple[str, Repository] | None = None
        self._last: tuple[Workspace, int, Audience | None, list[Receipt], Board] | None = None
        self._alone = Lock()

    def read(self, workspace: Workspace, address: str) -> Board:
        """The board of a channel; where it cannot be read, an empty one that says why.

        It may be asked from any thread; while nothing has changed, the answer is the same board.
        """
        with self._alone:
            return self._read(workspace, address)

    def _read(self, workspace: Workspace, address: str) -> Board:
        try:
            channel = self._at(address)
            newest = channel.newest()
            audience = channel.audience() if newest else None
            receipts, ignored = channel.receipts()
        except (RimecrestError, OSError) as error:
            empty = board_of(workspace, 0, None, ())
            return Board(0, empty.seats, (), trouble=str(error))
        now = workspace, newest, audience, receipts
        if self._last is None or not all(a is b for a, b in zip(now, self._last, strict=False)):
            board = board_of(*now)
            made = channel.made(newest) if newest else None
            self._last = *now, Board(board.newest, board.seats, board.releases, ignored, made=made)
        return self._last[-1]

    def _at(self, address: str) -> Repository:
        if self._channel is None or self._channel[0] != address:
            self._channel = address, open_repository(address)
        return self._channel[1]


def read_board(workspace: Workspace, address: str) -> Board:
    """The board of a channel, read once."""
    return BoardReader().read(workspace, address)
