"""Carrying a pull out for real: the channel's folder, the profile's files, the running applications."""

from __future__ import annotations

import contextlib
import secrets
from collections.abc import Callable, Generator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import ProfileId
from rimecrest.core.release.audience import seat_id
from rimecrest.core.release.profile import Enrolment, Profile, Reports
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.words import tr
from rimecrest.rollout import pull as flow
from rimecrest.rollout.folder import lasting_address, open_repository
from rimecrest.rollout.pull import Pulled, Wish, pull
from rimecrest.rollout.repository import Repository
from rimecrest.rollout.running import tell_running


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
    enrolment = Enrolment(
        id=identity,
        name=seat,
        channel=lasting_address(channel),
        organisation=audience.name,
        profile=ProfileId(secrets.token_hex(8)),
    )
    with profile.alone():
        profile.write_enrolment(enrolment)
    return enrolment


def pull_now(profile: Profile) -> Pulled:
    """One pull, carried out, with no other agent in this profile meanwhile.

    Raises:
        RimecrestError: the seat keeps what it has; `status` says why from then on.
    """
    with profile.alone():
        enrolment = profile.enrolment()
        try:
            repository = open_repository(enrolment.channel)
            pulled = carry_out(pull(enrolment.id), profile, enrolment, repository)
        except RimecrestError as error:
            _note(profile, str(error))
            raise
        _note(profile, "")
    twice = reported_twice(enrolment, repository)
    return replace(pulled, sentence=f"{pulled.sentence} {twice}") if twice else pulled


def _note(profile: Profile, failure: str) -> None:
    """Keep why the last pull failed; a profile that cannot be written must not hide the reason."""
    reports = profile.reports()
    if reports.failure != failure:
        at = _now() if failure else ""
        with contextlib.suppress(RimecrestError):
            profile.write_reports(reports.model_copy(update={"failure": failure, "failed_at": at}))


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def reported_twice(enrolment: Enrolment, repository: Repository) -> str:
    """A sentence where another profile reports for the same seat as well; empty where none does."""
    receipts = repository.receipts_of(enrolment.id)
    newest = max((receipt.release for receipt in receipts), default=0)
    reporting = {receipt.profile for receipt in receipts if receipt.release == newest}
    # Receipts of before name no profile: that may have been this one.
    if not enrolment.profile or not reporting - {enrolment.profile, ""}:
        return ""
    return tr(
        "Another profile reports for {seat} too (release {release}): one of them belongs to another seat.",
        release=newest,
        seat=enrolment.name,
    )


def carry_out(
    wishes: Generator[Wish, Any, Pulled],
    profile: Profile,
    enrolment: Enrolment,
    repository: Repository,
    before: Callable[[Wish], None] = lambda wish: None,
) -> Pulled:
    """Do what the flow wants, one thing after the other. `before` is called ahead of each."""
    answer: Any = None
    refused: RimecrestError | None = None
    while True:
        try:
            wish = wishes.throw(refused) if refused is not None else wishes.send(answer)
        except StopIteration as end:
            pulled: Pulled = end.value
            return pulled
        before(wish)
        try:
            answer = _do(wish, profile, enrolment, repository)
        except RimecrestError as error:
            # The flow decides what becomes of it; most often it just ends with it.
            refused = error
        else:
            refused = None


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
            count = profile.reports().count + 1
            profile.write_reports(profile.reports().model_copy(update={"count": count}))
            repository.put_receipt(
                Receipt.model_validate(
                    {
                        "seat": enrolment.id,
                        "release": wish.release,
                        "state": wish.state,
                        "at": _now(),
                        "report": count,
                        "profile": enrolment.profile,
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


def _failed(reports: Reports) -> list[str]:
    if not reports.failure:
        return []
    when = reports.failed_at[:16].replace("T", " ")
    return [tr("The last pull failed ({when} UTC): {failure}", when=when, failure=reports.failure)]


def _offered(enrolment: Enrolment, have: int) -> list[str]:
    """What the channel has for this seat that is not here; or why that is not known."""
    try:
        repository = open_repository(enrolment.channel)
        meant = repository.audience().seats.get(enrolment.id)
        twice = reported_twice(enrolment, repository)
    except RimecrestError as error:
        return [str(error)]
    lines = [twice] if twice else []
    if meant is not None and meant.release > have:
        lines.append(tr("Release {release} is ready for it: pull.", release=meant.release))
    return lines


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
    lines += _failed(profile.reports())
    installed = profile.installed()
    lines += _offered(enrolment, installed.release if installed else 0)
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
