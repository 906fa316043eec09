"""Reading a workspace from its folder, and the texts of its files."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from rimecrest.core.catalogue import Catalogue, parse_catalogue
from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.layout import Layout, parse_layout
from rimecrest.core.model import dump_record, parse_record
from rimecrest.core.workspace.habits import Habits, OwnKey, UseCount, parse_own_keys, parse_use
from rimecrest.core.workspace.journal import Journal, as_data
from rimecrest.core.workspace.people import Seat, parse_people
from rimecrest.core.workspace.workspace import MacroFile, Settings, Workspace, macro_file

Read = TypeVar("Read")


def open_workspace(folder: Path) -> Workspace:
    """Read a workspace, after finishing what an interrupted save had begun.

    Raises:
        RimecrestError: the folder or its workspace.json cannot be used. Any other broken file is listed
            in `Workspace.broken`, and the rest opens.
    """
    if (folder / ".rimecrest").is_dir():
        Journal(folder).finish()
    return read_workspace(folder)


def read_workspace(folder: Path) -> Workspace:
    """Read a workspace as it lies there, writing nothing."""
    main = folder / "workspace.json"
    if not folder.is_dir():
        raise RimecrestError(f"There is no folder {folder}.", "Choose the folder that holds workspace.json.")
    if not main.is_file():
        raise RimecrestError(
            f"{folder} is no workspace: it has no workspace.json.",
            "Choose another folder, or begin a new workspace.",
        )
    broken: dict[str, str] = {}
    settings = parse_record(Settings, _text(main, "workspace.json"), "workspace", "workspace.json")

    def attempt(path: Path, read: Callable[[str, str], Read]) -> Read | None:
        name = path.relative_to(folder).as_posix()
        try:
            return read(_text(path, name), name)
        except BrokenFile as error:
            at = f"line {error.line}: " if error.line else ""
            reason = error.sentence.split(": ", 1)[-1].rstrip(".")
            broken[name] = f"{at}{reason}"
        except RimecrestError as error:
            broken[name] = error.sentence.rstrip(".")
        return None

    catalogues: dict[str, Catalogue] = {}
    for app in settings.applications:
        path = folder / "catalogues" / f"{app}.json"
        if not path.is_file():
            broken[f"catalogues/{app}.json"] = "the file is missing"
        elif (catalogue := attempt(path, parse_catalogue)) is not None:
            catalogues[app] = catalogue
    layouts: dict[tuple[str, str], Layout] = {}
    for path in sorted(folder.glob("layouts/*/*.json")):
        layout = attempt(path, parse_layout)
        if layout is None:
            continue
        key = (path.parent.name, path.stem)
        if (layout.layer, layout.app) != key:
            broken[path.relative_to(folder).as_posix()] = (
                f"it says it is {layout.layer}'s layout of {layout.app}, but lies elsewhere"
            )
        else:
            layouts[key] = layout
    macros: dict[tuple[str, str], MacroFile] = {}
    for path in sorted(folder.glob("macros/*/*.steps")):
        file = attempt(path, lambda text, _name, p=path: macro_file(p.parent.name, p.stem, text))  # type: ignore[misc]
        if file is not None:
            macros[file.layer, file.id] = file
    people: tuple[Seat, ...] = ()
    if (folder / "people.csv").is_file():
        people = attempt(folder / "people.csv", parse_people) or ()
    use: dict[tuple[str, str], UseCount] = {}
    if (folder / "use.csv").is_file():
        use = attempt(folder / "use.csv", parse_use) or {}
    own_keys: tuple[OwnKey, ...] = ()
    if (folder / "own-keys.csv").is_file():
        own_keys = attempt(folder / "own-keys.csv", parse_own_keys) or ()
    return Workspace(
        settings,
        catalogues,
        layouts,
        macros,
        people,
        _bytes(folder / "pictures"),
        _bytes(folder / "companions"),
        Habits(use, own_keys),
        broken,
    )


def _text(path: Path, name: str) -> str:
    try:
        return path.read_text("utf-8")
    except UnicodeDecodeError:
        raise BrokenFile(name, "it is not UTF-8 text") from None
    except OSError as error:
        raise BrokenFile(name, f"it cannot be read ({error.strerror})") from None


def _bytes(folder: Path) -> dict[str, bytes]:
    if not folder.is_dir():
        return {}
    return {path.name: path.read_bytes() for path in sorted(folder.iterdir()) if path.is_file()}


def layout_text(layout: Layout) -> str:
    return dump_record(layout, "layout")


def changed_files(before: Workspace, after: Workspace) -> dict[str, str | None]:
    """Path → new text (None: the file goes) of everything an edit touched."""
    files: dict[str, str | None] = {}
    for layer, app in {**before.layouts, **after.layouts}:
        new = after.layouts.get((layer, app))
        if before.layouts.get((layer, app)) is not new:
            files[f"layouts/{layer}/{app}.json"] = layout_text(new) if new else None
    for layer, name in {**before.macros, **after.macros}:
        file = after.macros.get((layer, name))
        if before.macros.get((layer, name)) is not file:
            files[f"macros/{layer}/{name}.steps"] = file.text if file else None
    for companion in {**before.companions, **after.companions}:
        content = after.companions.get(companion)
        if before.companions.get(companion) is not content:
            files[f"companions/{companion}"] = None if content is None else as_data(content)
    if before.settings is not after.settings:
        files["workspace.json"] = dump_record(after.settings, "workspace")
    return files
