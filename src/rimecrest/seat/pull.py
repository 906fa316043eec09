"""One pull as a flow: it yields each thing it wants done and is sent the result.

1. read the audience · 2. anything new for me? · 3. fetch the package · 4. verify it · 5. lay it beside ·
6. switch by one atomic rename · 7. tell running applications · 8. receipt · 9. tidy.

Killed between any two, the seat has the whole old state or the whole new one, and the next pull goes on. A
package that is refused leaves the old state and says why in a receipt. (rollout.md; merging with what is the
colleague's own, and policies, join between 4 and 5.)
"""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass
from typing import Any

from rimecrest.core.errors import RimecrestError
from rimecrest.core.release import Assignment, Audience, Installed, read_package


@dataclass(frozen=True, slots=True)
class ReadAudience:
    """Answer: the Audience."""


@dataclass(frozen=True, slots=True)
class ReadInstalled:
    """Answer: Installed, or None."""


@dataclass(frozen=True, slots=True)
class Fetch:
    """Fetch a package. Answer: its bytes."""

    number: int


@dataclass(frozen=True, slots=True)
class LayBeside:
    number: int
    package: bytes


@dataclass(frozen=True, slots=True)
class Switch:
    to: Installed


@dataclass(frozen=True, slots=True)
class TellRunning:
    """Answer: how many running applications took it over."""


@dataclass(frozen=True, slots=True)
class Report:
    """Leave a receipt."""

    release: int
    state: str
    reason: str = ""
    told: int = 0


@dataclass(frozen=True, slots=True)
class Tidy:
    pass


Wish = ReadAudience | ReadInstalled | Fetch | LayBeside | Switch | TellRunning | Report | Tidy


@dataclass(frozen=True, slots=True)
class Pulled:
    """How a pull ended."""

    release: int
    sentence: str
    changed: bool = False


def pull(seat: str) -> Generator[Wish, Any, Pulled]:
    """The flow of one pull for the seat with this id.

    Raises:
        RimecrestError: the channel cannot be reached, or the package is refused; the seat keeps what it has.
    """
    audience: Audience = yield ReadAudience()
    installed: Installed | None = yield ReadInstalled()
    assignment: Assignment | None = audience.seats.get(seat)
    have = installed.release if installed else 0
    if assignment is None:
        return Pulled(have, "Nothing is meant for this seat yet.")
    if installed and installed.release == assignment.release and installed.assignment == assignment:
        return Pulled(have, f"Release {have} is here already.")
    if assignment.release < have:
        raise RimecrestError(
            f"The channel offers release {assignment.release}, but release {have} is here.",
            "Release again under a new number to go back.",
        )
    content: bytes = yield Fetch(assignment.release)
    try:
        package = read_package(content, f"Release {assignment.release}")
        if package.release.number != assignment.release:
            raise RimecrestError(
                f"The package says it is release {package.release.number}, not {assignment.release}."
            )
    except RimecrestError as error:
        yield Report(assignment.release, "failed", error.sentence)
        raise
    yield LayBeside(assignment.release, content)
    yield Switch(Installed(release=assignment.release, assignment=assignment, before=have))
    told: int = yield TellRunning()
    yield Report(assignment.release, "applied", told=told)
    yield Tidy()
    return Pulled(assignment.release, f"Release {assignment.release} is installed.", changed=True)
