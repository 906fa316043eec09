"""The parts of a workspace: one row for each kind of thing it holds.

| row | where | travels |
| --- | --- | --- |
| settings | workspace.json | as the release's own list of layers |
| people | people.csv | no: only as the audience, without names |
| use, own keys | use.csv, own-keys.csv | no |
| catalogues | catalogues/<application>.json | no: the application has its own |
| layouts | layouts/<layer>/<application>.json | yes |
| macros | macros/<layer>/<macro>.steps | those of shared layers |
| pictures | pictures/<name> | yes, as `own:` pictures |
| companions | companions/<name> | yes |

Reading, saving, the journal, undo, watching and packaging all walk `PARTS`: a new kind of thing is a row
here, its model, and a field of `Workspace`; and one of `StackState` where applications load it.
"""

from __future__ import annotations

import operator
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path, PurePosixPath
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import parse_catalogue
from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.identities import AppId, FileName, Identity, LayerId, MacroId
from rimecrest.core.layout.layout import Layout, parse_layout
from rimecrest.core.model import Record, dump_record, parse_record
from rimecrest.core.pictures.checked import checked_picture
from rimecrest.core.words import owned, tr
from rimecrest.core.workspace.habits import format_own_keys, format_use, parse_own_keys, parse_use
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.core.workspace.people import format_people, parse_people
from rimecrest.core.workspace.settings import Settings
from rimecrest.core.workspace.workspace import Workspace, frozen

Key = Any
"""What a value of a part is found by: the identities that stand in its path, as the workspace has them."""
Values = Mapping[Any, Any]


def _everything(_workspace: Workspace, _key: Key) -> bool:
    return True


def _through_a_link(path: Path, folder: Path) -> bool:
    steps = path.relative_to(folder).parts
    return any(folder.joinpath(*steps[: number + 1]).is_symlink() for number in range(len(steps)))


class Part(Struct, frozen=True):
    """One kind of thing.

    Args:
        name: what it is called in sentences and undo.
        place: its files within the folder; a `*` for each identity of its key.
        kinds: the types of these identities, in order.
        values: key → value, of a workspace.
        having: the workspace with other values.
        read: (content, path, key) → value; raises BrokenFile.
        write: value → content.
        same: whether a file need not be written again.
        packed: where its files lie in a package, as `place`; empty: it does not travel.
        travels: whether this one does.
    """

    name: str
    place: str
    kinds: tuple[type[Identity], ...]
    values: Callable[[Workspace], Values]
    having: Callable[[Workspace, Values], Workspace]
    read: Callable[[bytes, str, Key], Any]
    write: Callable[[Any], bytes]
    same: Callable[[Any, Any], bool] = operator.is_
    packed: str = ""
    travels: Callable[[Workspace, Key], bool] = _everything

    def path(self, key: Key) -> str:
        """Where the value of a key lies within the folder."""
        return _filled(self.place, key)

    def packed_path(self, key: Key) -> str:
        return _filled(self.packed, key)

    def key(self, path: str) -> Key:
        """The key of a file within the folder.

        Raises:
            RimecrestError: a name in the path is no identity of its kind.
        """
        return self._key(self.place, path)

    def packed_key(self, path: str) -> Key | None:
        """The key of a file within a package; None when it is not one of this part. Raises RimecrestError."""
        if not self.packed or not PurePosixPath(path).match(self.packed):
            return None
        return self._key(self.packed, path) if path.count("/") == self.packed.count("/") else None

    def _key(self, place: str, path: str) -> Key:
        found: list[str] = []
        for shape, name in zip(place.split("/"), path.split("/"), strict=True):
            if "*" in shape:
                head, _, tail = shape.partition("*")
                found.append(name[len(head) : len(name) - len(tail)])
        checked = tuple(kind(text) for kind, text in zip(self.kinds, found, strict=True))
        return checked[0] if len(checked) == 1 else checked

    def holds(self, path: str) -> bool:
        """Whether a path within the folder is where one of its files lies."""
        if path.count("/") != self.place.count("/") or not PurePosixPath(path).match(self.place):
            return False
        try:
            return self.path(self.key(path)) == path
        except RimecrestError:
            return False

    def files(self, folder: Path) -> Iterator[Path]:
        """Its files in a folder, in order: what is there under such names, plain files or not."""
        # What begins with a dot is nobody's: a file that was being written when the power went, an editor's.
        paths = (path for path in sorted(folder.glob(self.place)) if not path.name.startswith("."))
        return (path for path in paths if path.is_symlink() or not path.is_dir())

    def folders(self, folder: Path) -> Iterator[Path]:
        """The folders within a workspace's folder in which its files lie."""
        within, _, _ = self.place.rpartition("/")
        found = folder.glob(within) if within else [folder]
        return (path for path in found if not _through_a_link(path, folder))

    def changes(self, before: Workspace, after: Workspace) -> Iterator[tuple[Key, Any, Any]]:
        """(key, value before, value after) of what differs; None where there is none."""
        old, new = self.values(before), self.values(after)
        if old is new:
            return
        for key in {**old, **new}:
            was, now = old.get(key), new.get(key)
            if was is not now and not (was is not None and now is not None and self.same(was, now)):
                yield key, was, now

    def put(self, workspace: Workspace, key: Key, value: Any) -> Workspace:
        """The workspace with another value; None takes it away."""
        values = {known: kept for known, kept in self.values(workspace).items() if known != key}
        if value is not None:
            values[key] = value
        return self.having(workspace, frozen(values))


def _filled(place: str, key: Key) -> str:
    parts = place.split("*")
    names = key if isinstance(key, tuple) else (key,)
    return "".join(piece for pair in zip(parts, (*names, ""), strict=False) for piece in pair)


def text_of(content: bytes, where: str) -> str:
    """The text of a file. Raises BrokenFile when it is not UTF-8."""
    try:
        return content.decode().replace("\r\n", "\n")
    except UnicodeDecodeError:
        raise BrokenFile(where, tr("it is not UTF-8 text")) from None


def _many(field: str) -> tuple[Callable[[Workspace], Values], Callable[[Workspace, Values], Workspace]]:
    """How the values of a mapping of the workspace are got and set."""

    def having(workspace: Workspace, values: Values) -> Workspace:
        fields: dict[str, Any] = {field: values}
        return replace(workspace, **fields)

    return operator.attrgetter(field), having


def _one(
    get: Callable[[Workspace], Any], having: Callable[[Workspace, Any], Workspace], nothing: Any
) -> tuple[Callable[[Workspace], Values], Callable[[Workspace, Values], Workspace]]:
    """The same for a part that is a single file; `nothing` is its value where there is none."""

    def values(workspace: Workspace) -> Values:
        value = get(workspace)
        return {} if value == nothing else {(): value}

    return values, lambda workspace, values: having(workspace, values.get((), nothing))


def _record(record: Record, kind: str) -> bytes:
    return dump_record(record, kind).encode()


def _read_layout(content: bytes, where: str, key: Key) -> Layout:
    layout = parse_layout(text_of(content, where), where)
    if (layout.layer, layout.app) != key:
        raise BrokenFile(
            where,
            tr(
                "it says it is {owner} layout of {app}, but lies elsewhere",
                owner=owned(layout.layer),
                app=layout.app,
            ),
        )
    return layout


SETTINGS = Part(
    "settings",
    "workspace.json",
    (),
    *_one(lambda w: w.settings, lambda w, value: replace(w, settings=value), None),
    lambda content, where, key: parse_record(Settings, text_of(content, where), "workspace", where),
    lambda settings: _record(settings, "workspace"),
)
PEOPLE = Part(
    "people",
    "people.csv",
    (),
    *_one(lambda w: w.people, lambda w, value: replace(w, people=value), ()),
    lambda content, where, key: parse_people(text_of(content, where), where),
    lambda people: format_people(people).encode(),
)
USE = Part(
    tr("use counts"),
    "use.csv",
    (),
    *_one(lambda w: w.habits.counts, lambda w, value: replace(w, habits=replace(w.habits, counts=value)), {}),
    lambda content, where, key: parse_use(text_of(content, where), where),
    lambda counts: format_use(counts.values()).encode(),
)
OWN_KEYS = Part(
    tr("own keys"),
    "own-keys.csv",
    (),
    *_one(
        lambda w: w.habits.own_keys,
        lambda w, value: replace(w, habits=replace(w.habits, own_keys=value)),
        (),
    ),
    lambda content, where, key: parse_own_keys(text_of(content, where), where),
    lambda keys: format_own_keys(keys).encode(),
)
CATALOGUES = Part(
    "catalogue",
    "catalogues/*.json",
    (AppId,),
    *_many("catalogues"),
    lambda content, where, key: parse_catalogue(text_of(content, where), where),
    lambda catalogue: _record(catalogue, "catalogue"),
)
LAYOUTS = Part(
    "layout",
    "layouts/*/*.json",
    (LayerId, AppId),
    *_many("layouts"),
    _read_layout,
    lambda layout: _record(layout, "layout"),
    packed="layouts/*/*.json",
)
MACROS = Part(
    "macro",
    "macros/*/*.steps",
    (LayerId, MacroId),
    *_many("macros"),
    lambda content, where, key: macro_file(*key, text_of(content, where)),
    lambda file: file.text.encode(),
    packed="macros/*/*.steps",
    travels=lambda workspace, key: key[0] in workspace.layers,
)
PICTURES = Part(
    "picture",
    "pictures/*",
    (FileName,),
    *_many("pictures"),
    lambda content, where, key: checked_picture(content, where),
    bytes,
    operator.eq,
    packed="pictures/own/*",
)
COMPANIONS = Part(
    "companion",
    "companions/*",
    (FileName,),
    *_many("companions"),
    lambda content, where, key: content,
    bytes,
    operator.eq,
    packed="companions/*",
)

PARTS = (SETTINGS, PEOPLE, USE, OWN_KEYS, CATALOGUES, LAYOUTS, MACROS, PICTURES, COMPANIONS)
"""Every kind of thing, in the order in which they are read."""


def is_known(path: str) -> bool:
    """Whether a path within a workspace's folder is where a file of some part lies; no other is written."""
    return any(part.holds(path) for part in PARTS)


def part_named(name: str) -> Part:
    return next(part for part in PARTS if part.name == name)


def changed_files(before: Workspace, after: Workspace) -> dict[str, bytes | None]:
    """Path → new content (None: the file goes) of everything that differs.

    Raises:
        RimecrestError: a key is no identity of its part, so that its file would lie elsewhere.
    """
    found: dict[str, bytes | None] = {}
    for part in PARTS:
        for key, _, now in part.changes(before, after):
            path = part.path(key)
            if not part.holds(path):
                raise RimecrestError(
                    tr("“{path}” cannot be the place of a {name}.", path=path, name=part.name),
                    tr("Give it another name; nothing was written."),
                )
            found[path] = None if now is None else part.write(now)
    return found
