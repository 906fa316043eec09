"""The installed applications that carry Rimecrest: the entry points by which their packages say so."""

from __future__ import annotations

from importlib.metadata import Distribution, EntryPoint, entry_points
from importlib.util import find_spec

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

GROUP = "rimecrest.applications"
"""The group of entry points in which packages name the applications that they bring."""
STANDINS = "rimecrest_standins"
NEEDED = "odf"
"""A module of the extra `demo`, which only the stand-ins need."""


def demo_is_installed() -> bool:
    """Return whether the extra `demo` is installed: the libraries that the stand-ins need."""
    return find_spec(NEEDED) is not None


def require_demo() -> None:
    """Raise RimecrestError if the extra `demo` is not installed."""
    if not demo_is_installed():
        raise RimecrestError(
            tr("The demo's applications need more libraries."),
            tr("Install them: pip install 'rimecrest[demo]'."),
        )


def installed_applications() -> list[EntryPoint]:
    """Return those that can be started here, by name."""
    with_demo = demo_is_installed()
    found = [point for point in entry_points(group=GROUP) if with_demo or not _is_standin(point)]
    return sorted(found, key=lambda point: point.name)


def find_application(name: str) -> EntryPoint:
    """Return the application of that name.

    Raises:
        RimecrestError: no package here brings it, or the libraries that it needs are missing.
    """
    # Those that come along are found without a look into every package that is installed.
    own = [point for package in Distribution.discover(name="rimecrest") for point in package.entry_points]
    came_along = [point for point in own if (point.group, point.name) == (GROUP, name)]
    found = came_along or list(entry_points(group=GROUP, name=name))
    if not found:
        known = ", ".join(point.name for point in installed_applications())
        raise RimecrestError(
            tr("There is no application “{name}”.", name=name), tr("There is: {known}.", known=known)
        )
    if _is_standin(found[0]):
        require_demo()
    return found[0]


def _is_standin(point: EntryPoint) -> bool:
    return point.module.startswith(STANDINS)
