"""audience.json: which seat gets which release, as what stack."""

import hashlib
from collections.abc import Iterable

from pydantic import Field

from rimecrest.core.identities import LayerId, SeatId
from rimecrest.core.keys.traits import Traits
from rimecrest.core.model import Record, parse_record
from rimecrest.core.release.package_files import ReleaseNumber
from rimecrest.core.workspace.workspace import Workspace


class Assignment(Record):
    """What one seat is to have."""

    release: ReleaseNumber
    digest: str = ""
    """SHA-256 of the release's package, in hexadecimal: a number is never used for anything else. Empty in
    audiences of before, from which no seat takes a release."""
    stack: tuple[LayerId, ...] = ()
    keyboard: str = ""
    desktop: str = ""
    session: str = ""
    reader: str = ""
    input: str = ""
    policy: str = ""
    wave: str = "1"

    @property
    def traits(self) -> Traits:
        """What decides which keys reach an application on the seat."""
        return Traits(self.keyboard, self.desktop, self.session, self.reader, self.input)


class Audience(Record):
    """All seats of a channel, by id."""

    name: str
    office: str = ""
    """The id of the office whose channel it is; empty in audiences of before."""
    seats: dict[SeatId, Assignment] = Field(default_factory=dict)

    def pointing_to(self, number: int, package: bytes) -> "Audience":
        """The same, where every seat that gets this release is told what its package is."""
        digest = hashlib.sha256(package).hexdigest()
        seats = {
            seat: meant.model_copy(update={"digest": digest}) if meant.release == number else meant
            for seat, meant in self.seats.items()
        }
        return self.model_copy(update={"seats": seats})


def seat_id(organisation: str, seat: str) -> SeatId:
    """The id of a seat in files that leave the workspace: no colleague's name is read from it."""
    return SeatId(hashlib.sha256(f"{organisation}\n{seat}".encode()).hexdigest()[:16])


def audience_of(
    workspace: Workspace,
    release: int,
    seats: Iterable[str] | None = None,
    before: Audience | None = None,
    office: str = "",
) -> Audience:
    """The audience that gives `release` to these seats (None = all).

    Args:
        office: the office's id.
        before: the audience so far: seats that are still listed and do not get this one keep what they have.
    """
    chosen = None if seats is None else set(seats)
    name = workspace.settings.name
    listed = {seat_id(name, seat.seat) for seat in workspace.people}
    kept = {seat: known for seat, known in before.seats.items() if seat in listed} if before else {}
    return Audience(
        name=name,
        office=office or workspace.settings.id,
        seats=kept
        | {
            seat_id(name, seat.seat): Assignment(
                release=release,
                stack=workspace.stack_of(seat),
                **seat.traits._asdict(),
                policy=seat.policy,
                wave=seat.wave,
            )
            for seat in workspace.people
            if chosen is None or seat.seat in chosen
        },
    )


def parse_audience(text: str, where: str) -> Audience:
    """Read audience.json. Raises BrokenFile or NewerFormat."""
    return parse_record(Audience, text, "audience", where)
