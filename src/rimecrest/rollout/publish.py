"""Publishing a workspace as the next release of its channel."""

from __future__ import annotations

import secrets
from collections.abc import Iterable, Iterator, Mapping
from datetime import UTC, datetime

from rimecrest.core.check.kinds import Weight
from rimecrest.core.check.run import Checked, check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.compare import compare
from rimecrest.core.layout.faces import Targets
from rimecrest.core.release.audience import Assignment, Audience, audience_of
from rimecrest.core.release.made import Made
from rimecrest.core.release.package import Package, build_package, read_package, understand
from rimecrest.core.release.package_files import LEAP, STEP
from rimecrest.core.release.pictures import frozen_pictures
from rimecrest.core.release.stack import StackState
from rimecrest.core.release.stack_sources import released_stack
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.folder import open_repository
from rimecrest.rollout.repository import Repository


class NewerRelease(RimecrestError):
    """The channel has a release that the workspace was not made from. `changes` says what that changed."""

    def __init__(self, number: int, made: Made | None, changes: tuple[str, ...]) -> None:
        who = tr(" by {by}", by=made.by) if made is not None and made.by else ""
        said = " ".join(changes[:MOST_CHANGES]) or tr("It changed nothing that shows.")
        more = len(changes) - MOST_CHANGES
        rest = " " + tr("And {number}.", number=counted(more, "more change")) if more > 0 else ""
        super().__init__(
            tr("Release {number}{who} was not made from this workspace. {said}{rest}", number=number, who=who,
               said=said, rest=rest),
            tr("Releasing now takes that back."),
        )  # fmt: skip
        self.number = number
        self.changes = changes


MOST_CHANGES = 5
"""Changes of another release that are told."""


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def _same_office(workspace: Workspace, audience: Audience | None) -> str:
    """Return the office's id on this channel. Raises RimecrestError if the channel is another office's."""
    own, name = workspace.settings.id, workspace.settings.name
    if audience is None:
        return own or secrets.token_hex(8)
    known = own and audience.office
    if (known and own != audience.office) or (not known and audience.name != name):
        raise RimecrestError(
            tr("This channel belongs to “{other}”, not to “{name}”.", other=audience.name, name=name),
            tr("Nothing was released. Choose another folder for this workspace’s releases."),
        )
    return audience.office or own or secrets.token_hex(8)


def _not_behind(workspace: Workspace, channel: Repository, newest: int, over: int | None) -> None:
    """Raise NewerRelease if the channel has a release that nobody here has taken into account."""
    last = workspace.settings.last_release
    had = last.number if last is not None else 0
    if newest <= max(had, over or 0):
        return
    where = tr("Release {number}", number=newest)
    try:
        now = read_package(channel.package(newest), where)
        before = read_package(channel.package(had), where) if had in channel.numbers() else None
        changes = tuple(_changes(workspace, before, had, now, newest))
    except RimecrestError as error:
        changes = (error.sentence,)
    raise NewerRelease(newest, channel.made(newest), changes)


def _not_too_far(newest: int, had: int) -> None:
    """Raise RimecrestError if somebody put a release there from which this office cannot go on."""
    # A workspace of before does not say what it released last.
    if newest > (had + STEP if had else LEAP):
        raise RimecrestError(
            tr(
                "The channel holds release {newest}, which does not follow release {had}. No seat takes it.",
                newest=newest,
                had=had,
            ),
            tr(
                "Take {newest}.crestpack out of the channel’s folder “releases”, then release to everybody.",
                newest=newest,
            ),
        )


def _known_audience(channel: Repository, anew: bool) -> Audience | None:
    """The audience so far; None where it cannot be read and everybody gets a new release (`anew`) anyway."""
    try:
        return channel.audience()
    except RimecrestError as error:
        if anew:
            return None
        raise RimecrestError(
            error.sentence, tr("Release to everybody: that writes a new audience.json.")
        ) from None


def _changes(
    workspace: Workspace, before: Package | None, had: int, now: Package, newest: int
) -> Iterator[str]:
    """Say what a release changed since the one that the workspace was made from."""
    said: set[str] = set()
    for layer in workspace.layers:
        stack = workspace.stack_up_to(layer)
        for app, catalogue in workspace.catalogues.items():
            old = StackState(app=app)
            if before is not None:
                old = released_stack(before, Assignment(release=max(had, 1), stack=stack), app)
            new = released_stack(now, Assignment(release=newest, stack=stack), app)
            faces = {name: file.face for state in (old, new) for name, file in state.macro_files().items()}
            found = compare(old.outcome(catalogue), new.outcome(catalogue), Targets(catalogue, faces))
            for each in found:
                if each.sentence not in said:
                    said.add(each.sentence)
                    yield each.sentence


def publish_workspace(
    workspace: Workspace,
    address: str,
    news: Mapping[str, str],
    seats: Iterable[str] | None = None,
    expected: int = 0,
    over: int | None = None,
    by: str = "",
    checked: Checked | None = None,
) -> tuple[int, int]:
    """Write the next numbered release and its audience.

    Args:
        news: layer → the sentence that its colleagues read.
        seats: who gets it; None for all. The others keep what they have.
        expected: the number that was promised; 0 for whatever comes next.
        over: the newest release that whoever publishes has seen, beside the one that workspace.json names.
        by: who publishes, for people.
        checked: the check of this workspace, where there is one; otherwise it is checked here.

    Returns:
        The release's number and how many seats it is for.

    Raises:
        NewerRelease: the channel has a release that the workspace was not made from.
        RimecrestError: an error holds it, nobody is listed, the channel is another office's, the number is
            taken by now, or the channel cannot be written.
    """
    findings = (checked or check(workspace)).findings
    blocking = [finding for finding in findings if finding.weight is Weight.BLOCKS]
    if blocking:
        count = counted(len(blocking), "finding blocks", "findings block")
        raise RimecrestError(
            tr("{count} the release: {sentence}", count=count, sentence=blocking[0].sentence),
            tr("Mend that first."),
        )
    channel = open_repository(address)
    newest = channel.newest()
    number = newest + 1
    last = workspace.settings.last_release
    _not_too_far(newest, max(last.number if last is not None else 0, over or 0))
    known = _known_audience(channel, anew=seats is None) if newest else None
    office = _same_office(workspace, known)
    _not_behind(workspace, channel, newest, over)
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
    before = known if chosen is not None else None
    audience = audience_of(workspace, number, chosen, before, office)
    made = Made(release=number, by=by, at=_now())
    channel.publish(number, content, audience, made)
    return number, sum(meant.release == number for meant in audience.seats.values())
