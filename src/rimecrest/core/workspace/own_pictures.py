"""The organisation's own pictures: by the name that items have, who shows one, a name for a new one."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import PurePath

from slugify import slugify

from rimecrest.core.catalogue.items import Faced, Submenu
from rimecrest.core.catalogue.surfaces import Named
from rimecrest.core.layout.layout import Layout
from rimecrest.core.remembered import Remembered
from rimecrest.core.workspace.workspace import LayoutKey, Workspace

OWN = "own:"
ENDINGS = (".svg", ".png")


def stored_as(pictures: Mapping[str, bytes], name: str) -> str | None:
    """The file of a picture that an item calls `own:NAME`, with its ending or without; None: no such."""
    if not name.startswith(OWN):
        return None
    plain = name.removeprefix(OWN)
    return next((file for file in (plain, *(f"{plain}{end}" for end in ENDINGS)) if file in pictures), None)


def content_of(workspace: Workspace, name: str) -> bytes | None:
    """What an item that calls its picture `own:NAME` shows; None: no such picture."""
    file = stored_as(workspace.pictures, name)
    return workspace.pictures[file] if file is not None else None


def fresh_picture(workspace: Workspace, words: str, ending: str) -> str:
    """A file name that no picture has, made of words. Both endings count: items may leave it out."""
    wanted = slugify(words, max_length=40) or "picture"
    taken = {PurePath(file).stem for file in workspace.pictures}
    number, stem = 1, wanted
    while stem in taken:
        number += 1
        stem = f"{wanted}-{number}"
    return f"{stem}{ending}"


_NAMED: Remembered[list[tuple[str, str]]] = Remembered(2_000)


def named_in(layout: Layout) -> list[tuple[str, str]]:
    """(full identity, picture) of everything in a layout that has one: placed, or changed from beneath."""
    return _NAMED.of((layout,), (), lambda: list(_named_in(layout)))


def _named_in(layout: Layout) -> Iterator[tuple[str, str]]:
    for thing in layout.things():
        if isinstance(thing, Faced | Named | Submenu) and thing.picture:
            yield layout.full(thing.id), thing.picture
    for change in layout.change:
        if picture := change.set.get("picture"):
            yield layout.full(change.of), str(picture)


def shown_by(workspace: Workspace, file: str) -> list[tuple[LayoutKey, str]]:
    """(layout, identity) of everything that shows a picture of one's own."""
    return [
        (key, identity)
        for key, layout in workspace.layouts.items()
        for identity, name in named_in(layout)
        if stored_as({file: b""}, name) == file
    ]


def unused(workspace: Workspace) -> list[str]:
    """The files of own pictures that nothing shows."""
    used = {
        stored_as(workspace.pictures, name)
        for layout in workspace.layouts.values()
        for _, name in named_in(layout)
    }
    return sorted(set(workspace.pictures) - used)
