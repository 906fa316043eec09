"""A bundle: a package with macros and what they need, without layouts, signed by its maker."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from rimecrest.core.bundle.signing import MakerKey, verified
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import FileName, MacroId
from rimecrest.core.macro import Run, effects
from rimecrest.core.model import dump_json, dump_record
from rimecrest.core.release.package import Release, read_package, zipped
from rimecrest.core.words import tr
from rimecrest.core.workspace.workspace import MacroFile, MacroKey, Workspace, macro_file

MACROS, COMPANIONS = "macros/", "companions/"


@dataclass(frozen=True)
class Bundle:
    """What was read. `signed`: the signature is that of `key` for just these files."""

    maker: str
    key: str
    signed: bool
    macros: Mapping[str, MacroFile]
    companions: Mapping[str, bytes]
    effects: Mapping[str, tuple[str, ...]]


def needed(workspace: Workspace, keys: Iterable[MacroKey]) -> dict[str, MacroFile]:
    """The macros with those that they run, and so on, by id.

    Raises:
        RimecrestError: one that is run does not exist.
    """
    found: dict[str, MacroFile] = {}
    ahead = [workspace.macros[key] for key in keys]
    while ahead:
        file = ahead.pop()
        if file.id in found:
            continue
        found[file.id] = file
        seen = workspace.macros_of((*workspace.stack_up_to(file.layer), file.layer))
        for step in file.macro.live_steps():
            if isinstance(step, Run):
                if step.macro not in seen:
                    raise RimecrestError(
                        tr(
                            "“{name}” runs “{macro}”, which does not exist.", name=file.name, macro=step.macro
                        ),
                        tr("Mend it first."),
                    )
                ahead.append(seen[step.macro])
    return dict(sorted(found.items()))


def _signed_part(release: Release) -> bytes:
    """What a signature is over: the maker and the digest of every file."""
    return dump_json({"maker": release.maker, "key": release.key, "files": release.files}).encode()


def build_bundle(workspace: Workspace, keys: Iterable[MacroKey], maker: MakerKey) -> bytes:
    """The bytes of a bundle of these macros and all they need.

    Raises:
        RimecrestError: something that they need is missing.
    """
    macros = needed(workspace, keys)
    files = {f"{MACROS}{name}.steps": file.text.encode() for name, file in macros.items()}
    for file in macros.values():
        for path in file.macro.companions:
            name = path.removeprefix(COMPANIONS)
            if name not in workspace.companions:
                raise RimecrestError(
                    tr("“{name}” needs {path}, which is missing.", name=file.name, path=path),
                    tr("Put the file back."),
                )
            files[f"{COMPANIONS}{name}"] = workspace.companions[name]
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
    companions: dict[str, bytes] = {}
    for name, data in package.files.items():
        if name.startswith(MACROS) and name.endswith(".steps") and name.count("/") == 1:
            identity = MacroId(name.removeprefix(MACROS).removesuffix(".steps"))
            try:
                macros[identity] = macro_file("", identity, data.decode())
            except UnicodeDecodeError:
                raise RimecrestError(
                    tr("{where}: {name} is not UTF-8 text.", where=where, name=name), tr("Ask for it again.")
                ) from None
        elif name.startswith(COMPANIONS) and name.count("/") == 1:
            companions[FileName(name.removeprefix(COMPANIONS))] = data
        else:
            raise RimecrestError(
                tr("{where} is no bundle of macros: it holds {name}.", where=where, name=name),
                tr("Choose another file."),
            )
    if not macros:
        raise RimecrestError(tr("{where} holds no macros.", where=where), tr("Choose another file."))
    signed = verified(release.key, release.signature, _signed_part(release))
    return Bundle(release.maker, release.key, signed, macros, companions, release.effects)
