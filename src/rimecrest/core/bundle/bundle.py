"""A bundle: a package with macros and what they need, the panels these ask among it, signed by its maker."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping
from pathlib import PurePosixPath

from msgspec import Struct, field

from rimecrest.core.bundle.needs import COMPANIONS, PanelKey, needed
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.identities import AppId, FileName, MacroId
from rimecrest.core.macro.check import effects
from rimecrest.core.model import dump_json, dump_record, parse_record
from rimecrest.core.pictures.checked import checked_picture
from rimecrest.core.release.package import Release, read_package, zipped
from rimecrest.core.signing import MakerKey, verified
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.origin import signed_by
from rimecrest.core.workspace.workspace import MacroKey, Workspace

MACROS, PANELS, PICTURES = "macros/", "panels/", "pictures/own/"


class Bundle(Struct, frozen=True):
    """What was read. `signed`: that of all and that in each macro are of `key`, for just these."""

    maker: str
    key: str
    signed: bool
    macros: Mapping[str, MacroFile]
    companions: Mapping[str, bytes]
    effects: Mapping[str, tuple[str, ...]]
    panels: Mapping[PanelKey, Panel] = field(default_factory=dict)
    """The panels that the macros ask, by application and id."""
    pictures: Mapping[str, bytes] = field(default_factory=dict)
    """The makers' own pictures on these panels."""


def _signed_part(release: Release) -> bytes:
    """What a signature is over: the maker and the digest of every file."""
    return dump_json({"maker": release.maker, "key": release.key, "files": release.files}).encode()


def build_bundle(workspace: Workspace, keys: Iterable[MacroKey], maker: MakerKey) -> bytes:
    """The bytes of a bundle of these macros and all they need.

    Raises:
        RimecrestError: something that they need is missing.
    """
    needs = needed(workspace, keys)
    macros = needs.macros
    files = {f"{MACROS}{name}.steps": signed_by(maker, file.text).encode() for name, file in macros.items()}
    for (app, name), panel in needs.panels.items():
        files[f"{PANELS}{app}/{name}.json"] = dump_record(panel, "panel").encode()
    for place, names, held in (
        (COMPANIONS, needs.companions, workspace.companions),
        (PICTURES, needs.pictures, workspace.pictures),
    ):
        for name in sorted(names):
            if name not in held:
                raise RimecrestError(
                    tr("{path} is missing, which these macros need.", path=f"{place}{name}"),
                    tr("Put the file back."),
                )
            files[f"{place}{name}"] = held[name]
    others = {name: file.macro for name, file in macros.items()}
    may = {
        name: tuple(effects(file.macro, catalogue, others))
        for name, file in macros.items()
        if (catalogue := workspace.catalogues.get(file.macro.application)) is not None
    }
    release = Release(
        number=0,
        maker=maker.name,
        key=maker.public,
        effects=may,
        files={name: hashlib.sha256(files[name]).hexdigest() for name in sorted(files)},
    )
    release = release.model_copy(update={"signature": maker.sign(_signed_part(release))})
    return zipped({**files, "release.json": dump_record(release, "release").encode()})


def read_bundle(content: bytes, where: str) -> Bundle:
    """Read a bundle. `where` names it in sentences.

    Raises:
        RimecrestError: it is no package (see `release.package`), holds no macros, or something else besides.
    """
    package = read_package(content, where)
    release = package.release
    macros: dict[str, MacroFile] = {}
    panels: dict[PanelKey, Panel] = {}
    companions: dict[str, bytes] = {}
    pictures: dict[str, bytes] = {}
    for name, data in package.files.items():
        match PurePosixPath(name).parts:
            case ("macros", file) if file.endswith(".steps"):
                identity = MacroId(file.removesuffix(".steps"))
                macros[identity] = macro_file("", identity, _text(data, where, name))
            case ("panels", app, file) if file.endswith(".json"):
                panel = parse_record(Panel, _text(data, where, name), "panel", f"{where}: {name}")
                if file != f"{panel.id}.json":
                    raise BrokenFile(f"{where}: {name}", tr("it is the panel “{panel}”", panel=panel.id))
                panels[AppId(app), panel.id] = panel
            case ("companions", file):
                companions[FileName(file)] = data
            case ("pictures", "own", file):
                pictures[FileName(file)] = checked_picture(data, f"{where}: {name}")
            case _:
                raise RimecrestError(
                    tr("{where} is no bundle of macros: it holds {name}.", where=where, name=name),
                    tr("Choose another file."),
                )
    if not macros:
        raise RimecrestError(tr("{where} holds no macros.", where=where), tr("Choose another file."))
    signed = verified(release.key, release.signature, _signed_part(release)) and all(
        file.origin is not None and (file.origin.key, file.origin.holds) == (release.key, True)
        for file in macros.values()
    )
    return Bundle(release.maker, release.key, signed, macros, companions, release.effects, panels, pictures)


def _text(data: bytes, where: str, name: str) -> str:
    try:
        return data.decode()
    except UnicodeDecodeError:
        raise RimecrestError(
            tr("{where}: {name} is not UTF-8 text.", where=where, name=name), tr("Ask for it again.")
        ) from None
