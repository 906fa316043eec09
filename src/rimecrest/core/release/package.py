"""The `.crestpack`: a zip whose bytes depend on nothing but what is in it.

What reading refuses, in this order:

1. a file that is larger than the limit, or no zip, truncated, or packed otherwise than stored or deflated;
2. entries whose path leaves the folder, links, entries stored twice;
3. more than 64 MiB unpacked;
4. a `release.json` that is missing, of another kind or of a newer format;
5. a file whose digest differs, one that is not listed, one that is listed and missing.

`understand` then reads what is in it, as the applications will.
"""

import hashlib
import io
import stat
import struct
import zipfile
import zlib
from collections.abc import Mapping
from pathlib import PurePosixPath

from msgspec import Struct
from pydantic import Field

from rimecrest.core.errors import RimecrestError
from rimecrest.core.model import Record, dump_record, parse_record
from rimecrest.core.pictures.checked import checked_picture
from rimecrest.core.release.package_files import ReleaseNumber
from rimecrest.core.words import tr
from rimecrest.core.workspace.parts import PARTS
from rimecrest.core.workspace.workspace import Workspace

MOST_BYTES = 64 * 1024 * 1024
_TIME = (1980, 1, 1, 0, 0, 0)
"""The earliest time a zip can hold: the same for every entry, so that equal content gives equal bytes."""
_MANIFEST = "release.json"
SET_PICTURES = "pictures/set/"
"""Where pictures of the free sets lie; the organisation's own lie beside, and never meet them."""
_UNREADABLE = (
    *(zipfile.BadZipFile, zlib.error, struct.error, EOFError, OSError, ValueError, OverflowError),
    *(NotImplementedError, RuntimeError, IndexError),
)
"""What the standard library's reader raises at damaged archives, found by damaging them."""
_WAY_OUT = tr("Fetch it again; if it comes back the same, tell whoever released it.")


class Release(Record):
    """release.json: what a package holds."""

    number: ReleaseNumber
    news: dict[str, str] = Field(default_factory=dict)
    """Layer → the sentence of what is new for it."""
    layers: tuple[str, ...] = ()
    applications: dict[str, str] = Field(default_factory=dict)
    """Application → the version the layouts were made for."""
    effects: dict[str, tuple[str, ...]] = Field(default_factory=dict)
    """`<layer>/<macro id>` → what the macro may do."""
    files: dict[str, str] = Field(default_factory=dict)
    """Path → SHA-256 digest in hexadecimal."""
    titles: dict[str, str] = Field(default_factory=dict)
    """Layer → what people call it."""
    reserved: dict[str, dict[str, str]] = Field(default_factory=dict)
    """Chords that the house keeps for itself, as in workspace.json: profile → chord → what it does."""
    refused: dict[str, str] = Field(default_factory=dict)
    """`<layer>/<macro id>` → why it does not run: nobody vouches for its maker."""
    makers: tuple[str, ...] = ()
    """The public keys that the organisation vouches for: private steps of any other do not run."""
    maker: str = ""
    """Of a bundle: who hands it over; `key` is their public key, `signature` over maker, key and files."""
    key: str = ""
    signature: str = ""


class Package(Struct, frozen=True):
    """A package that was read and found whole."""

    release: Release
    files: Mapping[str, bytes]


def build_package(
    workspace: Workspace, number: int, news: Mapping[str, str], pictures: Mapping[str, bytes]
) -> bytes:
    """The bytes of release `number`.

    Args:
        news: layer → the sentence that its colleagues read.
        pictures: every picture of the free sets that the layouts use, frozen: its name → SVG.
    """
    from rimecrest.core.macro.check import effects  # noqa: PLC0415  only who builds a package reads macros

    files: dict[str, bytes] = {}
    for part in PARTS:
        for key, value in part.values(workspace).items() if part.packed else ():
            if part.travels(workspace, key):
                files[part.packed_path(key)] = part.write(value)
    files |= {f"{SET_PICTURES}{name}.svg": content for name, content in pictures.items()}
    found_effects: dict[str, tuple[str, ...]] = {}
    for (layer, name), file in workspace.macros.items():
        catalogue = workspace.catalogues.get(file.macro.application)
        if catalogue is not None and layer in workspace.layers:
            others = {other: seen.macro for (_, other), seen in workspace.macros.items()}
            others |= {other: seen.macro for (at, other), seen in workspace.macros.items() if at == layer}
            found_effects[f"{layer}/{name}"] = tuple(effects(file.macro, catalogue, others))
    release = Release(
        number=number,
        news=dict(sorted(news.items())),
        layers=workspace.layers,
        applications={app: catalogue.version for app, catalogue in sorted(workspace.catalogues.items())},
        effects=dict(sorted(found_effects.items())),
        files={name: hashlib.sha256(files[name]).hexdigest() for name in sorted(files)},
        titles={layer.id: layer.title for layer in workspace.settings.layers},
        reserved=workspace.settings.reserved,
        refused=workspace.refused_macros(),
        makers=tuple(sorted(workspace.settings.makers)),
    )
    files[_MANIFEST] = dump_record(release, "release").encode()
    return zipped(files)


def zipped(files: Mapping[str, bytes]) -> bytes:
    """A zip whose bytes depend on nothing but the files."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        for name in sorted(files):
            entry = zipfile.ZipInfo(name, _TIME)
            entry.create_system = 3
            entry.external_attr = (stat.S_IFREG | 0o644) << 16
            archive.writestr(entry, files[name])
    return out.getvalue()


def read_package(content: bytes, where: str) -> Package:
    """Read a package. `where` names it in sentences.

    Raises:
        RimecrestError: anything in the list at the top of this module.
    """
    if len(content) > 2 * MOST_BYTES:
        raise RimecrestError(
            tr("{where} is far too large ({number} MiB).", where=where, number=len(content) >> 20), _WAY_OUT
        )
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            files = _entries(archive, where)
    except _UNREADABLE as error:
        raise RimecrestError(
            tr("{where} is truncated or no package ({error}).", where=where, error=error), _WAY_OUT
        ) from None
    if _MANIFEST not in files:
        raise RimecrestError(tr("{where} holds no {manifest}.", where=where, manifest=_MANIFEST), _WAY_OUT)
    try:
        manifest = files.pop(_MANIFEST).decode()
    except UnicodeDecodeError:
        raise RimecrestError(
            tr("{where}: {manifest} is not UTF-8 text.", where=where, manifest=_MANIFEST), _WAY_OUT
        ) from None
    release = parse_record(Release, manifest, "release", f"{where}: {_MANIFEST}")
    for name, digest in release.files.items():
        if name not in files:
            raise RimecrestError(tr("{where}: {name} is missing.", where=where, name=name), _WAY_OUT)
        if hashlib.sha256(files[name]).hexdigest() != digest:
            raise RimecrestError(
                tr("{where}: {name} was changed after the release was made.", where=where, name=name),
                _WAY_OUT,
            )
    for name in files:
        if name not in release.files:
            raise RimecrestError(
                tr("{where}: {name} does not belong to the release.", where=where, name=name), _WAY_OUT
            )
    return Package(release, files)


def understand(package: Package, where: str) -> None:
    """Read every file of a package as the applications will, so that none of them meets one it cannot use.

    Raises:
        RimecrestError: a file cannot be read, or its name is none; the sentence names it.
    """
    for name, content in package.files.items():
        try:
            if name.startswith(SET_PICTURES):
                checked_picture(content, name)
            for part in PARTS:
                key = part.packed_key(name)
                if key is not None:
                    part.read(content, name, key)
        except RimecrestError as error:
            raise RimecrestError(
                tr("{where}: {reason}", where=where, reason=error.sentence), _WAY_OUT
            ) from None


def _entries(archive: zipfile.ZipFile, where: str) -> dict[str, bytes]:
    files: dict[str, bytes] = {}
    room = MOST_BYTES
    for entry in archive.infolist():
        path = PurePosixPath(entry.filename)
        if path.is_absolute() or ".." in path.parts or "\\" in entry.filename or not path.parts:
            raise RimecrestError(
                tr(
                    "{where}: the path “{filename}” leads out of the folder.",
                    where=where,
                    filename=entry.filename,
                ),
                _WAY_OUT,
            )
        mode = entry.external_attr >> 16
        if stat.S_ISLNK(mode) or (stat.S_IFMT(mode) not in (0, stat.S_IFREG) and not entry.is_dir()):
            raise RimecrestError(
                tr("{where}: “{filename}” is a link, not a file.", where=where, filename=entry.filename),
                _WAY_OUT,
            )
        if entry.filename in files:
            raise RimecrestError(
                tr("{where}: “{filename}” stands twice.", where=where, filename=entry.filename), _WAY_OUT
            )
        if entry.is_dir():
            continue
        if entry.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
            raise RimecrestError(
                tr("{where}: “{filename}” is packed in another way.", where=where, filename=entry.filename),
                _WAY_OUT,
            )
        # What the directory claims is not trusted: at most what is left of the room is ever read.
        with archive.open(entry) as stream:
            content = stream.read(room + 1)
        room -= len(content)
        if room < 0:
            raise RimecrestError(
                tr("{where} holds more than {size} MiB.", where=where, size=MOST_BYTES >> 20), _WAY_OUT
            )
        files[entry.filename] = content
    return files
