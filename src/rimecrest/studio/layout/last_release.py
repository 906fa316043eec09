"""What the colleague who is aimed at has from the last release, to be compared with the draft."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.traits import NOWHERE
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import read_package
from rimecrest.core.release.stack_sources import released_stack
from rimecrest.core.words import tr
from rimecrest.studio.shared.session import Session


def last_release(session: Session) -> tuple[int, Outcome]:
    """The number of the last release, and what it amounts to for the aimed layer and seat.

    Raises:
        RimecrestError: there is no channel, nothing has been released, or it cannot be read.
    """
    workspace, aim = session.workspace, session.aim
    from rimecrest.rollout.folder import open_repository  # noqa: PLC0415  it brings what fetches over a network

    repository = open_repository(workspace.channel_address(session.folder))
    number = repository.newest()
    if not number:
        raise RimecrestError(tr("Nothing has been released yet."), tr("There is nothing to compare with."))
    package = read_package(repository.package(number), tr("Release {number}", number=number))
    seat = aim.find_seat(workspace)
    traits = seat.traits if seat is not None else NOWHERE
    assigned = Assignment(release=number, stack=aim.stack(workspace), **traits._asdict())
    catalogue = workspace.catalogue(aim.app)
    return number, released_stack(package, assigned, aim.app).followed(catalogue).outcome(catalogue)
