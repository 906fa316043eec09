"""A seat's profile on disk: who it is, what is installed, which release counts.

```
profile/
  seat.json             the seat's id, its channel
  releases/8.crestpack  packages that were verified
  current.json          the release that counts, and what is still owed: replaced by one atomic rename
  shown.json            the release whose news each application has shown, and what the seat had then
  reports.json          how many reports were left, and why the last pull failed
  pull.lock             locked while an agent works here
```
"""

import contextlib
from contextlib import AbstractContextManager
from pathlib import Path

from platformdirs import user_data_path
from pydantic import Field

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import AppId, ProfileId, SeatId
from rimecrest.core.model import Record, Stored, dump_record, parse_record
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import MOST_BYTES, read_package
from rimecrest.core.release.package_files import PackageFiles, ReleaseNumber
from rimecrest.core.release.stack import StackState
from rimecrest.core.release.stack_sources import released_stack
from rimecrest.core.words import tr
from rimecrest.core.workspace.alone import alone_in

LOCK = "pull.lock"
"""The system's own lock (flock) on this file is held while an agent works."""
PATIENCE = 60.0
"""Seconds to wait for another agent: it fetches a package over a slow network at most."""
KEPT = 3
"""Packages kept on a seat: the one that counts and those it could go back to."""


def default_folder() -> Path:
    """Where the profile of whoever is logged in lies, unless another one is named (XDG base directories)."""
    return user_data_path("rimecrest") / "seat"


class Enrolment(Record):
    """seat.json: `id` is the seat's in audience.json."""

    id: SeatId
    name: str
    channel: str
    """An absolute path, or an address: it does not depend on where the agent is started."""
    organisation: str = ""
    profile: ProfileId = ProfileId("")
    """A random number of its own, in hexadecimal: it tells this profile from another one of the same seat."""


LARGEST = 1024 * 1024
"""Bytes of a record of the profile that are read."""


class Owed(Record):
    """What is still to be done about a release that counts already."""

    windows: bool = False
    """To have the running applications take it over."""
    receipt: bool = False
    """To report it, with the number of applications that took it over (`told`)."""
    told: int = 0

    @property
    def anything(self) -> bool:
        return self.windows or self.receipt


class Reports(Record):
    """reports.json: what was reported so far, and what went wrong last."""

    count: int = Field(default=0, ge=0)
    failure: str = ""
    """Why the last pull failed; empty when it went well."""
    failed_at: str = ""
    """When, in ISO 8601, UTC."""


class Installed(Record):
    """current.json. What is owed is written by the very rename that lets the release count."""

    release: ReleaseNumber
    assignment: Assignment
    before: ReleaseNumber = 0
    previous: Assignment | None = None
    """What the seat had before: another release, or another department's layers of the same one."""
    owed: Owed = Owed()


class Shown(Record):
    """shown.json: application → the release whose news its colleague has been shown."""

    releases: dict[AppId, int] = Field(default_factory=dict)
    had: dict[AppId, Assignment] = Field(default_factory=dict)
    """Application -> what the seat had then: its next news are worked out from there."""


class Profile:
    """One seat's profile folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._files = Folder(folder)
        self._packages = PackageFiles(folder / "releases")

    @property
    def current_path(self) -> Path:
        return self.folder / "current.json"

    def _record(self, model: type[Stored], name: str, kind: str) -> Stored:
        return parse_record(model, self._files.text(name, LARGEST), kind, str(self.folder / name))

    def enrolment(self) -> Enrolment:
        """Raises RimecrestError when the seat is not enrolled."""
        if not self._files.is_there("seat.json"):
            raise RimecrestError(
                tr("{folder} is not enrolled.", folder=self.folder),
                tr("Run: rimecrest seat enrol --channel … --seat … --profile …"),
            )
        return self._record(Enrolment, "seat.json", "seat")

    def write_enrolment(self, enrolment: Enrolment) -> None:
        self._files.write("seat.json", dump_record(enrolment, "seat").encode())

    def installed(self) -> Installed | None:
        """What counts now; None when nothing was installed yet. Raises BrokenFile."""
        if not self._files.is_there("current.json"):
            return None
        return self._record(Installed, "current.json", "installed")

    def alone(self) -> AbstractContextManager[None]:
        """While this lasts no other agent works in this profile.

        Entering raises RimecrestError where another one has been at work all the while that one waits, or the
        folder cannot be written.
        """
        busy = RimecrestError(
            tr("Another agent is at work in {folder}.", folder=self.folder), tr("Try again in a while.")
        )
        return alone_in(self.folder, LOCK, PATIENCE, busy)

    def reports(self) -> Reports:
        """What was reported so far. A file that cannot be read counts as none."""
        try:
            return self._record(Reports, "reports.json", "reports")
        except RimecrestError:
            return Reports()

    def write_reports(self, reports: Reports) -> None:
        self._files.write("reports.json", dump_record(reports, "reports").encode())

    def package_path(self, number: int) -> Path:
        return self._packages.path(number)

    def stage(self, number: int, package: bytes) -> None:
        """Lay a verified package beside the one that counts."""
        self._files.write(self._within(self.package_path(number)), package)

    def switch(self, installed: Installed) -> None:
        """Let another release count: one atomic rename."""
        self._files.write("current.json", dump_record(installed, "installed").encode())

    def settle(self, owed: Owed) -> None:
        """Note what is left to be done about the release that counts."""
        installed = self.installed()
        if installed is not None:
            self.switch(installed.model_copy(update={"owed": owed}))

    def _shown(self) -> Shown:
        try:
            return self._record(Shown, "shown.json", "shown")
        except RimecrestError:
            return Shown()  # at worst the news is told once more

    def owes_news(self, app: str) -> bool:
        """Whether an application has not yet shown what the release that counts brought."""
        installed, shown = self.installed(), self._shown()
        if installed is None:
            return False
        had = shown.had.get(AppId(app))
        known = shown.releases.get(AppId(app), 0) == installed.release
        return not known if had is None else had != installed.assignment

    def news_shown(self, app: str, release: int) -> None:
        """An application has shown the news of a release."""
        installed, shown = self.installed(), self._shown()
        had = dict(shown.had)
        if installed is not None and installed.release == release:
            had[AppId(app)] = installed.assignment
        shown = shown.model_copy(update={"releases": {**shown.releases, AppId(app): release}, "had": had})
        self._files.write("shown.json", dump_record(shown, "shown").encode())

    def tidy(self) -> None:
        """Take away packages that nothing goes back to, and what killed agents left half written."""
        installed = self.installed()
        wanted = {had.release for had in self._shown().had.values()}
        if installed is not None and installed.previous is not None:
            wanted.add(installed.previous.release)
        for number in self._packages.numbers()[:-KEPT]:
            if number not in wanted:
                self._files.remove(self._within(self._packages.path(number)))
        # What counts was written just now, by the clock of this very disk.
        with contextlib.suppress(OSError):
            now = self.current_path.lstat().st_mtime
            self._files.tidy(now)
            self._files.tidy(now, "releases")

    def _within(self, path: Path) -> str:
        return path.relative_to(self.folder).as_posix()

    def stack(self, app: str) -> StackState:
        """What an application on this seat shows; empty when nothing is installed.

        Raises:
            RimecrestError: the installed package cannot be read.
        """
        installed = self.installed()
        return self._stack(app, installed.assignment) if installed else StackState(app=app)

    def stack_before(self, app: str) -> StackState:
        """What the application showed last, or else what the seat had before; empty if that is not known.

        Raises:
            RimecrestError: as `stack`.
        """
        installed = self.installed()
        if installed is None:
            return StackState(app=app)
        older = installed.assignment.model_copy(update={"release": installed.before})
        for had in (self._shown().had.get(AppId(app)), installed.previous, older):
            if had is not None and self.package_path(had.release).is_file():
                return self._stack(app, had)
        return StackState(app=app)

    def stack_told(self, app: str) -> StackState:
        """What the news of an application is compared with; empty if it never showed any.

        Raises:
            RimecrestError: as `stack`.
        """
        return self.stack_before(app) if AppId(app) in self._shown().releases else StackState(app=app)

    def _stack(self, app: str, had: Assignment) -> StackState:
        path = self.package_path(had.release)
        try:
            content = self._files.read(self._within(path), 2 * MOST_BYTES)
        except BrokenFile as error:
            raise RimecrestError(
                tr("{path} cannot be read ({reason}).", path=path, reason=error.reason),
                tr("Run: rimecrest seat pull"),
            ) from None
        return released_stack(read_package(content, str(path)), had, app)
