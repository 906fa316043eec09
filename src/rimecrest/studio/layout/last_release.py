"""What the colleague who is aimed at has from the last release, to be compared with the draft."""

from __future__ import annotations

from dataclasses import dataclass

from rimecrest.channel import open_repository
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import NOWHERE
from rimecrest.core.layout import Outcome
from rimecrest.core.layout.compare import Difference, compare
from rimecrest.core.release import Assignment, read_package, released_stack
from rimecrest.core.words import tr
from rimecrest.studio.shared.session import Session


@dataclass(frozen=True)
class Before:
    """A release by its number, what it amounts to for the aim, and how the draft differs from it."""

    number: int
    outcome: Outcome
    differences: tuple[Difference, ...]

    def framed(self) -> frozenset[str]:
        """The identities of what differs."""
        return frozenset(difference.of for difference in self.differences if difference.kind != "key")


def last_release(session: Session) -> Before:
    """The last release, for the aimed layer and seat.

    Raises:
        RimecrestError: there is no channel, nothing has been released, or it cannot be read.
    """
    workspace, aim = session.workspace, session.aim
    repository = open_repository(workspace.channel_address(session.folder))
    number = repository.newest()
    if not number:
        raise RimecrestError(tr("Nothing has been released yet."), tr("There is nothing to compare with."))
    package = read_package(repository.package(number), tr("Release {number}", number=number))
    seat = aim.find_seat(workspace)
    traits = seat.traits if seat is not None else NOWHERE
    assigned = Assignment(release=number, stack=aim.stack(workspace), **traits._asdict())
    catalogue = workspace.catalogue(aim.app)
    before = released_stack(package, assigned, aim.app).followed(catalogue).outcome(catalogue)
    targets = workspace.targets(aim.stack(workspace), aim.app)
    return Before(number, before, tuple(compare(before, session.outcome(), targets)))
