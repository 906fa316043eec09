"""Publishing a workspace as the next release of its channel."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from rimecrest.channel.folder import open_repository
from rimecrest.core.check import Weight, check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.release import audience_of, build_package, frozen_pictures, read_package, understand
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace import Workspace


def publish_workspace(
    workspace: Workspace, address: str, news: Mapping[str, str], seats: Iterable[str] | None = None
) -> tuple[int, int]:
    """Write the next numbered release and its audience.

    Args:
        news: layer → the sentence that its colleagues read.
        seats: who gets it; None for all.

    Returns:
        The release's number and how many seats it is for.

    Raises:
        RimecrestError: a finding blocks, nobody is listed, or the channel cannot be written.
    """
    blocking = [finding for finding in check(workspace).findings if finding.weight is Weight.BLOCKS]
    if blocking:
        count = counted(len(blocking), "finding blocks", "findings block")
        raise RimecrestError(
            tr("{count} the release: {sentence}", count=count, sentence=blocking[0].sentence),
            tr("Mend that first."),
        )
    channel = open_repository(address)
    number = channel.newest() + 1
    audience = audience_of(workspace, number, seats)
    if not audience.seats:
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
    channel.publish(number, content, audience)
    return number, len(audience.seats)
