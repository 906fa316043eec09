"""Carrying a pull out for real: the channel's folder, the profile's files, the running applications."""

from __future__ import annotations

from collections.abc import Callable, Generator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from rimecrest.channel import Repository, open_repository
from rimecrest.core.errors import RimecrestError
from rimecrest.core.release import Enrolment, Profile, Receipt, seat_id
from rimecrest.core.words import tr
from rimecrest.seat import pull as flow
from rimecrest.seat.pull import Pulled, Wish, pull
from rimecrest.seat.running import tell_running


def enrol(profile: Profile, channel: str, seat: str) -> Enrolment:
    """Tie a profile to a channel and a seat's name.

    Raises:
        RimecrestError: the channel cannot be read, or has no such seat.
    """
    audience = open_repository(channel).audience()
    identity = seat_id(audience.name, seat)
    if identity not in audience.seats:
        raise RimecrestError(
            tr("The channel of {name} has no seat “{seat}”.", name=audience.name, seat=seat),
            tr("Write it as in people.csv, then try again."),
        )
    enrolment = Enrolment(id=identity, name=seat, channel=channel, organisation=audience.name)
    profile.write_enrolment(enrolment)
    return enrolment


def pull_now(profile: Profile) -> Pulled:
    """One pull, carried out. Raises RimecrestError; the seat keeps what it has."""
    enrolment = profile.enrolment()
    return carry_out(pull(enrolment.id), profile, enrolment, open_repository(enrolment.channel))


def carry_out(
    wishes: Generator[Wish, Any, Pulled],
    profile: Profile,
    enrolment: Enrolment,
    repository: Repository,
    before: Callable[[Wish], None] = lambda wish: None,
) -> Pulled:
    """Do what the flow wants, one thing after the other. `before` is called ahead of each."""
    answer: Any = None
    while True:
        try:
            wish = wishes.send(answer)
        except StopIteration as end:
            return end.value  # type: ignore[no-any-return]
        before(wish)
        answer = _do(wish, profile, enrolment, repository)


def _do(wish: Wish, profile: Profile, enrolment: Enrolment, repository: Repository) -> Any:
    match wish:
        case flow.ReadAudience():
            return repository.audience()
        case flow.ReadInstalled():
            return profile.installed()
        case flow.Fetch():
            return repository.package(wish.number)
        case flow.LayBeside():
            return profile.stage(wish.number, wish.package)
        case flow.Switch():
            return profile.switch(wish.to)
        case flow.TellRunning():
            return tell_running(profile.folder)
        case flow.Report():
            now = datetime.now(UTC).isoformat(timespec="milliseconds")
            repository.put_receipt(
                Receipt.model_validate(
                    {
                        "seat": enrolment.id,
                        "release": wish.release,
                        "state": wish.state,
                        "at": now,
                        "reason": wish.reason,
                        "told": wish.told,
                        "assigned": wish.assignment,
                    }
                )
            )
            return None
        case flow.Settle():
            return profile.settle(wish.owed)
        case flow.Tidy():
            return profile.tidy()


def status(profile: Profile) -> list[str]:
    """What this seat has, in sentences."""
    enrolment = profile.enrolment()
    lines = [
        tr(
            "{name} of {organisation}, channel {channel}.",
            name=enrolment.name,
            organisation=enrolment.organisation,
            channel=enrolment.channel,
        )
    ]
    installed = profile.installed()
    if installed is None:
        return [*lines, tr("Nothing is installed yet.")]
    lines.append(
        tr(
            "Release {release}, layers: {stack}.",
            release=installed.release,
            stack=", ".join(installed.assignment.stack),
        )
    )
    if not Path(profile.package_path(installed.release)).is_file():
        lines.append(tr("Its package is missing; pull again."))
    return lines
