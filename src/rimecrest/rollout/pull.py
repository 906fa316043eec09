"""One pull as a flow: it yields each thing it wants done and is sent the result.

1. what is installed, and what is still owed for it · 2. tell running applications, if that is owed ·
3. read the audience · 4. send the receipt, if that is owed · 5. anything new for me? · 6. fetch the package ·
7. verify it (its digest is the audience's), and understand all that is in it · 8. lay it beside ·
9. switch by one atomic rename, which notes what is owed from then on · then 2 and 4 for the new release ·
10. tidy.

Killed between any two, the seat has the whole old state or the whole new one, and the next pull goes on:
what was owed is done, once more where it is not known whether it was. A package that is refused leaves the
old state and says why in a receipt. (docs/roll-out.md. Signatures join at 3 and 7; merging with what is the
colleague's own, and policies, between 7 and 8.)
"""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Generator
from typing import Any

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.audience import Assignment, Audience
from rimecrest.core.release.package import read_package, understand
from rimecrest.core.release.package_files import LEAP, MOST_RELEASES
from rimecrest.core.release.profile import Installed, Owed
from rimecrest.core.words import tr


class ReadInstalled(Struct, frozen=True):
    """Answer: Installed, or None."""


class ReadAudience(Struct, frozen=True):
    """Answer: the Audience."""


class Fetch(Struct, frozen=True):
    """Fetch a package. Answer: its bytes."""

    number: int


class LayBeside(Struct, frozen=True):
    number: int
    package: bytes


class Switch(Struct, frozen=True):
    to: Installed


class TellRunning(Struct, frozen=True):
    """Answer: how many running applications took it over."""


class Report(Struct, frozen=True):
    """Leave a receipt."""

    state: str
    assignment: Assignment
    reason: str = ""
    told: int = 0

    @property
    def release(self) -> int:
        return self.assignment.release


class Settle(Struct, frozen=True):
    """Note what is still owed for the release that counts."""

    owed: Owed


class Tidy(Struct, frozen=True):
    pass


Wish = ReadInstalled | ReadAudience | Fetch | LayBeside | Switch | TellRunning | Report | Settle | Tidy


class Pulled(Struct, frozen=True):
    """How a pull ended."""

    release: int
    sentence: str
    changed: bool = False


def pull(seat: str) -> Generator[Wish, Any, Pulled]:
    """The flow of one pull for the seat with this id.

    Raises:
        RimecrestError: the channel cannot be reached, or the package is refused; the seat keeps what it has.
    """
    installed: Installed | None = yield ReadInstalled()
    owed = installed.owed if installed else Owed()
    if owed.windows:
        owed = yield from _tell(owed)
    audience: Audience = yield ReadAudience()
    if installed and owed.receipt:
        yield from _report(installed.assignment, owed)
    assignment = next((known for name, known in audience.seats.items() if name == seat), None)
    have = installed.release if installed else 0
    where = tr("Release {release}", release=assignment.release) if assignment else ""
    if assignment is None:
        return Pulled(have, tr("Nothing is meant for this seat yet."))
    if installed and installed.release == assignment.release and installed.assignment == assignment:
        return Pulled(have, tr("Release {have} is here already.", have=have))
    try:
        _fit_to_fetch(assignment, have, installed.assignment.digest if installed else "")
        content: bytes = yield Fetch(assignment.release)
        if hashlib.sha256(content).hexdigest() != assignment.digest:
            raise RimecrestError(
                tr("{where} is not what was released: it was damaged or changed since.", where=where),
                tr("Tell whoever released it."),
            )
        package = read_package(content, where)
        if package.release.number != assignment.release:
            raise RimecrestError(
                tr(
                    "The package says it is release {number}, not {release}.",
                    number=package.release.number,
                    release=assignment.release,
                )
            )
        understand(package, where)
    except RimecrestError as error:
        yield from _refused(assignment, error)
        raise
    yield LayBeside(assignment.release, content)
    owed = Owed(windows=True, receipt=True)
    previous = installed.assignment if installed else None
    yield Switch(
        Installed(
            release=assignment.release, assignment=assignment, before=have, previous=previous, owed=owed
        )
    )
    owed = yield from _tell(owed)
    yield from _report(assignment, owed)
    yield Tidy()
    return Pulled(
        assignment.release, tr("Release {release} is installed.", release=assignment.release), changed=True
    )


def _fit_to_fetch(meant: Assignment, have: int, known: str) -> None:
    """Raise RimecrestError when nothing of a release is to be fetched.

    Args:
        have: the number of the release that is here; 0 when there is none.
        known: that one's digest; empty in profiles of before.
    """
    where = tr("Release {release}", release=meant.release)
    if not meant.digest:
        raise RimecrestError(
            tr("The channel does not say what release {release} is.", release=meant.release),
            tr("Tell whoever releases: releasing once more says it."),
        )
    if meant.release == have and known not in ("", meant.digest):
        raise RimecrestError(
            tr("{where} is not what it was when this seat took it.", where=where),
            tr("Tell whoever releases: what changed needs a new number."),
        )
    if have == MOST_RELEASES:
        return  # no release can follow this one, so any other may
    if meant.release < have:
        raise RimecrestError(
            tr("The channel offers release {release}, but release {have} is here.", release=meant.release,
               have=have),
            tr("Release again under a new number to go back."),
        )  # fmt: skip
    if meant.release > have + LEAP:
        raise RimecrestError(
            tr("{where} does not follow release {have}, which is here.", where=where, have=have),
            tr("Tell whoever releases: the studio says how to go on from here."),
        )


def _refused(assignment: Assignment, error: RimecrestError) -> Generator[Wish, Any, None]:
    """Say in a receipt why a release is not taken; where none can be left, the reason still counts."""
    with contextlib.suppress(RimecrestError):
        yield Report("failed", assignment, error.sentence)


def _tell(owed: Owed) -> Generator[Wish, Any, Owed]:
    """Have the running applications take over what counts."""
    told: int = yield TellRunning()
    left = owed.model_copy(update={"windows": False, "told": told})
    yield Settle(left)
    return left


def _report(assignment: Assignment, owed: Owed) -> Generator[Wish, Any, None]:
    """Send the receipt for what counts."""
    yield Report("applied", assignment, told=owed.told)
    yield Settle(Owed())
