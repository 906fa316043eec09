"""What a seat has installed, as far as its receipts say."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import read_package
from rimecrest.core.release.stack_sources import released_stack
from rimecrest.core.workspace.people import Seat
from rimecrest.rollout.folder import open_repository
from rimecrest.studio.rollout.board import read_board
from rimecrest.studio.shared.session import Session


def installed(session: Session, seat: Seat, app: str) -> tuple[int, Outcome | None]:
    """The number of the release a seat reported last, and what it amounts to; 0 and None when there is
    none."""
    workspace = session.workspace
    try:
        address = workspace.channel_address(session.folder)
        board = read_board(workspace, address)
        state = next((state for state in board.seats if state.seat.seat == seat.seat), None)
        if state is None or not state.release:
            return 0, None
        number = state.release
        package = read_package(open_repository(address).package(number), f"Release {number}")
    except RimecrestError:
        return 0, None
    # Seats that reported before they said what they have are taken to have what they would have today.
    today = Assignment(release=number, stack=workspace.stack_of(seat), **seat.traits._asdict())
    catalogue = workspace.catalogue(app)
    shown = released_stack(package, state.assigned or today, app).followed(catalogue)
    return number, shown.outcome(catalogue)
