"""Publishing a workspace as the next release of its channel."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping

from rimecrest.channel.folder import open_repository
from rimecrest.core.check import Weight, check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.release import audience_of, build_package, frozen_pictures, read_package, understand
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace import Workspace


def publish_workspace(
    workspace: Workspace,
    address: str,
    news: Mapping[str, str],
    seats: Iterable[str] | None = None,
    expected: int = 0,
) -> tuple[int, int]:
    """Write the next numbered release and its audience.

    Args:
        news: layer → the sentence that its colleagues read.
        seats: who gets it; None for all. The others keep what they have.
        expected: the number that was promised; 0 for whatever comes next.

    Returns:
        The release's number and how many seats it is for.

    Raises:
        RimecrestError: a finding blocks, nobody is listed, the number is taken by now, or the channel cannot
            be written.
    """
    blocking = [finding for finding in check(workspace).findings if finding.weight is Weight.BLOCKS]
    if blocking:
        count = counted(len(blocking), "finding blocks", "findings block")
        raise RimecrestError(
            tr("{count} the release: {sentence}", count=count, sentence=blocking[0].sentence),
            tr("Mend that first."),
        )
    channel = open_repository(address)
    newest = channel.newest()
    number = newest + 1
    if expected and number != expected:
        raise RimecrestError(
            tr("Release {newest} has come in meanwhile.", newest=newest),
            tr("Look at it, then release as {number}; nothing was released.", number=number),
        )
    chosen = None if seats is None else set(seats)
    if not [seat for seat in workspace.people if chosen is None or seat.seat in chosen]:
        raise RimecrestError(
            tr("No seat is listed, so nobody would get the release."), tr("Add seats to people.csv.")
        )
    content = build_package(workspace, number, news, frozen_pictures(workspace))
    # As every seat will read it: what they would refuse is told here, before anybody is pointed to it.
    where = tr("Release {number}", number=number)
    try:
        understand(read_package(content, where), where)
    except RimecrestError as error:
        raise RimecrestError(
            tr("No seat could take this release: {reason}", reason=error.sentence),
            tr("Mend or take away what it names; nothing was released."),
        ) from None
    digest = hashlib.sha256(content).hexdigest()
    before = channel.audience() if newest and chosen is not None else None
    audience = audience_of(workspace, number, chosen, digest, before)
    channel.publish(number, content, audience)
    return number, sum(meant.release == number for meant in audience.seats.values())
