"""Reading a workspace from its folder."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from msgspec.structs import replace

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.layout.renames import followed
from rimecrest.core.words import tr
from rimecrest.core.workspace.journal import Files, Journal
from rimecrest.core.workspace.parts import CATALOGUES, PARTS, SETTINGS, Part
from rimecrest.core.workspace.workspace import Workspace, frozen


def open_workspace(folder: Path, complete: bool | None = None) -> Workspace:
    """Read a workspace, after finishing what an interrupted save had begun.

    Args:
        complete: what is done with a save that another computer has left unfinished; None asks, by raising.

    Raises:
        UnfinishedElsewhere: there is one, and nobody was asked.
        RimecrestError: the folder or its workspace.json cannot be used. Any other broken file is listed
            in `Workspace.broken`, and the rest opens.
    """
    if (folder / ".rimecrest").is_dir():
        Journal(folder).finish(complete)
    return read_workspace(folder)


def read_workspace(folder: Path) -> Workspace:
    """Read a workspace, writing nothing. A save that was not finished is read as it will be.

    Raises:
        RimecrestError: as `open_workspace`.
    """
    main = folder / SETTINGS.place
    if not folder.is_dir():
        raise RimecrestError(
            tr("There is no folder {folder}.", folder=folder),
            tr("Choose the folder that holds workspace.json."),
        )
    if not main.is_file():
        raise RimecrestError(
            tr("{folder} is no workspace: it has no workspace.json.", folder=folder),
            tr("Choose another folder, or begin a new workspace."),
        )
    pending = Journal(folder).pending()[1] if (folder / ".rimecrest").is_dir() else {}
    content = pending.get(SETTINGS.place) or Folder(folder).read(SETTINGS.place)
    settings = SETTINGS.read(content, SETTINGS.place, ())
    broken: dict[str, str] = {}
    workspace = Workspace(settings, broken=broken)
    for part in PARTS:
        if part is not SETTINGS:
            workspace = part.having(workspace, frozen(_read(part, folder, pending, broken)))
    # In the order of workspace.json, which is the order in which people see their applications.
    catalogues = {
        app: workspace.catalogues[app] for app in settings.applications if app in workspace.catalogues
    }
    for app in settings.applications:
        path = CATALOGUES.path(app)
        if app not in catalogues and path not in broken:
            broken[path] = tr("the file is missing")
    return _followed(replace(workspace, catalogues=frozen(catalogues)))


def _followed(workspace: Workspace) -> Workspace:
    """The workspace with what its applications have renamed since; the files follow when they are saved."""
    layouts = {
        (layer, app): followed(layout, workspace.catalogues[app]) if app in workspace.catalogues else layout
        for (layer, app), layout in workspace.layouts.items()
    }
    habits = workspace.habits.followed(
        {app: catalogue.renamed_commands for app, catalogue in workspace.catalogues.items()}
    )
    return replace(workspace, layouts=frozen(layouts), habits=habits)


def _read(part: Part, folder: Path, pending: Files, broken: dict[str, str]) -> dict[Any, Any]:
    found: dict[Any, Any] = {}
    names = {path.relative_to(folder).as_posix() for path in part.files(folder)}
    names |= {name for name in pending if part.holds(name)}
    for name in sorted(names):
        shown = name.encode(errors="surrogateescape").decode(errors="backslashreplace")
        if shown != name:
            broken[shown] = tr("its name is not UTF-8 text")
            continue
        try:
            key = part.key(name)
            content = pending[name] if name in pending else Folder(folder).read(name)
            if content is not None:
                found[key] = part.read(content, name, key)
        except BrokenFile as error:
            at = f"line {error.line}: " if error.line else ""
            reason = error.sentence.split(": ", 1)[-1].rstrip(".")
            broken[name] = f"{at}{reason}"
        except RimecrestError as error:
            broken[name] = error.sentence.rstrip(".")
    return found
